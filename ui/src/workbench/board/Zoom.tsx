import { memo, useEffect, type RefObject } from "react";
import { ZoomIn, ZoomOut } from "lucide-react";
import { t } from "@lingui/core/macro";
import { tip } from "../../kit/tip";
import { useDraft, useDraftStore } from "../model/draft";
import { zoomBy } from "../model/zoom";

/** How large the board is drawn; Ctrl with the wheel does it at the pointer. */
export const Zoom = memo(function Zoom({
  scroller,
  percent,
}: {
  scroller: RefObject<HTMLElement | null>;
  percent: number;
}) {
  const store = useDraftStore();
  const zoom = useDraft((s) => s.zoom);
  useEffect(() => {
    const room = scroller.current;
    if (!room) return;
    const wheel = (e: WheelEvent) => {
      if (!e.ctrlKey && !e.metaKey) return;
      e.preventDefault();
      const r = room.getBoundingClientRect();
      const x = e.clientX - r.left;
      const y = e.clientY - r.top;
      const before = store.getState().zoom;
      zoomBy(store, e.deltaY < 0 ? 1.15 : 1 / 1.15);
      const grown = store.getState().zoom / before;
      // What is under the pointer stays there, once the larger board is drawn.
      const left = (room.scrollLeft + x) * grown - x;
      const top = (room.scrollTop + y) * grown - y;
      requestAnimationFrame(() => room.scrollTo(left, top));
    };
    room.addEventListener("wheel", wheel, { passive: false }); // React's own are passive
    return () => room.removeEventListener("wheel", wheel);
  }, [store, scroller]);
  const button = "grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-shade";
  return (
    <span role="group" aria-label={t`Size of the board`} className="flex items-center">
      <button type="button" aria-label={t`Zoom out`} className={button} onClick={() => zoomBy(store, 1 / 1.25)}>
        <ZoomOut size={15} />
      </button>
      <button
        type="button"
        {...tip(t`Fit the board`)}
        aria-label={t`${percent} percent: fit the board`}
        className={`w-11 text-center text-[13px] ${zoom === 1 ? "text-slate" : "text-feather underline"}`}
        onClick={() => store.setState({ zoom: 1 })}
      >
        {percent}%
      </button>
      <button type="button" aria-label={t`Zoom in`} className={button} onClick={() => zoomBy(store, 1.25)}>
        <ZoomIn size={15} />
      </button>
    </span>
  );
});
