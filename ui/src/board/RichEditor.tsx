import { lazy, Suspense, type ReactNode } from "react";
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
  /** More that can be done to the text, beside the marks. */
  tools?: (editor: Editor) => ReactNode;
};

/** How a text that can be written looks. */
export const richLook = "rich rounded-(--radius) border border-line bg-paper px-2 py-1 leading-normal";

const Writing = lazy(() => import("./RichWriting"));

/** A text being written as it will look. Escape and Ctrl+Enter leave it: what was written stays, and undo takes it away. */
export function RichEditor(props: RichProps) {
  return (
    <Suspense fallback={<div className={`${richLook} min-h-9 ${props.className ?? ""}`}>{props.value}</div>}>
      <Writing {...props} />
    </Suspense>
  );
}
