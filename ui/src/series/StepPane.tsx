import { Link } from "react-router";
import { ImagePlus, Volume2, X } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Card, Leg } from "../api/types";
import { Miniature } from "../board/Miniature";
import { RichEditor } from "../board/RichEditor";
import { Select } from "../kit/Select";
import { Button } from "../kit/Button";
import { FilePick } from "../kit/FilePick";
import { mediaURL } from "../board/mediaURL";
import { TypedInput } from "../kit/TypedInput";
import { uploadAndTell } from "../kit/upload";
import { titleOf } from "./RunningOrder";
import type { SeriesEditing } from "./seriesDraft";

type Props = { series: SeriesEditing; at: number; cards: Map<string, Card> };

/** The chosen step: what a page says, or what an activity counts and when it lets the learner move on. */
export function StepPane({ series, at, cards }: Props) {
  const leg = series.doc.steps[at]!;
  return (
    <section
      aria-label={t`Step ${at + 1}`}
      className="sticky top-4 rounded-(--radius) border border-line bg-paper p-4 shadow-(--shadow-card)"
    >
      <p className="text-slate">{leg.page ? t`Step ${at + 1}, a page` : t`Step ${at + 1}, an activity`}</p>
      {leg.page ? (
        <PageFields series={series} page={leg.page} />
      ) : (
        <ActivityFields series={series} at={at} leg={leg} cards={cards} />
      )}
    </section>
  );
}

function ActivityFields({ series, at, leg, cards }: Props & { leg: Leg }) {
  const card = cards.get(leg.activity!);
  const own = card?.scene?.points;
  const set = (says: string, apply: (leg: Leg) => void) => series.change(says, (d) => apply(d.steps[at]!));
  const choice = "h-7 rounded-(--radius) border border-line bg-paper px-1 font-semibold text-feather";
  return (
    <>
      <h2 className="mb-2 text-lg">{titleOf(leg, cards)}</h2>
      {card?.scene ? (
        <>
          <div className="mb-3 grid h-52 place-items-center overflow-hidden rounded-(--radius) bg-mist">
            <Miniature scene={card.scene} width={360} height={196} />
          </div>
          <Link to={`/activity/${card.id}`} className="font-medium text-feather underline underline-offset-4">
            {t`Open it in the workbench`}
          </Link>
        </>
      ) : (
        <p className="text-ember">{t`Deleted. Restore it from the shelf or remove this step.`}</p>
      )}
      <p className="mt-3 leading-9">
        <Trans>
          Learners{" "}
          <Select
            label={t`Moves on`}
            value={leg.moveOn}
            onPick={(to) => set(t`set when learners move on`, (l) => (l.moveOn = to as Leg["moveOn"]))}
            className={choice}
            options={[
              ["free", t`move on when they like`],
              ["done", t`when finished (correct or no attempts left)`],
              ["right", t`move on when all is correct`],
            ]}
          />
          . It{" "}
          <Select
            label={t`Counts`}
            value={leg.counts ? "counts" : "practice"}
            onPick={(to) => set(t`set whether it counts`, (l) => (l.counts = to === "counts"))}
            className={choice}
            options={[
              ["counts", t`counts`],
              ["practice", t`is practice: recorded, not summed`],
            ]}
          />
          {leg.counts && (
            <>
              {" "}
              <Trans>
                and is worth{" "}
                <TypedInput
                  label={t`Points here`}
                  rule={t`0 to 1,000,000, or nothing for its own`}
                  inputMode="decimal"
                  placeholder={own === undefined ? t`its own` : String(own)}
                  value={leg.points === undefined ? "" : String(leg.points)}
                  onDone={(text) => {
                    const points = Number(text.replace(",", "."));
                    if (text.trim() !== "" && !(points >= 0 && points <= 1000000)) return false;
                    set(t`set its points here`, (l) => {
                      if (text.trim() === "") delete l.points;
                      else l.points = Math.round(points * 100) / 100;
                    });
                  }}
                  className="w-16 text-right font-semibold text-feather"
                />{" "}
                points
              </Trans>
            </>
          )}
          .
        </Trans>
      </p>
    </>
  );
}

type Page = NonNullable<Leg["page"]>;

function PageFields({ series, page }: { series: SeriesEditing; page: Page }) {
  const set = (says: string, apply: (page: Page) => void, merge?: string) =>
    series.change(
      says,
      (d) => {
        // By its id: a text that was left is taken when its step may already be elsewhere, or gone.
        const own = d.steps.find((leg) => leg.page?.id === page.id)?.page;
        if (own) apply(own);
      },
      merge && `${merge} ${page.id}`,
    );
  const field = "mt-0.5 mb-3 w-full rounded-(--radius) border border-edge bg-paper px-2";
  const take = async (files: File[]) => {
    for (const { id, type } of await uploadAndTell(files)) {
      set(type.startsWith("audio/") ? t`set a sound` : t`set a picture`, (p) => {
        if (type.startsWith("audio/")) p.sound = id;
        else p.picture = id;
      });
    }
  };
  return (
    <div className="mt-2">
      <label className="block font-medium">
        {t`Title of the page`}
        <input
          value={page.title}
          maxLength={200}
          autoFocus={page.title === ""}
          onChange={(e) => set(t`change the title of a page`, (p) => (p.title = e.target.value), "title")}
          className={`${field} h-9`}
        />
      </label>
      <p className="font-medium">{t`Text`}</p>
      <div className="mt-0.5 mb-3">
        <RichEditor
          key={page.id}
          label={t`Text`}
          value={page.text}
          maxLength={20000}
          className="min-h-40"
          onChange={(to) => set(t`change the text of a page`, (p) => (p.text = to), "text")}
        />
      </div>
      {page.picture && (
        <div className="mb-3">
          <img src={mediaURL(page.picture)} alt="" className="max-h-40 w-full rounded-sm bg-picture object-contain" />
          <label className="mt-1 block font-medium">
            {t`Alternative text`}
            <input
              value={page.alt}
              maxLength={1000}
              onChange={(e) => set(t`change the alternative text of a picture`, (p) => (p.alt = e.target.value), "alt")}
              className={`${field} mb-0 h-8`}
            />
          </label>
        </div>
      )}
      {page.sound && (
        <div className="mb-3">
          <audio controls src={mediaURL(page.sound)} className="h-9 w-full" />
          <label className="mt-1 block font-medium">
            {t`Transcript`}
            <textarea
              value={page.transcript}
              rows={2}
              onChange={(e) => set(t`change a transcript`, (p) => (p.transcript = e.target.value), "transcript")}
              className={`${field} mb-0`}
            />
          </label>
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        <FilePick
          label={t`Picture or sound of the page`}
          accept="image/*,audio/*"
          multiple
          onFiles={(files) => void take(files)}
        >
          <ImagePlus size={15} aria-hidden />{" "}
          <Trans>
            Picture or <Volume2 size={15} aria-hidden /> sound
          </Trans>
        </FilePick>
        {page.picture && (
          <Button kind="quiet" onClick={() => set(t`remove the picture`, (p) => (p.picture = p.alt = ""))}>
            <X size={15} aria-hidden /> {t`Picture`}
          </Button>
        )}
        {page.sound && (
          <Button kind="quiet" onClick={() => set(t`remove the sound`, (p) => (p.sound = p.transcript = ""))}>
            <X size={15} aria-hidden /> {t`Sound`}
          </Button>
        )}
      </div>
      <p className="mt-3 text-[13px] text-slate">
        {t`Feedback in an activity can lead here: choose this page under “Link to page”.`}
      </p>
    </div>
  );
}
