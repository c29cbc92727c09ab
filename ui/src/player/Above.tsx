import { Dialog } from "radix-ui";
import { useLayoutEffect, useRef, useState, type CSSProperties, type ReactNode, type RefObject } from "react";

type Props = {
  label: string;
  open: boolean;
  onOpen: (open: boolean) => void;
  /** What opens it. */
  children: ReactNode;
  content: ReactNode;
};

const apart = 8;

/**
 * What opens above a button of the bar. Nothing is in its way there but the edges of the
 * window, so that no library has to find it a place: learners would wait for that first.
 */
export function Above({ label, open, onOpen, children, content }: Props) {
  const button = useRef<HTMLButtonElement>(null);
  return (
    <Dialog.Root modal={false} open={open} onOpenChange={onOpen}>
      <Dialog.Trigger ref={button} asChild>
        {children}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Panel label={label} button={button}>
          {content}
        </Panel>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

type PanelProps = { label: string; button: RefObject<HTMLElement | null>; children: ReactNode };

/** Is there while it is open alone, and finds its place once. */
function Panel({ label, button, children }: PanelProps) {
  const panel = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<CSSProperties>();
  useLayoutEffect(() => setPlace(placeAbove(button.current!, panel.current!)), [button]);
  return (
    <Dialog.Content
      ref={panel}
      aria-label={label}
      aria-describedby={undefined}
      style={place}
      className="fixed z-50 max-w-[min(26rem,calc(100vw-1rem))] overflow-auto rounded-(--radius) border border-line bg-paper p-3 shadow-(--shadow-raised)"
    >
      {children}
    </Dialog.Content>
  );
}

/** Above the bar that a button stands in, or the button itself, as far to the button's left edge as the window has room. */
function placeAbove(button: HTMLElement, panel: HTMLElement): CSSProperties {
  const left = Math.max(apart, Math.min(button.getBoundingClientRect().left, innerWidth - panel.offsetWidth - apart));
  const { top, bottom } = (button.closest("footer") ?? button).getBoundingClientRect();
  // A button on the board may stand high up.
  if (panel.offsetHeight > top && top < innerHeight / 2)
    return { left, top: bottom + 4, maxHeight: innerHeight - bottom - 4 - apart };
  return { left, bottom: innerHeight - top + 4, maxHeight: top - 4 - apart };
}
