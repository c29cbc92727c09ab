import { useEffect, useMemo, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { Play, Redo2, Undo2 } from "lucide-react";
import { requestID } from "../api/request";
import { api, ask, problemOf } from "../api/client";
import type { Card, Me, SeriesDraft } from "../api/types";
import { ReleaseDialog } from "../release/ReleaseDialog";
import { Button } from "../shared/Button";
import { Said } from "../shared/Said";
import { TypedInput } from "../shared/TypedInput";
import { RunningOrder } from "./RunningOrder";
import { SeriesEnd } from "./SeriesEnd";
import { SeriesRehearsal } from "./SeriesRehearsal";
import { StepPane } from "./StepPane";
import { useSeriesDraft } from "./seriesDraft";

/** A series of activities and pages. */
export function SeriesView({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const draft = useQuery({
    queryKey: ["series", id],
    queryFn: () => ask(api.GET("/api/series/{id}", { params: { path: { id } } })),
    staleTime: 0,
    gcTime: 0,
  });
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: () => ask(api.GET("/api/activities")) });
  const problem = draft.error ?? shelf.error;
  if (problem)
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problemOf(problem)} />
      </main>
    );
  if (!draft.data || !shelf.data) return <p className="p-8 text-slate">Opening…</p>;
  return <Editor key={id} draft={draft.data} cards={shelf.data.activities} me={me} />;
}

const savingWords = { saved: "Saved", saving: "Saving…", failed: "Not saved" };

function Editor({ draft, cards, me }: { draft: SeriesDraft; cards: Card[]; me: Me }) {
  const series = useSeriesDraft(draft);
  const queries = useQueryClient();
  const { doc, change } = series;
  const [chosen, setChosen] = useState(0);
  const [from, setFrom] = useState<number>();
  const [releasing, setReleasing] = useState(false);
  const [request] = useState(requestID);
  const byID = useMemo(() => new Map(cards.map((c) => [c.id, c])), [cards]);
  const step = doc.steps[Math.min(chosen, doc.steps.length - 1)];
  const missing = doc.steps.filter((s) => s.activity && !byID.has(s.activity)).length;
  useEffect(() => {
    const keys = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || (e.target as HTMLElement).closest("input, textarea")) return;
      if (e.key === "z" && !e.shiftKey) series.undo();
      else if (e.key === "y" || (e.key === "z" && e.shiftKey)) series.redo();
      else return;
      e.preventDefault();
    };
    addEventListener("keydown", keys);
    return () => removeEventListener("keydown", keys);
  });
  const tool = "grid size-8 place-items-center rounded-(--radius) text-slate hover:bg-shade disabled:opacity-40";
  if (from !== undefined) return <SeriesRehearsal series={series} from={from} onLeave={() => setFrom(undefined)} />;
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex min-h-12 flex-wrap items-center gap-3 border-b border-line bg-paper px-4 py-1">
        <Link to="/" className="whitespace-nowrap text-slate hover:text-ink">
          Shelf /
        </Link>
        <TypedInput
          label="Title"
          value={doc.title}
          maxLength={200}
          onDone={(title) => (title.trim() ? change("rename", (d) => void (d.title = title.trim())) : false)}
          className="h-8 w-72 border-transparent font-heading text-lg font-semibold hover:border-line"
        />
        <span role="status" className={series.saving === "failed" ? "font-medium text-ember" : "text-slate"}>
          {savingWords[series.saving]}
          {series.problem && `: ${series.problem.detail}`}
        </span>
        <button
          type="button"
          className={tool}
          disabled={!series.undoable}
          onClick={series.undo}
          aria-label="Undo"
          title={series.undoable ? `Undo: ${series.undoable}` : "Nothing to undo"}
        >
          <Undo2 size={18} />
        </button>
        <button
          type="button"
          className={tool}
          disabled={!series.redoable}
          onClick={series.redo}
          aria-label="Redo"
          title={series.redoable ? `Redo: ${series.redoable}` : "Nothing to redo"}
        >
          <Redo2 size={18} />
        </button>
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <Button disabled={doc.steps.length === 0} onClick={() => setFrom(0)}>
            <Play size={15} aria-hidden /> Rehearse
          </Button>
          <Link to={`/activity/${draft.id}/releases`} className="px-2 whitespace-nowrap text-slate hover:text-ink">
            Releases and sittings
          </Link>
          {me.role === "designer" && (
            <Button kind="main" onClick={() => setReleasing(true)}>
              Release…
            </Button>
          )}
        </span>
      </header>
      <main className="grid flex-1 content-start items-start gap-x-5 gap-y-4 p-4 lg:grid-cols-[minmax(0,1fr)_minmax(20rem,28rem)]">
        <RunningOrder series={series} cards={byID} chosen={chosen} onChoose={setChosen} onRehearse={setFrom} />
        <div className="self-stretch lg:col-start-2 lg:row-span-2 lg:row-start-1">
          {step && <StepPane key={chosen} series={series} at={doc.steps.indexOf(step)} cards={byID} />}
        </div>
        <SeriesEnd series={series} cards={byID} />
      </main>
      {releasing && (
        <ReleaseDialog
          id={draft.id}
          title={doc.title}
          about="A release of a series is frozen whole, with its activities as they are now."
          onClose={() => setReleasing(false)}
          release={async () => {
            await series.flush();
            if (!series.isSaved()) return undefined;
            const path = { path: { id: draft.id } };
            const done = await ask(
              api.POST("/api/series/{id}/releases", {
                params: path,
                body: { revision: series.revision(), request: `${request}.${series.revision()}` },
              }),
            );
            await queries.invalidateQueries({ queryKey: ["series-list"] });
            return done;
          }}
          facts={
            <>
              <li>
                {several(doc.steps.filter((s) => s.activity).length, "activity", "activities")},{" "}
                {several(doc.steps.filter((s) => s.page).length, "page", "pages")}
              </li>
              {missing > 0 && (
                <li className="text-ember">
                  {missing === 1 ? "One activity is there no more" : `${missing} activities are there no more`}
                </li>
              )}
              <li>{doc.passMark > 0 ? `Passed from ${doc.passMark} %` : "No pass mark"}</li>
            </>
          }
        />
      )}
    </div>
  );
}

const several = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
