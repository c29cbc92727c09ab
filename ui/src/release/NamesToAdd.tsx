import { useState, type RefObject } from "react";
import { FileUp } from "lucide-react";
import { t } from "@lingui/core/macro";
import { problemOf } from "../api/client";
import { tableFiles, tableText } from "../api/tableText";
import type { Problem } from "../api/types";
import { Button } from "../kit/Button";
import { Checkbox } from "../kit/Checkbox";
import { FilePick } from "../kit/FilePick";
import { Said } from "../kit/Said";
import { namesOf, tableOf, type Given } from "./names";

type Props = {
  given: Given;
  onGiven: (change: (now: Given) => Given) => void;
  onAdd: () => void;
  field: RefObject<HTMLTextAreaElement | null>;
};

/** Names typed, pasted or from a file, and of a table the columns in which they stand. */
export function NamesToAdd({ given, onGiven, onAdd, field }: Props) {
  const [problem, setProblem] = useState<Problem>();
  const names = namesOf(given);
  const { rows, wide, columns, heading } = tableOf(given);
  const takes = (i: number, on: boolean) =>
    onGiven((now) => ({
      ...now,
      columns: on ? [...columns, i].sort((a, b) => a - b) : columns.filter((c) => c !== i),
    }));
  return (
    <div>
      <label className="block font-medium" htmlFor="roster-names">
        {t`Names to add`}
      </label>
      <textarea
        ref={field}
        id="roster-names"
        rows={7}
        value={given.text}
        placeholder={t`One per line, or pasted
from a spreadsheet`}
        onChange={(e) => onGiven((now) => ({ ...now, text: e.target.value }))}
        className="mt-1 w-full rounded-(--radius) border border-edge bg-paper px-2 py-1"
      />
      <div className="mt-1 mb-3">
        <FilePick
          label={t`A file of names`}
          accept={tableFiles}
          onFiles={async ([file]) => {
            try {
              const read = await tableText(file!);
              onGiven((now) => ({ text: [now.text.trimEnd(), read.trimEnd()].filter(Boolean).join("\n") }));
              setProblem(undefined);
            } catch (error) {
              setProblem(problemOf(error));
            }
          }}
        >
          <FileUp size={15} aria-hidden /> {t`From a file`}
        </FilePick>
      </div>
      {problem && <Said problem={problem} />}
      {wide > 1 && (
        <fieldset className="mb-3 max-h-48 overflow-auto">
          <legend className="font-medium">{t`Columns that make up the name`}</legend>
          {Array.from({ length: wide }, (_, i) => (
            <label key={i} className="flex min-h-7 items-center gap-2">
              <Checkbox on={columns.includes(i)} onChange={(on) => takes(i, on)} />
              <span className="truncate">{rows[0]?.[i] || t`Column ${i + 1}`}</span>
            </label>
          ))}
          <label className="mt-1 flex min-h-7 items-center gap-2">
            <Checkbox on={heading} onChange={(on) => onGiven((now) => ({ ...now, columns, heading: on }))} />
            {t`The first row is a heading`}
          </label>
          {names[0] && <p className="mt-2 text-slate">{t`The first is ${names[0]}.`}</p>}
        </fieldset>
      )}
      <Button kind="main" disabled={names.length === 0} onClick={onAdd} className="w-full">
        {names.length > 1 ? t`Add ${names.length} learners` : names.length === 1 ? t`Add one learner` : t`Add`}
      </Button>
    </div>
  );
}
