import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Card } from "../api/types";
import { Select } from "../kit/Select";
import { BandsBar } from "../kit/BandsBar";
import { TypedInput } from "../kit/TypedInput";
import type { SeriesEditing } from "./seriesDraft";

type Props = { series: SeriesEditing; cards: Map<string, Card> };

const choice = "h-7 rounded-(--radius) border border-line bg-paper px-1 font-semibold text-feather";

/** What holds for all of it: the way back, the time, the pass mark, the bands, doing it again. */
export function SeriesEnd({ series, cards }: Props) {
  const { doc, change } = series;
  const own = doc.steps.filter((s) => s.activity && s.counts);
  const points = own.map((s) => s.points ?? cards.get(s.activity!)?.scene?.points ?? 0).reduce((a, b) => a + b, 0);
  return (
    <section
      aria-label={t`Series settings`}
      className="rounded-(--radius) border border-line bg-paper shadow-(--shadow-card)"
    >
      <h2 className="border-b border-line px-4 py-2 text-base">{t`Series settings`}</h2>
      <div className="flex flex-col gap-2 px-4 py-3 leading-8">
        <p>
          <Trans>
            Learners{" "}
            <Select
              label={t`The way back`}
              value={doc.back ? "back" : "on"}
              onPick={(to) => change(t`set the way back`, (d) => void (d.back = to === "back"))}
              className={choice}
              options={[
                ["back", t`can go back to earlier steps`],
                ["on", t`can’t go back`],
              ]}
            />
            , and have at most{" "}
            <TypedInput
              label={t`Minutes in all`}
              rule={t`0 to 1440, or nothing for any`}
              inputMode="decimal"
              placeholder={t`any`}
              value={doc.timeLimit > 0 ? String(doc.timeLimit / 60000) : ""}
              onDone={(text) => {
                const minutes = text.trim() === "" ? 0 : Number(text.replace(",", "."));
                if (!(minutes >= 0 && minutes <= 1440)) return false;
                change(t`set the time`, (d) => void (d.timeLimit = Math.round(minutes * 60000)));
              }}
              className="w-16 text-right font-semibold text-feather"
            />{" "}
            minutes in all.
          </Trans>
        </p>
        <p>
          <Trans>
            It is worth <b className="tabular-nums">{Math.round(points * 100) / 100}</b> points. At the end they can do{" "}
            <Select
              label={t`Again`}
              value={doc.again}
              onPick={(to) => change(t`set what can be done again`, (d) => void (d.again = to as typeof d.again))}
              className={choice}
              options={[
                ["none", t`nothing more`],
                ["wrong", t`repeat incorrect steps`],
                ["all", t`all of it again`],
              ]}
            />
            .
          </Trans>
        </p>
      </div>
      {own.length > 0 ? (
        <BandsBar
          bands={doc.bands}
          passMark={doc.passMark}
          onBands={(says, apply, merge) => change(says, (d) => apply(d.bands), merge)}
          onPass={(n) => change(t`move the pass mark`, (d) => void (d.passMark = n), "pass-mark")}
        />
      ) : (
        <p className="border-t border-line px-4 py-3 text-slate">
          {t`Nothing is scored, so there is no total or pass mark.`}
        </p>
      )}
    </section>
  );
}
