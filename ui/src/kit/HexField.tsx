import { t } from "@lingui/core/macro";
import { tip } from "./tip";
import { TypedInput } from "./TypedInput";

/** A colour as it is typed or pasted ("#24a", "2244AA"), in the document's form; undefined where it is none. */
export function readHex(text: string) {
  const digits = text.trim().replace(/^#/, "").toLowerCase();
  if (/^[0-9a-f]{3}$/.test(digits)) return `#${[...digits].map((d) => d + d).join("")}`;
  return /^[0-9a-f]{6}$/.test(digits) ? `#${digits}` : undefined;
}

type Props = { id?: string; label: string; value: string; onDone: (colour: string) => void };

/** Any colour: picked, or typed as a style guide gives it. */
export function HexField({ id, label, value, onDone }: Props) {
  const rule = t`3 or 6 hexadecimal digits, such as #2244aa`;
  return (
    <span className="flex min-w-0 grow gap-1">
      <input
        type="color"
        aria-label={t`Pick: ${label}`}
        value={value}
        onChange={(e) => onDone(e.target.value)}
        className="h-7 w-8 shrink-0 rounded-(--radius) border border-line bg-paper"
      />
      <TypedInput
        id={id}
        label={label}
        value={value}
        maxLength={9}
        spellCheck={false}
        {...tip(rule)}
        rule={rule}
        onDone={(text) => {
          const colour = readHex(text);
          if (!colour) return false;
          onDone(colour);
        }}
        className="w-full min-w-0 tabular-nums"
      />
    </span>
  );
}
