import { useRef, type InputHTMLAttributes } from "react";

type Props = Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "defaultValue" | "onBlur" | "onKeyDown"> & {
  label: string;
  value: string;
  /** What was typed, where it is another; false puts back what stood there. */
  onDone: (text: string) => boolean | void;
};

/** A field that is taken with Enter or on leaving it; Escape leaves it as it was. */
export function TypedInput({ label, value, onDone, className = "", ...rest }: Props) {
  const left = useRef(false);
  return (
    <input
      aria-label={label}
      key={value}
      defaultValue={value}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") {
          left.current = true;
          e.currentTarget.value = value;
          e.currentTarget.blur();
        }
      }}
      onBlur={(e) => {
        const changed = !left.current && e.target.value !== value;
        left.current = false;
        if (changed && onDone(e.target.value) === false) e.target.value = value;
      }}
      className={`h-7 rounded-(--radius) border border-line bg-paper px-1.5 ${className}`}
      {...rest}
    />
  );
}
