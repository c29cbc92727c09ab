import { useState } from "react";
import { engine, type Exchange } from "../../engine/engine";
import { Button } from "../../kit/Button";
import { Popover } from "../../kit/Popover";
import { itemOf, nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { numbered, solutionName } from "../model/key";

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
    const done = await store.getState().edit(to === "another" ? "another solution, as shown" : "count as right", {
      act: "countRight",
      solution,
      shown,
      to,
    });
    const { doc, solution: at, remark } = store.getState();
    if (!done) return setSaid(remark); // why it could not be
    setSaid(
      `${pieces} ${pieces === 1 ? "piece counts" : "pieces count"} as correct in ${solutionName(doc.key.solutions, at)}. ${remark}`,
    );
  };
  const begin = async () => {
    const { exchange, against } = await engine.exchange(store.getState().doc, solution, shown);
    if (exchange || against) setAsking({ exchange });
    else await count("instead");
  };
  const names = (list: string[]) => list.map((id) => nameOf(itemOf(doc, id))).join(" and ");
  return (
    <>
      <span className={`text-teal ${said ? "order-first basis-full" : ""}`} role="status">
        {said}
      </span>
      <Button disabled={!some} onClick={() => void count("another")}>
        Save as another solution
      </Button>
      <Popover
        align="end"
        label="How it counts"
        open={!!asking}
        onOpen={(open) => !open && setAsking(undefined)}
        content={
          <div className="flex w-80 flex-col gap-2">
            {asking?.exchange ? (
              <p>
                {names(asking.exchange.items)} are in each other’s place. Will either of these do in{" "}
                {asking.exchange.targets.map((t) => numbered(doc, t)).join(" and ")}?
              </p>
            ) : (
              <p>Some of these pieces are correct elsewhere in {solutionName(doc.key.solutions, solution)}.</p>
            )}
            {asking?.exchange && (
              <Button kind="main" onClick={() => void count("either")}>
                Accept both
              </Button>
            )}
            <Button onClick={() => void count("instead")}>Only this arrangement</Button>
            <Button onClick={() => void count("another")}>Save as another solution</Button>
          </div>
        }
      >
        <Button kind="main" disabled={!some} onClick={() => void begin()}>
          Save as correct answer
        </Button>
      </Popover>
    </>
  );
}
