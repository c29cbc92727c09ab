import { useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, problemOf } from "../api/client";
import type { Entry, Problem, Release } from "../api/types";
import { Button } from "../shared/Button";
import { Said } from "../shared/Said";
import { TypedInput } from "../shared/TypedInput";
import { RosterDialog } from "./RosterDialog";

/** A moment as a field for date and time has it, in this browser's zone. */
const local = (at: string | undefined) => {
  if (!at) return "";
  const d = new Date(at);
  return new Date(d.getTime() - d.getTimezoneOffset() * 60000).toISOString().slice(0, 16);
};

const choice = "h-8 rounded-(--radius) border border-line bg-paper px-2 font-medium";

/** Who may begin with a release, when, and how often. */
export function EntryFields({ release, activity }: { release: Release; activity: string }) {
  const queries = useQueryClient();
  const rosters = useQuery({ queryKey: ["rosters"], queryFn: () => ask(api.GET("/api/rosters")) });
  const [problem, setProblem] = useState<Problem>();
  const [editing, setEditing] = useState<string>();
  const { entry } = release;
  const set = async (change: Partial<Entry>) => {
    try {
      await ask(
        api.PUT("/api/releases/{id}/entry", { params: { path: { id: release.id } }, body: { ...entry, ...change } }),
      );
      setProblem(undefined);
    } catch (error) {
      setProblem(problemOf(error));
    }
    await queries.invalidateQueries({ queryKey: ["releases", activity] });
  };
  const moment = (text: string) => (text ? new Date(text).toISOString() : undefined);
  const number = (text: string, key: "most" | "mostEach") => {
    const n = text.trim() === "" ? 0 : Number(text);
    if (!Number.isInteger(n) || n < 0) return false;
    void set({ [key]: n });
  };
  const list = rosters.data?.rosters ?? [];
  return (
    <section aria-label="Entry" className="mt-4 rounded-(--radius) border border-line bg-paper px-4 py-3 leading-9">
      <div className="flex flex-wrap items-center gap-x-2">
        <select
          aria-label="Who may begin"
          value={entry.roster ?? ""}
          onChange={(e) =>
            e.target.value === "new" ? setEditing("") : void set({ roster: e.target.value || undefined })
          }
          className={choice}
        >
          <option value="">Whoever has the link</option>
          {list.map((r) => (
            <option key={r.id} value={r.id}>
              The roster {r.name} ({r.learners})
            </option>
          ))}
          <option value="new">A new roster…</option>
        </select>
        <span>may begin{entry.roster ? ", each by a code" : ", giving a name"}.</span>
        {entry.roster && <Button onClick={() => setEditing(entry.roster)}>Names and codes</Button>}
      </div>
      <div className="flex flex-wrap items-center gap-x-2">
        <label className="flex items-center gap-2">
          From
          <input
            type="datetime-local"
            aria-label="Opens"
            key={entry.opensAt}
            defaultValue={local(entry.opensAt)}
            onBlur={(e) => e.target.value !== local(entry.opensAt) && void set({ opensAt: moment(e.target.value) })}
            className={choice}
          />
        </label>
        <label className="flex items-center gap-2">
          until
          <input
            type="datetime-local"
            aria-label="Closes"
            key={entry.closesAt}
            defaultValue={local(entry.closesAt)}
            onBlur={(e) => e.target.value !== local(entry.closesAt) && void set({ closesAt: moment(e.target.value) })}
            className={choice}
          />
        </label>
      </div>
      <div className="flex flex-wrap items-center gap-x-2">
        {entry.roster && (
          <label className="flex items-center gap-2">
            Each begins at most
            <TypedInput
              label="Sittings of each learner"
              inputMode="numeric"
              placeholder="any"
              value={entry.mostEach ? String(entry.mostEach) : ""}
              onDone={(t) => number(t, "mostEach")}
              className="w-14 text-right"
            />
            times;
          </label>
        )}
        <label className="flex items-center gap-2">
          {entry.roster ? "all together" : "All together begin"} at most
          <TypedInput
            label="Sittings in all"
            inputMode="numeric"
            placeholder="any"
            value={entry.most ? String(entry.most) : ""}
            onDone={(t) => number(t, "most")}
            className="w-16 text-right"
          />
          times.
        </label>
      </div>
      <p className="text-[13px] leading-snug text-slate">Whoever has begun may finish, also after it closes.</p>
      {problem && <Said problem={problem} />}
      {editing !== undefined && (
        <RosterDialog
          id={editing}
          link={release.link}
          onClose={() => setEditing(undefined)}
          onMade={(id) => void set({ roster: id })}
          onDeleted={() => setEditing(undefined)}
        />
      )}
    </section>
  );
}
