import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
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
    store.getState().change({ says: t`choose where Check is`, apply: (d) => apply(d.board) });
  return (
    <>
      <Chapter title={t`When it is checked`} moment="check" doc={doc}>
        <p>
          <Trans>
            It is checked{" "}
            <Pick
              label={t`Checked`}
              value={play.check}
              options={{
                ask: t`when they ask for it`,
                full: t`when nothing more can be placed`,
                each: t`at each placement`,
                none: t`never (submit only)`,
              }}
              onPick={(v) => set((p) => (p.check = v))}
            />
            {play.check === "ask" && (
              <Trans>
                , which they can{" "}
                <Pick
                  label={t`Check is offered`}
                  value={play.checkWhen}
                  options={{ any: t`at any time`, allPlaced: t`once everything is placed` }}
                  onPick={(v) => set((p) => (p.checkWhen = v))}
                />
              </Trans>
            )}
            . Pieces show whether they are correct{" "}
            <Pick
              label={t`When pieces show whether they are correct`}
              value={play.show}
              options={{ never: t`never`, check: t`at a check`, placement: t`at once, at each placement` }}
              onPick={(v) => set((p) => (p.show = v))}
              end
            />
          </Trans>
        </p>
        <p>
          <Trans>
            They have{" "}
            <Pick
              label={t`Attempts limited`}
              value={play.attempts === 0 ? "none" : "some"}
              options={{ some: t`this many attempts:`, none: t`as many attempts as they want` }}
              onPick={(v) => set((p) => (p.attempts = v === "none" ? 0 : 1))}
            />
            {play.attempts > 0 && (
              <>
                {" "}
                <Num
                  label={t`Attempts`}
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
              label={t`Where Check stands`}
              value={frame ? "board" : "bar"}
              options={{ bar: t`in the bar below`, board: t`on the board:` }}
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
                <Trans>
                  x{" "}
                  <Num
                    label={t`Check x`}
                    value={frame.x}
                    low={0}
                    high={doc.board.width}
                    onDone={(n) => board((b) => (b.check!.x = n))}
                  />{" "}
                  y{" "}
                  <Num
                    label={t`Check y`}
                    value={frame.y}
                    low={0}
                    high={doc.board.height}
                    onDone={(n) => board((b) => (b.check!.y = n))}
                  />
                  , where it can be dragged
                </Trans>
              </>
            )}
            .
          </Trans>
        </p>
      </Chapter>
      <Chapter title={t`When they try again`} moment="again" doc={doc}>
        <p>
          <Trans>
            After {asked ? t`a check that failed` : t`an incorrect placement`}{" "}
            <Pick
              label={t`After a failed check`}
              value={`${play.wrongPieces} ${play.rightPieces}`}
              options={{
                "stay stay": t`every piece stays where it is`,
                "stay hold": t`correct pieces are locked, wrong ones stay`,
                "stay home": t`correct pieces return to ${startsOf(doc)}, wrong ones stay`,
                "home stay": t`wrong pieces return to ${startsOf(doc)}, correct ones stay`,
                "home hold": t`wrong pieces return to ${startsOf(doc)}, correct ones are locked`,
                "home home": t`all pieces return to ${startsOf(doc)}`,
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
              label={t`Starting over`}
              value={String(play.restart)}
              options={{ false: t`cannot start over`, true: t`can start over at any time` }}
              onPick={(v) => set((p) => (p.restart = v === "true"))}
              end
            />
          </Trans>
        </p>
      </Chapter>
      <Chapter title={t`When it is over`} moment="over" doc={doc}>
        <p>
          <Trans>
            They see{" "}
            <Pick
              label={t`Shown afterwards`}
              value={play.review}
              options={{
                own: t`their own placements`,
                key: t`the answer`,
                both: t`both, with a switch between them`,
                none: t`score only`,
              }}
              onPick={(v) => set((p) => (p.review = v))}
              end
            />
          </Trans>
        </p>
      </Chapter>
    </>
  );
}
