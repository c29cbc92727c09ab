import { useEffect, useMemo, useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Doc, Move, Seated } from "../api/types";
import { engine } from "../engine/engine";
import type { Bench } from "../player/judge";
import { Sitting } from "../player/Sitting";
import { Button } from "../kit/Button";
import { mediaURL } from "../board/mediaURL";
import { Said } from "../kit/Said";
import { useWorkspaceWords } from "../words/useWorkspaceWords";

/** The draft on a shared screen: large, one learner after the other, and nothing recorded. */
export function RoomView() {
  const { id = "" } = useParams();
  const draft = useQuery({
    queryKey: ["room", id],
    queryFn: () => ask(api.GET("/api/activities/{id}", { params: { path: { id } } })),
    staleTime: Infinity,
    gcTime: 0,
  });
  if (draft.isError)
    return (
      <main className="p-8">
        <Said problem={problemOf(draft.error)} />
      </main>
    );
  if (!draft.data) return <p className="p-8 text-slate">{t`Opening…`}</p>;
  return <Room id={id} doc={draft.data.document} />;
}

function Room({ id, doc }: { id: string; doc: Doc }) {
  const [learner, setLearner] = useState(1);
  const [room, setRoom] = useState<{ seated: Seated; bench: Bench; learner: number }>();
  const [problem, setProblem] = useState("");
  const words = useWorkspaceWords(doc.lang);
  useEffect(() => {
    let live = true;
    let moves: Move[] = [];
    const bench: Bench = {
      act: async (move) => {
        const all = [...moves, move];
        const { standing } = await engine.rehearse(doc, learner, all);
        moves = all;
        return standing;
      },
      beckon: (piece) => engine.beckons(doc, piece),
      mediaURL,
    };
    engine.rehearse(doc, learner, []).then(
      ({ scene, standing }) => {
        if (!live) return;
        const own = { ...scene, words: { ...words, ...scene.words } };
        setRoom({ bench, learner, seated: { learner: "", elapsed: 0, turn: 0, scene: own, standing } });
      },
      (error: unknown) => live && setProblem(error instanceof Error ? error.message : String(error)),
    );
    return () => {
      live = false;
    };
  }, [doc, learner, words]);
  const controls = useMemo(
    () => (
      <>
        <Button className="h-10" onClick={() => setLearner((n) => n + 1)}>
          {t`Next learner`}
        </Button>
        <Link to={`/activity/${id}`} className="px-2 text-slate hover:text-ink">
          {t`Close`}
        </Link>
      </>
    ),
    [id],
  );
  if (problem)
    return (
      <main className="p-8 text-lg">
        <p className="mb-4 text-ember">{t`This draft can’t be played yet: ${problem}.`}</p>
        {controls}
      </main>
    );
  if (!room) return <p className="p-8 text-slate">{t`Opening…`}</p>;
  return <Sitting key={room.learner} room bench={room.bench} seated={room.seated} onward={controls} />;
}
