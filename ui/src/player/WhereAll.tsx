import { useEffect, useRef, useState } from "react";
import { MapPinned } from "lucide-react";
import type { Scene, Standing } from "../api/types";
import { Button } from "../kit/Button";
import { tip } from "../kit/tip";
import { Above } from "./Above";
import { summary, useWords } from "../words/words";

/** Where everything stands, in words: by a button, and by the key ?. */
export function WhereAll({ scene, standing }: { scene: Scene; standing: Standing }) {
  const w = useWords();
  const [open, setOpen] = useState(false);
  const place = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const at = e.target as Element;
      if (e.key !== "?" || at.closest("input, textarea, select, [contenteditable=true], [role=dialog]")) return;
      // Beside a rehearsal, what is typed into the ledger is meant for that.
      const zone = at.closest("[data-zone]");
      if (zone && !zone.contains(place.current)) return;
      e.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  return (
    <span ref={place}>
      <Above
        label={w("whereAll")}
        open={open}
        onOpen={setOpen}
        content={
          <ul tabIndex={-1} className="flex flex-col gap-1">
            {summary(w, scene, standing).map((line, i) => (
              <li key={i}>{line}</li>
            ))}
          </ul>
        }
      >
        <Button kind="quiet" className="px-2" aria-label={w("whereAll")} {...tip(`${w("whereAll")} (?)`)}>
          <MapPinned size={18} aria-hidden />
        </Button>
      </Above>
    </span>
  );
}
