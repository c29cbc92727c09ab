import type { ButtonHTMLAttributes } from "react";

type Props = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: "main" | "plain" | "quiet" | "grave" };

const looks = {
  main: "bg-feather text-on-feather border-feather hover:opacity-90",
  plain: "bg-paper text-ink border-line hover:bg-shade",
  quiet: "bg-transparent text-slate border-transparent hover:bg-shade hover:text-ink",
  grave: "bg-paper text-ember border-ember hover:bg-ember-soft",
};

/** A button that says what it does with a verb. */
export function Button({ kind = "plain", className = "", type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={`inline-flex h-8 items-center justify-center gap-2 rounded-(--radius) border px-3 font-medium whitespace-nowrap disabled:opacity-50 aria-disabled:opacity-50 ${looks[kind]} ${className}`}
      {...rest}
    />
  );
}
