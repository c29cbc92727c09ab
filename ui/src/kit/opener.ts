import { useCallback, useLayoutEffect, useRef, useState, type FocusEvent } from "react";

/** What had the focus before a dialog, and the one before that where it is gone by then. */
type Opener = { element: HTMLElement | null; before?: Opener };
const openers = new WeakMap<Element, Opener>();

function openerNow(): Opener {
  const focus = document.activeElement as HTMLElement | null;
  // A menu or a list goes when it was chosen from; what opened it stays.
  const menu = focus?.closest("[role=menu], [role=listbox]");
  const element = menu
    ? (document.getElementById(menu.getAttribute("aria-labelledby") ?? "") ??
      document.querySelector<HTMLElement>(`[aria-controls=${CSS.escape(menu.id)}]`))
    : focus;
  const dialog = element?.closest("[role=dialog]");
  return { element: element === document.body ? null : element, before: dialog ? openers.get(dialog) : undefined };
}

const fields = "input:not([type=hidden]):not(.hidden):not(:disabled), textarea:not(:disabled), select:not(:disabled)";

/** Gives the focus to what comes first in a dialog; false where nothing there takes it. */
function goIn(dialog: HTMLElement | null) {
  const body = dialog?.querySelector("[data-body]");
  // What stands in something that is closed takes no focus.
  const seen = (what: string) =>
    [...(body?.querySelectorAll<HTMLElement>(what) ?? [])].find((x) => x.checkVisibility());
  const others = "button:not(:disabled), a[href], summary";
  const first =
    seen(`[data-first]:is(${fields}, ${others}), [data-first] :is(${fields}, ${others})`) ??
    seen(fields) ??
    seen(others);
  first?.focus();
  return !!first;
}

/**
 * Where the focus goes in a dialog: to what is marked data-first, else to its first field, and at its end back to what had it
 * before, which is known even where that was another dialog or a menu. While it is busy
 * nothing in it takes the focus; afterwards what had it has it again, or where that can’t be,
 * what comes first then. To be asked for by what is there only while the dialog is.
 */
export function useOpener(busy = false) {
  const [opener] = useState(openerNow);
  const dialog = useRef<HTMLElement>(null);
  const had = useRef<HTMLElement>(null);
  const wasBusy = useRef(busy);
  useLayoutEffect(() => {
    const answered = wasBusy.current && !busy;
    wasBusy.current = busy;
    const { activeElement } = document;
    if (!answered || (activeElement !== document.body && activeElement !== dialog.current)) return;
    if (had.current?.isConnected && !had.current.matches(":disabled")) had.current.focus();
    else goIn(dialog.current);
  }, [busy]);
  const ref = useCallback(
    (e: HTMLElement | null) => {
      dialog.current = e;
      if (e) openers.set(e, opener);
    },
    [opener],
  );
  return {
    ref,
    onFocus: (e: FocusEvent) => {
      if (e.target !== dialog.current) had.current = e.target as HTMLElement;
    },
    onOpenAutoFocus: (e: Event) => {
      if (goIn(e.currentTarget as HTMLElement)) e.preventDefault();
    },
    onCloseAutoFocus: (e: Event) => {
      e.preventDefault();
      let from: Opener | undefined = opener;
      while (from && !from.element?.isConnected) from = from.before;
      from?.element?.focus();
    },
  };
}
