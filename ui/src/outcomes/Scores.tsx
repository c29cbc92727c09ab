import { t } from "@lingui/core/macro";
import { tip } from "../kit/tip";
import type { AttemptFigures, Doc } from "../api/types";

const two = (x: number) => String(Math.round(x * 100) / 100);

/** How scores are distributed, with the bands, and how reliable they are. */
export function Scores({ figures, marks }: { figures: AttemptFigures; marks: Doc["marks"] }) {
  const { passMark } = marks;
  const { scores, alpha, sem, bands } = figures;
  const bars = scores.histogram ?? [];
  const most = Math.max(1, ...bars.map((b) => b.n));
  const fact = "whitespace-nowrap";
  return (
    <section aria-label={t`Scores`} className="rounded-(--radius) border border-line bg-paper p-4">
      <div className="flex flex-wrap items-end gap-x-8 gap-y-4">
        <div
          role="img"
          aria-label={t`Scores: ${bars.map((b) => t`${b.n} from ${b.from}%`).join(", ")}`}
          className="min-w-72 flex-1"
        >
          <div className="flex h-28 items-end gap-1">
            {bars.map((b) => (
              <div key={b.from} className="flex h-full flex-1 flex-col justify-end text-center">
                <span className="text-[13px] text-slate tabular-nums">{b.n > 0 ? b.n : ""}</span>
                <span
                  className={`block rounded-t-sm ${passMark > 0 && b.from < passMark ? "bg-edge" : "bg-feather"}`}
                  style={{ height: `${(100 * b.n) / most}%`, minHeight: b.n > 0 ? 2 : 0 }}
                />
              </div>
            ))}
          </div>
          <div className="flex gap-1 border-t border-edge pt-1">
            {bars.map((b) => (
              <span key={b.from} className="flex-1 text-center text-[13px] text-slate tabular-nums">
                {b.from}
              </span>
            ))}
          </div>
          {bars.length > 0 && <Bands from={bars[0]!.from} steps={bars.length} bands={marks.bands} />}
        </div>
        <dl className="grid grid-cols-[auto_auto] gap-x-4 gap-y-0.5">
          <dt className="text-slate">{t`Mean`}</dt>
          <dd className={fact}>
            <b className="tabular-nums">{two(scores.mean)}%</b> {t`(SD ${two(scores.sd)})`}
          </dd>
          <dt className="text-slate">{t`Quartiles`}</dt>
          <dd className={`${fact} tabular-nums`}>
            {two(scores.q1)} · <b>{two(scores.median)}</b> · {two(scores.q3)}%
          </dd>
          {alpha !== undefined && sem !== undefined && (
            <>
              <dt className="text-slate" {...tip(t`Over the items. SEM: the standard error of the number correct`)}>
                {t`Cronbach’s α`}
              </dt>
              <dd className={fact}>
                <b className="tabular-nums">{two(alpha)}</b> {t`(SEM ${two(sem)} items)`}
              </dd>
            </>
          )}
          {(bands ?? []).map((b) => (
            <div key={b.name} className="contents">
              <dt className="text-slate">{b.name}</dt>
              <dd className="tabular-nums">{b.n}</dd>
            </div>
          ))}
        </dl>
      </div>
    </section>
  );
}

/** Which scores come to which band, beneath the scores. */
function Bands({ from, steps, bands }: { from: number; steps: number; bands: Doc["marks"]["bands"] }) {
  const at = (percent: number) => `${(100 * (Math.max(from, percent) - from)) / (10 * steps)}%`;
  const list = [...bands].sort((a, b) => a.from - b.from);
  return (
    <div aria-hidden className="relative mt-1 h-5 text-[13px] text-slate">
      {list.map((b, i) => (
        <span
          key={i}
          {...tip(t`${b.name}: from ${b.from}%`)}
          className="absolute inset-y-0 truncate border-l border-edge pl-1"
          style={{ left: at(b.from), right: `calc(100% - ${at(list[i + 1]?.from ?? from + 10 * steps)})` }}
        >
          {b.name}
        </span>
      ))}
    </div>
  );
}
