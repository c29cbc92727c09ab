import { t } from "@lingui/core/macro";
import type { Reply } from "../../api/types";
import { nameOf } from "../../document/parts";
import { useDraft } from "../model/draft";
import { CheckField, ChoiceField } from "../../kit/fields";
import { tip } from "../../kit/tip";
import { PageOffer } from "./PageOffer";
import { untilOf } from "../model/replies";

const offers: [string, string][] = [
  ["again", t`Try again`],
  ["restart", t`Start over`],
  ["next", t`Next step`],
  ["back", t`Previous step (series only)`],
];

type Props = {
  replies: Reply[];
  set: (says: string, apply: (r: Reply) => void) => void;
};

/** Where replies are shown and for how long, what they point to, and what they do besides. */
export function ReplyDoes({ replies, set }: Props) {
  const doc = useDraft((s) => s.doc);
  const of = <T,>(pick: (r: Reply) => T) => replies.map(pick);
  const points = [...new Set(replies.flatMap((r) => r.point))];
  return (
    <>
      <div className="grid grid-cols-4 items-end gap-2">
        <ChoiceField
          label={t`Position`}
          values={of((r) => r.spot)}
          options={[
            ["edge", t`edge`],
            ["piece", t`next to the piece`],
            ["target", t`beside the target`],
            ["card", t`dialog`],
            ["frame", t`custom`],
            ["board", t`over the whole board`],
          ]}
          onDone={(to) =>
            set(t`change the position`, (r) => {
              r.spot = to as Reply["spot"];
              if (r.spot === "frame") r.frame ??= { x: 40, y: 40, w: 360, h: 90 };
              else delete r.frame;
            })
          }
        />
        <ChoiceField
          label={t`Visible until`}
          values={of(untilOf)}
          options={[
            ["move", t`the next move`],
            ["check", t`the next check`],
            ["closed", t`it is closed`],
            ["stays", t`always`],
          ]}
          onDone={(to) => set(t`change how long it is visible`, (r) => (r.until = to as Reply["until"]))}
        />
        <ChoiceField
          label={t`Highlight`}
          values={[""]}
          options={[
            ["", points.length === 0 ? t`nothing` : t`Add…`],
            ["wrong", t`what is wrong`],
            ["right", t`correct pieces`],
            ["missing", t`what is missing`],
            ...doc.targets.map((target): [string, string] => [target.id, nameOf(target)]),
            ...doc.items.map((i): [string, string] => [i.id, nameOf(i)]),
            ...doc.scenery.filter((x) => x.frame).map((x): [string, string] => [x.id, x.text || x.alt || x.id]),
          ]}
          onDone={(id) => id && set(t`highlight something`, (r) => void (!r.point.includes(id) && r.point.push(id)))}
        />
        <CheckField
          label={t`Dim everything else`}
          values={of((r) => r.dim)}
          onDone={(on) => set(t`dim the rest`, (r) => (r.dim = on))}
        />
      </div>
      {points.length > 0 && (
        <p className="flex flex-wrap gap-1">
          {points.map((id) => (
            <button
              key={id}
              type="button"
              {...tip(t`Remove highlight`)}
              onClick={() => set(t`remove a highlight`, (r) => (r.point = r.point.filter((x) => x !== id)))}
              className="rounded-(--radius) border border-edge px-2"
            >
              {{ right: t`correct pieces`, wrong: t`wrong pieces`, missing: t`missing pieces` }[id] ??
                nameOf(doc.targets.find((target) => target.id === id) ?? doc.items.find((i) => i.id === id)) ??
                id}{" "}
              ✕
            </button>
          ))}
        </p>
      )}
      <div className="flex flex-wrap gap-x-4">
        <CheckField
          label={t`Show the answer`}
          values={of((r) => r.showKey)}
          onDone={(on) => set(t`show the answer`, (r) => (r.showKey = on))}
        />
        <CheckField
          label={t`End the activity`}
          values={of((r) => r.finish)}
          onDone={(on) => set(t`end the activity`, (r) => (r.finish = on))}
        />
        <CheckField
          label={t`Can be reopened from the piece`}
          values={of((r) => r.reopen)}
          onDone={(on) => set(t`let it be opened again`, (r) => (r.reopen = on))}
        />
      </div>
      <div className="flex flex-wrap items-center gap-x-4" role="group" aria-label={t`Offers`}>
        <span className="text-slate">{t`Buttons`}</span>
        {offers.map(([id, name]) => (
          <CheckField
            key={id}
            label={name}
            values={of((r) => r.offer.includes(id))}
            onDone={(on) =>
              set(
                t`change what is offered`,
                (r) => (r.offer = [...r.offer.filter((o) => o !== id), ...(on ? [id] : [])]),
              )
            }
          />
        ))}
        <PageOffer replies={replies} set={set} />
      </div>
    </>
  );
}
