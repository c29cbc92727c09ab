import { useDeferredValue, useEffect, useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { FileDown, FileUp } from "lucide-react";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../../api/client";
import { tableFiles, tableText } from "../../api/tableText";
import type { Doc, Merged, Problem } from "../../api/types";
import { Select } from "../../kit/Select";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { FilePick } from "../../kit/FilePick";
import { Said } from "../../kit/Said";
import { takeDocument } from "../model/changes";
import { useDraft, useDraftStore } from "../model/draft";
import type { Saver } from "../../document/saver";
import { address } from "../../api/address";

const meanings: [string, string][] = [
  ["", t`ignore`],
  ["name", t`item`],
  ["text", t`text`],
  ["alt", t`alternative text`],
  ["tags", t`tags`],
  ["copies", t`copies`],
  ["points", t`points`],
  ["penalty", t`penalty`],
  ["picture", t`picture file`],
  ["sound", t`sound file`],
  ["right", t`belongs in`],
  ["whenRight", t`feedback if correct`],
  ["whenWrong", t`feedback if wrong`],
];

/** A table taken into the activity, after a look at what it does; and the same table out again. */
export function TableDialog({ saver }: { saver: Saver<Doc> }) {
  const store = useDraftStore();
  const { id = "" } = useParams();
  const { doc, table } = useDraft((s) => s);
  const [text, setText] = useState("");
  const [assign, setAssign] = useState<string[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const fill = (value: string) => {
    setText(value);
    setAssign([]);
    setProblem(null);
  };
  const read = (file: File) => tableText(file).then(fill, (error: unknown) => setProblem(problemOf(error)));
  useEffect(() => {
    if (!table) return;
    store.setState({ table: undefined });
    if (typeof table === "string") fill(table);
    else void read(table);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for what it begins with
  }, [table]);
  const asked = useDeferredValue(JSON.stringify({ text, assign }));
  const look = useQuery({
    queryKey: ["merge", asked, doc],
    enabled: text.trim() !== "",
    placeholderData: keepPreviousData,
    gcTime: 0,
    queryFn: () =>
      ask(
        api.POST("/api/tables/merge", {
          body: { ...(JSON.parse(asked) as { text: string; assign: string[] }), document: doc },
        }),
      ),
  });
  const close = () => store.setState({ asking: "" });
  const merged = text.trim() ? look.data : undefined;
  const take = () => {
    if (!merged) return;
    store.getState().change(takeDocument(merged.document as Doc, t`import a table of ${merged.rows.length} rows`));
    store.setState({ remark: `${words(merged)}.` });
    close();
  };
  return (
    <Dialog
      open
      wide
      onClose={close}
      title={t`Table`}
      about={t`Rows that match an item’s name update it; other rows add items. You’ll see a preview first.`}
    >
      <div className="grid gap-5 md:grid-cols-2">
        <div className="flex flex-col gap-2">
          <textarea
            autoFocus
            aria-label={t`Rows of the table`}
            value={text}
            spellCheck={false}
            placeholder={t`Item	Tags	Picture	Right in
Chain	drive	chain.svg	Drivetrain`}
            onChange={(e) => fill(e.target.value)}
            className="h-72 rounded-(--radius) border border-edge bg-paper p-2 font-mono text-[13px] whitespace-pre"
          />
          <FilePick label={t`File of the table`} accept={tableFiles} onFiles={([file]) => void read(file!)}>
            <FileUp size={16} aria-hidden /> {t`Choose a CSV, TSV or XLSX file`}
          </FilePick>
          <p className="mt-auto flex flex-wrap items-center gap-2 border-t border-line pt-3">
            <FileDown size={16} aria-hidden /> {t`This activity as a table:`}
            {["xlsx", "csv", "tsv"].map((as) => (
              <a
                key={as}
                href={address(`/api/activities/${id}/table?as=${as}`)}
                download
                onClick={(e) => {
                  // What was changed a moment ago is in it.
                  const link = e.currentTarget;
                  if (store.getState().saving === "saved") return;
                  e.preventDefault();
                  void saver.flush().then(() => link.click());
                }}
                className="text-feather uppercase underline"
              >
                {as}
              </a>
            ))}
          </p>
        </div>
        <section aria-label={t`What it does`} className="flex min-h-64 flex-col gap-3">
          {merged ? (
            <Look
              merged={merged}
              onAssign={(column, meaning) =>
                setAssign(merged.columns.map((c, i) => (i === column ? meaning : (assign[i] ?? c))))
              }
            />
          ) : (
            <p className="text-slate">{t`Paste rows from a spreadsheet, or choose a file. You’ll see a preview first.`}</p>
          )}
          {(problem || look.isError) && <Said problem={problem ?? problemOf(look.error)} />}
          <div className="mt-auto flex justify-end gap-2">
            <Button onClick={close}>{t`Cancel`}</Button>
            <Button
              kind="main"
              disabled={!merged || merged.made + merged.changed === 0 || look.isPlaceholderData}
              onClick={take}
            >
              {merged && merged.faults > 0 ? t`Import the other ${merged.made + merged.changed}` : t`Import`}
            </Button>
          </div>
        </section>
      </div>
    </Dialog>
  );
}

const words = (m: Merged) =>
  [
    t`${m.made} made`,
    t`${m.changed} changed`,
    t`${m.same} unchanged`,
    ...(m.faults > 0 ? [t`${m.faults} with a fault left out`] : []),
  ].join(", ");

function Look({ merged, onAssign }: { merged: Merged; onAssign: (column: number, meaning: string) => void }) {
  const told = merged.rows.filter((r) => r.does !== "same");
  return (
    <>
      <p className="font-semibold">{words(merged)}</p>
      <div className="flex flex-wrap gap-x-3 gap-y-1">
        {merged.columns.map((c, i) => (
          <label key={i} className="flex items-center gap-1.5">
            <span className="max-w-24 truncate text-slate">{merged.heads[i] || t`column ${i + 1}`}:</span>
            <Select
              value={c}
              onPick={(to) => onAssign(i, to)}
              className="h-7 rounded-(--radius) border border-line bg-paper"
              options={[...meanings.map(([key, title]) => [key, title] as const)]}
            />
          </label>
        ))}
      </div>
      {merged.targets.length > 0 && <p>{t`New targets: ${merged.targets.join(", ")}`}</p>}
      <ul
        tabIndex={0}
        aria-label={t`What each row does`}
        className="max-h-64 overflow-auto rounded-(--radius) border border-line"
      >
        {told.map((r) => (
          <li key={r.number} className="flex gap-2 border-b border-line/60 px-3 py-1 last:border-0">
            <span className="w-14 shrink-0 text-slate">{t`Row ${r.number}`}</span>
            <span className="min-w-0">
              <span className="font-medium">{r.name}</span>{" "}
              <span className={r.does === "fault" ? "text-ember" : "text-slate"}>
                {r.does === "made" ? t`new` : r.what.join(", ")}
              </span>
            </span>
          </li>
        ))}
        {told.length === 0 && <li className="px-3 py-1 text-slate">{t`No changes.`}</li>}
      </ul>
    </>
  );
}
