import { useDeferredValue, useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { ChevronLeft, ChevronRight, Search } from "lucide-react";
import { api, ask, problemOf } from "../api/client";
import type { Me, Release } from "../api/types";
import { short } from "../player/words";
import { clockWords } from "../player/useClock";
import { Button } from "../shared/Button";
import { Said } from "../shared/Said";
import { Downloads } from "./Downloads";
import { Erasing } from "./Erasing";
import { TotalsOnly } from "./Outcomes";
import { calledSo } from "./useOutcomes";

const day = new Intl.DateTimeFormat("en", { dateStyle: "medium", timeStyle: "short" });
const phases = { placing: "playing", paused: "between attempts", done: "finished" } as const;
type Phase = keyof typeof phases;

const columns = [
  ["learner", "Learner", ""],
  ["started", "Started", ""],
  ["state", "State", ""],
  ["attempts", "Attempts", "text-right"],
  ["score", "Score", "text-right"],
  ["", "Band", ""],
  ["took", "Time", "text-right"],
] as const;
type Sort = Exclude<(typeof columns)[number][0], "">;

/** Who played a release, or a step of a series, and with what score: searched, filtered, sorted, a page at a time. */
export function Sittings({
  release,
  activity,
  me,
  step,
}: {
  release: Release;
  activity: string;
  me: Me;
  step?: number;
}) {
  const [text, setText] = useState("");
  const [phase, setPhase] = useState<Phase | "">("");
  const [band, setBand] = useState("");
  const [by, setBy] = useState<{ sort: Sort; down: boolean }>({ sort: "started", down: true });
  const [page, setPage] = useState(0);
  const [chosen, setChosen] = useState<Record<number, string>>({});
  const [erasing, setErasing] = useState(false);
  const asked = {
    text: useDeferredValue(text.trim()) || undefined,
    phase: phase || undefined,
    band: band || undefined,
    ...by,
    page,
    step,
  };
  const sittings = useQuery({
    queryKey: ["sittings", release.id, asked],
    queryFn: () => ask(api.GET("/api/releases/{id}/sittings", { params: { path: { id: release.id }, query: asked } })),
    refetchInterval: 5000,
    placeholderData: keepPreviousData,
  });
  const s = sittings.data;
  const anew = () => setPage(0);
  const field = "h-8 rounded-(--radius) border border-edge bg-paper px-2";
  const head = "border-b border-line bg-shade px-3 py-2 text-left font-semibold text-slate whitespace-nowrap";
  const figure = "border-b border-line px-3 py-1.5 text-right tabular-nums whitespace-nowrap";
  const cell = "border-b border-line px-3 py-1.5";
  if (sittings.isError) return <Said problem={problemOf(sittings.error)} />;
  if (!s) return <p className="text-slate">Opening…</p>;
  if (s.least) return <TotalsOnly least={s.least} sittings={s.all} />;
  if (s.all === 0)
    return (
      <p className="rounded-(--radius) border border-line bg-paper p-6 text-slate">
        Nobody has played this yet. Give learners the link above.
      </p>
    );
  const pages = Math.max(1, Math.ceil(s.found / s.onPage));
  const many = Object.keys(chosen).length;
  const replay = (id: number) =>
    `/activity/${activity}/releases/${release.id}/sittings/${id}${step ? `?step=${step}` : ""}`;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <label className="relative">
          <Search size={15} aria-hidden className="absolute top-2 left-2 text-slate" />
          <input
            type="search"
            aria-label={s.names ? "Find a learner" : "Find a sitting by its number"}
            placeholder={s.names ? "Find a learner" : "Number of a sitting"}
            value={text}
            onChange={(e) => (setText(e.target.value), anew())}
            className={`${field} w-52 pl-7`}
          />
        </label>
        <select
          aria-label="State"
          value={phase}
          onChange={(e) => (setPhase(e.target.value as Phase | ""), anew())}
          className={field}
        >
          <option value="">every state</option>
          {Object.entries(phases).map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        {s.bands.length > 0 && (
          <select aria-label="Band" value={band} onChange={(e) => (setBand(e.target.value), anew())} className={field}>
            <option value="">every band</option>
            {s.bands.map((b) => (
              <option key={b}>{b}</option>
            ))}
          </select>
        )}
        <span role="status" className="text-slate tabular-nums">
          {s.found === s.all
            ? s.all.toLocaleString("en")
            : `${s.found.toLocaleString("en")} of ${s.all.toLocaleString("en")}`}
        </span>
        <span className="ml-auto flex items-center gap-2">
          {me.owner && many > 0 && (
            <Button onClick={() => setErasing(true)}>Delete {many === 1 ? "this sitting" : `${many} sittings`}…</Button>
          )}
          <Downloads release={release.id} step={step} />
        </span>
      </div>
      <div className="overflow-auto rounded-(--radius) border border-line bg-paper">
        <table className="w-full">
          <thead>
            <tr>
              {me.owner && (
                <th className={`${head} w-8`}>
                  <input
                    type="checkbox"
                    aria-label="Choose all on this page"
                    checked={s.sittings.length > 0 && s.sittings.every((x) => x.id in chosen)}
                    onChange={(e) =>
                      setChosen(
                        e.target.checked
                          ? Object.fromEntries(s.sittings.map((x) => [x.id, calledSo(x.learner, x.id)]))
                          : {},
                      )
                    }
                  />
                </th>
              )}
              {columns.map(([sort, title, side]) => {
                const words = sort === "score" ? `Score of ${s.points}` : title;
                const now = by.sort === sort;
                return (
                  <th
                    key={title}
                    className={`${head} ${side}`}
                    aria-sort={now ? (by.down ? "descending" : "ascending") : undefined}
                  >
                    {sort === "" || (sort === "learner" && !s.names) ? (
                      words
                    ) : (
                      <button
                        type="button"
                        className="font-[inherit] hover:text-ink"
                        onClick={() => (setBy({ sort, down: now ? !by.down : sort !== "learner" }), anew())}
                      >
                        {words} {now && <span aria-hidden>{by.down ? "▾" : "▴"}</span>}
                      </button>
                    )}
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {s.sittings.map((x) => (
              <tr key={x.id} className={x.id in chosen ? "bg-feather-soft" : ""}>
                {me.owner && (
                  <td className={cell}>
                    <input
                      type="checkbox"
                      aria-label={`Choose ${calledSo(x.learner, x.id)}`}
                      checked={x.id in chosen}
                      onChange={(e) =>
                        setChosen((was) => {
                          const now = { ...was };
                          if (e.target.checked) now[x.id] = calledSo(x.learner, x.id);
                          else delete now[x.id];
                          return now;
                        })
                      }
                    />
                  </td>
                )}
                <td className={`${cell} font-medium`}>
                  <Link
                    to={replay(x.id)}
                    title="Play this sitting again"
                    className="text-feather underline underline-offset-4"
                  >
                    {calledSo(x.learner, x.id)}
                  </Link>
                </td>
                <td className={`${cell} whitespace-nowrap text-slate`}>{day.format(new Date(x.startedAt))}</td>
                <td className={`${cell} text-slate`}>{phases[x.phase as Phase] ?? x.phase}</td>
                <td className={figure}>{x.attempts}</td>
                <td className={figure}>{x.attempts > 0 ? `${short(x.score)} (${short(x.percent)} %)` : "–"}</td>
                <td className={cell}>{x.band}</td>
                <td className={figure}>{x.took > 0 ? clockWords(x.took) : "–"}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {s.found === 0 && <p className="p-6 text-slate">No sitting is like that.</p>}
      </div>
      {pages > 1 && (
        <nav aria-label="Pages" className="mt-2 flex items-center justify-end gap-2 text-slate tabular-nums">
          <Button aria-label="Page before" disabled={page === 0} onClick={() => setPage(page - 1)} className="px-2">
            <ChevronLeft size={16} />
          </Button>
          {(page * s.onPage + 1).toLocaleString("en")}–{Math.min(s.found, (page + 1) * s.onPage).toLocaleString("en")}
          <Button
            aria-label="Next page"
            disabled={page >= pages - 1}
            onClick={() => setPage(page + 1)}
            className="px-2"
          >
            <ChevronRight size={16} />
          </Button>
        </nav>
      )}
      {erasing && (
        <Erasing
          traces={Object.keys(chosen).map((id) => ({ kind: "sitting" as const, id: Number(id) }))}
          says={Object.values(chosen)}
          onClose={(done) => {
            setErasing(false);
            if (done) setChosen({});
          }}
        />
      )}
    </>
  );
}
