import { useEffect, useState, type RefObject } from "react";
import { ZoomIn, ZoomOut } from "lucide-react";
import { Button } from "../kit/Button";
import { named } from "../kit/tip";
import { useWords } from "../words/words";

type Props = {
  /** Where board and tray are. */
  room: RefObject<HTMLElement | null>;
  more: boolean;
  less: boolean;
  onZoom: (by: 1 | -1) => void;
};

const zooms = [
  [-1, "smaller", ZoomOut],
  [1, "larger", ZoomIn],
] as const;

/** A larger or smaller board; and where board and tray do not fit under one another, a way from one to the other. */
export function ViewButtons({ room, more, less, onZoom }: Props) {
  const w = useWords();
  const away = useAway(room);
  const bring = () =>
    room.current
      ?.querySelector(away === "tray" ? "[data-tray]" : "[data-window]")
      ?.scrollIntoView({ block: away === "tray" ? "end" : "start" });
  return (
    <span className="flex items-center gap-1">
      {away && (
        <Button kind="quiet" onClick={bring}>
          {w(away === "tray" ? "goToTray" : "goToBoard")}
        </Button>
      )}
      {zooms.map(([by, name, Icon]) => (
        <Button
          key={name}
          kind="quiet"
          className="px-2"

          {...named(w(name))}
          disabled={by > 0 ? !more : !less}
          onClick={() => onZoom(by)}
        >
          <Icon size={18} aria-hidden />
        </Button>
      ))}
    </span>
  );
}

const enough = 44; // pixels of it that must be seen

/** Which of board and tray is out of view: both are not, where the window is large enough. */
function useAway(room: RefObject<HTMLElement | null>) {
  const [away, setAway] = useState<"tray" | "board">();
  useEffect(() => {
    const look = () => {
      const foot = room.current?.parentElement?.querySelector("footer")?.getBoundingClientRect().top ?? innerHeight;
      const around = room.current?.getBoundingClientRect();
      const hidden = (what: string) => {
        const r = room.current?.querySelector(what)?.getBoundingClientRect();
        if (!r || !around) return false;
        const seen = Math.min(r.bottom, foot, around.bottom, innerHeight) - Math.max(r.top, around.top, 0);
        return seen < Math.min(enough, r.height);
      };
      setAway(hidden("[data-tray]") ? "tray" : hidden("[data-window]") ? "board" : undefined);
    };
    look();
    const watch = new ResizeObserver(look);
    if (room.current) watch.observe(room.current);
    for (const e of room.current?.querySelectorAll("[data-tray], [data-window]") ?? []) watch.observe(e);
    addEventListener("scroll", look, { capture: true, passive: true });
    return () => {
      watch.disconnect();
      removeEventListener("scroll", look, { capture: true });
    };
  }, [room]);
  return away;
}
