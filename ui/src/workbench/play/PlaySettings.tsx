import type { ReactNode } from "react";
import type { Doc } from "../../api/types";
import { Button } from "../../shared/Button";
import { useDraft, useDraftStore } from "../draft";
import { Effect, type Moment } from "./Effect";
import { Hints } from "./Hints";
import { LearnerWords } from "./LearnerWords";
import { presets, presetWords } from "./presets";
import { Num, Pick } from "./sentences";

type Play = Doc["play"];

/** How it is played, told along the learner's time: sentences with choices in them. */
export function PlaySettings() {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const { play } = doc;
  const set = (apply: (p: Play) => void) =>
    store.getState().change({ says: "change play settings", apply: (d) => apply(d.play) });
  const asked = play.check === "ask" || play.check === "full";
  const frame = doc.board.check;
  const board = (apply: (b: Doc["board"]) => void) =>
    store.getState().change({ says: "say where Check stands", apply: (d) => apply(d.board) });
  return (
    <div className="min-h-0 flex-1 overflow-auto" role="group" aria-label="Play settings">
      <div className="flex flex-wrap items-center gap-2 border-b border-line bg-shade px-4 py-2">
        <span>Set all of it for</span>
        {Object.entries(presets).map(([id, preset]) => (
          <Button
            key={id}
            className="h-7 px-2"
            title={presetWords(preset.play)}
            onClick={() => {
              store
                .getState()
                .change({ says: `set it for ${preset.name}`, apply: (d) => void Object.assign(d.play, preset.play) });
              store.setState({ remark: `Set for ${preset.name}: ${presetWords(preset.play)}` });
            }}
          >
            {preset.name}
          </Button>
        ))}
        <Remark />
      </div>
      <Chapter title="When they arrive" moment="arrive" doc={doc}>
        <p>
          The pieces are laid out{" "}
          <Pick
            label="Order of the pieces"
            value={String(play.shuffle)}
            options={{ false: "in the order of the ledger", true: "shuffled for each learner" }}
            onPick={(v) => set((p) => (p.shuffle = v === "true"))}
          />
          ,{" "}
          <Pick
            label="Dealing"
            value={play.deal}
            options={{ all: "all at once", one: "one at a time" }}
            onPick={(v) => set((p) => (p.deal = v))}
          />
          .
        </p>
        <p>
          They have{" "}
          <Pick
            label="Time limit"
            value={play.timeLimit > 0 ? "limit" : "none"}
            options={{ none: "all the time they want", limit: "a limited time:" }}
            onPick={(v) => set((p) => (p.timeLimit = v === "limit" ? 300000 : 0))}
          />
          {play.timeLimit > 0 && (
            <>
              {" "}
              <Num
                label="Minutes"
                value={play.timeLimit / 60000}
                low={0.1}
                high={1440}
                onDone={(n) => set((p) => (p.timeLimit = Math.round(n * 60000)))}
              />{" "}
              minutes, and some may be given up to{" "}
              <Num
                label="Extension"
                value={play.extension}
                low={100}
                high={1000}
                whole
                onDone={(n) => set((p) => (p.extension = n))}
              />{" "}
              % of that
            </>
          )}
          . Coming back, they{" "}
          <Pick
            label="Coming back"
            value={play.reenter}
            options={{ resume: "go on where they were", restart: "start over" }}
            onPick={(v) => set((p) => (p.reenter = v))}
          />
          .
        </p>
        <Hints />
      </Chapter>
      <Chapter title="When a piece is in hand" moment="hand" doc={doc}>
        <p>
          <Pick
            label="Beckoning"
            value={play.beckon}
            options={{
              none: "No target shows itself",
              open: "Targets that let it in show themselves",
              right: "Targets where it is right show themselves",
            }}
            onPick={(v) => set((p) => (p.beckon = v))}
          />
          .
        </p>
      </Chapter>
      <Chapter title="When it is let go" moment="drop" doc={doc}>
        <p>
          It hits a target when{" "}
          <Pick
            label="How exactly it must hit"
            value={typeof play.hit === "string" ? play.hit : "overlap"}
            options={{
              centre: "its middle is inside",
              touch: "it touches it",
              inside: "it lies wholly inside",
              overlap: "enough of it lies over it:",
            }}
            onPick={(v) => set((p) => (p.hit = v === "overlap" ? { overlap: 60 } : v))}
          />
          {typeof play.hit !== "string" && (
            <>
              {" "}
              <Num
                label="Overlap in percent"
                value={play.hit.overlap}
                low={1}
                high={100}
                whole
                onDone={(n) => set((p) => (p.hit = { overlap: n }))}
              />{" "}
              %
            </>
          )}
          ; targets reach{" "}
          <Num label="Reach" value={play.reach} low={0} high={1000} onDone={(n) => set((p) => (p.reach = n))} /> units
          beyond their edge. Beside them all, it{" "}
          <Pick
            label="Beside all targets"
            value={play.offTarget}
            options={{ home: "goes home", stay: "stays where it lies" }}
            onPick={(v) => set((p) => (p.offTarget = v))}
          />
          .
        </p>
        <p>
          Moves{" "}
          <Pick
            label="Undoing"
            value={String(play.undo)}
            options={{ true: "can be undone", false: "cannot be undone" }}
            onPick={(v) => set((p) => (p.undo = v === "true"))}
          />
          , and all pieces{" "}
          <Pick
            label="Putting all back"
            value={String(play.reset)}
            options={{ true: "can be put back at once", false: "cannot be put back at once" }}
            onPick={(v) => set((p) => (p.reset = v === "true"))}
          />
          .
          {play.check === "each" && (
            <>
              {" "}
              Being turned away{" "}
              <Pick
                label="Refusals"
                value={play.refusals}
                options={{ free: "costs nothing", count: "counts as a wrong placement" }}
                onPick={(v) => set((p) => (p.refusals = v))}
              />
              .
            </>
          )}
        </p>
      </Chapter>
      <Chapter title="When it is checked" moment="check" doc={doc}>
        <p>
          It is checked{" "}
          <Pick
            label="Checked"
            value={play.check}
            options={{
              ask: "when they ask for it",
              full: "when nothing more can be placed",
              each: "at each placement",
              none: "never: it is only handed in",
            }}
            onPick={(v) => set((p) => (p.check = v))}
          />
          {play.check === "ask" && (
            <>
              , which they can{" "}
              <Pick
                label="Check is offered"
                value={play.checkWhen}
                options={{ any: "at any time", allPlaced: "once everything is placed" }}
                onPick={(v) => set((p) => (p.checkWhen = v))}
              />
            </>
          )}
          . Pieces show whether they are right{" "}
          <Pick
            label="Right and wrong show"
            value={play.show}
            options={{ never: "never", check: "at a check", placement: "at once, at each placement" }}
            onPick={(v) => set((p) => (p.show = v))}
          />
          .
        </p>
        <p>
          They have{" "}
          <Pick
            label="Attempts limited"
            value={play.attempts === 0 ? "none" : "some"}
            options={{ some: "this many attempts:", none: "as many attempts as they want" }}
            onPick={(v) => set((p) => (p.attempts = v === "none" ? 0 : 1))}
          />
          {play.attempts > 0 && (
            <>
              {" "}
              <Num
                label="Attempts"
                value={play.attempts}
                low={1}
                high={999}
                whole
                onDone={(n) => set((p) => (p.attempts = n))}
              />
            </>
          )}
          . The button for it stands{" "}
          <Pick
            label="Where Check stands"
            value={frame ? "board" : "bar"}
            options={{ bar: "in the bar below", board: "on the board:" }}
            onPick={(v) =>
              board((b) => {
                if (v === "board") b.check = { x: b.width - 180, y: b.height - 76, w: 160, h: 56 };
                else delete b.check;
              })
            }
          />
          {frame && (
            <>
              {" "}
              x{" "}
              <Num
                label="Check x"
                value={frame.x}
                low={0}
                high={doc.board.width}
                onDone={(n) => board((b) => (b.check!.x = n))}
              />{" "}
              y{" "}
              <Num
                label="Check y"
                value={frame.y}
                low={0}
                high={doc.board.height}
                onDone={(n) => board((b) => (b.check!.y = n))}
              />
              , where it can be dragged
            </>
          )}
          .
        </p>
      </Chapter>
      <Chapter title="When they try again" moment="again" doc={doc}>
        <p>
          After {asked ? "a check that failed" : "a wrong placement"}{" "}
          <Pick
            label="After a failed check"
            value={`${play.wrongPieces} ${play.rightPieces}`}
            options={{
              "stay stay": "every piece stays where it is",
              "stay hold": "right pieces are held, wrong ones stay",
              "stay home": "right pieces go home, wrong ones stay",
              "home stay": "wrong pieces go home, right ones stay",
              "home hold": "wrong pieces go home, right ones are held",
              "home home": "every piece goes home",
            }}
            onPick={(v) =>
              set((p) => {
                [p.wrongPieces, p.rightPieces] = v.split(" ") as [Play["wrongPieces"], Play["rightPieces"]];
              })
            }
          />
          . They{" "}
          <Pick
            label="Starting over"
            value={String(play.restart)}
            options={{ false: "cannot start over", true: "can start over at any time" }}
            onPick={(v) => set((p) => (p.restart = v === "true"))}
          />
          .
        </p>
      </Chapter>
      <Chapter title="When it is over" moment="over" doc={doc}>
        <p>
          They see{" "}
          <Pick
            label="Shown afterwards"
            value={play.review}
            options={{
              own: "their own placements",
              key: "the answer",
              both: "both, with a switch between them",
              none: "nothing but the score",
            }}
            onPick={(v) => set((p) => (p.review = v))}
          />
          .
        </p>
      </Chapter>
      <LearnerWords />
    </div>
  );
}

function Remark() {
  const remark = useDraft((s) => s.remark);
  return remark ? (
    <p className="basis-full text-slate" role="status">
      {remark}
    </p>
  ) : null;
}

function Chapter({ title, moment, doc, children }: { title: string; moment: Moment; doc: Doc; children: ReactNode }) {
  return (
    <section aria-label={title} className="flex gap-4 border-b border-line px-4 py-2.5">
      <div className="min-w-0 flex-1 leading-7.5 [&_p]:mb-1">
        <h3 className="text-[15px]">{title}</h3>
        {children}
      </div>
      <Effect moment={moment} play={doc.play} />
    </section>
  );
}
