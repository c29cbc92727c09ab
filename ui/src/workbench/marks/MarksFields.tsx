import type { Doc } from "../../api/types";
import { tip } from "../../kit/tip";
import { TypedInput } from "../../kit/TypedInput";
import { useDraft, useDraftStore } from "../model/draft";
import { Num, Pick } from "../../kit/sentences";

type Marks = Doc["marks"];

/** How points add up, as sentences with choices in them. */
export function MarksFields() {
  const store = useDraftStore();
  const { marks, play } = useDraft((s) => s.doc);
  const set = (apply: (m: Marks) => void) =>
    store.getState().change({ says: "change the marks", apply: (d) => apply(d.marks) });
  return (
    <div className="border-b border-line px-4 py-2 leading-7.5">
      <p>
        <Num label="Points" value={marks.points} low={0} high={1000000} onDone={(n) => set((m) => (m.points = n))} />{" "}
        points in all,{" "}
        <Pick
          label="Counted by"
          value={marks.by}
          options={{
            item: "shared by what each piece is worth",
            target: "per correct target",
            order: "by how well lanes are in order",
            whole: "for the whole alone",
          }}
          onPick={(v) => set((m) => (m.by = v))}
        />
        {marks.by === "order" && (
          <>
            , counting{" "}
            <Pick
              label="Measure of lanes"
              value={marks.measure}
              options={{
                run: "longest correct run",
                position: "correct positions",
                pairs: "pairs in order",
                neighbours: "correct neighbours",
              }}
              onPick={(v) => set((m) => (m.measure = v))}
            />
          </>
        )}
        ; it{" "}
        <Pick
          label="Below nothing"
          value={String(marks.negative)}
          options={{ false: "never goes below 0", true: "can go below 0" }}
          onPick={(v) => set((m) => (m.negative = v === "true"))}
          end
        />
      </p>
      <p>
        Attempts count{" "}
        <TypedInput
          label="Shares of the attempts in percent"
          value={marks.shares.join(", ")}
          {...tip("Percent for the first attempt, the second, and so on; the last one holds for all that follow")}
          onDone={(text) => {
            const list = text
              .split(/[,;\s]+/)
              .filter(Boolean)
              .map(Number);
            const good = (n: number) => Number.isInteger(n) && n >= 0 && n <= 100;
            if (list.length === 0 || list.length > 99 || !list.every(good)) return false;
            set((m) => (m.shares = list));
          }}
          className="w-28 font-medium text-feather tabular-nums"
        />{" "}
        %
        {play.check !== "each" && (
          <>
            , and{" "}
            <Pick
              label="Attempt that counts"
              value={marks.keep}
              options={{ best: "the best", last: "the last", first: "the first" }}
              onPick={(v) => set((m) => (m.keep = v))}
            />{" "}
            is kept
          </>
        )}
        . A hint costs{" "}
        <Num
          label="Hint cost in percent"
          value={marks.hintCost}
          low={0}
          high={100}
          whole
          onDone={(n) => set((m) => (m.hintCost = n))}
        />{" "}
        %. It{" "}
        <Pick
          label="Counts in a series"
          value={String(marks.counts)}
          options={{ true: "counts in a series", false: "is practice in a series" }}
          onPick={(v) => set((m) => (m.counts = v === "true"))}
          end
        />
      </p>
    </div>
  );
}
