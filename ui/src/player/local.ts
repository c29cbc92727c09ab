import type { Doc, Move, Standing } from "../api/types";
import { engine, type Rehearsed } from "../engine/engine";
import type { Judge } from "./judge";

/** Judges a rehearsal in the browser: the core, in its worker. */
export class LocalJudge implements Judge {
  constructor(
    private readonly doc: Doc,
    private readonly seed: number,
    private readonly onJudged: (r: Rehearsed, moves: Move[]) => void,
    /** What was done before. */
    private moves: Move[] = [],
    private readonly demonstrate = false,
  ) {}

  async act(move: Move): Promise<Standing> {
    const moves = [...this.moves, move];
    const rehearsed = await engine.rehearse(this.doc, this.seed, moves, this.demonstrate);
    this.moves = moves;
    this.onJudged(rehearsed, moves);
    return rehearsed.standing;
  }

  beckon = (piece: string) => engine.beckons(this.doc, piece);
}
