import { ChevronDown } from "lucide-react";
import { RadioGroup } from "radix-ui";
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
  ["right", "correct"],
  ["near", "almost"],
  ["wrong", "incorrect"],
  ["plain", "neutral"],
];

/** What stands for something that is known only then. */
const fillIns: [string, string][] = [
  ["item", "the piece"],
  ["target", "the target"],
  ["right", "how many are correct"],
  ["total", "of how many"],
  ["left", "attempts left"],
  ["attempt", "which attempt it is"],
  ["score", "the score"],
  ["points", "of how many points"],
  ["percent", "the score in percent"],
];

const offers: [string, string][] = [
  ["again", "Try again"],
  ["restart", "Start over"],
  ["next", "Next step"],
  ["back", "Previous step (series only)"],
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
        aria-label="Tone"
        value={common(of((r) => r.tone)) ?? ""}
        disabled={replies.length === 0}
        onValueChange={(tone) => set("change the tone", (r) => (r.tone = tone as Reply["tone"]))}
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
        label="What is said"
        value={same ?? ""}
        maxLength={4000}
        placeholder={same === undefined ? "Mixed. Typing replaces all of them." : "Text for learners"}
        onChange={(to) => tell("change the text", { text: to }, "say")}
        tools={(editor) => (
          <Menu
            trigger={
              <ToolButton kind="quiet" className="h-7 px-2">
                Insert <ChevronDown size={14} aria-hidden />
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
          label="Position"
          values={of((r) => r.spot)}
          options={[
            ["edge", "edge"],
            ["piece", "next to the piece"],
            ["target", "beside the target"],
            ["card", "dialog"],
            ["frame", "custom"],
            ["board", "over the whole board"],
          ]}
          onDone={(to) =>
            set("change the position", (r) => {
              r.spot = to as Reply["spot"];
              if (r.spot === "frame") r.frame ??= { x: 40, y: 40, w: 360, h: 90 };
              else delete r.frame;
            })
          }
        />
        <ChoiceField
          label="Visible until"
          values={of(untilOf)}
          options={[
            ["move", "the next move"],
            ["check", "the next check"],
            ["closed", "it is closed"],
            ["stays", "always"],
          ]}
          onDone={(to) => set("change how long it is visible", (r) => (r.until = to as Reply["until"]))}
        />
        <ChoiceField
          label="Highlight"
          values={[""]}
          options={[
            ["", points.length === 0 ? "nothing" : "Add…"],
            ["wrong", "what is wrong"],
            ["right", "correct pieces"],
            ["missing", "what is missing"],
            ...doc.targets.map((t): [string, string] => [t.id, nameOf(t)]),
            ...doc.items.map((i): [string, string] => [i.id, nameOf(i)]),
            ...doc.scenery.filter((x) => x.frame).map((x): [string, string] => [x.id, x.text || x.alt || x.id]),
          ]}
          onDone={(id) => id && set("highlight something", (r) => void (!r.point.includes(id) && r.point.push(id)))}
        />
        <CheckField
          label="Dim everything else"
          values={of((r) => r.dim)}
          onDone={(on) => set("dim the rest", (r) => (r.dim = on))}
        />
      </div>
      {points.length > 0 && (
        <p className="flex flex-wrap gap-1">
          {points.map((id) => (
            <button
              key={id}
              type="button"
              {...tip("Remove highlight")}
              onClick={() => set("remove a highlight", (r) => (r.point = r.point.filter((x) => x !== id)))}
              className="rounded-(--radius) border border-edge px-2"
            >
              {{ right: "correct pieces", wrong: "wrong pieces", missing: "missing pieces" }[id] ??
                nameOf(doc.targets.find((t) => t.id === id) ?? doc.items.find((i) => i.id === id)) ??
                id}{" "}
              ✕
            </button>
          ))}
        </p>
      )}
      <div className="flex flex-wrap gap-x-4">
        <CheckField
          label="Show the answer"
          values={of((r) => r.showKey)}
          onDone={(on) => set("show the answer", (r) => (r.showKey = on))}
        />
        <CheckField
          label="End the activity"
          values={of((r) => r.finish)}
          onDone={(on) => set("end the activity", (r) => (r.finish = on))}
        />
        <CheckField
          label="Can be reopened from the piece"
          values={of((r) => r.reopen)}
          onDone={(on) => set("let it be opened again", (r) => (r.reopen = on))}
        />
      </div>
      <div className="flex flex-wrap items-center gap-x-4" role="group" aria-label="Offers">
        <span className="text-slate">Buttons</span>
        {offers.map(([id, name]) => (
          <CheckField
            key={id}
            label={name}
            values={of((r) => r.offer.includes(id))}
            onDone={(on) =>
              set(
                "change what is offered",
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
