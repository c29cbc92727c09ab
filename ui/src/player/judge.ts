import type { Move, Standing } from "../api/types";

/**
 * Whoever judges the moves: the server for a hosted sitting, the engine in the
 * browser for a rehearsal. The player does not know which it has.
 */
export interface Judge {
  /** Judges one move. It may be asked again with the same move after a failure. */
  act(move: Move): Promise<Standing>;
  /** The targets that show themselves while a piece is in hand. */
  beckon(piece: string): Promise<string[]>;
}

/** A failure after which the same move may be sent again. */
export class Unreachable extends Error {}
