import { useState } from "react";
import { engine, type Exchange } from "../../engine/engine";
import { Button } from "../../shared/Button";
import { Popover } from "../../shared/Popover";
import { itemOf, nameOf } from "../changes";
import { useDraft, useDraftStore } from "../draft";
import { numbered, solutionName } from "../ledger/key";
import { itemOfPiece } from "./demonstration";

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
    await store.getState().edit(to === "another" ? "another solution, as shown" : "count as right", {
      act: "countRight",
      solution,
      shown,
      to,
    });
    const { doc, solution: at } = store.getState();
    setSaid(`${pieces} ${pieces === 1 ? "piece counts" : "pieces count"} as right in ${solutionName(doc, at)}.`);
  };
  const begin = async () => {
    const { doc, known } = store.getState();
    const right = known?.cells.right[solution] ?? {};
    const elsewhere = (item: string, target: string) =>
      !right[target]?.includes(item) && Object.values(right).some((list) => list.includes(item));
    const exchange = await engine.exchange(doc, solution, shown);
    const against = Object.entries(shown).some(([t, list]) => list.some((p) => elsewhere(itemOfPiece(p), t)));
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
        As another solution
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
              <p>Some of these pieces are right elsewhere in {solutionName(doc, solution)}.</p>
            )}
            {asking?.exchange && (
              <Button kind="main" onClick={() => void count("either")}>
                Either of these
              </Button>
            )}
            <Button onClick={() => void count("instead")}>Only as it is shown now</Button>
            <Button onClick={() => void count("another")}>As another solution</Button>
          </div>
        }
      >
        <Button kind="main" disabled={!some} onClick={() => void begin()}>
          Count this as right
        </Button>
      </Popover>
    </>
  );
}
