import { useRef } from "react";
import type { Scenery } from "../../api/types";
import { Button } from "../../kit/Button";
import { tip } from "../../kit/tip";
import { placed } from "../../board/TargetWell";
import { selectionOf, useDraftStore } from "../model/draft";

/** A text of the board being written; selected words become gaps. */
export function TextEditor({ scenery: s, onDone }: { scenery: Scenery; onDone: () => void }) {
  const store = useDraftStore();
  const field = useRef<HTMLTextAreaElement>(null);
  const left = useRef(false);
  const opened = useRef(false);
  const done = () => {
    if (left.current) return;
    left.current = true;
    onDone();
    const text = field.current!.value;
    if (text === s.text) return;
    void store.getState().edit("write a text", {
      act: "prose",
      parts: selectionOf([{ kind: "scenery", id: s.id }]),
      names: [text],
    });
  };
  /** Puts signs around what is selected; around the word at the cursor, where nothing is. */
  const wrap = (open: string, close: string) => {
    const f = field.current!;
    let { selectionStart: a, selectionEnd: b } = f;
    if (a === b) {
      a -= /[\p{L}\p{N}-]*$/u.exec(f.value.slice(0, a))![0].length;
      b += /^[\p{L}\p{N}-]*/u.exec(f.value.slice(b))![0].length;
    }
    while (a < b && f.value[b - 1] === " ") b--; // a double click takes the space after the word too
    if (a === b) return;
    f.setRangeText(open + f.value.slice(a, b) + close, a, b, "end");
    f.focus();
  };
  const gap = () => wrap("[[", "]]");
  return (
    <div
      data-editor
      className="flex flex-col gap-1"
      style={{ ...placed(s.frame!), height: undefined, minHeight: `calc(${s.frame!.h}px * var(--s))`, zIndex: 1600 }}
      onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && done()}
    >
      <textarea
        ref={field}
        autoFocus
        aria-label="Text"
        defaultValue={s.text}
        maxLength={4000}
        onFocus={(e) => {
          if (!opened.current) e.target.select();
          opened.current = true; // later it is the author's own selection that counts
        }}
        onKeyDown={(e) => {
          e.stopPropagation();
          const key = e.key.toLowerCase();
          const command = e.ctrlKey || e.metaKey;
          if (e.key === "Escape")
            done(); // what was written stays: undo takes it away
          else if (command && e.key === "Enter") done();
          else if (command && key === "b") wrap("**", "**");
          else if (command && key === "i") wrap("*", "*");
          else if (command && key === "g") gap();
          else return;
          e.preventDefault();
        }}
        className="min-h-24 flex-1 resize-y rounded-sm border-2 border-feather bg-paper p-1 leading-normal"
        style={{ fontSize: `max(12px, calc(${s.style?.text?.size ?? 18}px * var(--s)))` }}
      />
      <div className="flex flex-wrap items-center gap-1 self-start rounded-(--radius) border border-line bg-paper p-1 shadow-(--shadow-card)">
        <Button className="h-7 px-2" {...tip("Ctrl+G")} onClick={gap}>
          Make a gap
        </Button>
        <Button className="h-7 px-2" {...tip("Ctrl+B")} onClick={() => wrap("**", "**")}>
          <strong>Bold</strong>
        </Button>
        <Button className="h-7 px-2" {...tip("Ctrl+I")} onClick={() => wrap("*", "*")}>
          <em>Italic</em>
        </Button>
        <Button kind="main" className="h-7 px-2" {...tip("Ctrl+Enter")} onClick={() => done()}>
          Done
        </Button>
        <span className="px-1 text-[13px] text-slate">Words in [[double brackets]] become gaps.</span>
      </div>
    </div>
  );
}
