import { RadioGroup } from "radix-ui";
import type { ReactNode } from "react";

type Props = {
  label: string;
  value: string;
  options: readonly { key: string; title: string; about?: ReactNode }[];
  onPick: (key: string) => void;
  className?: string;
};

/** One of a few that are all in sight, each with what it means. */
export function Radios({ label, value, options, onPick, className = "" }: Props) {
  return (
    <RadioGroup.Root aria-label={label} value={value} onValueChange={onPick} className={className}>
      {options.map((o) => (
        <label key={o.key} className="flex cursor-pointer items-start gap-2 py-1">
          <RadioGroup.Item
            value={o.key}
            className="mt-1 grid size-4 shrink-0 place-items-center rounded-full border border-edge bg-paper data-[state=checked]:border-feather"
          >
            <RadioGroup.Indicator className="size-2 rounded-full bg-feather" />
          </RadioGroup.Item>
          <span>
            <span className={o.about ? "block font-medium" : ""}>{o.title}</span>
            {o.about && <span className="text-slate">{o.about}</span>}
          </span>
        </label>
      ))}
    </RadioGroup.Root>
  );
}
