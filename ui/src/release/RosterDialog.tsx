import { useEffect, useRef, useState } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Copy, Printer } from "lucide-react";
import { t } from "@lingui/core/macro";
import { address } from "../api/address";
import { api, ask, problemOf } from "../api/client";
import type { Problem, RosterLearner } from "../api/types";
import { copyText } from "../kit/copyText";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { useTurns } from "../kit/useTurns";
import { TypedInput } from "../kit/TypedInput";
import { printCodes, written } from "./codes";
import { namesOf, type Given } from "./names";
import { NamesToAdd } from "./NamesToAdd";
import { RosterTable } from "./RosterTable";

type Props = {
  /** "" is a new one. */
  id: string;
  /** The release that it lets in: what brings codes along, and how much time it allows. */
  release?: { link: string; allowsTime: number; onAllow: (percent: number) => void };
  onClose: () => void;
  onMade: (id: string) => void;
  onDeleted: () => void;
};

type Roster = { id: string; rev: number; name: string; learners: RosterLearner[] };

/** A roster: names pasted or typed, each with a code, and more time for some. */
export function RosterDialog({ id, release, onClose, onMade, onDeleted }: Props) {
  const queries = useQueryClient();
  const [roster, setRoster] = useState<Roster>({ id, rev: 0, name: "", learners: [] });
  const latest = useRef(roster);
  const inTurn = useTurns();
  const [given, setGiven] = useState<Given>({ text: "" });
  const adding = useRef<HTMLTextAreaElement>(null);
  const [problem, setProblem] = useState<Problem>();
  const [copied, setCopied] = useState(false);
  const allows = release?.allowsTime ?? 0;
  const most = Math.max(100, ...roster.learners.map((l) => l.timePercent));
  const url = release && new URL(address(release.link), location.origin).href;

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
        void queries.invalidateQueries({ queryKey: ["rosters"] });
        return true;
      } catch (error) {
        setProblem(problemOf(error));
        if (problemOf(error).code === "changed-since") await read(now.id);
        return false;
      }
    });
  const add = async () => {
    const added = namesOf(given).map((name) => ({ name, timePercent: 100 }));
    if (added.length === 0) return true;
    const from = document.activeElement;
    const done = await keep((now) => ({ learners: [...now.learners, ...added] }));
    if (done) {
      setGiven((now) => (now.text === given.text ? { text: "" } : now));
      // The button has nothing more to add, and takes no focus; whoever went elsewhere stays there.
      if (document.activeElement === from) adding.current?.focus();
    }
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
  const table = roster.learners
    .map((l) => [l.name, written(l.code), ...(url ? [`${url}#code=${l.code}`] : [])].join("\t"))
    .join("\n");
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
            <RosterTable
              learners={roster.learners}
              onChange={change}
              onRemove={(l) => void keep((now) => ({ learners: now.learners.filter((x) => x.id !== l.id) }))}
            />
          )}
        </div>
        <NamesToAdd given={given} onGiven={setGiven} onAdd={() => void add()} field={adding} />
      </div>
      {problem && <Said problem={problem} />}
      {roster.learners.length > 0 && (
        <p className="mt-3 text-[13px] text-slate">
          {t`Time above 100% is given as far as an activity allows it. Learners who are removed keep their sittings.`}
        </p>
      )}
      {release && allows > 0 && most > allows && (
        <p role="status" className="mt-2 flex flex-wrap items-center gap-x-3 text-brass">
          {t`This release allows ${allows}% of the time at most, so ${most}% would not be given.`}
          <Button onClick={() => release.onAllow(most)}>{t`Allow ${most}% in this release`}</Button>
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
              <Copy size={15} aria-hidden />{" "}
              {copied ? t`Copied` : url ? t`Copy names, codes and links` : t`Copy names and codes`}
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
