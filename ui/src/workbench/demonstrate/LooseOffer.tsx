import { useLayoutEffect, useState } from "react";
import { t } from "@lingui/core/macro";
import { Button } from "../../kit/Button";
import { tip } from "../../kit/tip";

type Props = { pieces: string[]; onMake: (shows: "always" | "never") => void };

/** Offers targets where pieces lie on the bare board, beside the last of them. */
export function LooseOffer({ pieces, onMake }: Props) {
  const last = pieces.at(-1)!;
  const [at, setAt] = useState<{ x: number; y: number }>();
  useLayoutEffect(() => {
    const find = () => {
      const box = document
        .querySelector(`[data-demonstrating] [data-piece="${CSS.escape(last)}"]`)
        ?.getBoundingClientRect();
      if (box)
        setAt({
          x: Math.max(8, Math.min(box.left, window.innerWidth - 330)),
          y: Math.min(box.bottom + 6, window.innerHeight - 100),
        });
    };
    find();
    const timer = setTimeout(find, 250); // once it has settled
    window.addEventListener("resize", find);
    return () => {
      clearTimeout(timer);
      window.removeEventListener("resize", find);
    };
  }, [last, pieces.length]);
  if (!at) return null;
  const many = pieces.length > 1;
  return (
    <div
      role="group"
      aria-label={t`Pieces on the bare board`}
      className="fixed z-20 flex items-center gap-2 rounded-(--radius) border border-teal bg-paper p-1.5 shadow-(--shadow-raised)"
      style={{ left: at.x, top: at.y }}
    >
      <Button kind="main" onClick={() => onMake("always")}>
        {many ? t`Make ${pieces.length} targets here` : t`Make a target here`}
      </Button>
      <Button {...tip(t`Not visible to learners`)} onClick={() => onMake("never")}>
        {t`Hidden target`}
      </Button>
    </div>
  );
}
