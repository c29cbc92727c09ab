import { memo } from "react";
import { t } from "@lingui/core/macro";
import type { Rect } from "../../api/types";
import { isRight, percent } from "../../outcomes/useOutcomes";
import { placed } from "../../board/TargetWell";
import { useDraft } from "../model/draft";
import { useLooked } from "./OutcomesLens";

const rim = 16;

/** Where learners put the items that are selected, or all of them, as heat on the targets. */
export const HeatOnBoard = memo(function HeatOnBoard() {
  const lens = useDraft((s) => s.lens);
  return lens === "outcomes" ? <Heat /> : null;
});

function Heat() {
  const draft = useDraft((s) => s.doc);
  const selected = useDraft((s) => s.selection.items);
  const { outcomes, which, right } = useLooked();
  const items = outcomes.data?.figures[which]?.items;
  if (!items || !right || outcomes.data?.least) return null;
  const meant = selected.length > 0 ? items.filter((i) => selected.includes(i.item)) : items;
  if (meant.length === 0) return null;
  const all = meant.reduce((n, i) => n + Object.values(i.placed).reduce((a, b) => a + b, 0), 0);
  // The label on the rim stays free.
  const below = ({ x, y, w, h }: Rect) => placed({ x, y: y + rim, w, h: Math.max(rim, h - rim) });
  return (
    <>
      {draft.targets.map((target) => {
        const put = meant.reduce((n, i) => n + (i.placed[target.id] ?? 0), 0);
        const good = meant.reduce(
          (n, i) => n + (isRight(right, i.item, target.id) ? (i.placed[target.id] ?? 0) : 0),
          0,
        );
        if (put === 0) return null;
        // Of some items: how many came here. Of all of them: how many that came here are wrong here.
        const some = selected.length > 0;
        const share = all > 0 ? put / all : 0;
        const wrong = 1 - good / put;
        const tone = (some ? good > 0 : wrong === 0) ? "--teal" : "--ember";
        const strength = some ? share : wrong === 0 ? 0.15 : wrong;
        return (
          <div
            key={target.id}
            data-heat={target.id}
            className="pointer-events-none"
            style={{
              ...below(target.frame),
              zIndex: 1600,
              background: `color-mix(in srgb, var(${tone}) ${Math.round(8 + 45 * strength)}%, transparent)`,
              outline: `2px ${good === put ? "solid" : "dashed"} var(${tone})`,
            }}
          >
            <span
              className="absolute right-0 bottom-0 rounded-tl-sm bg-paper px-1 font-semibold text-ink tabular-nums"
              style={{ fontSize: "max(12px, calc(15px * var(--s)))" }}
            >
              {some
                ? good === put
                  ? t`${put} here, ${percent(share)}, correct`
                  : good > 0
                    ? t`${put} here, ${percent(share)}`
                    : t`${put} here, ${percent(share)}, wrong`
                : t`${percent(wrong)} of ${put} wrong`}
            </span>
          </div>
        );
      })}
    </>
  );
}
