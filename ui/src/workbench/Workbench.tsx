import { useEffect, useMemo, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { api, ask, problemOf } from "../api/client";
import type { Doc, Draft, Me } from "../api/types";
import { Conflict } from "../document/Conflict";
import { whileSettled, type Saver } from "../document/saver";
import { useSaver } from "../document/useSaver";
import { engine, EngineError } from "../engine/engine";
import { Said } from "../shared/Said";
import { BoardEditor } from "./board/BoardEditor";
import { takeDocument } from "./changes";
import { keepCopy, write } from "./saving";
import { useFileDrop } from "./content/useFileDrop";
import { Demonstrating } from "./demonstrate/Demonstrating";
import { Dialogs } from "./dialogs/Dialogs";
import { createDraft, DraftProvider, lostWords, useDraft, useDraftStore, type DraftStore } from "./draft";
import { Finder } from "./Finder";
import { Instructions } from "./Instructions";
import { Keys } from "./Keys";
import { Ledger } from "./ledger/Ledger";
import { proofRoom } from "./proof/words";
import { ProofStrip } from "./proof/ProofStrip";
import { Rehearsing } from "./rehearse/Rehearsing";
import { Trail } from "./rehearse/Trail";
import { useRehearsal } from "./rehearse/rehearsal";
import { Sheet } from "./sheet/Sheet";
import { TopBar } from "./TopBar";
import { useWorkbenchKeys } from "./useWorkbenchKeys";
import { keepView } from "./view";

/** The editor: board left, ledger right, proof below. */
export function Workbench({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const draft = useQuery({
    queryKey: ["draft", id],
    queryFn: () => whileSettled(id, () => ask(api.GET("/api/activities/{id}", { params: { path: { id } } }))),
    gcTime: 0,
    staleTime: Infinity,
  });
  if (draft.isPending) return <p className="p-8 text-slate">Opening…</p>;
  if (draft.isError) {
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problemOf(draft.error)} />
        <a href="/" className="mt-4 inline-block text-feather underline">
          Go to the shelf
        </a>
      </main>
    );
  }
  return <Open key={draft.data.id + draft.data.revision} draft={draft.data} me={me} />;
}

/** A draft with its store and its saver, for as long as it is open. */
function Open({ draft, me }: { draft: Draft; me: Me }) {
  const queries = useQueryClient();
  const [store] = useState<DraftStore>(() => createDraft(draft));
  const [asked, setAsked] = useSearchParams();

  // A link can lead to a cell.
  useEffect(() => {
    const item = asked.get("item");
    if (!item) return;
    store.setState({ lens: "placing", byItem: false, cellAsked: { item, target: asked.get("target") ?? "" } });
    store.getState().select({ items: [item] });
    setAsked({}, { replace: true });
  }, [store, asked, setAsked]);

  useEffect(() => keepView(store), [store]);
  const saver = useSaver<Doc>({
    store,
    draft,
    write,
    account: me.email,
    form: "activity",
    onLeft: () => void queries.invalidateQueries({ queryKey: ["shelf"] }),
  });

  return (
    <DraftProvider value={store}>
      <Known />
      {saver && <Room saver={saver} me={me} />}
    </DraftProvider>
  );
}

/** Asks the engine about the draft after each change; a late answer to an older draft is dropped. */
function Known() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  useEffect(() => {
    let live = true;
    engine.figures(doc, "latest").then(
      (known) => {
        if (!live) return;
        store.setState({ known, fault: undefined });
        // Tags or copies have changed, and an order or a need rested on them.
        if (known.settled) {
          const { settled, lost } = known;
          store.getState().adjust((d) => takeDocument(settled, "").apply(d));
          if (lost?.length) store.setState({ remark: lostWords(lost) });
        }
      },
      (error: unknown) => {
        if (!live) return;
        const faults = error instanceof EngineError ? error.failure.faults : undefined;
        store.setState({ fault: faults?.[0]?.message ?? (error instanceof Error ? error.message : String(error)) });
      },
    );
    return () => {
      live = false;
    };
  }, [store, doc]);
  return null;
}

/** The three positions of the divider. */
const rooms = {
  board: "lg:grid-cols-[minmax(0,72fr)_minmax(0,28fr)]",
  even: "lg:grid-cols-[minmax(0,53fr)_minmax(0,47fr)]",
  ledger: "lg:grid-cols-[minmax(0,30fr)_minmax(0,70fr)]",
};

function Room({ saver, me }: { saver: Saver<Doc>; me: Me }) {
  const doc = useDraft((s) => s.doc);
  const rehearsal = useRehearsal(doc);
  const queries = useQueryClient();
  const divider = useDraft((s) => s.divider);
  const demonstrating = useDraft((s) => s.demonstrating);
  const store = useDraftStore();
  const asked = useDraft((s) => s.toRehearse);
  const { play } = rehearsal;
  useEffect(() => {
    if (!asked) return;
    store.setState({ toRehearse: undefined, demonstrating: false });
    play(asked.moves, asked.setting);
  }, [asked, play, store]);
  const drop = useFileDrop();
  const title = useMemo(() => doc.title || "Untitled", [doc.title]);

  useEffect(() => {
    document.title = `${title} · Keen Magpie`;
  }, [title]);

  useWorkbenchKeys();

  return (
    <div className="grid h-full grid-rows-[48px_minmax(0,1fr)_auto]">
      <TopBar me={me} />
      <main
        {...drop.handlers}
        className={`grid min-h-0 grid-cols-1 grid-rows-[44rem_30rem] overflow-auto ${rooms[divider]} lg:grid-rows-1 lg:overflow-hidden ${drop.over ? "outline-3 -outline-offset-3 outline-feather" : ""}`}
      >
        <section aria-label="Board" data-zone="board" className="flex min-h-96 min-w-0 flex-col gap-2 p-4 pb-2">
          {rehearsal.on ? (
            <Rehearsing rehearsal={rehearsal} />
          ) : demonstrating ? (
            <Demonstrating />
          ) : (
            <>
              <Instructions />
              <BoardEditor onRehearse={rehearsal.start} />
            </>
          )}
        </section>
        <section
          aria-label="Ledger"
          data-zone="ledger"
          className="relative flex min-h-96 min-w-0 flex-col border-line bg-paper max-lg:border-t lg:border-l"
        >
          <Ledger me={me} />
          {!rehearsal.on && <Sheet />}
          {rehearsal.on && <Trail rehearsal={rehearsal} />}
          <div id={proofRoom} className="contents" />
        </section>
      </main>
      <ProofStrip />
      <Finder rehearse={rehearsal.start} />
      <Keys />
      <Dialogs saver={saver} me={me} />
      <Conflict
        store={store}
        saver={saver}
        copy={keepCopy}
        reload={() => queries.resetQueries({ queryKey: ["draft", store.getState().id] })}
      />
    </div>
  );
}
