import { useEffect, useMemo, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { Play } from "lucide-react";
import { useStore } from "zustand";
import { plural, t } from "@lingui/core/macro";
import { requestID } from "../api/request";
import { api, ask, Failed, problemOf } from "../api/client";
import type { Card, Me, Series, SeriesDraft } from "../api/types";
import { Conflict } from "../document/Conflict";
import { whileSettled } from "../document/saver";
import { SaveState } from "../document/SaveState";
import { useSaver } from "../document/useSaver";
import { ReleaseDialog } from "../release/ReleaseDialog";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { TypedInput } from "../kit/TypedInput";
import { RunningOrder } from "./RunningOrder";
import { SeriesEnd } from "./SeriesEnd";
import { SeriesRehearsal } from "./SeriesRehearsal";
import { useCards } from "../shelf/useShelf";
import { StepPane } from "./StepPane";
import { createSeries, keepCopy, write, type SeriesEditing } from "./seriesDraft";

/** A series of activities and pages. */
export function SeriesView({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const draft = useQuery({
    queryKey: ["series", id],
    queryFn: () => whileSettled(id, () => ask(api.GET("/api/series/{id}", { params: { path: { id } } }))),
    staleTime: Infinity,
    gcTime: 0,
  });
  if (draft.error)
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problemOf(draft.error)} />
      </main>
    );
  if (!draft.data) return <p className="p-8 text-slate">{t`Opening…`}</p>;
  return <Editor key={id + draft.data.revision} draft={draft.data} me={me} />;
}

function Editor({ draft, me }: { draft: SeriesDraft; me: Me }) {
  const [store] = useState(() => createSeries(draft, me.role === "designer"));
  const session = useStore(store);
  const queries = useQueryClient();
  const saver = useSaver<Series>({
    store,
    draft,
    write,
    account: me.email,
    form: "series",
    onLeft: () => void queries.invalidateQueries({ queryKey: ["series-list"] }),
  });
  const { doc } = session;
  const change: SeriesEditing["change"] = (says, apply, merge) => session.change({ says, apply, merge });
  const series: SeriesEditing = { id: session.id, doc, change };
  const [chosen, setChosen] = useState(0);
  const [from, setFrom] = useState<number>();
  const [releasing, setReleasing] = useState(false);
  const [request] = useState(requestID);
  const cards = useCards(doc.steps.flatMap((s) => (s.activity ? [s.activity] : [])));
  const [picked, setPicked] = useState<Card[]>([]); // known before they are asked for
  const byID = useMemo(() => new Map([...picked, ...(cards.data ?? [])].map((c) => [c.id, c])), [picked, cards.data]);
  const step = doc.steps[Math.min(chosen, doc.steps.length - 1)];
  const loading = cards.isPending || cards.isPlaceholderData;
  const missing = loading ? 0 : doc.steps.filter((s) => s.activity && !byID.has(s.activity)).length;
  useEffect(() => {
    const keys = (e: KeyboardEvent) => {
      if (!(e.ctrlKey || e.metaKey) || (e.target as HTMLElement).closest("input, textarea, [contenteditable=true]"))
        return;
      if (e.key === "z" && !e.shiftKey) session.undo();
      else if (e.key === "y" || (e.key === "z" && e.shiftKey)) session.redo();
      else return;
      e.preventDefault();
    };
    addEventListener("keydown", keys);
    return () => removeEventListener("keydown", keys);
  });
  if (cards.isPending) return <p className="p-8 text-slate">{t`Opening…`}</p>;
  if (from !== undefined) return <SeriesRehearsal series={series} from={from} onLeave={() => setFrom(undefined)} />;
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex min-h-12 flex-wrap items-center gap-3 border-b border-line bg-paper px-4 py-1">
        <Link to="/" className="whitespace-nowrap text-slate hover:text-ink">
          {t`Shelf /`}
        </Link>
        <h1 className="sr-only">{doc.title}</h1>
        <TypedInput
          label={t`Title`}
          value={doc.title}
          maxLength={200}
          onDone={(title) => (title.trim() ? change("rename", (d) => void (d.title = title.trim())) : false)}
          className="h-8 w-72 border-transparent font-heading text-lg font-semibold hover:border-line"
        />
        <SaveState store={store} />
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <Button disabled={doc.steps.length === 0} onClick={() => setFrom(0)}>
            <Play size={15} aria-hidden /> {t`Rehearse`}
          </Button>
          <Link to={`/activity/${draft.id}/releases`} className="px-2 whitespace-nowrap text-slate hover:text-ink">
            {t`Releases and sittings`}
          </Link>
          {me.role === "designer" && (
            <Button kind="main" onClick={() => setReleasing(true)}>
              {t`Release…`}
            </Button>
          )}
        </span>
      </header>
      <main className="grid flex-1 content-start items-start grid-cols-[minmax(0,1fr)] gap-x-5 gap-y-4 p-4 lg:grid-cols-[minmax(0,1fr)_minmax(20rem,28rem)]">
        <RunningOrder
          series={series}
          cards={byID}
          onPicked={(some) => setPicked([...picked, ...some])}
          chosen={chosen}
          onChoose={setChosen}
          onRehearse={setFrom}
        />
        <div className="self-stretch lg:col-start-2 lg:row-span-2 lg:row-start-1">
          {step && <StepPane key={chosen} series={series} at={doc.steps.indexOf(step)} cards={byID} />}
        </div>
        <SeriesEnd series={series} cards={byID} />
      </main>
      {saver && (
        <Conflict
          store={store}
          saver={saver}
          copy={keepCopy}
          reload={() => queries.resetQueries({ queryKey: ["series", draft.id] })}
        />
      )}
      {releasing && (
        <ReleaseDialog
          id={draft.id}
          title={doc.title}
          about={t`A release freezes the series and its activities as they are now.`}
          onClose={() => setReleasing(false)}
          release={async (entry) => {
            await saver?.flush();
            const { revision, saving, problem } = store.getState();
            if (saving !== "saved") {
              if (problem) throw new Failed(problem);
              return undefined;
            }
            const path = { path: { id: draft.id } };
            const done = await ask(
              api.POST("/api/series/{id}/releases", {
                params: path,
                body: { revision, request: `${request}.${revision}`, entry },
              }),
            );
            void queries.invalidateQueries({ queryKey: ["series-list"] });
            return done;
          }}
          facts={
            <>
              <li>
                {plural(doc.steps.filter((s) => s.activity).length, { one: "# activity", other: "# activities" })},{" "}
                {plural(doc.steps.filter((s) => s.page).length, { one: "# page", other: "# pages" })}
              </li>
              {missing > 0 && (
                <li className="text-ember">
                  {plural(missing, { one: "One activity no longer exists", other: "# activities no longer exist" })}
                </li>
              )}
              <li>{doc.passMark > 0 ? t`Passed from ${doc.passMark}%` : t`No pass mark`}</li>
            </>
          }
        />
      )}
    </div>
  );
}
