import { Select } from "./Select";
import { tip } from "./tip";
import { TypedInput } from "./TypedInput";
import { useId, type ReactNode } from "react";
import { t } from "@lingui/core/macro";
import { Checkbox } from "./Checkbox";

/** What several parts have in common; undefined where they differ. */
export function common<T>(values: T[]): T | undefined {
  const first = JSON.stringify(values[0]);
  return values.every((v) => JSON.stringify(v) === first) ? values[0] : undefined;
}

/** How a field looks. */
export const fieldBox = "h-7 rounded-(--radius) border border-line bg-paper px-1.5";

type FieldProps = { label: string; wide?: boolean; children: (id: string) => ReactNode };

/** A field with its name above it. */
export function Field({ label, wide, children }: FieldProps) {
  const id = useId();
  return (
    <div className={`flex min-w-0 flex-col ${wide ? "col-span-2" : ""}`}>
      <label htmlFor={id} className="truncate text-[12px] text-slate">
        {label}
      </label>
      {children(id)}
    </div>
  );
}

type NumberProps = {
  label: string;
  values: (number | undefined)[];
  low: number;
  high: number;
  whole?: boolean;
  /** What an empty field is, where it may be empty. */
  empty?: string;
  onDone: (n: number | undefined) => void;
};

/** A number of one or of many; typed, it is that of all. */
export function NumberField({ label, values, low, high, whole, empty, onDone }: NumberProps) {
  const value = common(values);
  const mixed = values.length > 0 && value === undefined && values.some((v) => v !== undefined);
  const rule = t`${low} to ${high}`;
  return (
    <Field label={label}>
      {(id) => (
        <TypedInput
          id={id}
          label={label}
          inputMode="decimal"
          value={value === undefined ? "" : String(value)}
          placeholder={mixed ? t`mixed` : empty}
          onFocus={(e) => e.target.select()}
          rule={rule}
          {...tip(rule)}
          onDone={(typed) => {
            const text = typed.trim().replace(",", ".");
            const n = Math.round(Number(text) * (whole ? 1 : 100)) / (whole ? 1 : 100);
            if (text === "" && empty !== undefined) onDone(undefined);
            else if (text !== "" && !Number.isNaN(n) && n >= low && n <= high) onDone(n);
            else return false;
          }}
          className="w-full tabular-nums"
        />
      )}
    </Field>
  );
}

type TextProps = {
  label: string;
  values: string[];
  wide?: boolean;
  placeholder?: string;
  onDone: (text: string) => void;
};

export function TextField({ label, values, wide, placeholder, onDone }: TextProps) {
  const value = common(values);
  return (
    <Field label={label} wide={wide}>
      {(id) => (
        <TypedInput
          id={id}
          label={label}
          value={value ?? ""}
          placeholder={value === undefined ? t`mixed` : placeholder}
          maxLength={1000}
          onDone={onDone}
          className="w-full"
        />
      )}
    </Field>
  );
}

type ChoiceProps = {
  label: string;
  values: (string | undefined)[];
  options: [value: string, title: string][];
  onDone: (value: string) => void;
  wide?: boolean;
};

export function ChoiceField({ label, values, options, onDone, wide }: ChoiceProps) {
  const value = common(values.map((v) => v ?? ""));
  return (
    <Field label={label} wide={wide}>
      {(id) => (
        <Select
          id={id}
          value={value ?? "?"}
          onPick={(to) => onDone(to)}
          className={`${fieldBox} w-full min-w-0 pr-0`}
          options={[value === undefined && ["?", "mixed"], ...options]}
        />
      )}
    </Field>
  );
}

type CheckProps = { label: string; values: boolean[]; onDone: (on: boolean) => void };

export function CheckField({ label, values, onDone }: CheckProps) {
  const value = common(values);
  return (
    <label className="flex h-7 items-center gap-1.5 self-end">
      <Checkbox on={value ?? "some"} onChange={onDone} />
      {label}
    </label>
  );
}

/** Fields of one matter, with its name. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="border-b border-line px-4 py-2 last:border-0">
      <h3 className="mb-1 text-[13px] font-semibold">{title}</h3>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(118px,1fr))] gap-x-2 gap-y-1.5">{children}</div>
    </section>
  );
}
