import { useRef } from "react";

type Props = {
  label: string;
  value: string;
  /** The whole value is selected, so that typing replaces it. */
  whole: boolean;
  /** What was typed, and where to go on: Enter down, Tab to the side; undefined leaves it as it was. */
  onDone: (text: string | undefined, step: [number, number]) => void;
};

/** A cell being typed. */
export function CellField({ label, value, whole, onDone }: Props) {
  const left = useRef(false);
  const done = (text: string | undefined, step: [number, number]) => {
    if (left.current) return;
    left.current = true;
    onDone(text, step);
  };
  return (
    <input
      autoFocus
      aria-label={label}
      defaultValue={value}
      maxLength={1000}
      onFocus={(e) => whole && e.target.select()}
      onBlur={(e) => done(e.target.value, [0, 0])}
      onPointerDown={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") done(e.currentTarget.value, [e.shiftKey ? -1 : 1, 0]);
        else if (e.key === "Tab") done(e.currentTarget.value, [0, e.shiftKey ? -1 : 1]);
        else if (e.key === "Escape") done(undefined, [0, 0]);
        else return;
        e.preventDefault();
      }}
      className="w-full min-w-0 rounded-sm border border-feather bg-paper px-1 text-ink"
    />
  );
}
