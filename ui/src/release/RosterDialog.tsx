import { useEffect, useRef, useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Copy, FileUp, Printer, Trash2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import { address } from "../api/address";
import { api, ask, problemOf } from "../api/client";
import type { Problem, RosterLearner } from "../api/types";
import { copyText } from "../kit/copyText";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { FilePick } from "../kit/FilePick";
import { Said } from "../kit/Said";
import { useTurns } from "../kit/useTurns";
import { TypedInput } from "../kit/TypedInput";

type Props = {
  /** "" is a new one. */
  id: string;
  /** Of the release, for links that bring the code along. */
  link: string;
  /** The percent of its time limit that the release lets learners have; 0 where there is none. */
  allows: number;
  onAllow: (percent: number) => void;
  onClose: () => void;
  onMade: (id: string) => void;
  onDeleted: () => void;
};

type Roster = { id: string; rev: number; name: string; learners: RosterLearner[] };

/** The names in a text: one a line; of a table's row, the first cell. */
const namesIn = (text: string) =>
  text
    .split(/\r?\n/)
    .map((line) => line.split(/[\t;]/)[0]!.trim())
    .filter(Boolean);

const written = (code = "") => `${code.slice(0, 4)} ${code.slice(4)}`;

/** A roster: names pasted or typed, each with a code, and more time for some. */
export function RosterDialog({ id, link, allows, onAllow, onClose, onMade, onDeleted }: Props) {
  const queries = useQueryClient();
  const [roster, setRoster] = useState<Roster>({ id, rev: 0, name: "", learners: [] });
  const latest = useRef(roster);
  const inTurn = useTurns();
  const [pasted, setPasted] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const [copied, setCopied] = useState(false);
  const names = namesIn(pasted);
  const most = Math.max(100, ...roster.learners.map((l) => l.timePercent));
  const url = new URL(address(link), location.origin).href;

  const read = async (id: string) => {
    const now = await ask(api.GET("/api/rosters/{id}", { params: { path: { id } } }));
    latest.current = now;
    setRoster(now);
  };
  useEffect(() => {
    if (!id) return;
    read(id).catch((e: unknown) => setProblem(problemOf(e)));
  }, [id]);

  /** Changes the roster as it is when its turn comes: of two quick changes none undoes the other. */
  const keep = (apply: (now: Roster) => Partial<Roster>) =>
    inTurn(async () => {
      const now = latest.current;
      const { name, learners } = { ...now, ...apply(now) };
      try {
        const body = { name: name.trim() || t`New roster`, learners };
        const made = now.id
          ? await ask(api.PUT("/api/rosters/{id}", { params: { path: { id: now.id }, query: { rev: now.rev } }, body }))
          : await ask(api.POST("/api/rosters", { body }));
        latest.current = made;
        setRoster(made);
        setProblem(undefined);
        if (!now.id) onMade(made.id);
        await queries.invalidateQueries({ queryKey: ["rosters"] });
        return true;
      } catch (error) {
        setProblem(problemOf(error));
        if (problemOf(error).code === "changed-since") await read(now.id);
        return false;
      }
    });
  const add = async () => {
    const added = names.map((name) => ({ name, timePercent: 100 }));
    if (names.length === 0) return true;
    const done = await keep((now) => ({ learners: [...now.learners, ...added] }));
    if (done) setPasted("");
    return done;
  };
  /** Names that were pasted and not yet added are added: none vanish. */
  const close = async () => {
    if (await add()) onClose();
  };
  const change = (at: RosterLearner, to: Partial<RosterLearner>) =>
    void keep((now) => ({ learners: now.learners.map((l) => (l.id === at.id ? { ...l, ...to } : l)) }));
  const remove = async () => {
    try {
      await ask(api.DELETE("/api/rosters/{id}", { params: { path: { id: roster.id } } }));
      await queries.invalidateQueries({ queryKey: ["rosters"] });
      onDeleted();
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  const table = roster.learners.map((l) => `${l.name}\t${written(l.code)}\t${url}#code=${l.code}`).join("\n");
  return (
    <Dialog
      open
      wide
      onClose={() => void close()}
      title={roster.id ? t`Roster ${roster.name}` : t`A new roster`}
      about={t`Each learner enters by a code of their own. Codes are random; repeated guesses are slowed down.`}
    >
      <label className="block font-medium" htmlFor="roster-name">
        {t`Name of the roster`}
      </label>
      <TypedInput
        id="roster-name"
        label={t`Name of the roster`}
        value={roster.name}
        maxLength={200}
        placeholder={t`New roster`}
        onDone={(name) => {
          if (roster.id) void keep(() => ({ name }));
          else setRoster((latest.current = { ...roster, name }));
        }}
        className="mb-4 h-9 w-72"
      />
      <div className="grid items-start gap-5 md:grid-cols-[1fr_16rem]">
        <div className="overflow-auto">
          {roster.learners.length === 0 ? (
            <p className="text-slate">{t`No learners yet. Paste or type names, one per line.`}</p>
          ) : (
            <table className="w-full">
              <thead>
                <tr className="text-left text-slate">
                  <th className="py-1 pr-3 font-medium">{t`Learner`}</th>
                  <th className="py-1 pr-3 font-medium">{t`Code`}</th>
                  <th className="py-1 pr-3 font-medium">{t`Time`}</th>
                  <td />
                </tr>
              </thead>
              <tbody>
                {roster.learners.map((l, i) => (
                  <tr key={l.id} className="border-t border-line">
                    <td className="py-1 pr-3">
                      <TypedInput
                        label={t`Name of learner ${i + 1}`}
                        value={l.name}
                        maxLength={200}
                        onDone={(name) => (name.trim() ? change(l, { name }) : false)}
                        className="w-full min-w-36 border-transparent hover:border-line"
                      />
                    </td>
                    <td className="py-1 pr-3 font-medium tracking-wider whitespace-nowrap tabular-nums">
                      {written(l.code)}
                    </td>
                    <td className="py-1 pr-3 whitespace-nowrap">
                      <TypedInput
                        label={t`Time of ${l.name} in percent`}
                        inputMode="numeric"
                        value={String(l.timePercent)}
                        onDone={(text) => {
                          const n = Number(text);
                          if (!Number.isInteger(n) || n < 100 || n > 1000) return false;
                          change(l, { timePercent: n });
                        }}
                        className="w-14 text-right"
                      />{" "}
                      %
                    </td>
                    <td className="text-right">
                      <Button
                        kind="quiet"
                        className="px-2"
                        aria-label={t`Remove ${l.name}`}
                        onClick={() => void keep((now) => ({ learners: now.learners.filter((x) => x.id !== l.id) }))}
                      >
                        <Trash2 size={15} aria-hidden />
                      </Button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
        <div>
          <label className="block font-medium" htmlFor="roster-names">
            {t`Names to add`}
          </label>
          <textarea
            id="roster-names"
            rows={7}
            value={pasted}
            placeholder={t`One per line, or pasted
from a spreadsheet`}
            onChange={(e) => setPasted(e.target.value)}
            className="mt-1 w-full rounded-(--radius) border border-edge bg-paper px-2 py-1"
          />
          <div className="mt-1 mb-3">
            <FilePick
              label={t`A file of names`}
              accept=".txt,.csv,.tsv,text/plain,text/csv"
              onFiles={([file]) => void file!.text().then(setPasted)}
            >
              <FileUp size={15} aria-hidden /> {t`From a file`}
            </FilePick>
          </div>
          <Button kind="main" disabled={names.length === 0} onClick={() => void add()} className="w-full">
            {names.length > 1 ? t`Add ${names.length} learners` : names.length === 1 ? t`Add one learner` : t`Add`}
          </Button>
        </div>
      </div>
      {problem && <Said problem={problem} />}
      {roster.learners.length > 0 && (
        <p className="mt-3 text-[13px] text-slate">
          {t`Time above 100% is given as far as an activity allows it. Learners who are removed keep their sittings.`}
        </p>
      )}
      {allows > 0 && most > allows && (
        <p role="status" className="mt-2 flex flex-wrap items-center gap-x-3 text-brass">
          {t`This release allows ${allows}% of the time at most, so ${most}% would not be given.`}
          <Button onClick={() => onAllow(most)}>{t`Allow ${most}% in this release`}</Button>
        </p>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        {roster.id && (
          <>
            <Button kind="grave" className="mr-auto" onClick={() => void remove()}>
              {t`Delete the roster`}
            </Button>
            <Button
              disabled={roster.learners.length === 0}
              onClick={async () => {
                setCopied(await copyText(table));
              }}
            >
              <Copy size={15} aria-hidden /> {copied ? t`Copied` : t`Copy names, codes and links`}
            </Button>
            <Button
              disabled={roster.learners.length === 0}
              onClick={() => printCodes(roster.name, url, roster.learners)}
            >
              <Printer size={15} aria-hidden /> {t`Print access codes`}
            </Button>
          </>
        )}
        <Button kind="main" onClick={() => void close()}>
          {t`Done`}
        </Button>
      </div>
    </Dialog>
  );
}

/** One slip for each learner, to be cut apart. */
function printCodes(name: string, url: string, learners: RosterLearner[]) {
  const page = document.createElement("div");
  page.className = "print-only";
  for (const l of learners) {
    const slip = page.appendChild(document.createElement("section"));
    for (const text of [name, l.name, written(l.code), url])
      slip.appendChild(document.createElement("p")).textContent = text;
  }
  document.body.append(page);
  document.body.dataset.printing = "slips";
  const done = () => {
    page.remove();
    delete document.body.dataset.printing;
    removeEventListener("afterprint", done);
  };
  addEventListener("afterprint", done);
  print();
}
