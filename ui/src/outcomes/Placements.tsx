import { useState, type ReactNode } from "react";
import { TriangleAlert } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Select } from "../kit/Select";
import { tip } from "../kit/tip";
import type { AttemptFigures, Doc, ItemFigures, Outcomes } from "../api/types";
import { mediaURL } from "../board/mediaURL";
import { isRight, percent, seconds, type Right } from "./useOutcomes";
import { Checkbox } from "../kit/Checkbox";
import { grouped } from "../words/figures";

type Props = {
  figures: AttemptFigures;
  times: NonNullable<Outcomes["figures"]["times"]>;
  doc: Doc;
  /** By solution and target, the items that are right there. */
  right?: Right;
  /** Beside the board: targets by their numbers, items to be chosen. */
  narrow?: boolean;
  chosen?: string[];
  onChoose?: (item: string, target?: string) => void;
};

const orders = {
  doubtful: t`Least reliable first`,
  hard: t`hardest first`,
  document: t`as in the activity`,
};
type Order = keyof typeof orders;

/** Items by targets, with what learners did; what counts as right is framed. */
export function Placements({ figures, times, doc, right, narrow, chosen, onChoose }: Props) {
  const [order, setOrder] = useState<Order>("doubtful");
  const [shares, setShares] = useState(true);
  const items = [...(figures.items ?? [])];
  const doubt = (i: ItemFigures) => (i.suspect ? -10 : (i.discrimination ?? 1));
  if (order === "doubtful") items.sort((a, b) => doubt(a) - doubt(b));
  if (order === "hard") items.sort((a, b) => a.facility - b.facility);
  const side = narrow ? "px-1.5" : "px-2";
  const head = `sticky top-0 bg-shade ${side} py-2 text-left font-semibold text-slate`;
  const choice = "h-8 rounded-(--radius) border border-line bg-paper px-2";
  // Beside the board they stand first, where they are seen.
  const figureHeads = (
    <>
      <th className={`${head} text-right`} {...tip(t`The share of sittings in which it is correct`)}>
        {t`facility`}
      </th>
      <th className={`${head} text-right`} {...tip(t`Discrimination: correlation with the score on the other items`)}>
        {narrow ? t`discr.` : t`discrimination`}
      </th>
      <th className={`${head} text-right`} {...tip(t`Median time to its first correct placement`)}>
        {t`time`}
      </th>
    </>
  );
  return (
    <section aria-label={t`What learners did`}>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        {!narrow && <h2 className="text-base">{t`Where each item was put`}</h2>}
        <Select
          label={t`Order of the items`}
          value={order}
          onPick={(to) => setOrder(to as Order)}
          className={choice}
          options={Object.entries(orders)}
        />
        <label className="flex items-center gap-1.5">
          <Checkbox on={shares} onChange={setShares} /> {t`as percentages`}
        </label>
        <span className="ml-auto text-slate">{t`outlined = correct`}</span>
      </div>
      <div className="overflow-auto rounded-(--radius) border border-line bg-paper">
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={head}>{t`Item`}</th>
              {narrow && figureHeads}
              {doc.targets.map((target, i) => (
                <th key={target.id} className={`${head} text-right`} {...tip(target.name)}>
                  <span className="text-[13px] tabular-nums">{i + 1}</span>{" "}
                  {narrow ? "" : target.label.text || target.name}
                </th>
              ))}
              <th className={`${head} text-right`} {...tip(t`Not placed`)}>
                {narrow ? t`none` : t`not placed`}
              </th>
              {!narrow && figureHeads}
            </tr>
          </thead>
          <tbody>
            {items.map((i) => {
              const item = doc.items.find((x) => x.id === i.item);
              const all = Object.values(i.placed).reduce((a, b) => a + b, 0);
              const cell = (place: string) => {
                const n = i.placed[place] ?? 0;
                const on = place
                  ? isRight(right, i.item, place)
                  : item !== undefined && !doc.targets.some((target) => isRight(right, i.item, target.id));
                const share = all > 0 ? n / all : 0;
                return (
                  <td
                    key={place}
                    data-place={place}
                    className={`py-1 text-right whitespace-nowrap tabular-nums ${side} ${n === 0 ? "text-slate" : ""}`}
                    style={{
                      // Until it is known what is right, only how many.
                      background: `color-mix(in srgb, var(${!right ? "--edge" : on ? "--teal" : "--ember"}) ${Math.round(45 * share)}%, transparent)`,
                      boxShadow: on && right ? "inset 0 0 0 2px var(--teal)" : undefined,
                    }}
                  >
                    {n === 0 ? "·" : shares ? percent(share) : grouped(n)}
                  </td>
                );
              };
              const picked = chosen?.includes(i.item) ?? false;
              const time = times.find((time) => time.item === i.item);
              const figureCells = (
                <>
                  <td className={`${side} text-right tabular-nums`}>{percent(i.facility)}</td>
                  <td
                    className={`${side} text-right tabular-nums ${i.discrimination !== undefined && i.discrimination < 0 ? "font-semibold text-ember" : ""}`}
                  >
                    {i.discrimination === undefined ? "–" : i.discrimination.toFixed(2)}
                  </td>
                  <td className={`${side} text-right text-slate tabular-nums`}>{time ? seconds(time.median) : "–"}</td>
                </>
              );
              return (
                <tr
                  key={i.item}
                  aria-selected={onChoose && picked}
                  className={`border-t border-line/70 ${picked ? "bg-feather-soft" : ""} ${onChoose ? "cursor-pointer" : ""}`}
                  onClick={(e) => onChoose?.(i.item, (e.target as Element).closest("td")?.dataset.place)}
                >
                  <th
                    scope="row"
                    className={`px-2 py-1 text-left font-medium whitespace-nowrap ${narrow ? `sticky left-0 border-t border-line/70 ${picked ? "bg-feather-soft" : "bg-paper"}` : ""}`}
                  >
                    <Name as={onChoose ? "button" : "span"}>
                      {item?.picture && (
                        <img
                          src={mediaURL(item.picture)}
                          alt=""
                          className="size-7 max-w-none shrink-0 rounded-sm bg-picture object-contain"
                        />
                      )}
                      {item?.name || item?.text || i.item}
                      {i.suspect &&
                        (narrow ? (
                          <TriangleAlert
                            size={15}
                            role="img"
                            aria-label={t`check the answer key`}
                            className="shrink-0 text-brass"
                          />
                        ) : (
                          <span className="rounded-sm bg-brass-soft px-1 text-[13px] text-brass">{t`looks wrong`}</span>
                        ))}
                    </Name>
                  </th>
                  {narrow && figureCells}
                  {doc.targets.map((target) => cell(target.id))}
                  {cell("")}
                  {!narrow && figureCells}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** An item's picture and name; chosen by keyboard where it can be chosen. */
function Name({ as: Tag, children }: { as: "button" | "span"; children: ReactNode }) {
  return <Tag className="flex items-center gap-2 font-[inherit]">{children}</Tag>;
}
