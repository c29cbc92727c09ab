import { useState, type ReactNode } from "react";
import { Lightbulb } from "lucide-react";
import type { Act, Scene, Standing } from "../api/types";
import { Button } from "../kit/Button";
import { Above } from "./Above";
import { RichText } from "../board/RichText";
import { checkWord, outcomeWords, scoreWords, useWords } from "../words/words";

type Props = {
  scene: Scene;
  standing: Standing;
  busy: boolean;
  act: (act: Act) => void;
  mediaURL: (id: string) => string;
  /** What is shown where the answer can be seen. */
  showing: "own" | "key";
  onShow: (what: "own" | "key") => void;
  /** A reply says how it came out. */
  said: boolean;
  lead?: ReactNode;
  /** What changes how the board is seen. */
  view?: ReactNode;
  /** What else there is to do at the end. */
  end?: ReactNode;
  /** What leads on in a series. */
  onward?: ReactNode;
  /** Check stands here, not on the board. */
  checkHere: boolean;
};

/** What can be done besides moving pieces, and how it came out. */
export function Bar({
  scene,
  standing,
  busy,
  act,
  mediaURL,
  showing,
  onShow,
  said,
  lead,
  view,
  end,
  onward,
  checkHere,
}: Props) {
  const w = useWords();
  const { phase } = standing;
  const free = Object.keys(standing.stands).length > standing.held.length;
  return (
    <footer className="sticky bottom-0 [@media(max-height:420px)]:static flex min-h-14 flex-wrap items-center gap-x-3 gap-y-2 border-t border-line bg-paper px-4 py-2">
      {lead}
      {phase === "placing" && (
        <>
          {standing.canUndo && (
            <Button disabled={busy} onClick={() => act({ do: "undo" })}>
              {w("undo")}
            </Button>
          )}
          {scene.reset && free && (
            <Button disabled={busy} onClick={() => act({ do: "reset" })}>
              {w("reset")}
            </Button>
          )}
          <Hints scene={scene} standing={standing} busy={busy} act={act} mediaURL={mediaURL} />
        </>
      )}
      {phase !== "placing" && !said && <Outcome standing={standing} handedIn={scene.check === "none"} />}
      {phase === "done" && scene.check !== "none" && (
        <strong data-outcome="" className="text-lg">
          {scoreWords(w, scene, standing)}
        </strong>
      )}
      {phase === "done" && standing.final?.band && (
        <span className="rounded-(--radius) bg-mist px-2 py-1">{standing.final.band}</span>
      )}
      {standing.key && standing.review !== "key" && (
        <div role="group" className="flex rounded-(--radius) border border-line p-0.5">
          {(["own", "key"] as const).map((what) => (
            <button
              key={what}
              type="button"
              aria-pressed={showing === what}
              onClick={() => onShow(what)}
              className={`h-7 rounded-sm px-2.5 ${showing === what ? "bg-feather-soft font-semibold" : "text-slate"}`}
            >
              {w(what === "own" ? "own" : "answer")}
            </button>
          ))}
        </div>
      )}
      {standing.key && standing.review === "key" && <span className="text-slate">{w("answer")}</span>}
      <span className="ml-auto flex flex-wrap items-center gap-2">
        {view}
        {scene.restart && (standing.n > 0 || phase !== "placing") && (
          <StartOver done={phase === "done"} busy={busy} act={act} />
        )}
        {phase === "paused" && (
          <Button kind="main" className="h-10 px-6" disabled={busy} onClick={() => act({ do: "again" })}>
            {w("again")}
          </Button>
        )}
        {phase === "placing" && checkHere && (
          <CheckButton scene={scene} standing={standing} busy={busy} act={act} className="h-10 px-6" />
        )}
        {phase === "done" && end}
        {onward}
      </span>
    </footer>
  );
}

/** Starts over: at once when it is over, else after a second press. */
function StartOver({ done, busy, act }: { done: boolean; busy: boolean; act: (act: Act) => void }) {
  const w = useWords();
  const [asking, setAsking] = useState(false);
  const over = () => {
    setAsking(false);
    act({ do: "restart" });
  };
  return (
    <Above
      label={w("restart")}
      open={asking}
      onOpen={(open) => setAsking(open && !done)}
      content={
        <div className="flex max-w-72 flex-col gap-2">
          <p>{w("restartSure")}</p>
          <Button kind="grave" onClick={over}>
            {w("restart")}
          </Button>
        </div>
      }
    >
      <Button kind={done ? "plain" : "quiet"} disabled={busy} onClick={() => done && over()}>
        {w("restart")}
      </Button>
    </Above>
  );
}

type CheckProps = Pick<Props, "scene" | "standing" | "busy" | "act"> & { className?: string };

/** Check, in the bar or on the board; handing in where nothing is checked by asking. */
export function CheckButton({ scene, standing, busy, act, className }: CheckProps) {
  const w = useWords();
  const [asking, setAsking] = useState(false);
  const word = checkWord(scene.check);
  const loose = scene.pieces.length - Object.keys(standing.stands).length;
  // What is handed in cannot be gone on with: with pieces left over it is asked first.
  const asks = word === "handIn" && loose > 0;
  return (
    <Above
      label={w(word)}
      open={asking}
      onOpen={(open) => setAsking(open && asks)}
      content={
        <div className="flex max-w-72 flex-col gap-2">
          <p>{w("handInSure", { n: loose })}</p>
          <Button onClick={() => setAsking(false)}>{w("goOnPlacing")}</Button>
          <Button
            kind="main"
            onClick={() => {
              setAsking(false);
              act({ do: "check" });
            }}
          >
            {w("handInNow")}
          </Button>
        </div>
      }
    >
      <Button
        kind="main"
        className={className}
        disabled={busy || !standing.canCheck}
        onClick={() => !asks && act({ do: "check" })}
      >
        {w(word)}
      </Button>
    </Above>
  );
}

function Outcome({ standing, handedIn }: { standing: Standing; handedIn: boolean }) {
  const w = useWords();
  if (handedIn)
    return (
      <span data-outcome="" className="font-medium">
        {w("handedIn")}
      </span>
    );
  const tone = { right: "text-teal", part: "text-brass", wrong: "text-ember" }[standing.shown?.outcome ?? "part"];
  return (
    <span data-outcome="" className={`font-medium ${standing.shown ? tone : ""}`}>
      {outcomeWords(w, standing)}
    </span>
  );
}

type HintProps = Pick<Props, "scene" | "standing" | "busy" | "act" | "mediaURL">;

/** Asks for the next hint, and shows those taken. */
function Hints({ scene, standing, busy, act, mediaURL }: HintProps) {
  const w = useWords();
  const [open, setOpen] = useState(false);
  const { hints, hintsLeft } = standing;
  if (hintsLeft === 0 && hints.length === 0) return null;
  const name = scene.hintCost > 0 ? w("hintCosts", { n: scene.hintCost }) : w("hint");
  return (
    <Above
      label={w("hints")}
      open={open && hints.length > 0}
      onOpen={setOpen}
      content={
        <ol className="flex max-w-80 list-decimal flex-col gap-2 pl-5">
          {hints.map((h, i) => (
            <li key={i}>
              {h.picture && <img src={mediaURL(h.picture)} alt={h.alt} className="mb-1 max-h-48 object-contain" />}
              <RichText nodes={h.rich} />
            </li>
          ))}
        </ol>
      }
    >
      <Button
        disabled={busy || (hintsLeft === 0 && hints.length === 0)}
        onClick={(e) => {
          if (hintsLeft === 0) return; // those taken are shown
          e.preventDefault();
          act({ do: "hint" });
          setOpen(true);
        }}
      >
        <Lightbulb size={15} aria-hidden /> {hintsLeft > 0 ? name : w("hints")}
      </Button>
    </Above>
  );
}
