import { useEffect, type RefObject } from "react";

/** By what an element is found again when it was drawn anew. */
const marks = ["data-piece", "data-keep", "data-target", "id", "aria-label"];

/** How to find again what has the focus. */
function wayTo(e: HTMLElement): string | undefined {
  const mark = marks.find((name) => e.getAttribute(name));
  return mark && `${e.tagName.toLowerCase()}[${mark}="${CSS.escape(e.getAttribute(mark)!)}"]`;
}

/** Where the focus goes when what had it is gone for good: to what is said, a piece, the heading; never to what acts. */
const next = [
  "[data-reply]",
  "[data-outcome]",
  '[data-piece][tabindex="0"]',
  "[data-list] select:not(:disabled)",
  "h1",
];

/**
 * The focus never falls to nothing: when what has it goes, or can no longer be used, it is
 * found again where it was drawn anew, or goes to what is said. Nothing is taken from
 * whoever has put the focus elsewhere.
 */
export function useKeptFocus(root: RefObject<HTMLElement | null>) {
  useEffect(() => {
    const inside = root.current;
    if (!inside) return;
    let last: { element: HTMLElement; way: string | undefined } | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const came = (e: FocusEvent) => {
      const element = e.target as HTMLElement;
      clearTimeout(timer);
      timer = undefined;
      last = { element, way: wayTo(element) };
    };
    const isElsewhere = () => {
      const { activeElement } = document;
      return activeElement && activeElement !== document.body && activeElement !== last?.element;
    };
    const goOn = () => {
      if (!last || isElsewhere()) return;
      const again = last.way ? inside.querySelector<HTMLElement>(`${last.way}:not(:disabled)`) : null;
      const to = again ?? next.map((what) => inside.querySelector<HTMLElement>(what)).find((e) => e);
      if (!to) return;
      if (to.tabIndex < 0) to.tabIndex = -1; // so that it can have the focus
      to.focus();
    };
    const look = () => {
      if (!last || isElsewhere()) return;
      if (!last.element.isConnected) goOn();
      // While a move is under way what made it cannot be pressed; mostly it can at once again.
      else if (last.element.matches(":disabled")) timer ??= setTimeout(goOn, 700);
      else if (timer) {
        clearTimeout(timer);
        timer = undefined;
        last.element.focus();
      }
    };
    const watch = new MutationObserver(look);
    watch.observe(inside, { childList: true, subtree: true, attributeFilter: ["disabled"] });
    inside.addEventListener("focusin", came);
    return () => {
      clearTimeout(timer);
      watch.disconnect();
      inside.removeEventListener("focusin", came);
    };
  }, [root]);
}
