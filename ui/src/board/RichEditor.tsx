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

/** What stands for the editor until it is there: as high as it, so that nothing moves. */
export function ToCome({ value, className = "", fontSize }: RichProps) {
  return (
    <div className="pb-8">
      <div className={`${richLook} min-h-9 ${className}`} style={{ fontSize }}>
        {value}
      </div>
    </div>
  );
}

/** A text being written as it will look. Escape and Ctrl+Enter leave it: what was written stays, and undo takes it away. */
export function RichEditor(props: RichProps) {
  return (
    <Suspense fallback={<ToCome {...props} />}>
      <Writing {...props} />
    </Suspense>
  );
}
