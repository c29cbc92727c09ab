import { Select } from "./Select";
import { tip } from "./tip";
import { TypedInput } from "./TypedInput";
import type { ReactNode } from "react";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";

export type Options = [value: string, title: string][];

const box = "h-7 max-w-44 rounded-(--radius) border border-line bg-paper px-1";

/** One of a list, within a sentence. */
export function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Options;
  onChange: (v: string) => void;
}) {
  return (
    <Select
      label={label}
      value={value}
      onPick={(to) => onChange(to)}
      className={box}
      options={[!options.some(([v]) => v === value) && [value, "choose"], ...options]}
    />
  );
}

export type RangeValue = { min?: number; max?: number };

/** A span of numbers, either end of which may be open. */
export function Span({
  of,
  value,
  unit,
  onChange,
}: {
  of: string;
  value: RangeValue;
  unit: string;
  onChange: (r: RangeValue) => void;
}) {
  const field = (name: "min" | "max", label: string) => (
    <TypedInput
      label={label}
      inputMode="decimal"
      value={String(value[name] ?? "")}
      placeholder={t`any`}
      rule={t`a number, or nothing for any`}
      onDone={(typed) => {
        const text = typed.trim().replace(",", ".");
        const n = Number(text);
        if (Number.isNaN(n)) return false;
        const next = { ...value };
        if (text === "") delete next[name];
        else next[name] = Math.round(n * 100) / 100;
        if (next.min !== undefined && next.max !== undefined && next.min > next.max) {
          if (name === "min") next.max = next.min;
          else next.min = next.max;
        }
        onChange(next);
      }}
      className="w-14 text-right tabular-nums"
    />
  );
  return (
    <Trans>
      {of} from {field("min", t`${of} from`)} to {field("max", t`${of} to`)} {unit}
    </Trans>
  );
}

/** Several of a list, as chips, with one more to choose. */
export function Several({
  label,
  said,
  chosen,
  options,
  onChange,
}: {
  label: string;
  said: ReactNode;
  chosen: string[];
  options: Options;
  onChange: (list: string[]) => void;
}) {
  const title = (v: string) => options.find(([x]) => x === v)?.[1] ?? v;
  return (
    <>
      {said}
      {chosen.map((v) => (
        <button
          key={v}
          type="button"
          {...tip(t`Remove`)}
          aria-label={t`${label}: ${title(v)}, remove it`}
          onClick={() => chosen.length > 1 && onChange(chosen.filter((x) => x !== v))}
          className="flex h-6 items-center rounded-(--radius) border border-edge bg-paper px-2"
        >
          {title(v)}
        </button>
      ))}
      <Select
        label={t`${label}: one more`}
        value=""
        onPick={(to) => onChange([...chosen, to])}
        className={`${box} w-20`}
        options={[["", "add…"], ...options.filter(([v]) => !chosen.includes(v)).map(([v, text]) => [v, text] as const)]}
      />
    </>
  );
}
