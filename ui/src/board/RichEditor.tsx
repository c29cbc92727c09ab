import { lazy, Suspense, type KeyboardEvent, type ReactNode } from "react";
import type { Editor } from "@tiptap/core";

export type RichProps = {
  label: string;
  /** The text as the document has it. */
  value: string;
  /** What it has become, as the document takes it: with each change, and only where it is another. */
  onChange: (text: string) => void;
  /** The focus has left it. */
  onLeft?: () => void;
  maxLength: number;
  autoFocus?: boolean;
  placeholder?: string;
  className?: string;
  /** The size of its letters, as CSS has it. */
  fontSize?: string;
  /** Gaps can be in it; what one of them is called. */
  gapName?: (target: string) => string;
  /** More that can be done to the text, beside the marks. */
  tools?: (editor: Editor) => ReactNode;
  /** Keys of its own; true where it was one. */
  onKey?: (key: KeyboardEvent, editor: Editor) => boolean;
};

/** How a text that can be written looks. */
export const richLook = "rich rounded-(--radius) border border-line bg-paper px-2 py-1 leading-normal";

/** Leaves the text, wherever in the editor the focus is. */
export const leaveFocus = () => (document.activeElement as HTMLElement | null)?.blur();

const fetched = () => import("./RichWriting");
const Writing = lazy(fetched);

/** Fetches the editor before it is needed, so that the first text that is written does not wait for it. */
export const fetchEditor = () => void fetched().catch(() => {}); // whoever writes asks again

/** A text being written as it will look. Escape and Ctrl+Enter leave it: what was written stays, and undo takes it away. */
export function RichEditor(props: RichProps) {
  return (
    <Suspense fallback={<div className={`${richLook} min-h-9 ${props.className ?? ""}`}>{props.value}</div>}>
      <Writing {...props} />
    </Suspense>
  );
}
