type Props = {
  tone: string;
  className?: string;
  /** What a screen reader says of it; without it, what stands beside it says it. */
  label?: string;
};

/** The box that something of a tone is said in. */
export const toneBox: Record<string, string> = {
  right: "border-teal bg-teal-soft",
  near: "border-brass bg-brass-soft",
  wrong: "border-ember bg-ember-soft",
  plain: "border-edge bg-paper",
};

/** Right is a seal with a tick, nearly a half-filled lozenge, wrong a disc whose halves do not meet: shape before colour. */
export function ToneMark({ tone, className = "", label }: Props) {
  const said = label ? { role: "img", "aria-label": label } : { "aria-hidden": true };
  const size = `size-[18px] shrink-0 ${className}`;
  if (tone === "right") {
    return (
      <svg viewBox="0 0 18 18" className={`${size} text-teal`} {...said}>
        <path
          d="m9 .8 2.2 1.7 2.8-.2.8 2.7 2.3 1.5-1 2.5 1 2.5-2.3 1.5-.8 2.7-2.8-.2L9 17.2l-2.2-1.7-2.8.2-.8-2.7L.9 11.5l1-2.5-1-2.5L3.2 5 4 2.3l2.8.2z"
          fill="currentColor"
        />
        <path d="m5.5 9.2 2.3 2.3 4.5-4.8" fill="none" stroke="var(--card)" strokeWidth="1.8" />
      </svg>
    );
  }
  if (tone === "near") {
    return (
      <svg viewBox="0 0 18 18" className={`${size} text-brass`} {...said}>
        <path d="M9 1.5 16.5 9 9 16.5 1.5 9z" fill="var(--card)" stroke="currentColor" strokeWidth="1.5" />
        <path d="M9 1.5v15L1.5 9z" fill="currentColor" />
      </svg>
    );
  }
  if (tone === "wrong") {
    return (
      <svg viewBox="0 0 18 18" className={`${size} text-ember`} {...said}>
        <path
          d="M8 .4a6.7 6.7 0 0 0 0 13.4zM10 4.2a6.7 6.7 0 0 1 0 13.4z"
          fill="currentColor"
          stroke="var(--card)"
          strokeWidth=".8"
        />
      </svg>
    );
  }
  return null;
}
