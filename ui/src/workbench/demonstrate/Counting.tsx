import { useState } from "react";
import { plural, t } from "@lingui/core/macro";
import { engine, type Exchange } from "../../engine/engine";
import { Button } from "../../kit/Button";
import { Popover } from "../../kit/Popover";
import { itemOf, nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { numbered, solutionName } from "../model/key";
import { listed } from "../../words/figures";

type Props = { shown: Record<string, string[]>; some: boolean; solution: number };

/** Counts what is shown as right: at once where nothing speaks against it, else as it is chosen. */
export function Counting({ shown, some, solution }: Props) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const [asking, setAsking] = useState<{ exchange: Exchange | null }>();
  const [said, setSaid] = useState("");
  const pieces = Object.values(shown).flat().length;
  const count = async (to: "instead" | "either" | "another") => {
    setAsking(undefined);
    const done = await store.getState().edit(to === "another" ? t`another solution, as shown` : t`count as right`, {
      act: "countRight",
      solution,
      shown,
      to,
    });
    const { doc, solution: at, remark } = store.getState();
    if (!done) return setSaid(remark); // why it could not be
    setSaid(
      t`${plural(pieces, { one: "# piece counts", other: "# pieces count" })} as correct in ${solutionName(doc.key.solutions, at)}. ${remark}`,
    );
  };
  const begin = async () => {
    const { exchange, against } = await engine.exchange(store.getState().doc, solution, shown);
    if (exchange || against) setAsking({ exchange });
    else await count("instead");
  };
  const names = (list: string[]) => listed(list.map((id) => nameOf(itemOf(doc, id))));
  return (
    <>
      <span className={`text-teal ${said ? "order-first basis-full" : ""}`} role="status">
        {said}
      </span>
      <Button disabled={!some} onClick={() => void count("another")}>
        {t`Save as another solution`}
      </Button>
      <Popover
        align="end"
        label={t`How it counts`}
        open={!!asking}
        onOpen={(open) => !open && setAsking(undefined)}
        content={
          <div className="flex w-80 flex-col gap-2">
            {asking?.exchange ? (
              <p>
                {t`${names(asking.exchange.items)} are in each other’s place. Will either of these do in ${listed(asking.exchange.targets.map((id) => numbered(doc, id)))}?`}
              </p>
            ) : (
              <p>{t`Some of these pieces are correct elsewhere in ${solutionName(doc.key.solutions, solution)}.`}</p>
            )}
            {asking?.exchange && (
              <Button kind="main" onClick={() => void count("either")}>
                {t`Accept both`}
              </Button>
            )}
            <Button onClick={() => void count("instead")}>{t`Only this arrangement`}</Button>
            <Button onClick={() => void count("another")}>{t`Save as another solution`}</Button>
          </div>
        }
      >
        <Button kind="main" disabled={!some} onClick={() => void begin()}>
          {t`Save as correct answer`}
        </Button>
      </Popover>
    </>
  );
}
