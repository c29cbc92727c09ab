import { useState } from "react";
import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Button } from "../../kit/Button";
import { Num } from "../../kit/sentences";
import { Sortable } from "../../kit/Sortable";
import { tip } from "../../kit/tip";
import { useDraft, useDraftStore } from "../model/draft";
import { HintRow, type Hint } from "./HintRow";

/** The hints in the order in which they are given, and what each costs. */
export function Hints() {
  const store = useDraftStore();
  const hints = useDraft((s) => s.doc.hints);
  const cost = useDraft((s) => s.doc.marks.hintCost);
  const set = (says: string, apply: (list: Hint[]) => void, merge?: string) =>
    store.getState().change({ says, merge, apply: (d) => apply(d.hints) });
  const [writing, setWriting] = useState<number>();
  const add = (place: boolean) => {
    set(t`add a hint`, (list) => void list.push({ text: "", picture: "", alt: "", place }));
    if (!place) setWriting(hints.length);
  };
  return (
    <div>
      <p>
        {hints.length === 0 ? (
          t`There are no hints.`
        ) : (
          <Trans>
            They can ask for {plural(hints.length, { one: "# hint", other: "# hints" })}, shown one at a time; each
            costs{" "}
            <Num
              label={t`Cost of a hint in percent`}
              value={cost}
              low={0}
              high={100}
              whole
              onDone={(n) =>
                store.getState().change({ says: t`change what hints cost`, apply: (d) => void (d.marks.hintCost = n) })
              }
            />{" "}
            % of the points.
          </Trans>
        )}{" "}
        <Button className="h-7 px-2" onClick={() => add(false)}>
          {t`Add a hint`}
        </Button>{" "}
        <Button className="h-7 px-2" {...tip(t`Puts one missing piece where it is correct`)} onClick={() => add(true)}>
          {t`Add a “place one piece” hint`}
        </Button>
      </p>
      <Sortable
        ids={hints.map((_, i) => String(i))}
        name={(id) => t`hint ${Number(id) + 1}`}
        onMove={(from, to) => {
          setWriting(undefined);
          set(t`reorder hints`, (list) => void list.splice(to, 0, list.splice(from, 1)[0]!));
        }}
      >
        <ol className="flex flex-col gap-1.5 pt-1">
          {hints.map((hint, i) => (
            <HintRow
              key={i}
              i={i}
              hint={hint}
              writing={writing === i}
              onWriting={(on) => setWriting(on ? i : undefined)}
              onChange={(says, part, merge) => set(says, (list) => void Object.assign(list[i]!, part), merge)}
              onRemove={() => {
                setWriting(undefined);
                set(t`remove a hint`, (list) => void list.splice(i, 1));
              }}
            />
          ))}
        </ol>
      </Sortable>
    </div>
  );
}
