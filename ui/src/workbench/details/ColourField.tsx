import { t } from "@lingui/core/macro";
import { colour, colourNames } from "../../board/looks";
import { HexField } from "../../kit/HexField";
import { Select } from "../../kit/Select";
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
          <Select
            id={id}
            value={value === undefined ? "?" : own ? "#" : value}
            onPick={(to) => onDone(to === "#" ? "#7384a1" : to)}
            className={`${fieldBox} w-full min-w-0 pr-0`}
            options={[
              value === undefined && ["?", "mixed"],
              ["", t`as the theme`],
              ...colourNames.map((name) => [name, name] as const),
              ["#", "any…"],
            ]}
          />
          {value && own ? (
            <HexField label={t`${label}, any`} value={value} onDone={onDone} />
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
