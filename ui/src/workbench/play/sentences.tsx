import { useRef } from "react";

type PickProps<T extends string> = {
  label: string;
  value: string;
  options: Record<T, string>;
  onPick: (value: T) => void;
};

const look = "h-7 max-w-full rounded-(--radius) border border-line bg-paper px-1 font-medium text-feather";

/** A choice within a sentence. */
export function Pick<T extends string>({ label, value, options, onPick }: PickProps<T>) {
  return (
    <select aria-label={label} value={value} onChange={(e) => onPick(e.target.value as T)} className={look}>
      {Object.entries<string>(options).map(([v, title]) => (
        <option key={v} value={v}>
          {title}
        </option>
      ))}
    </select>
  );
}

type NumProps = {
  label: string;
  value: number;
  low: number;
  high: number;
  whole?: boolean;
  onDone: (n: number) => void;
};

/** A number within a sentence: typed, and taken with Enter or on leaving; what cannot be is put back. */
export function Num({ label, value, low, high, whole, onDone }: NumProps) {
  const left = useRef(false);
  const shown = String(Math.round(value * 100) / 100);
  return (
    <input
      aria-label={label}
      key={shown}
      inputMode="decimal"
      defaultValue={shown}
      title={`${low} to ${high}`}
      onFocus={(e) => e.target.select()}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") {
          left.current = true;
          e.currentTarget.value = shown;
          e.currentTarget.blur();
        }
      }}
      onBlur={(e) => {
        const n = Number(e.target.value.trim().replace(",", "."));
        const good =
          e.target.value.trim() !== "" && !Number.isNaN(n) && n >= low && n <= high && !(whole && !Number.isInteger(n));
        if (!left.current && good && String(n) !== shown) onDone(Math.round(n * 100) / 100);
        else e.target.value = shown;
        left.current = false;
      }}
      className={`${look} w-16 text-right tabular-nums`}
    />
  );
}
