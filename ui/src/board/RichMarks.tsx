import { useState, type ReactNode } from "react";
import { closeHistory } from "@tiptap/pm/history";
import { useEditorState, type Editor } from "@tiptap/react";
import { Toolbar } from "radix-ui";
import { Bold, Italic, Link as LinkSign, List, ListOrdered, Unlink } from "lucide-react";
import { t } from "@lingui/core/macro";
import { named } from "../kit/tip";
import type { RichProps } from "./RichEditor";

/** Whether an address may be linked to. */
export const allowed = (address: string) => /^(https:|mailto:)/i.test(address);

/** What can be done to what is selected, and what it is. */
export function RichMarks({ editor, tools }: { editor: Editor; tools?: RichProps["tools"] }) {
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
