import { useRef } from "react";

type Props = { label: string; value: string; onDone: (name: string) => void; className?: string };

/** A name changed in place: Enter takes it, Escape leaves it as it was. */
export function NameField({ label, value, onDone, className = "" }: Props) {
  const left = useRef(false);
  const done = (name: string) => {
    if (left.current) return;
    left.current = true;
    onDone(name.trim());
  };
  return (
    <input
      autoFocus
      aria-label={label}
      defaultValue={value}
      maxLength={200}
      onFocus={(e) => e.target.select()}
      onBlur={(e) => done(e.target.value)}
      onPointerDown={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") {
          e.preventDefault(); // it is not for what has the focus then
          done(e.currentTarget.value);
        }
        if (e.key === "Escape") done(value);
      }}
      className={`min-w-16 rounded-sm border border-feather bg-paper px-1.5 font-medium text-ink ${className}`}
    />
  );
}
