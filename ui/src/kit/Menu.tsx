import type { ReactNode } from "react";
import { DropdownMenu } from "radix-ui";

type Props = {
  /** What opens it. */
  trigger: ReactNode;
  align?: "start" | "end";
  children: ReactNode;
};

/** A list of things to do, opened from a button. */
export function Menu({ trigger, align = "start", children }: Props) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          collisionPadding={8}
          className="z-50 max-h-(--radix-dropdown-menu-content-available-height) min-w-52 overflow-auto rounded-(--radius) border border-line bg-paper p-1 shadow-(--shadow-raised)"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

type ItemProps = {
  onSelect?: () => void;
  disabled?: boolean;
  /** The child is a link, and takes the look. */
  asChild?: boolean;
  className?: string;
  children: ReactNode;
};

export function MenuItem({ className = "", ...rest }: ItemProps) {
  return (
    <DropdownMenu.Item
      className={`cursor-default rounded-sm px-3 py-1.5 outline-none data-[disabled]:opacity-50 data-[highlighted]:bg-feather-soft ${className}`}
      {...rest}
    />
  );
}
