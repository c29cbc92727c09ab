import { Checkbox as Radix } from "radix-ui";
import { Check, Minus } from "lucide-react";

type Props = {
  /** On, off, or some of what it stands for. */
  on: boolean | "some";
  onChange: (on: boolean) => void;
  /** What it is called, where no label around it says it. */
  label?: string;
  className?: string;
};

/** A box that is on or off; what it is for stands in the label around it. */
export function Checkbox({ on, onChange, label, className = "" }: Props) {
  return (
    <Radix.Root
      aria-label={label}
      checked={on === "some" ? "indeterminate" : on}
      onCheckedChange={(to) => onChange(to === true)}
      // What is pressed around it counts: the box alone is small for a finger.
      className={`relative inline-grid size-4 shrink-0 place-items-center rounded-sm border border-edge bg-paper text-on-feather before:absolute before:-inset-1.5 data-[state=checked]:border-feather data-[state=checked]:bg-feather data-[state=indeterminate]:border-feather data-[state=indeterminate]:bg-feather ${className}`}
    >
      <Radix.Indicator>
        {on === "some" ? (
          <Minus size={12} strokeWidth={3} aria-hidden />
        ) : (
          <Check size={12} strokeWidth={3} aria-hidden />
        )}
      </Radix.Indicator>
    </Radix.Root>
  );
}
