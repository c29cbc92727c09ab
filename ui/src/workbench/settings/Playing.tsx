import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Chapter, usePlay } from "./Chapter";
import { Hints } from "./Hints";
import { Num, Pick } from "../../kit/sentences";
import { TypedInput } from "../../kit/TypedInput";
import { useDraftStore } from "../model/draft";
import { lookOf, setLook } from "../model/styles";
import { change } from "../model/replies";

/** From when learners arrive until a piece is let go. */
export function Playing() {
  const { doc, play, set } = usePlay();
  const store = useDraftStore();
  const told = doc.replies.filter((r) => r.moment === "timeUp");
  const limit = (ms: number) =>
    void store.getState().edit(t`change play settings`, { act: "timeLimit", to: String(ms) });
  return (
    <>
      <Chapter title={t`When they arrive`} moment="arrive" doc={doc}>
        <p>
          <Trans>
            The pieces are laid out{" "}
            <Pick
              label={t`Order of the pieces`}
              value={String(play.shuffle)}
              options={{ false: t`in table order`, true: t`shuffled for each learner` }}
              onPick={(v) => set((p) => (p.shuffle = v === "true"))}
            />
            ,{" "}
            <Pick
              label={t`Dealing`}
              value={play.deal}
              options={{ all: t`all at once`, one: t`one at a time` }}
              onPick={(v) => set((p) => (p.deal = v))}
              end
            />
          </Trans>
        </p>
        <p>
          <Trans>
            They have{" "}
            <Pick
              label={t`Time limit`}
              value={play.timeLimit > 0 ? "limit" : "none"}
              options={{ none: t`no time limit`, limit: t`a limited time:` }}
              onPick={(v) => limit(v === "limit" ? 300000 : 0)}
            />
            {play.timeLimit > 0 && (
              <>
                {" "}
                <Trans>
                  <Num
                    label={t`Minutes`}
                    value={play.timeLimit / 60000}
                    low={0.1}
                    high={1440}
                    onDone={(n) => set((p) => (p.timeLimit = Math.round(n * 60000)))}
                  />{" "}
                  minutes, and with extra time at most{" "}
                  <Num
                    label={t`Extension`}
                    value={play.extension}
                    low={100}
                    high={1000}
                    whole
                    onDone={(n) => set((p) => (p.extension = n))}
                  />{" "}
                  % of that
                </Trans>
                {told.length === 1 && (
                  <Trans>
                    . When it is up, they read{" "}
                    <TypedInput
                      label={t`Read when the time is up`}
                      value={told[0]!.say.text}
                      onFocus={(e) => e.target.select()}
                      onDone={(text) =>
                        change(
                          store,
                          told[0]!.id,
                          t`change what is read when the time is up`,
                          (r) => (r.say.text = text),
                        )
                      }
                      className="w-64 max-w-full font-medium text-feather"
                    />
                  </Trans>
                )}
              </>
            )}
            . On return they{" "}
            <Pick
              label={t`Coming back`}
              value={play.reenter}
              options={{ resume: t`go on where they were`, restart: t`start over` }}
              onPick={(v) => set((p) => (p.reenter = v))}
              end
            />
          </Trans>
        </p>
        <Hints />
      </Chapter>
      <Chapter title={t`When a piece is in hand`} moment="hand" doc={doc}>
        <p>
          <Pick
            label={t`Highlighting`}
            value={play.beckon}
            options={{
              none: t`No highlighting`,
              open: t`Highlight accepting targets`,
              right: t`Highlight correct targets`,
            }}
            onPick={(v) => set((p) => (p.beckon = v))}
            end
          />
          {doc.items.length > 0 && <SizeInHand />}
        </p>
      </Chapter>
      <Chapter title={t`When it is dropped`} moment="drop" doc={doc}>
        <p>
          <Trans>
            It hits a target when{" "}
            <Pick
              label={t`How exactly it must hit`}
              value={typeof play.hit === "string" ? play.hit : "overlap"}
              options={{
                centre: t`its centre is inside`,
                touch: t`it touches it`,
                inside: t`it is completely inside`,
                overlap: t`it overlaps by at least`,
              }}
              onPick={(v) => set((p) => (p.hit = v === "overlap" ? { overlap: 60 } : v))}
            />
            {typeof play.hit !== "string" && (
              <>
                {" "}
                <Num
                  label={t`Overlap in percent`}
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
            <Num label={t`Reach`} value={play.reach} low={0} high={1000} onDone={(n) => set((p) => (p.reach = n))} />{" "}
            units beyond their edge. Dropped outside all targets, it{" "}
            <Pick
              label={t`Outside all targets`}
              value={play.offTarget}
              options={{ home: t`returns to its start`, stay: t`stays there` }}
              onPick={(v) => set((p) => (p.offTarget = v))}
              end
            />
          </Trans>
        </p>
        <p>
          <Trans>
            Moves{" "}
            <Pick
              label={t`Undoing`}
              value={String(play.undo)}
              options={{ true: t`can be undone`, false: t`cannot be undone` }}
              onPick={(v) => set((p) => (p.undo = v === "true"))}
            />
            , and all pieces{" "}
            <Pick
              label={t`Putting all back`}
              value={String(play.reset)}
              options={{ true: t`can be put back at once`, false: t`cannot be put back at once` }}
              onPick={(v) => set((p) => (p.reset = v === "true"))}
              end
            />
            {play.check === "each" && (
              <>
                {" "}
                <Trans>
                  A rejected placement{" "}
                  <Pick
                    label={t`Refusals`}
                    value={play.refusals}
                    options={{ free: t`costs nothing`, count: t`counts as an incorrect placement` }}
                    onPick={(v) => set((p) => (p.refusals = v))}
                    end
                  />
                </Trans>
              </>
            )}
          </Trans>
        </p>
      </Chapter>
    </>
  );
}

/** How large pieces are while they are in hand: all of them at once. */
function SizeInHand() {
  const store = useDraftStore();
  const { doc } = usePlay();
  const sizes = new Set(doc.items.map((it) => lookOf(it, "inHand")?.scale ?? 100));
  const size = sizes.size === 1 ? [...sizes][0]! : 0;
  const known: Record<string, string> = { 100: t`keeps its size`, 125: t`grows`, 80: t`shrinks` };
  return (
    <>
      {" "}
      <Trans>
        The piece{" "}
        <Pick
          label={t`Size in hand`}
          value={String(size)}
          options={{ ...known, ...(known[size] ? {} : { [size]: size ? t`is at ${size}%` : t`differs by item` }) }}
          onPick={(to) =>
            Number(to) > 0 &&
            store.getState().change({
              says: t`change the size in hand`,
              apply: (d) =>
                d.items.forEach((it) =>
                  setLook(it, "inHand", (look) => {
                    if (to === "100") delete look.scale;
                    else look.scale = Number(to);
                  }),
                ),
            })
          }
          end
        />
      </Trans>
    </>
  );
}
