import { useDeferredValue, useState } from "react";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { FileUp } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import { tableFiles, tableText } from "../api/tableText";
import type { Problem, Table, TableEdit } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { FilePick } from "../kit/FilePick";
import { Field } from "../kit/LabelledField";
import { Said } from "../kit/Said";

type Props = { open: boolean; onClose: () => void };

const example = t`Chain	Drivetrain
Inner cable	Drivetrain	Brakes
Bell`;

/** Rows of item and target, pasted or from a file, become a sort; first a look. */
export function NewFromTable({ open, onClose }: Props) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [title, setTitle] = useState("");
  const [text, setText] = useState("");
  const [edits, setEdits] = useState<TableEdit[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const asked = useDeferredValue(JSON.stringify({ text, edits }));
  const look = useQuery({
    queryKey: ["look", asked],
    enabled: open && text.trim() !== "",
    placeholderData: keepPreviousData,
    queryFn: () =>
      ask(api.POST("/api/tables/look", { body: JSON.parse(asked) as { text: string; edits: TableEdit[] } })),
  });
  const table = text.trim() ? look.data : undefined;

  const edit = (change: TableEdit) => setEdits((list) => [...list.filter((e) => e.row !== change.row), change]);
  const fill = (value: string) => {
    setText(value);
    setEdits([]);
    setProblem(null);
  };
  const read = async (file: File) => {
    try {
      fill(await tableText(file));
      setTitle((now) => now || file.name.replace(/\.[^.]*$/, ""));
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  const make = async () => {
    setBusy(true);
    setProblem(null);
    try {
      const draft = await ask(
        api.POST("/api/tables/sort", { body: { title: title.trim() || t`Untitled sort`, text, edits } }),
      );
      void queries.invalidateQueries({ queryKey: ["shelf"] });
      void navigate(`/activity/${draft.id}`);
    } catch (error) {
      setProblem(problemOf(error));
    } finally {
      setBusy(false);
    }
  };

  return (
    <Dialog
      open={open}
      busy={busy}
      onClose={onClose}
      wide
      title={t`New sorting activity from a table`}
      about={t`One row per item: its name, then the targets it belongs in, separated by tabs, semicolons or commas. Without a target it is a distractor.`}
    >
      <div className="grid gap-5 md:grid-cols-2">
        <div className="flex flex-col">
          <Field label={t`Title`} value={title} maxLength={200} onText={setTitle} />
          <label htmlFor="rows" className="font-medium">
            {t`Rows`}
          </label>
          <textarea
            id="rows"
            value={text}
            spellCheck={false}
            placeholder={example}
            onChange={(e) => fill(e.target.value)}
            className="mt-1 h-64 rounded-(--radius) border border-edge bg-paper p-2 font-mono text-[13px] whitespace-pre"
          />
          <span className="mt-2">
            <FilePick label={t`File of rows`} accept={tableFiles} onFiles={([file]) => void read(file!)}>
              <FileUp size={16} aria-hidden /> {t`Choose a CSV, TSV or XLSX file`}
            </FilePick>
          </span>
        </div>
        <section aria-label={t`Preview`} className="flex min-h-64 flex-col gap-3">
          <h3 className="text-base">{t`Preview`}</h3>
          {table ? (
            <Look table={table} onEdit={edit} />
          ) : (
            <p className="text-slate">
              {t`Paste rows from a spreadsheet. You’ll see a preview before anything is created.`}
            </p>
          )}
          {(problem || look.isError) && <Said problem={problem ?? problemOf(look.error)} />}
          <div className="mt-auto flex justify-end gap-2">
            <Button onClick={onClose}>{t`Cancel`}</Button>
            <Button
              kind="main"
              disabled={!table || table.faults > 0 || table.items.length === 0}
              onClick={() => void make()}
            >
              {t`Create activity`}
            </Button>
          </div>
        </section>
      </div>
    </Dialog>
  );
}

function Look({ table, onEdit }: { table: Table; onEdit: (e: TableEdit) => void }) {
  const faulty = table.rows.filter((r) => r.fault || r.leftOut);
  const nowhere = table.items.filter((i) => i.right.length === 0);
  return (
    <>
      <p>
        <strong>
          {plural(table.items.length, { one: "# item", other: "# items" })},{" "}
          {plural(table.targets.length, { one: "# target", other: "# targets" })}
        </strong>{" "}
        <span className="text-slate">
          {table.header
            ? t`from cells separated by ${table.separator}s; first row used as headings`
            : t`from cells separated by ${table.separator}s`}
        </span>
      </p>
      {faulty.length > 0 && (
        <div className="rounded-(--radius) border border-line">
          <p className="border-b border-line bg-shade px-3 py-1.5 font-medium">
            {table.faults > 0
              ? t`${plural(table.faults, { one: "# row", other: "# rows" })} can’t be read. Fix or skip them`
              : t`All rows read or skipped`}
          </p>
          <ul className="max-h-44 overflow-auto">
            {faulty.map((r) => (
              <li key={r.number} className="flex flex-wrap items-center gap-2 px-3 py-1.5">
                <span className="w-14 shrink-0 text-slate">{t`Row ${r.number}`}</span>
                <input
                  aria-label={t`Row ${r.number}`}
                  defaultValue={r.text}
                  disabled={r.leftOut}
                  onBlur={(e) => e.target.value !== r.text && onEdit({ row: r.number, text: e.target.value })}
                  onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
                  className="h-8 min-w-0 flex-1 rounded-(--radius) border border-edge bg-paper px-2 font-mono text-[13px] disabled:line-through disabled:opacity-60"
                />
                <Button
                  kind="quiet"
                  onClick={() => onEdit({ row: r.number, leaveOut: !r.leftOut, text: r.leftOut ? r.text : "" })}
                >
                  {r.leftOut ? t`Include` : t`Skip`}
                </Button>
                {r.fault && <span className="w-full pl-16 text-ember">{r.fault}</span>}
              </li>
            ))}
          </ul>
        </div>
      )}
      <ul tabIndex={0} aria-label={t`Targets and their items`} className="max-h-56 overflow-auto">
        {table.targets.map((it) => (
          <li key={it.name} className="py-1">
            <span className="font-semibold">{it.name}</span>{" "}
            <span className="text-slate">
              {table.items
                .filter((i) => i.right.includes(it.name))
                .map((i) => i.name)
                .join(", ")}
            </span>
          </li>
        ))}
        {nowhere.length > 0 && (
          <li className="py-1">
            <span className="font-semibold">{t`Belong nowhere (distractors)`}</span>{" "}
            <span className="text-slate">{nowhere.map((i) => i.name).join(", ")}</span>
          </li>
        )}
      </ul>
    </>
  );
}
