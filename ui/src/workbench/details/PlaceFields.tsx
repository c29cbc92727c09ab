import { t } from "@lingui/core/macro";
import { useDraft, useDraftStore } from "../model/draft";
import { moveFrame } from "../model/changes";
import { CheckField, Group, NumberField } from "../../kit/fields";
import type { Chosen, Set } from "./Sheet";

type Props = { chosen: Chosen; set: Set };
type Side = "x" | "y" | "w" | "h";

/** Where parts are and how large, as numbers: also of many at once. */
export function PlaceFields({ chosen, set }: Props) {
  const store = useDraftStore();
  const board = useDraft((s) => s.doc.board);
  const { items, targets, scenery } = chosen;
  const framed = scenery.filter((s) => s.frame);
  const lines = scenery.filter((s) => s.from && s.to);
  const boxes = items.length + targets.length + framed.length > 0;
  const values = (side: Side): (number | undefined)[] => [
    ...items.map((i) => (side === "x" || side === "y" ? i.home?.[side] : i.size[side])),
    ...targets.map((target) => target.frame[side]),
    ...framed.map((s) => s.frame![side]),
  ];
  const write = (side: Side, n: number) =>
    set(
      { x: t`set x`, y: t`set y`, w: t`set the width`, h: t`set the height` }[side],
      ["items", "targets", "scenery"],
      (part) => {
        if ("size" in part) {
          if (side === "w" || side === "h") part.size[side] = n;
          else part.home = { x: 0, y: 0, ...part.home, [side]: n };
        } else if ("shape" in part) moveFrame(part, { ...part.frame, [side]: n });
        else if (part.frame) part.frame = { ...part.frame, [side]: n };
      },
    );
  const all = [...items, ...targets, ...scenery];
  const flag = (name: "pinned" | "hidden", on: string, off: string) => (now: boolean) =>
    set(now ? on : off, ["items", "targets", "scenery"], (part) => (part[name] = now));
  return (
    <Group title={t`Place and size`}>
      {boxes &&
        (["x", "y", "w", "h"] as const).map((side) => (
          <NumberField
            key={side}
            label={{ x: "x", y: "y", w: t`width`, h: t`height` }[side]}
            values={values(side)}
            low={side === "w" || side === "h" ? 1 : 0}
            high={side === "x" || side === "w" ? board.width : board.height}
            empty={items.length > 0 && (side === "x" || side === "y") ? t`tray` : undefined}
            onDone={(n) =>
              n === undefined ? set(t`put into the tray`, ["items"], (part) => delete part.home) : write(side, n)
            }
          />
        ))}
      {lines.length > 0 &&
        (["from", "to"] as const).flatMap((end) =>
          (["x", "y"] as const).map((axis) => (
            <NumberField
              key={end + axis}
              label={end === "from" ? t`begins at ${axis}` : t`ends at ${axis}`}
              values={lines.map((s) => s[end]![axis])}
              low={0}
              high={axis === "x" ? board.width : board.height}
              onDone={(n) =>
                set(t`move an end`, ["scenery"], (s) => {
                  if (s[end]) s[end] = { ...s[end], [axis]: n! };
                })
              }
            />
          )),
        )}
      {items.length > 0 && (
        <CheckField
          label={t`Start in tray`}
          values={items.map((i) => !i.home)}
          onDone={(on) =>
            on
              ? set(t`put into the tray`, ["items"], (part) => delete part.home)
              : store.getState().change({
                  says: t`put on the board`,
                  // One beside the other from the left lower corner, never in a heap.
                  apply: (doc) => {
                    let x = 16;
                    for (const item of doc.items) {
                      if (!items.some((i) => i.id === item.id) || item.home) continue;
                      item.home = {
                        x: Math.min(x, Math.max(0, doc.board.width - item.size.w)),
                        y: Math.max(0, doc.board.height - item.size.h - 16),
                      };
                      x += item.size.w + 16;
                    }
                  },
                })
          }
        />
      )}
      {items.length > 0 && (
        <CheckField
          label={t`Leave a ghost`}
          values={items.map((i) => i.ghost)}
          onDone={(on) => set(t`leave a faint copy`, ["items"], (part) => (part.ghost = on))}
        />
      )}
      <CheckField
        label={t`Lock position`}
        values={all.map((p) => p.pinned)}
        onDone={flag("pinned", t`lock position`, t`unlock position`)}
      />
      <CheckField
        label={t`Hidden in editor`}
        values={all.map((p) => p.hidden)}
        onDone={flag("hidden", t`hide in the editor`, t`show in the editor`)}
      />
    </Group>
  );
}
