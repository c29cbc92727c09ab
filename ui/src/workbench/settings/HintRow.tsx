import { X } from "lucide-react";
import { t } from "@lingui/core/macro";
import type { Doc } from "../../api/types";
import { TextField } from "../../kit/fields";
import { useSorted } from "../../kit/Sortable";
import { tip } from "../../kit/tip";
import { PictureField } from "../model/PictureField";
import { HintText } from "./HintText";

export type Hint = Doc["hints"][number];

type Props = {
  i: number;
  hint: Hint;
  writing: boolean;
  onWriting: (on: boolean) => void;
  onChange: (says: string, part: Partial<Hint>, merge?: string) => void;
  onRemove: () => void;
};

/** A hint: what it says and shows, or that it places a piece. */
export function HintRow({ i, hint, writing, onWriting, onChange, onRemove }: Props) {
  const sorted = useSorted(String(i));
  return (
    <li
      ref={sorted.ref}
      style={sorted.style}
      className={`flex items-start gap-1.5 ${sorted.moving ? "relative bg-paper shadow-(--shadow-raised)" : ""}`}
    >
      {sorted.grip}
      <span className="w-4 pt-1 text-right text-slate">{i + 1}</span>
      {hint.place ? (
        <span className="min-h-7 flex-1 pt-1 font-medium">{t`Places one missing piece`}</span>
      ) : (
        <div className="flex min-w-0 flex-1 flex-col gap-1">
          <HintText
            n={i + 1}
            text={hint.text}
            writing={writing}
            onWriting={onWriting}
            onChange={(text) => onChange(t`write a hint`, { text }, `hint ${i}`)}
          />
          <PictureField
            picture={hint.picture}
            of={t`Picture of hint ${i + 1}`}
            onDone={(picture) =>
              onChange(
                picture ? t`give a hint a picture` : t`remove the picture`,
                picture ? { picture } : { picture, alt: "" },
              )
            }
          />
          {hint.picture && (
            <TextField
              label={t`Alternative text`}
              wide
              values={[hint.alt]}
              onDone={(alt) => onChange(t`change the alternative text of a hint`, { alt })}
            />
          )}
        </div>
      )}
      <button
        type="button"
        className="grid size-7 place-items-center rounded-(--radius) text-slate hover:bg-mist"
        aria-label={t`Remove hint ${i + 1}`}
        {...tip(t`Remove hint`)}
        onClick={onRemove}
      >
        <X size={14} aria-hidden />
      </button>
    </li>
  );
}
