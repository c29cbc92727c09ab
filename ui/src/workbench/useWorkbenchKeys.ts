import { useEffect } from "react";
import { nothing, useDraftStore } from "./draft";

const zones = ["header", "board", "ledger", "sheet", "proof"];
const rooms = { 1: "board", 2: "even", 3: "ledger" } as const;

/** Moves the focus to a zone: to its grid, its selected part, or the first thing that takes it. */
function enter(zone: string): boolean {
  const root = document.querySelector<HTMLElement>(`[data-zone="${zone}"]`);
  const to =
    root?.querySelector<HTMLElement>('[role="grid"]') ??
    root?.querySelector<HTMLElement>('[data-part][aria-pressed="true"]') ??
    root?.querySelector<HTMLElement>('[data-part], [data-piece][tabindex="0"], a[href], button:not([disabled]), input');
  to?.focus();
  return !!to;
}

/** Keys that work in every zone: undo, find, the list of keys, on to the next zone. */
export function useWorkbenchKeys() {
  const store = useDraftStore();
  useEffect(() => {
    const keys = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      const command = e.ctrlKey || e.metaKey;
      const key = e.key.toLowerCase();
      if (e.key === "F1") store.setState({ asking: "keys" });
      else if (e.key === "Escape" && target === document.body && !e.defaultPrevented) {
        store.getState().select(nothing);
      } else if (command && (key === "1" || key === "2" || key === "3")) {
        store.setState({ divider: rooms[Number(key) as 1 | 2 | 3] });
      } else if (command && key === "k") store.setState({ asking: "find" });
      else if (e.key === "F6") {
        const at = zones.indexOf(target.closest<HTMLElement>("[data-zone]")?.dataset.zone ?? "");
        const step = e.shiftKey ? -1 : 1;
        for (let i = 1; i <= zones.length; i++) {
          if (enter(zones[(at + step * i + 2 * zones.length) % zones.length]!)) break;
        }
      } else if (!command || target.closest("input, textarea")) return;
      else if (key === "z" && !e.shiftKey) store.getState().undo();
      else if (key === "y" || (key === "z" && e.shiftKey)) store.getState().redo();
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [store]);
}
