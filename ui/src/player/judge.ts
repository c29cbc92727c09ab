import type { Beckoning, Begun, Going, Move, Now, Opening, Standing, View } from "../api/types";

/**
 * Whoever judges the moves: the server for a hosted sitting, the engine in the
 * browser for a rehearsal. The player does not know which it has.
 */
export interface Judge {
  /** Judges one move. It may be asked again with the same move after a failure. */
  act(move: Move): Promise<Standing>;
  /** The targets that show themselves while a piece is in hand. */
  beckon(piece: string): Promise<Beckoning>;
}

/** A judge that a sitting is played before: with its pictures, and under what this browser keeps what is not answered yet. */
export interface Bench extends Judge {
  mediaURL(id: string): string;
  keep?: string;
  /** How it stands now, where another window may have gone on with it. */
  now?(): Promise<Standing | undefined>;
}

/** What a link leads to: who begins there, and before whom it is played. */
export interface Host {
  /** Whoever is there is known already, and nobody comes after them. */
  alone?: boolean;
  /** Whoever comes from a platform begins, or goes on, at once; undefined where they did before. */
  arrive?(again?: boolean): Promise<Begun | undefined>;
  /** Where whoever came from a platform goes back to, where it has said so. */
  back?(): string | undefined;
  opening(): Promise<Opening>;
  begin(who: { learner?: string; code?: string }): Promise<Begun>;
  leave(): Promise<void>;
  bench(step: number, turn: number): Bench;
}

/** A series under way, on the server or in the browser. */
export interface Walk {
  go(to: Going): Promise<View>;
  now(): Promise<Now>;
  bench(step: number, turn: number): Bench;
  mediaURL(id: string): string;
}

/** A failure after which the same move may be sent again. */
export class Unreachable extends Error {
  /** after is how many seconds the server asks to wait. */
  constructor(
    message: string,
    readonly after = 0,
  ) {
    super(message);
  }
}
