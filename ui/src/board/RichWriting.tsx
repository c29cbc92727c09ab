import { useEffect, useRef, useState } from "react";
import { Bold as BoldMark } from "@tiptap/extension-bold";
import { Document } from "@tiptap/extension-document";
import { HardBreak } from "@tiptap/extension-hard-break";
import { Italic as ItalicMark } from "@tiptap/extension-italic";
import { Link } from "@tiptap/extension-link";
import { BulletList, ListItem, ListKeymap, OrderedList } from "@tiptap/extension-list";
import { Paragraph } from "@tiptap/extension-paragraph";
import { Text } from "@tiptap/extension-text";
import { Placeholder, UndoRedo } from "@tiptap/extensions";
import { Editor, EditorContent, useEditor } from "@tiptap/react";
import { plural, t } from "@lingui/core/macro";
import type { RichNode } from "../api/types";
import { engine } from "../engine/engine";
import { useEvent } from "../kit/useEvent";
import { leaveFocus, richLook, ToCome, type RichProps } from "./RichEditor";
import { fromDoc, toDoc } from "./richDoc";
import { Gap } from "./richGap";
import { allowed, RichMarks } from "./RichMarks";

/** Lists are one level deep, as the text knows them. */
const Entry = ListItem.extend({ content: "paragraph" });

const extensions = (placeholder: string, gapName: (target: string) => string = (target) => target) => [
  Document,
  Paragraph,
  Text,
  BoldMark,
  ItalicMark,
  HardBreak,
  BulletList,
  OrderedList,
  Entry,
  ListKeymap,
  UndoRedo,
  Link.configure({ openOnClick: false, autolink: false, isAllowedUri: allowed, protocols: ["mailto"] }),
  Placeholder.configure({ placeholder }),
  // Any text can have one, and keeps it, also where none are made.
  Gap.configure({ nameOf: gapName }),
];

/**
 * Puts a plain text where the caret is now, as what it means in the document; once that is known
 * much may have been typed behind it. Where the editor is gone by then, gives one that has it all.
 */
async function insertRead(editor: Editor, text: string): Promise<Editor | undefined> {
  editor.commands.deleteSelection();
  let at = editor.state.selection.from;
  const follow = ({ transaction }: { transaction: { mapping: { map: (at: number, side: number) => number } } }) => {
    at = transaction.mapping.map(at, -1);
  };
  editor.on("transaction", follow);
  const blocks = toDoc(await engine.readRich(text)).content ?? [];
  const space = (at: RegExp) => (at.test(text) ? [{ type: "text", text: " " }] : []); // the core reads none at an end
  const alone =
    blocks.length === 1 && blocks[0]!.type === "paragraph"
      ? [...space(/^ /), ...(blocks[0]!.content ?? []), ...space(/ $/)]
      : blocks;
  const left = editor.isDestroyed
    ? new Editor({ element: null, extensions: editor.options.extensions, content: editor.state.doc.toJSON() as object })
    : undefined;
  const { empty, from } = editor.state.selection;
  (left ?? editor).commands.insertContentAt(at, alone, { updateSelection: empty && from === at });
  editor.off("transaction", follow);
  return left;
}

/** The editor itself, once it and the text are there. */
export default function RichWriting(props: RichProps) {
  const [nodes, setNodes] = useState<RichNode[]>();
  const begun = useRef(props.value);
  useEffect(() => {
    let live = true;
    void engine.readRich(begun.current).then((read) => live && setNodes(read));
    return () => {
      live = false;
    };
  }, []);
  if (!nodes) return <ToCome {...props} />;
  return <Writing {...props} nodes={nodes} begun={begun.current} />;
}

function Writing({ nodes, begun, ...p }: RichProps & { nodes: RichNode[]; begun: string }) {
  const box = useRef<HTMLDivElement>(null);
  const [tooLong, setTooLong] = useState(0);
  /** What the document and the editor both say. */
  const agreed = useRef(begun);
  const asked = useRef(0);
  const write = useEvent(async (editor: Editor) => {
    const turn = ++asked.current;
    box.current?.setAttribute("data-writing", "");
    const text = await engine
      .writeRich(fromDoc(editor.getJSON(), !!p.gapName))
      .finally(() => turn === asked.current && box.current?.removeAttribute("data-writing"));
    if (turn !== asked.current) return; // a later one says more
    setTooLong(text.length - p.maxLength);
    if (text === agreed.current || text.length > p.maxLength) return;
    agreed.current = text;
    p.onChange(text);
  });
  const editor = useEditor({
    extensions: extensions(p.placeholder ?? "", p.gapName),
    content: toDoc(nodes),
    autofocus: p.autoFocus ? "all" : false,
    onUpdate: ({ editor }) => void write(editor),
    editorProps: {
      attributes: {
        role: "textbox",
        "aria-multiline": "true",
        "aria-label": p.label,
        class: `${richLook} min-h-9 ${p.className ?? ""}`,
        style: p.fontSize ? `font-size: ${p.fontSize}` : "",
      },
      handlePaste: (_, event) => {
        const data = event.clipboardData;
        const text = data?.getData("text/plain");
        if (!text || data?.types.includes("text/html")) return false;
        if (editor) void insertRead(editor, text).then((left) => left && write(left));
        return true;
      },
    },
  });
  // What changed it elsewhere, undo for one, is written on.
  useEffect(() => {
    if (!editor || p.value === agreed.current || box.current?.hasAttribute("data-writing")) return;
    agreed.current = p.value;
    void engine.readRich(p.value).then((read) => editor.commands.setContent(toDoc(read), { emitUpdate: false }));
  }, [editor, p.value]);
  if (!editor) return <ToCome {...p} />;
  return (
    <div
      ref={box}
      data-editor
      className="flex min-w-0 flex-col gap-1"
      onBlur={(e) => {
        // What was written last is taken before it is left.
        if (!box.current?.contains(e.relatedTarget)) void write(editor).then(() => p.onLeft?.());
      }}
      onKeyDown={(e) => {
        if (p.onKey?.(e, editor)) {
          e.preventDefault();
          e.stopPropagation();
          return;
        }
        if (e.key !== "Escape" && !(e.key === "Enter" && (e.ctrlKey || e.metaKey))) return;
        e.preventDefault();
        e.stopPropagation();
        leaveFocus();
      }}
    >
      <EditorContent editor={editor} />
      {tooLong > 0 && (
        <p role="status" className="text-ember">
          {t`Too long by ${plural(tooLong, { one: "# character", other: "# characters" })}: what stood here before is kept.`}
        </p>
      )}
      <RichMarks editor={editor} tools={p.tools} />
    </div>
  );
}
