import { useEffect, useRef, type RefObject } from "react";

/** A field that has a clipboard of its own. */
export const isField = (e: Element | null) =>
  e instanceof HTMLElement && (e.isContentEditable || e.matches("input, textarea, select"));

type Handlers = {
  /** What is copied as text; undefined copies nothing. */
  copy?: (e: ClipboardEvent) => string | undefined | void;
  /** What goes when it was cut. */
  cut?: () => void;
  paste?: (e: ClipboardEvent) => void;
  /** Pastes into a field inside that are the surface's all the same. */
  pasteInField?: (text: string) => boolean;
  /**
   * The events are its own too while nothing has the focus; and pastes while what has it,
   * such as a tab or a button, has no use for them.
   */
  alsoFromNowhere?: boolean;
};

const surfaces = new Set<RefObject<HTMLElement | null>>();

/** Whether what has the focus makes nothing of a paste: no field, no surface, no dialog or menu. */
const takesNone = (focus: Element | null) =>
  !isField(focus) &&
  !focus?.closest("[role=dialog], [role=alertdialog], [role=menu], [role=listbox]") &&
  ![...surfaces].some((s) => s.current?.contains(focus));

/**
 * Cut, copy and paste of a surface that has the focus. A browser sends these events to
 * where the caret is, which after a click may be any text: what counts is the focus.
 */
export function useClipboard(surface: RefObject<HTMLElement | null>, handlers: Handlers) {
  const now = useRef(handlers);
  useEffect(() => {
    now.current = handlers;
  });
  useEffect(() => {
    const heard = (e: ClipboardEvent) => {
      const focus = document.activeElement;
      const { copy, cut, paste, pasteInField, alsoFromNowhere } = now.current;
      const nowhere = focus === document.body || (e.type === "paste" && takesNone(focus));
      const here = surface.current?.contains(focus) || (alsoFromNowhere && nowhere);
      if (e.defaultPrevented || !here) return;
      if (isField(focus)) {
        const text = e.clipboardData?.getData("text/plain") ?? "";
        if (e.type !== "paste" || !pasteInField?.(text)) return;
        e.preventDefault();
      } else if (e.type === "paste") {
        if (!paste) return;
        e.preventDefault();
        paste(e);
      } else if (copy) {
        const text = copy(e);
        if (text === undefined) return;
        e.preventDefault();
        e.clipboardData?.setData("text/plain", text);
        if (e.type === "cut") cut?.();
      }
    };
    const types = ["copy", "cut", "paste"] as const;
    types.forEach((type) => document.addEventListener(type, heard));
    surfaces.add(surface);
    return () => {
      types.forEach((type) => document.removeEventListener(type, heard));
      surfaces.delete(surface);
    };
  }, [surface]);
}
