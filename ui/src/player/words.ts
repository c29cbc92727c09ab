import type { Move, Scene, Standing } from "../api/types";

const plural = (n: number, one: string, many: string) => (n === 1 ? one : many.replace("#", String(n)));

/** A figure without zeros that say nothing: 7.50 is 7.5. */
export const short = (figure = "0") => figure.replace(/\.?0+$/, (end) => (figure.includes(".") ? "" : end));

/** Tries in words. */
export function attemptWords(s: Standing): string {
  if (s.phase === "done") return "Finished";
  if (s.left === undefined) return `Attempt ${s.attempt}`;
  const left = s.phase === "placing" ? s.left + 1 : s.left;
  return plural(left, "One check left", "# checks left");
}

export function outcomeWords(s: Standing): string {
  if (!s.shown) return "Checked.";
  const { outcome, right, wrong } = s.shown;
  if (outcome === "right") return "All right.";
  const of = `${plural(right.length, "One piece is", "# pieces are")} right`;
  if (wrong.length === 0) return `${of}; something is still missing.`;
  return `${of}, ${plural(wrong.length, "one is not", "# are not")}.`;
}

export function scoreWords(scene: Scene, s: Standing): string {
  return `Score ${short(s.final?.score)} of ${scene.points} (${short(s.final?.percent)} %)`;
}

/** What a screen reader says after a move. */
export function announce(scene: Scene, move: Move, after: Standing): string {
  const piece = scene.pieces.find((p) => p.id === move.piece)?.spoken ?? "";
  const target = scene.targets.find((t) => after.targets[t.id]?.includes(move.piece ?? ""))?.spoken;
  switch (after.result) {
    case "placed":
    case "kept":
      return `${piece} is in ${target}.`;
    case "refused":
      return after.reason === "full" ? `There is no room for ${piece} there.` : `${piece} does not go in there.`;
    case "lifted":
      return `${piece} is back in the tray.`;
    case "loose":
      return `${piece} lies on the board.`;
    case "undone":
      return "The last move is undone.";
    case "reset":
      return "All free pieces are back.";
    case "again":
      return `${attemptWords(after)}. ${plural(after.held.length, "One piece is", "# pieces are")} held in place.`;
    case "checked":
      return `${outcomeWords(after)} ${after.phase === "done" ? scoreWords(scene, after) : attemptWords(after)}`;
    default:
      return "";
  }
}
