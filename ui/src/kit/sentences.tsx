import type { ReactNode } from "react";
import { t } from "@lingui/core/macro";
import { Select } from "./Select";
import { tip } from "./tip";
import { TypedInput } from "./TypedInput";

type PickProps<T extends string> = {
  label: string;
  value: string;
  options: Record<T, string>;
  onPick: (value: T) => void;
  /** It ends the sentence: the full stop stays on its line. */
  end?: boolean;
};

const look = "h-7 max-w-full rounded-(--radius) border border-line bg-paper px-1 font-medium text-feather";

/** A choice within a sentence. */
export function Pick<T extends string>({ label, value, options, onPick, end }: PickProps<T>) {
  return ended(
    <Select
      label={label}
      value={value}
      onPick={(to) => onPick(to as T)}
      className={look}
      options={Object.entries<string>(options)}
    />,
    end,
  );
}

const ended = (field: ReactNode, end: boolean | undefined) =>
  end ? <span className="whitespace-nowrap">{field}.</span> : field;

type NumProps = {
  label: string;
  value: number;
  low: number;
  high: number;
  whole?: boolean;
  end?: boolean;
  onDone: (n: number) => void;
};

/** A number within a sentence: typed, and taken with Enter or on leaving. */
export function Num({ label, value, low, high, whole, end, onDone }: NumProps) {
  const rule = t`${low} to ${high}`;
  return ended(
    <TypedInput
      label={label}
      inputMode="decimal"
      value={String(Math.round(value * 100) / 100)}
      {...tip(rule)}
      rule={whole ? t`whole numbers, ${rule}` : rule}
      onFocus={(e) => e.target.select()}
      onDone={(text) => {
        const n = Number(text.trim().replace(",", "."));
        if (text.trim() === "" || Number.isNaN(n) || n < low || n > high || (whole && !Number.isInteger(n)))
          return false;
        onDone(Math.round(n * 100) / 100);
      }}
      className="w-16 text-right font-medium text-feather tabular-nums"
    />,
    end,
  );
}
