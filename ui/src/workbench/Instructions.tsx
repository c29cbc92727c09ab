import { memo, useState } from "react";
import { tip } from "../kit/tip";
import { plainText, RichText } from "../board/RichText";
import { instruct } from "./model/changes";
import { useDraft, useDraftStore } from "./model/draft";

const nothing = "Add instructions for learners";

/** What learners are asked to do, changed in place. */
export const Instructions = memo(function Instructions() {
  const store = useDraftStore();
  const text = useDraft((s) => s.doc.instructions);
  const rich = useDraft((s) => s.known?.instructions);
  const [editing, setEditing] = useState(false);
  if (!editing) {
    return (
      <button
        type="button"
        aria-label={`Instructions: ${rich ? plainText(rich) : text || nothing}`}
        {...tip("Press to change what learners are asked to do. **Strong**, *emphasis*, - lists, [links](https://…)")}
        onClick={() => setEditing(true)}
        className="line-clamp-2 rounded-sm text-left hover:bg-feather-soft"
      >
        {(text && rich ? <RichText nodes={rich} /> : text) || <span className="text-slate">{nothing}</span>}
      </button>
    );
  }
  return (
    <textarea
      autoFocus
      aria-label="Instructions"
      defaultValue={text}
      maxLength={4000}
      rows={2}
      onBlur={(e) => {
        setEditing(false);
        if (e.target.value.trim() !== text) store.getState().change(instruct(e.target.value.trim()));
      }}
      onKeyDown={(e) => {
        if (e.key === "Escape") e.currentTarget.value = text;
        if (e.key === "Escape" || (e.key === "Enter" && !e.shiftKey)) e.currentTarget.blur();
      }}
      className="rounded-sm border border-feather bg-paper px-1.5 py-0.5"
    />
  );
});
