import type { Doc } from "../../api/types";
import { useDraftStore } from "../model/draft";
import { Chapter, usePlay } from "./Chapter";
import { Num, Pick } from "../../kit/sentences";
import { startsOf } from "../../document/parts";

type Play = Doc["play"];

/** From when it is checked until it is over. */
export function Trying() {
  const store = useDraftStore();
  const { doc, play, set } = usePlay();
  const asked = play.check === "ask" || play.check === "full";
  const frame = doc.board.check;
  const board = (apply: (b: Doc["board"]) => void) =>
    store.getState().change({ says: "choose where Check is", apply: (d) => apply(d.board) });
  return (
    <>
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
              none: "never (submit only)",
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
          . Pieces show whether they are correct{" "}
          <Pick
            label="When pieces show whether they are correct"
            value={play.show}
            options={{ never: "never", check: "at a check", placement: "at once, at each placement" }}
            onPick={(v) => set((p) => (p.show = v))}
            end
          />
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
          . The check button is{" "}
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
          After {asked ? "a check that failed" : "an incorrect placement"}{" "}
          <Pick
            label="After a failed check"
            value={`${play.wrongPieces} ${play.rightPieces}`}
            options={{
              "stay stay": "every piece stays where it is",
              "stay hold": "correct pieces are locked, wrong ones stay",
              "stay home": `correct pieces return to ${startsOf(doc)}, wrong ones stay`,
              "home stay": `wrong pieces return to ${startsOf(doc)}, correct ones stay`,
              "home hold": `wrong pieces return to ${startsOf(doc)}, correct ones are locked`,
              "home home": `all pieces return to ${startsOf(doc)}`,
            }}
            onPick={(v) =>
              set((p) => {
                [p.wrongPieces, p.rightPieces] = v.split(" ") as [Play["wrongPieces"], Play["rightPieces"]];
              })
            }
            end
          />{" "}
          They{" "}
          <Pick
            label="Starting over"
            value={String(play.restart)}
            options={{ false: "cannot start over", true: "can start over at any time" }}
            onPick={(v) => set((p) => (p.restart = v === "true"))}
            end
          />
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
              none: "score only",
            }}
            onPick={(v) => set((p) => (p.review = v))}
            end
          />
        </p>
      </Chapter>
    </>
  );
}
