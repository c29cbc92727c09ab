import { useState } from "react";
import type { AttemptFigures, Doc, ItemFigures, Outcomes } from "../api/types";
import { mediaURL } from "../shared/mediaURL";

type Props = {
  figures: AttemptFigures;
  times: NonNullable<Outcomes["figures"]["times"]>;
  doc: Doc;
  /** By solution and target, the items that are right there. */
  right?: Record<string, string[]>[];
};

const orders = {
  doubtful: "most doubtful first",
  hard: "hardest first",
  document: "as in the activity",
};
type Order = keyof typeof orders;

const percent = (share: number) => `${Math.round(100 * share)} %`;
const seconds = (ms: number) =>
  ms < 60000
    ? `${Math.round(ms / 1000)} s`
    : `${Math.floor(ms / 60000)}:${String(Math.round((ms % 60000) / 1000)).padStart(2, "0")}`;

/** Items by targets, with what learners did; what counts as right is framed. */
export function Placements({ figures, times, doc, right }: Props) {
  const [order, setOrder] = useState<Order>("doubtful");
  const [shares, setShares] = useState(true);
  const items = [...(figures.items ?? [])];
  const doubt = (i: ItemFigures) => (i.suspect ? -10 : (i.discrimination ?? 1));
  if (order === "doubtful") items.sort((a, b) => doubt(a) - doubt(b));
  if (order === "hard") items.sort((a, b) => a.facility - b.facility);
  const isRight = (item: string, target: string) => right?.some((s) => s[target]?.includes(item)) ?? false;
  const head = "sticky top-0 bg-shade px-2 py-2 text-left font-semibold text-slate";
  const choice = "h-8 rounded-(--radius) border border-line bg-paper px-2";
  return (
    <section aria-label="What learners did">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2 className="text-base">Where each item was put</h2>
        <select
          aria-label="Order of the items"
          value={order}
          onChange={(e) => setOrder(e.target.value as Order)}
          className={choice}
        >
          {Object.entries(orders).map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={shares} onChange={(e) => setShares(e.target.checked)} /> as shares
        </label>
        <span className="ml-auto text-slate">framed: right there</span>
      </div>
      <div className="overflow-auto rounded-(--radius) border border-line bg-paper">
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={head}>Item</th>
              {doc.targets.map((t, i) => (
                <th key={t.id} className={`${head} text-right`} title={t.name}>
                  <span className="text-[13px] tabular-nums">{i + 1}</span> {t.label.text || t.name}
                </th>
              ))}
              <th className={`${head} text-right`}>not placed</th>
              <th className={`${head} text-right`} title="The share of sittings in which it is right">
                facility
              </th>
              <th
                className={`${head} text-right`}
                title="How it goes with the rest: the correlation of this item with the number of the others that are right"
              >
                discrimination
              </th>
              <th className={`${head} text-right`} title="The median time to its first right placement">
                time
              </th>
            </tr>
          </thead>
          <tbody>
            {items.map((i) => {
              const item = doc.items.find((x) => x.id === i.item);
              const all = Object.values(i.placed).reduce((a, b) => a + b, 0);
              const cell = (place: string) => {
                const n = i.placed[place] ?? 0;
                const on = place
                  ? isRight(i.item, place)
                  : item !== undefined && !doc.targets.some((t) => isRight(i.item, t.id));
                const share = all > 0 ? n / all : 0;
                return (
                  <td
                    key={place}
                    className={`px-2 py-1 text-right tabular-nums ${n === 0 ? "text-slate" : ""}`}
                    style={{
                      // Until it is known what is right, only how many.
                      background: `color-mix(in srgb, var(${!right ? "--edge" : on ? "--teal" : "--ember"}) ${Math.round(45 * share)}%, transparent)`,
                      boxShadow: on && right ? "inset 0 0 0 2px var(--teal)" : undefined,
                    }}
                  >
                    {n === 0 ? "·" : shares ? percent(share) : n}
                  </td>
                );
              };
              const time = times.find((t) => t.item === i.item);
              return (
                <tr key={i.item} className="border-t border-line/70">
                  <th scope="row" className="px-2 py-1 text-left font-medium whitespace-nowrap">
                    <span className="flex items-center gap-2">
                      {item?.picture && (
                        <img
                          src={mediaURL(item.picture)}
                          alt=""
                          className="size-7 rounded-sm bg-picture object-contain"
                        />
                      )}
                      {item?.name || item?.text || i.item}
                      {i.suspect && (
                        <span className="rounded-sm bg-brass-soft px-1 text-[13px] text-brass">looks wrong</span>
                      )}
                    </span>
                  </th>
                  {doc.targets.map((t) => cell(t.id))}
                  {cell("")}
                  <td className="px-2 text-right tabular-nums">{percent(i.facility)}</td>
                  <td
                    className={`px-2 text-right tabular-nums ${i.discrimination !== undefined && i.discrimination < 0 ? "font-semibold text-ember" : ""}`}
                  >
                    {i.discrimination === undefined ? "–" : i.discrimination.toFixed(2)}
                  </td>
                  <td className="px-2 text-right text-slate tabular-nums">{time ? seconds(time.median) : "–"}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
