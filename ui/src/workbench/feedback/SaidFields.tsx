import { ChevronDown } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { Reply } from "../../api/types";
import type { Say } from "../../engine/engine";
import { RichEditor } from "../../board/RichEditor";
import { ToneMark } from "../../board/ToneMark";
import { Radio, RadioGroup } from "../../kit/Radios";
import { ToolButton } from "../../kit/ToolButton";
import { Menu, MenuItem } from "../../kit/Menu";
import { useDraft, useDraftStore } from "../model/draft";
import { common } from "../../kit/fields";
import { ReplyDoes } from "./ReplyDoes";
import { SaidMedia } from "./SaidMedia";
import { change } from "../model/replies";

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

type Props = {
  replies: Reply[];
  /** Writes what is said, where that makes replies of empty cells. */
  onSay?: (part: Partial<Say>) => void;
};

const nothing: Say = { text: "", picture: "", alt: "", sound: "", transcript: "" };

/** What replies say, and with them what they do; of several, what they have in common. */
export function SaidFields({ replies, onSay }: Props) {
  const store = useDraftStore();
  const ids = replies.map((r) => r.id);
  const caret = useDraft((s) =>
    s.writing && ids.length === 1 && s.writing.reply === ids[0] ? s.writing.n : undefined,
  );
  const set = (says: string, apply: (r: Reply) => void, merge?: string) => change(store, ids, says, apply, merge);
  const tell = (says: string, part: Partial<Say>, merge?: string) =>
    onSay ? onSay(part) : set(says, (r) => Object.assign(r.say, part), merge);
  const say = replies[0]?.say ?? nothing;
  const same = common(replies.map((r) => r.say.text)) ?? (replies.length === 0 ? "" : undefined);
  return (
    <div className="flex flex-col gap-2 px-4 py-2">
      <RadioGroup
        label={t`Tone`}
        value={common(replies.map((r) => r.tone)) ?? ""}
        disabled={replies.length === 0}
        onPick={(tone) => set(t`change the tone`, (r) => (r.tone = tone as Reply["tone"]))}
        className="flex flex-wrap gap-1"
      >
        {tones.map(([tone, name]) => (
          <Radio
            key={tone}
            value={tone}
            className="flex h-7 items-center gap-1.5 rounded-(--radius) border border-line px-2 has-disabled:text-slate has-checked:border-feather has-checked:bg-feather-soft"
          >
            <ToneMark tone={tone} className="size-4!" /> {name}
          </Radio>
        ))}
      </RadioGroup>
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
      {replies.length > 0 && <ReplyDoes replies={replies} set={set} />}
      <SaidMedia say={say} onTell={tell} />
    </div>
  );
}
