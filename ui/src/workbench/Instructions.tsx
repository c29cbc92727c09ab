import { memo, useState } from "react";
import { t } from "@lingui/core/macro";
import { tip } from "../kit/tip";
import { RichEditor } from "../board/RichEditor";
import { plainText, RichText } from "../board/RichText";
import { instruct } from "./model/changes";
import { useDraft, useDraftStore } from "./model/draft";

const nothing = t`Add instructions for learners`;

/** What learners are asked to do, changed in place. */
export const Instructions = memo(function Instructions() {
  const store = useDraftStore();
  const text = useDraft((s) => s.doc.instructions);
  const rich = useDraft((s) => s.known?.instructions);
  const [editing, setEditing] = useState(false);
  const read = (
    <button
      type="button"
      aria-label={t`Instructions: ${rich ? plainText(rich) : text || nothing}`}
      {...tip(t`Press to change what learners are asked to do`)}
      onClick={() => setEditing(true)}
      className={`line-clamp-2 rounded-sm text-left hover:bg-feather-soft ${editing ? "invisible" : ""}`}
    >
      {(text && rich ? <RichText nodes={rich} /> : text) || <span className="text-slate">{nothing}</span>}
    </button>
  );
  if (!editing) return read;
  // It is written over the board, which stays as large as it is.
  return (
    <div className="relative z-30 flex flex-col">
      {read}
      <div className="absolute -inset-x-2 -top-1 rounded-(--radius) bg-paper shadow-(--shadow-raised)">
        <RichEditor
          label={t`Instructions`}
          value={text}
          maxLength={4000}
          autoFocus
          placeholder={nothing}
          onChange={(to) => store.getState().change({ ...instruct(to), merge: "instructions" })}
          onLeft={() => setEditing(false)}
        />
      </div>
    </div>
  );
});
