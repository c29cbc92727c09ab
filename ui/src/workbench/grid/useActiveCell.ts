import { useEffect, type RefObject } from "react";

/**
 * Names the cell in focus to a screen reader, as long as it is there: only what is in view
 * of a long table is drawn, and a name of nothing is none.
 */
export function useActiveCell(grid: RefObject<HTMLElement | null>, id: string) {
  useEffect(() => {
    const e = grid.current;
    if (!e) return;
    const name = () => {
      const there = document.getElementById(id) ? id : null;
      if (e.getAttribute("aria-activedescendant") === there) return;
      if (there) e.setAttribute("aria-activedescendant", there);
      else e.removeAttribute("aria-activedescendant");
    };
    name();
    const watch = new MutationObserver(name);
    watch.observe(e, { childList: true, subtree: true });
    return () => watch.disconnect();
  }, [grid, id]);
}
