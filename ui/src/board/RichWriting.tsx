import { useEffect, useRef, useState, type ReactNode } from "react";
import { Bold as BoldMark } from "@tiptap/extension-bold";
import { Document } from "@tiptap/extension-document";
import { HardBreak } from "@tiptap/extension-hard-break";
import { Italic as ItalicMark } from "@tiptap/extension-italic";
import { Link } from "@tiptap/extension-link";
import { closeHistory } from "@tiptap/pm/history";
import { BulletList, ListItem, ListKeymap, OrderedList } from "@tiptap/extension-list";
import { Paragraph } from "@tiptap/extension-paragraph";
import { Text } from "@tiptap/extension-text";
import { Placeholder, UndoRedo } from "@tiptap/extensions";
import { Toolbar } from "radix-ui";
import { EditorContent, useEditor, useEditorState, type Editor } from "@tiptap/react";
import { Bold, Italic, Link as LinkSign, List, ListOrdered, Unlink } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import type { RichNode } from "../api/types";
import { engine } from "../engine/engine";
import { named } from "../kit/tip";
import { useEvent } from "../kit/useEvent";
import { leaveFocus, richLook, ToCome, type RichProps } from "./RichEditor";
import { fromDoc, toDoc } from "./richDoc";
import { Gap } from "./richGap";

const allowed = (address: string) => /^(https:|mailto:)/i.test(address);

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
        // What was copied as a plain text means what it means in the document.
        void engine.readRich(text).then((read) => {
          const blocks = toDoc(read).content ?? [];
          const alone = blocks.length === 1 && blocks[0]!.type === "paragraph" ? (blocks[0]!.content ?? []) : blocks;
          editor?.commands.insertContent(alone);
        });
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
      <Marks editor={editor} tools={p.tools} />
    </div>
  );
}

/** What can be done to what is selected, and what it is. */
function Marks({ editor, tools }: { editor: Editor; tools?: RichProps["tools"] }) {
  const [address, setAddress] = useState<string>();
  const [wrong, setWrong] = useState(false);
  const is = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive("bold"),
      italic: e.isActive("italic"),
      list: e.isActive("bulletList"),
      numbered: e.isActive("orderedList"),
      link: e.isActive("link"),
    }),
  });
  const button = (name: string, on: boolean, act: () => void, sign: ReactNode) => (
    <Toolbar.Button
      {...named(name)}
      aria-pressed={on}
      // The text keeps its selection.
      onMouseDown={(e) => e.preventDefault()}
      onClick={act}
      className={`grid size-7 place-items-center rounded-(--radius) ${on ? "bg-feather-soft text-ink" : "text-slate hover:bg-shade"}`}
    >
      {sign}
    </Toolbar.Button>
  );
  // Each is a step of its own for undo, however soon after the typing.
  const step = () =>
    editor
      .chain()
      .focus()
      .command(({ tr }) => !!closeHistory(tr));
  const link = () => {
    if (is.link) step().extendMarkRange("link").unsetLink().run();
    else {
      setWrong(false);
      setAddress("https://");
    }
  };
  const tie = () => {
    const typed = address?.trim() ?? "";
    // Of an address without its beginning it is known which is meant.
    const to = /^[\w-]+(\.[\w-]+)+(\/|$)/.test(typed) ? `https://${typed}` : typed;
    if (!allowed(to) || /^https:\/*$/i.test(to) || /[\s)]/.test(to)) return setWrong(true);
    setAddress(undefined);
    if (editor.state.selection.empty)
      step()
        .insertContent({ type: "text", text: to, marks: [{ type: "link", attrs: { href: to } }] })
        .run();
    else step().setLink({ href: to }).run();
  };
  return (
    <Toolbar.Root aria-label={t`Text style`} className="flex flex-wrap items-center gap-0.5">
      {button(t`Bold (Ctrl+B)`, is.bold, () => step().toggleBold().run(), <Bold size={15} aria-hidden />)}
      {button(t`Italic (Ctrl+I)`, is.italic, () => step().toggleItalic().run(), <Italic size={15} aria-hidden />)}
      {button(t`List`, is.list, () => step().toggleBulletList().run(), <List size={15} aria-hidden />)}
      {button(
        t`Numbered list`,
        is.numbered,
        () => step().toggleOrderedList().run(),
        <ListOrdered size={15} aria-hidden />,
      )}
      {button(
        is.link ? t`Remove link` : t`Link`,
        is.link,
        link,
        is.link ? <Unlink size={15} aria-hidden /> : <LinkSign size={15} aria-hidden />,
      )}
      {address !== undefined && (
        <input
          autoFocus
          aria-label={t`Address of the link`}
          value={address}
          aria-invalid={wrong}
          onChange={(e) => {
            setAddress(e.target.value);
            setWrong(false);
          }}
          onKeyDown={(e) => {
            if (e.key !== "Enter" && e.key !== "Escape") return;
            e.preventDefault();
            e.stopPropagation();
            if (e.key === "Enter") tie();
            else {
              setAddress(undefined);
              editor.commands.focus();
            }
          }}
          onBlur={() => setAddress(undefined)}
          className="h-7 w-56 rounded-(--radius) border border-line bg-paper px-1.5"
        />
      )}
      {address !== undefined && wrong && (
        <span role="alert" className="text-[13px] text-ember">
          {t`An address begins with https:// or mailto: and has no spaces.`}
        </span>
      )}
      {tools?.(editor)}
    </Toolbar.Root>
  );
}
