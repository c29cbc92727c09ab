import { useRef } from "react";
import { t } from "@lingui/core/macro";
import type { Scenery } from "../../api/types";
import { leaveFocus, RichEditor } from "../../board/RichEditor";
import { placed } from "../../board/TargetWell";
import { nameOf, targetOf } from "../../document/parts";
import { ToolButton } from "../../kit/ToolButton";
import { tip } from "../../kit/tip";
import { selectionOf, useDraftStore } from "../model/draft";

/** A text of the board being written where it stands; selected words become gaps. */
export function TextEditor({ scenery: s, onDone }: { scenery: Scenery; onDone: () => void }) {
  const store = useDraftStore();
  const text = useRef(s.text);
  const done = () => {
    onDone();
    if (text.current === s.text) return;
    void store.getState().edit(t`write a text`, {
      act: "prose",
      parts: selectionOf([{ kind: "scenery", id: s.id }]),
      names: [text.current],
    });
  };
  const gap = (editor: Parameters<NonNullable<Parameters<typeof RichEditor>[0]["tools"]>>[0]) =>
    void import("../../board/richGap").then(({ makeGap }) => makeGap(editor));
  return (
    <div
      className="rounded-(--radius) bg-paper shadow-(--shadow-card)"
      style={{ ...placed(s.frame!), height: undefined, minHeight: `calc(${s.frame!.h}px * var(--s))`, zIndex: 1600 }}
    >
      <RichEditor
        label={t`Text`}
        value={s.text}
        maxLength={4000}
        autoFocus
        fontSize={`max(12px, calc(${s.style?.text?.size ?? 18}px * var(--s)))`}
        gapName={(target) => nameOf(targetOf(store.getState().doc, target)) || target}
        onChange={(to) => (text.current = to)}
        onLeft={done}
        onKey={(e, editor) => {
          const asked = (e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "g";
          if (asked) gap(editor);
          return asked;
        }}
        tools={(editor) => (
          <>
            <ToolButton
              className="h-7 px-2"
              {...tip("Ctrl+G")}
              onMouseDown={(e) => e.preventDefault()} // the text keeps its selection
              onClick={() => gap(editor)}
            >
              {t`Make a gap`}
            </ToolButton>
            <ToolButton kind="main" className="h-7 px-2" {...tip("Ctrl+Enter")} onClick={leaveFocus}>
              {t`Done`}
            </ToolButton>
            <span className="px-1 text-[13px] text-slate">{t`Words in [[double brackets]] become gaps too.`}</span>
          </>
        )}
      />
    </div>
  );
}
