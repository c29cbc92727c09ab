import { useEffect, useRef } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import type { Doc, Me } from "../api/types";
import { fetchEditor } from "../board/RichEditor";
import { Conflict } from "../document/Conflict";
import type { Saver } from "../document/saver";
import { BoardEditor } from "./board/BoardEditor";
import { useFileDrop } from "./model/useFileDrop";
import { Demonstrating } from "./demonstrate/Demonstrating";
import { Dialogs } from "./dialogs/Dialogs";
import { useDraft, useDraftStore } from "./model/draft";
import { ReplyOnBoard } from "./feedback/ReplyOnBoard";
import { Finder } from "./Finder";
import { Instructions } from "./Instructions";
import { Keys } from "./Keys";
import { Ledger } from "./Ledger";
import { HeatOnBoard } from "./outcomes/HeatOnBoard";
import { ProofStrip } from "./proof/ProofStrip";
import { proofRoom } from "./proof/words";
import { Rehearsing } from "./rehearse/Rehearsing";
import { useRehearsal } from "./rehearse/rehearsal";
import { Trail } from "./rehearse/Trail";
import { keepCopy } from "./model/saving";
import { Sheet } from "./details/Sheet";
import { TopBar } from "./TopBar";
import { useWorkbenchKeys } from "./useWorkbenchKeys";

/** The three positions of the divider. */
const rooms = {
  board: "lg:grid-cols-[minmax(0,72fr)_minmax(0,28fr)]",
  even: "lg:grid-cols-[minmax(0,53fr)_minmax(0,47fr)]",
  ledger: "lg:grid-cols-[minmax(0,30fr)_minmax(0,70fr)]",
};

/** What the lenses show over the board; always the same, so that the board is not drawn again for it. */
const overBoard = (
  <>
    <ReplyOnBoard />
    <HeatOnBoard />
  </>
);

/** Where a rehearsal is longer than the window its bar lies over it: what the focus comes to stays above that. */
const aboveBar = "scroll-pb-28 lg:scroll-pb-0";

/** The workbench laid out: board, ledger, proof, and what comes over them. */
export function Room({ saver, me }: { saver: Saver<Doc>; me: Me }) {
  const rehearsal = useRehearsal();
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
  // Where the room is too small for both, the ledger lies below the board: what is opened there is shown.
  const ledger = useRef<HTMLElement>(null);
  const opened = useDraft((s) => `${s.lens} ${s.sheet}`);
  const before = useRef(opened);
  useEffect(() => {
    if (before.current !== opened) void ledger.current?.scrollIntoView({ block: "nearest" });
    before.current = opened;
  }, [opened]);
  const drop = useFileDrop();
  const title = useDraft((s) => s.doc.title || t`Untitled`);

  useEffect(() => {
    document.title = t`${title} · Keen Magpie`;
  }, [title]);

  useWorkbenchKeys();
  useEffect(() => {
    const soon = setTimeout(fetchEditor, 1000);
    return () => clearTimeout(soon);
  }, []);

  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)_auto]">
      <TopBar me={me} />
      <main
        {...drop.handlers}
        className={`grid min-h-0 grid-cols-1 grid-rows-[44rem_30rem] overflow-auto ${rooms[divider]} lg:grid-rows-1 lg:overflow-hidden ${rehearsal.on ? aboveBar : ""} ${drop.over ? "outline-3 -outline-offset-3 outline-feather" : ""}`}
      >
        <section aria-label={t`Board`} data-zone="board" className="flex min-h-96 min-w-0 flex-col gap-2 p-4 pb-2">
          {rehearsal.on ? (
            <Rehearsing rehearsal={rehearsal} />
          ) : demonstrating ? (
            <Demonstrating />
          ) : (
            <>
              <Instructions />
              <BoardEditor onRehearse={rehearsal.start} over={overBoard} />
            </>
          )}
        </section>
        <section
          ref={ledger}
          aria-label={t`Ledger`}
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
