import type { InputHTMLAttributes } from "react";
import { t } from "@lingui/core/macro";
import { tell } from "./notices";
import { useStanding } from "./useStanding";

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "defaultValue" | "onBlur" | "onKeyDown"> & {
  label: string;
  value: string;
  /** What can stand there, in words: told when something else is typed. */
  rule?: string;
  /** What was typed, where it is another; false puts back what stood there, and says so. */
  onDone: (text: string) => boolean | void;
};

/** A field that is taken with Enter or on leaving it; Escape leaves it as it was. */
export function TypedInput({ label, value, rule, onDone, className = "", ...rest }: Props) {
  const { typing, field } = useStanding(value);
  /** Whether the field has what stands there then. */
  const taken = (field: HTMLInputElement) => {
    const typed = field.value;
    typing.current = false;
    if (typed === value || onDone(typed) !== false) return true;
    field.value = value;
    tell(
      typed.trim() && rule
        ? t`${label}: “${typed.trim()}” is not possible here; possible: ${rule}. Nothing was changed.`
        : typed.trim()
          ? t`${label}: “${typed.trim()}” is not possible here. Nothing was changed.`
          : t`${label}: this cannot be empty. Nothing was changed.`,
    );
    return false;
  };
  return (
    <input
      aria-label={label}
      {...field}
      onKeyDown={(e) => {
        if (e.key === "Enter") {
          // The keys are the board's again; in a dialog they stay, so that what is typed next
          // replaces it, as it does what was not possible.
          const inDialog = e.currentTarget.closest("[role=dialog]");
          if (taken(e.currentTarget) && !inDialog) e.currentTarget.blur();
          else e.currentTarget.select();
        }
        if (e.key === "Escape") {
          typing.current = false;
          e.currentTarget.value = value;
          e.currentTarget.blur();
        }
      }}
      onBlur={(e) => typing.current && taken(e.target)}
      className={`h-7 rounded-(--radius) border border-line bg-paper px-1.5 ${className}`}
      {...rest}
    />
  );
}
