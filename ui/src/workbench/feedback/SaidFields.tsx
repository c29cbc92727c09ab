import { ChevronDown } from "lucide-react";
import { RadioGroup } from "radix-ui";
import { t } from "@lingui/core/macro";
import type { Reply } from "../../api/types";
import type { Say } from "../../engine/engine";
import { RichEditor } from "../../board/RichEditor";
import { ToneMark } from "../../board/ToneMark";
import { ToolButton } from "../../kit/ToolButton";
import { Menu, MenuItem } from "../../kit/Menu";
import { nameOf } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { CheckField, ChoiceField, common } from "../../kit/fields";
import { tip } from "../../kit/tip";
import { PageOffer } from "./PageOffer";
import { SaidMedia } from "./SaidMedia";
import { change, untilOf } from "../model/replies";

const tones: [Reply["tone"], string][] = [
  ["right", t`correct`],
  ["near", t`almost`],
  ["wrong", t`incorrect`],
  ["plain", t`neutral`],
];

/** What stands for something that is known only then. */
const fillIns: [string, string][] = [
  ["item", t`the piece`],
  ["target", t`the target`],
  ["right", t`how many are correct`],
  ["total", t`of how many`],
  ["left", t`attempts left`],
  ["attempt", t`which attempt it is`],
  ["score", t`the score`],
  ["points", t`of how many points`],
  ["percent", t`the score in percent`],
];

const offers: [string, string][] = [
  ["again", t`Try again`],
  ["restart", t`Start over`],
  ["next", t`Next step`],
  ["back", t`Previous step (series only)`],
];

type Props = {
  replies: Reply[];
  /** Writes what is said, where that makes replies of empty cells. */
  onSay?: (part: Partial<Say>) => void;
};

const nothing: Say = { text: "", picture: "", alt: "", sound: "", transcript: "" };

/** What replies say and do; of several, what they have in common. */
export function SaidFields({ replies, onSay }: Props) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const ids = replies.map((r) => r.id);
  const caret = useDraft((s) =>
    s.writing && ids.length === 1 && s.writing.reply === ids[0] ? s.writing.n : undefined,
  );
  const set = (says: string, apply: (r: Reply) => void, merge?: string) => change(store, ids, says, apply, merge);
  const tell = (says: string, part: Partial<Say>, merge?: string) =>
    onSay ? onSay(part) : set(says, (r) => Object.assign(r.say, part), merge);
  const of = <T,>(pick: (r: Reply) => T) => replies.map(pick);
  const say = replies[0]?.say ?? nothing;
  const same = common(replies.map((r) => r.say.text)) ?? (replies.length === 0 ? "" : undefined);
  const points = [...new Set(replies.flatMap((r) => r.point))];
  return (
    <div className="flex flex-col gap-2 px-4 py-2">
      <RadioGroup.Root
        aria-label={t`Tone`}
        value={common(of((r) => r.tone)) ?? ""}
        disabled={replies.length === 0}
        onValueChange={(tone) => set(t`change the tone`, (r) => (r.tone = tone as Reply["tone"]))}
        className="flex flex-wrap gap-1"
      >
        {tones.map(([tone, name]) => (
          <RadioGroup.Item
            key={tone}
            value={tone}
            className="flex h-7 items-center gap-1.5 rounded-(--radius) border border-line px-2 data-[state=checked]:border-feather data-[state=checked]:bg-feather-soft"
          >
            <ToneMark tone={tone} className="size-4!" /> {name}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <RichEditor
        key={onSay ? "cells" : `${ids.join()} ${caret ?? ""}`}
        autoFocus={caret !== undefined}
        label={t`What is said`}
        value={same ?? ""}
        maxLength={4000}
        placeholder={same === undefined ? t`Mixed. Typing replaces all of them.` : t`Text for learners`}
        onChange={(to) => tell(t`change the text`, { text: to }, "say")}
        tools={(editor) => (
          <Menu
            trigger={
              <ToolButton kind="quiet" className="h-7 px-2">
                {t`Insert`} <ChevronDown size={14} aria-hidden />
              </ToolButton>
            }
          >
            {fillIns.map(([name, says]) => (
              <MenuItem key={name} onSelect={() => editor.chain().focus().insertContent(`{${name}}`).run()}>
                {`{${name}}`} <span className="text-slate">{says}</span>
              </MenuItem>
            ))}
          </Menu>
        )}
      />
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
            ["", points.length === 0 ? "nothing" : t`Add…`],
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
      <SaidMedia say={say} onTell={tell} />
    </div>
  );
}
