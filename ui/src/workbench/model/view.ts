import { useLayoutEffect, type RefObject } from "react";
import { keep, kept } from "../../kit/kept";
import { sceneryOf, itemOf, targetOf } from "../../document/parts";
import { partsOf, selectionOf, useDraftStore, type DraftState, type DraftStore } from "./draft";

// How the workbench was left is found again: per activity, in this browser.
const key = (id: string) => `magpie-view-${id}`;
type View = Pick<
  DraftState,
  | "lens"
  | "divider"
  | "zoom"
  | "sheet"
  | "alignTo"
  | "selection"
  | "byItem"
  | "solution"
  | "allReplies"
  | "reply"
  | "looked"
> & {
  scrolled: Record<string, [number, number]>;
};

const load = (id: string) => kept<Partial<View>>(key(id)) ?? {};

/** Gives the draft the view in which it was left, and keeps it up to date; returns how to stop. */
export function keepView(store: DraftStore): () => void {
  const { id, doc } = store.getState();
  const { selection, ...left } = load(id);
  delete left.scrolled; // the scrollers take it themselves
  const there = { item: itemOf, target: targetOf, scenery: sceneryOf };
  const parts = selection ? partsOf(selection).filter((p) => there[p.kind](doc, p.id)) : [];
  store.setState({ ...left, ...(parts.length > 0 ? { selection: selectionOf(parts) } : {}) });
  return store.subscribe((now, before) => {
    const { lens, divider, zoom, sheet, alignTo, selection, byItem, solution, allReplies, reply, looked } = now;
    const view = { lens, divider, zoom, sheet, alignTo, selection, byItem, solution, allReplies, reply, looked };
    const changed = Object.entries(view).filter(([k, v]) => before[k as keyof typeof view] !== v);
    if (changed.length > 0) save(id, Object.fromEntries(changed) as Partial<View>);
  });
}

function save(id: string, view: Partial<View>) {
  keep(key(id), { ...load(id), ...view });
}

/** A view that failed is not found again. */
export const forgetView = (id: string) => keep(key(id), undefined);

/** Keeps how far an element is scrolled. */
export function useKeptScroll(element: RefObject<HTMLElement | null>, name: string) {
  const store = useDraftStore();
  useLayoutEffect(() => {
    const { id } = store.getState();
    const e = element.current;
    if (!e) return;
    const at = load(id).scrolled?.[name];
    if (at) e.scrollTo(at[0], at[1]);
    let timer: ReturnType<typeof setTimeout> | undefined;
    const scrolled = () => {
      clearTimeout(timer);
      timer = setTimeout(
        () => save(id, { scrolled: { ...load(id).scrolled, [name]: [e.scrollLeft, e.scrollTop] } }),
        200,
      );
    };
    e.addEventListener("scroll", scrolled, { passive: true });
    return () => {
      clearTimeout(timer);
      e.removeEventListener("scroll", scrolled);
    };
  }, [store, element, name]);
}
