import { t } from "@lingui/core/macro";
import type { Doc, Going, Move, Now, Series, View } from "../api/types";
import { engine, type Walked } from "../engine/engine";
import type { Bench, Walk } from "../player/judge";
import { mediaURL } from "../board/mediaURL";

type Own = { seed: number; moves: Move[]; turn: number; began: number };

/** A rehearsal of a series: the core says in the browser where to go, and judges. */
export class LocalWalk implements Walk {
  private place = { at: 0, reached: 0 };
  private sittings: (Own | null)[];
  private turns: number[];
  private document: Doc | undefined;
  private readonly began = performance.now();

  constructor(
    private readonly series: Series,
    private readonly activities: Record<string, Doc>,
    private readonly learner: string,
    private seed: number,
    /** The step at which it begins. */
    from = 0,
  ) {
    this.place = { at: from, reached: from };
    this.sittings = series.steps.map(() => null);
    this.turns = series.steps.map(() => 0);
  }

  private ask(going?: Going): Promise<Walked> {
    const sittings = this.sittings.map((s) => s && { seed: s.seed, moves: s.moves });
    return engine.walk({ series: this.series, activities: this.activities, ...this.place, sittings, going });
  }

  go = async (to: Going): Promise<View> => {
    const walked = await this.ask(to);
    const { gone } = walked;
    if (!gone) throw new Error(t`That step isn’t available yet.`);
    this.place = { at: gone.at, reached: gone.reached };
    for (const step of gone.redo) this.sittings[step] = null;
    const view: View = {
      learner: this.learner,
      elapsed: Math.round(performance.now() - this.began),
      timeLimit: this.series.timeLimit,
      now: walked.now,
    };
    const page = this.series.steps[gone.aside >= 0 ? gone.aside : gone.at]?.page;
    if (page) {
      const { title, picture, alt, sound, transcript } = page;
      view.page = { title, picture, alt, sound, transcript, rich: walked.page ?? [], aside: gone.aside >= 0 };
      return view;
    }
    if (!walked.document) return view;
    this.document = walked.document;
    let own = this.sittings[gone.at];
    if (!own || walked.fresh) {
      own = { seed: this.seed++, moves: [], turn: this.turns[gone.at]!++, began: performance.now() };
      this.sittings[gone.at] = own;
      view.now = (await this.ask()).now;
    }
    const { scene, standing } = await engine.rehearse(this.document, own.seed, own.moves, false, true);
    const elapsed = Math.round(performance.now() - own.began);
    view.sitting = { learner: this.learner, elapsed, turn: own.turn, scene, standing };
    return view;
  };

  now = async (): Promise<Now> => (await this.ask()).now;

  mediaURL = mediaURL;

  bench = (step: number): Bench => ({
    act: async (move) => {
      const own = this.sittings[step]!;
      const moves = [...own.moves, move];
      const { standing } = await engine.rehearse(this.document!, own.seed, moves);
      own.moves = moves;
      return standing;
    },
    beckon: (piece) => engine.beckons(this.document!, piece),
    mediaURL,
  });
}
