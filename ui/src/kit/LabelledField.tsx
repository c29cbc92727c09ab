import { useId, type InputHTMLAttributes } from "react";
import { t } from "@lingui/core/macro";

type Props = { label: string; hint?: string; onText: (text: string) => void } & Omit<
  InputHTMLAttributes<HTMLInputElement>,
  "onChange"
>;

/** A field of a form with its label above it. */
export function Field({ label, hint, onText, ...input }: Props) {
  const id = useId();
  return (
    <div className="mb-4">
      <label htmlFor={id} className="block font-medium">
        {label}
      </label>
      <input
        id={id}
        {...input}
        aria-describedby={hint && `${id}-hint`}
        onChange={(e) => onText(e.target.value)}
        className="mt-1 h-10 w-full rounded-(--radius) border border-edge bg-paper px-3 placeholder:text-slate read-only:bg-shade"
      />
      {hint && (
        <p id={`${id}-hint`} className="mt-1 text-[13px] text-slate">
          {hint}
        </p>
      )}
    </div>
  );
}

/** What a new password is to be like. */
export const passwordHint = t`At least 10 characters. Several words that don’t belong together are easy to remember.`;
