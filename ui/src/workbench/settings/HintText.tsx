import { t } from "@lingui/core/macro";
import { RichEditor } from "../../board/RichEditor";
import { plainText, RichText } from "../../board/RichText";
import { tip } from "../../kit/tip";
import { useDraft } from "../model/draft";

type Props = {
  n: number;
  text: string;
  writing: boolean;
  onWriting: (on: boolean) => void;
  onChange: (text: string) => void;
};

const nothing = t`What the hint says`;

/** What a hint says, as learners will read it; pressed, it is written there. */
export function HintText({ n, text, writing, onWriting, onChange }: Props) {
  const rich = useDraft((s) => s.known?.hints[n - 1]);
  if (writing)
    return (
      <div className="min-w-0 flex-1">
        <RichEditor
          label={t`Hint ${n}`}
          value={text}
          maxLength={4000}
          autoFocus
          placeholder={nothing}
          onChange={onChange}
          onLeft={() => onWriting(false)}
        />
      </div>
    );
  return (
    <button
      type="button"
      aria-label={t`Hint ${n}: ${(rich ? plainText(rich) : text) || nothing}`}
      {...tip(t`Press to write it`)}
      onClick={() => onWriting(true)}
      className="min-h-7 min-w-0 flex-1 rounded-(--radius) border border-line bg-paper px-1.5 text-left hover:bg-feather-soft"
    >
      {(text && rich ? <RichText nodes={rich} /> : text) || <span className="text-slate">{nothing}</span>}
    </button>
  );
}
