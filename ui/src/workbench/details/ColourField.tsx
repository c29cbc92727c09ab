import { colour, colourNames } from "../../board/looks";
import { common, Field, fieldBox } from "../../kit/fields";

type ColourProps = { label: string; values: (string | undefined)[]; onDone: (colour: string) => void };

/** A colour: the theme's own, one that it names, or any. */
export function ColourField({ label, values, onDone }: ColourProps) {
  const value = common(values.map((v) => v ?? ""));
  const own = value?.startsWith("#");
  return (
    <Field label={label}>
      {(id) => (
        <span className="flex gap-1">
          <select
            id={id}
            value={value === undefined ? "?" : own ? "#" : value}
            onChange={(e) => onDone(e.target.value === "#" ? "#7384a1" : e.target.value)}
            className={`${fieldBox} w-full min-w-0 pr-0`}
          >
            {value === undefined && <option value="?">mixed</option>}
            <option value="">as the theme</option>
            {colourNames.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
            <option value="#">any…</option>
          </select>
          {own ? (
            <input
              type="color"
              aria-label={`${label}, any`}
              value={value}
              onChange={(e) => onDone(e.target.value)}
              className="h-7 w-8 shrink-0 rounded-(--radius) border border-line bg-paper"
            />
          ) : (
            value && (
              <span
                className="size-7 shrink-0 rounded-(--radius) border border-line"
                style={{ background: colour(value) }}
              />
            )
          )}
        </span>
      )}
    </Field>
  );
}
