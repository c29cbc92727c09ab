import { useEffect, useMemo, useState } from "react";
import type { Opening, Problem, Seated } from "../api/types";
import { Button } from "../shared/Button";
import { RichText } from "../shared/RichText";
import { Said } from "../shared/Said";
import { HostedRelease, Refused } from "./remote";
import { Sitting } from "./Sitting";
import { wordsFor } from "./words";

const away: Problem = { status: 0, title: "", code: "no-server", detail: wordsFor(navigator.language)("away") };
const problemOf = (error: unknown) => (error instanceof Refused ? error.problem : away);

/** What a release link opens: the gate, then the sitting. */
export function Player({ link }: { link: string }) {
  const release = useMemo(() => new HostedRelease(link), [link]);
  const [opening, setOpening] = useState<Opening | null>(null);
  const [seated, setSeated] = useState<Seated | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);

  useEffect(() => {
    release.opening().then(
      (o) => {
        setOpening(o);
        setSeated(o.sitting ?? null);
        document.title = o.title;
        document.documentElement.lang = o.lang;
      },
      (error) => setProblem(problemOf(error)),
    );
  }, [release]);

  const another = async () => {
    try {
      await release.leave();
      setSeated(null);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };

  if (problem && !opening) {
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problem} />
        <Button className="mt-4" onClick={() => location.reload()}>
          {wordsFor(navigator.language)("again")}
        </Button>
      </main>
    );
  }
  if (!opening) return <main className="p-8 text-slate">{wordsFor(navigator.language)("opening")}</main>;
  if (seated)
    return <Sitting key={seated.learner + seated.scene.title} release={release} seated={seated} onAnother={another} />;
  return (
    <Gate
      opening={opening}
      problem={problem}
      onBegin={async (name) => {
        try {
          setProblem(null);
          setSeated(await release.begin(name));
        } catch (error) {
          setProblem(problemOf(error));
        }
      }}
    />
  );
}

type GateProps = { opening: Opening; problem: Problem | null; onBegin: (name: string) => Promise<void> };

function Gate({ opening, problem, onBegin }: GateProps) {
  const w = wordsFor(opening.lang, opening.words);
  const [name, setName] = useState("");
  const [busy, setBusy] = useState(false);
  return (
    <main className="grid min-h-full place-items-center p-4">
      <form
        className="w-full max-w-md rounded-(--radius) border border-line bg-paper p-6 shadow-(--shadow-card)"
        onSubmit={async (e) => {
          e.preventDefault();
          setBusy(true);
          await onBegin(name);
          setBusy(false);
        }}
      >
        <h1 className="mb-2 font-sans text-2xl font-bold">{opening.title}</h1>
        <div className="mb-5 text-slate">
          <RichText nodes={opening.instructions} />
        </div>
        <label className="block font-medium" htmlFor="learner">
          {w("yourName")}
        </label>
        <input
          id="learner"
          required
          maxLength={200}
          autoComplete="name"
          value={name}
          onChange={(e) => setName(e.target.value)}
          className="mt-1 mb-4 h-10 w-full rounded-(--radius) border border-edge bg-paper px-3"
        />
        {problem && (
          <div className="mb-4">
            <Said problem={problem} />
          </div>
        )}
        <Button kind="main" type="submit" disabled={busy || !name.trim()} className="h-10 w-full">
          {w("start")}
        </Button>
      </form>
    </main>
  );
}
