import { Link } from "react-router";
import { t } from "@lingui/core/macro";
import { tip } from "../kit/tip";
import type { SittingRow } from "../api/types";
import { short } from "../words/words";
import { clockWords } from "../player/useClock";
import { calledSo } from "./useOutcomes";
import { Checkbox } from "../kit/Checkbox";
import { moment } from "../words/figures";

/** The states of a sitting, in words. */
export const phases = { placing: t`playing`, paused: t`paused`, done: t`finished` };
export type Phase = keyof typeof phases;

const columns = [
  ["learner", t`Learner`, ""],
  ["started", t`Started`, ""],
  ["state", t`State`, ""],
  ["attempts", t`Attempts`, "text-right"],
  ["score", t`Score`, "text-right"],
  ["", t`Band`, ""],
  ["took", t`Time`, "text-right"],
] as const;
type Sort = Exclude<(typeof columns)[number][0], "">;

/** By which column, and which way. */
export type Order = { sort: Sort; down: boolean };

/** The sittings that are chosen: what each is called, by its number. */
export type Chosen = Record<number, string>;

type Props = {
  list: SittingRow[];
  points: string;
  /** Names may be seen. */
  names: boolean;
  by: Order;
  onBy: (by: Order) => void;
  chosen: Chosen;
  /** Left out, nothing can be chosen. */
  onChosen?: (chosen: Chosen) => void;
  replay: (sitting: number) => string;
};

/** A page of sittings, a line each. */
export function SittingsTable({ list, points, names, by, onBy, chosen, onChosen, replay }: Props) {
  const head = "border-b border-line bg-shade px-3 py-2 text-left font-semibold text-slate whitespace-nowrap";
  const figure = "border-b border-line px-3 py-1.5 text-right tabular-nums whitespace-nowrap";
  const cell = "border-b border-line px-3 py-1.5";
  const all = Object.fromEntries(list.map((x) => [x.id, calledSo(x.learner, x.id)]));
  const some = list.some((x) => x.id in chosen);
  const choose = (x: SittingRow, on: boolean) => {
    const now = { ...chosen };
    if (on) now[x.id] = calledSo(x.learner, x.id);
    else delete now[x.id];
    onChosen?.(now);
  };
  return (
    <table className="w-full">
      <thead>
        <tr>
          {onChosen && (
            <th className={`${head} w-8`}>
              <Checkbox
                label={t`Select all on this page`}
                on={some && (list.every((x) => x.id in chosen) || "some")}
                onChange={(on) => onChosen(on ? all : {})}
              />
            </th>
          )}
          {columns.map(([sort, title, side]) => {
            const words = sort === "score" ? t`Score of ${points}` : title;
            const now = by.sort === sort;
            return (
              <th
                key={title}
                className={`${head} ${side}`}
                aria-sort={now ? (by.down ? "descending" : "ascending") : undefined}
              >
                {sort === "" || (sort === "learner" && !names) ? (
                  words
                ) : (
                  <button
                    type="button"
                    className="font-[inherit] hover:text-ink"
                    onClick={() => onBy({ sort, down: now ? !by.down : sort !== "learner" })}
                  >
                    {words} {now && <span aria-hidden>{by.down ? "▾" : "▴"}</span>}
                  </button>
                )}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {list.map((x) => (
          <tr key={x.id} className={x.id in chosen ? "bg-feather-soft" : ""}>
            {onChosen && (
              <td className={cell}>
                <Checkbox
                  label={t`Choose ${calledSo(x.learner, x.id)}`}
                  on={x.id in chosen}
                  onChange={(on) => choose(x, on)}
                />
              </td>
            )}
            <td className={`${cell} font-medium`}>
              <Link
                to={replay(x.id)}
                {...tip(t`Play this sitting again`)}
                className="text-feather underline underline-offset-4"
              >
                {calledSo(x.learner, x.id)}
              </Link>
            </td>
            <td className={`${cell} whitespace-nowrap text-slate`}>{moment(x.startedAt)}</td>
            <td className={`${cell} text-slate`}>{phases[x.phase as Phase] ?? x.phase}</td>
            <td className={figure}>{x.attempts}</td>
            <td className={figure}>{x.attempts > 0 ? `${short(x.score)} (${short(x.percent)}%)` : "–"}</td>
            <td className={cell}>{x.band}</td>
            <td className={figure}>{x.took > 0 ? clockWords(x.took) : "–"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
