import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
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
    store.getState().change({ says: t`change the marks`, apply: (d) => apply(d.marks) });
  return (
    <div className="border-b border-line px-4 py-2 leading-7.5">
      <p>
        <Trans>
          <Num
            label={t`Points`}
            value={marks.points}
            low={0}
            high={1000000}
            onDone={(n) => set((m) => (m.points = n))}
          />{" "}
          points in all,{" "}
          <Pick
            label={t`Counted by`}
            value={marks.by}
            options={{
              item: t`shared by what each piece is worth`,
              target: t`per correct target`,
              order: t`by correct order`,
              whole: t`all or nothing`,
            }}
            onPick={(v) => set((m) => (m.by = v))}
          />
          {marks.by === "order" && (
            <Trans>
              , counting{" "}
              <Pick
                label={t`Measure of lanes`}
                value={marks.measure}
                options={{
                  run: t`longest correct run`,
                  position: t`correct positions`,
                  pairs: t`pairs in order`,
                  neighbours: t`correct neighbours`,
                }}
                onPick={(v) => set((m) => (m.measure = v))}
              />
            </Trans>
          )}
          ; it{" "}
          <Pick
            label={t`Below nothing`}
            value={String(marks.negative)}
            options={{ false: t`never goes below 0`, true: t`can go below 0` }}
            onPick={(v) => set((m) => (m.negative = v === "true"))}
            end
          />
        </Trans>
      </p>
      <p>
        <Trans>
          Attempts count{" "}
          <TypedInput
            label={t`Shares of the attempts in percent`}
            rule={t`whole numbers, 0 to 100, such as 100, 50`}
            value={marks.shares.join(", ")}
            {...tip(t`Percent for the first attempt, the second, and so on; the last one holds for all that follow`)}
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
            <Trans>
              , and{" "}
              <Pick
                label={t`Attempt that counts`}
                value={marks.keep}
                options={{ best: t`the best`, last: t`the last`, first: t`the first` }}
                onPick={(v) => set((m) => (m.keep = v))}
              />{" "}
              is kept
            </Trans>
          )}
          . A hint costs{" "}
          <Num
            label={t`Hint cost in percent`}
            value={marks.hintCost}
            low={0}
            high={100}
            whole
            onDone={(n) => set((m) => (m.hintCost = n))}
          />{" "}
          %. It{" "}
          <Pick
            label={t`Counts in a series`}
            value={String(marks.counts)}
            options={{ true: t`counts in a series`, false: t`is practice in a series` }}
            onPick={(v) => set((m) => (m.counts = v === "true"))}
            end
          />
        </Trans>
      </p>
    </div>
  );
}
