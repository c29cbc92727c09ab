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
    void store.getState().edit("change play settings", { act: "timeLimit", to: String(ms) });
  return (
    <>
      <Chapter title="When they arrive" moment="arrive" doc={doc}>
        <p>
          The pieces are laid out{" "}
          <Pick
            label="Order of the pieces"
            value={String(play.shuffle)}
            options={{ false: "in table order", true: "shuffled for each learner" }}
            onPick={(v) => set((p) => (p.shuffle = v === "true"))}
          />
          ,{" "}
          <Pick
            label="Dealing"
            value={play.deal}
            options={{ all: "all at once", one: "one at a time" }}
            onPick={(v) => set((p) => (p.deal = v))}
            end
          />
        </p>
        <p>
          They have{" "}
          <Pick
            label="Time limit"
            value={play.timeLimit > 0 ? "limit" : "none"}
            options={{ none: "no time limit", limit: "a limited time:" }}
            onPick={(v) => limit(v === "limit" ? 300000 : 0)}
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
              minutes, with extra time of up to{" "}
              <Num
                label="Extension"
                value={play.extension}
                low={100}
                high={1000}
                whole
                onDone={(n) => set((p) => (p.extension = n))}
              />{" "}
              % of that
              {told.length === 1 && (
                <>
                  . When it is up, they read{" "}
                  <TypedInput
                    label="Read when the time is up"
                    value={told[0]!.say.text}
                    onFocus={(e) => e.target.select()}
                    onDone={(text) =>
                      change(store, told[0]!.id, "change what is read when the time is up", (r) => (r.say.text = text))
                    }
                    className="w-64 max-w-full font-medium text-feather"
                  />
                </>
              )}
            </>
          )}
          . On return they{" "}
          <Pick
            label="Coming back"
            value={play.reenter}
            options={{ resume: "go on where they were", restart: "start over" }}
            onPick={(v) => set((p) => (p.reenter = v))}
            end
          />
        </p>
        <Hints />
      </Chapter>
      <Chapter title="When a piece is in hand" moment="hand" doc={doc}>
        <p>
          <Pick
            label="Highlighting"
            value={play.beckon}
            options={{
              none: "No highlighting",
              open: "Highlight accepting targets",
              right: "Highlight correct targets",
            }}
            onPick={(v) => set((p) => (p.beckon = v))}
            end
          />
          {doc.items.length > 0 && <SizeInHand />}
        </p>
      </Chapter>
      <Chapter title="When it is dropped" moment="drop" doc={doc}>
        <p>
          It hits a target when{" "}
          <Pick
            label="How exactly it must hit"
            value={typeof play.hit === "string" ? play.hit : "overlap"}
            options={{
              centre: "its centre is inside",
              touch: "it touches it",
              inside: "it is completely inside",
              overlap: "it overlaps by at least",
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
          beyond their edge. Dropped outside all targets, it{" "}
          <Pick
            label="Outside all targets"
            value={play.offTarget}
            options={{ home: "returns to its start", stay: "stays there" }}
            onPick={(v) => set((p) => (p.offTarget = v))}
            end
          />
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
            end
          />
          {play.check === "each" && (
            <>
              {" "}
              A rejected placement{" "}
              <Pick
                label="Refusals"
                value={play.refusals}
                options={{ free: "costs nothing", count: "counts as an incorrect placement" }}
                onPick={(v) => set((p) => (p.refusals = v))}
                end
              />
            </>
          )}
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
  const known: Record<string, string> = { 100: "keeps its size", 125: "grows", 80: "shrinks" };
  return (
    <>
      {" "}
      The piece{" "}
      <Pick
        label="Size in hand"
        value={String(size)}
        options={{ ...known, ...(known[size] ? {} : { [size]: size ? `is at ${size} %` : "differs by item" }) }}
        onPick={(to) =>
          Number(to) > 0 &&
          store.getState().change({
            says: "change the size in hand",
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
    </>
  );
}
