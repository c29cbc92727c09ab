import { useState } from "react";
import { Select as Radix } from "radix-ui";
import { Check, ChevronDown } from "lucide-react";

export type Option = readonly [value: string | number, title: string];

type Props = {
  /** What it is called, where no label on the page says it. */
  label?: string;
  id?: string;
  value: string | number | undefined;
  /** What there is to choose from; false is left out. */
  options: readonly (Option | false)[];
  onPick: (value: string) => void;
  disabled?: boolean;
  className?: string;
};

/** An empty value is one that can be chosen like others; underneath it would be none. */
const inside = (value: string | number) => `=${value}`;

/** One of several, chosen from a list: by press, by arrows, or by its first letters. */
export function Select({ label, id, value, options: some, onPick, disabled, className = "" }: Props) {
  const [open, setOpen] = useState(false);
  const options = some.filter((o) => o !== false);
  const chosen = options.find(([v]) => v === value);
  return (
    <Radix.Root
      open={open}
      onOpenChange={setOpen}
      disabled={disabled}
      value={value === undefined ? undefined : inside(value)}
      onValueChange={(to) => onPick(to.slice(1))}
    >
      <Radix.Trigger
        id={id}
        aria-label={label}
        data-value={value}
        className={`inline-flex items-center justify-between gap-1 text-left align-middle disabled:opacity-45 ${className}`}
      >
        <span className="truncate">
          <Radix.Value>{chosen?.[1] ?? ""}</Radix.Value>
        </span>
        <ChevronDown size={14} aria-hidden className="shrink-0 opacity-70" />
      </Radix.Trigger>
      {open && (
        <Radix.Portal>
          <Radix.Content
            position="popper"
            align="start"
            sideOffset={2}
            collisionPadding={8}
            className="z-80 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[min(32rem,90vw)] overflow-hidden rounded-(--radius) border border-line bg-paper text-[15px] font-normal text-ink shadow-(--shadow-raised)"
          >
            <Radix.Viewport className="p-1">
              {options.map(([v, title]) => (
                <Radix.Item
                  key={v}
                  value={inside(v)}
                  data-value={v}
                  className="flex cursor-default items-center gap-2 rounded-sm py-1 pr-3 pl-1.5 outline-none data-[highlighted]:bg-feather-soft data-[state=checked]:font-semibold"
                >
                  <span className="w-4 shrink-0">
                    <Radix.ItemIndicator>
                      <Check size={14} aria-hidden />
                    </Radix.ItemIndicator>
                  </span>
                  <Radix.ItemText>{title}</Radix.ItemText>
                </Radix.Item>
              ))}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      )}
    </Radix.Root>
  );
}
