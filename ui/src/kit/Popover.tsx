import { Popover as Radix } from "radix-ui";
import { useRef, type ReactNode } from "react";

type Props = {
  open?: boolean;
  onOpen?: (open: boolean) => void;
  /** What opens it, or where it stands. */
  children: ReactNode;
  /** What is in it. */
  content: ReactNode;
  label: string;
  align?: "start" | "center" | "end";
  /** Takes the focus when it closes; otherwise what opened it has it again. */
  onClosed?: () => void;
  /** A press elsewhere closes it. */
  onPressElsewhere?: () => void;
};

/** Fields that open beside what they are about. */
export function Popover({
  open,
  onOpen,
  children,
  content,
  label,
  align = "start",
  onClosed,
  onPressElsewhere,
}: Props) {
  const pressedElsewhere = useRef(false);
  return (
    <Radix.Root open={open} onOpenChange={onOpen}>
      <Radix.Trigger asChild>{children}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          align={align}
          sideOffset={4}
          collisionPadding={8}
          aria-label={label}
          onOpenAutoFocus={() => (pressedElsewhere.current = false)}
          onInteractOutside={() => {
            pressedElsewhere.current = true;
            onPressElsewhere?.();
          }}
          onCloseAutoFocus={(e) => {
            if (!onClosed) return;
            e.preventDefault();
            if (!pressedElsewhere.current) onClosed();
          }}
          className="z-50 max-h-(--radix-popover-content-available-height) max-w-[26rem] overflow-auto rounded-(--radius) border border-line bg-paper p-3 shadow-(--shadow-raised)"
        >
          {content}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
