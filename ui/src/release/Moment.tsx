import { useState, type FocusEvent } from "react";
import { t } from "@lingui/core/macro";
import { reveal } from "../kit/reveal";
import { useStanding } from "../kit/useStanding";

/** A moment as a field for date and time has it, in this browser's zone. */
const local = (at: string | undefined) => {
  if (!at) return "";
  const d = new Date(at);
  return new Date(d.getTime() - d.getTimezoneOffset() * 60000).toISOString().slice(0, 16);
};

export const choice = "h-8 rounded-(--radius) border border-line bg-paper px-2 font-medium";

type MomentProps = { words: string; label: string; at: string | undefined; onAt: (at: string | undefined) => void };

/** A date with its time, or none. What is no whole date changes nothing, and says so. */
export function Moment({ words, label, at, onAt }: MomentProps) {
  const [fault, setFault] = useState(false);
  const { typing, field } = useStanding(local(at));
  const done = (e: FocusEvent<HTMLInputElement>) => {
    const { value, validity } = e.target;
    typing.current = false;
    setFault(validity.badInput);
    if (!validity.badInput && value !== local(at)) onAt(value ? new Date(value).toISOString() : undefined);
  };
  return (
    <label className="flex flex-wrap items-center gap-2">
      {words}
      <input
        type="datetime-local"
        aria-label={label}
        {...field}
        aria-invalid={fault}
        onBlur={done}
        className={choice}
      />
      {fault && (
        <span ref={reveal} role="alert" className="w-full text-ember">
          {t`Not a whole date with a time: fill in every part, or empty it. Until then it stays as it was.`}
        </span>
      )}
    </label>
  );
}
