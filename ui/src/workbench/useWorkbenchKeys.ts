import { useEffect } from "react";
import { selectAll, takeTool } from "./model/acts";
import { nothing, useDraftStore } from "./model/draft";

const zones = ["header", "board", "ledger", "sheet", "proof"];
const rooms = { 1: "board", 2: "even", 3: "ledger" } as const;

const anything = "a[href], button:not([disabled]), input:not([disabled]), select, textarea";

/** What takes the focus in a zone, the first first: its grid or a field of that, its selected part, anything. */
const entries = [
  '[role="grid"][tabindex="0"]',
  '[role="grid"] input',
  '[data-part][aria-pressed="true"]',
  "[data-part]",
  '[data-piece][tabindex="0"]',
  `[role="tabpanel"][data-state="active"] :is(${anything})`,
  anything,
];

/** Moves the focus to a zone, where it is there and something in it takes the focus. */
function enter(zone: string): boolean {
  const root = document.querySelector<HTMLElement>(`[data-zone="${zone}"]`);
  return entries.some((what) => {
    const to = root?.querySelector<HTMLElement>(what);
    to?.focus();
    return !!to && document.activeElement === to;
  });
}

/** Whether keys belong to what is written, or to a list or dialog that is open. */
const writes = (e: HTMLElement) => !!e.closest("input, textarea, [contenteditable=true], [role=dialog], [role=menu]");

/** Keys that work in every zone: undo, find, the list of keys, on to the next zone. */
export function useWorkbenchKeys() {
  const store = useDraftStore();
  useEffect(() => {
    const keys = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      const command = e.ctrlKey || e.metaKey;
      const key = e.key.toLowerCase();
      if (e.key === "F1") store.setState({ asking: "keys" });
      else if (e.key === "Escape" && !e.defaultPrevented && store.getState().tool !== "select" && !writes(target)) {
        takeTool(store, "select");
      } else if (e.key === "Escape" && target === document.body && !e.defaultPrevented) {
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
      } else if (!command || target.closest("input, textarea, [contenteditable=true]")) return;
      else if (key === "z" && !e.shiftKey) store.getState().undo();
      else if (key === "y" || (key === "z" && e.shiftKey)) store.getState().redo();
      else if (key === "a" && !e.defaultPrevented && !target.closest("[role=dialog]")) selectAll(store);
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [store]);
}
