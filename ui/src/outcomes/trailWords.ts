import type { Doc } from "../api/types";
import type { Called, Entry, RehearsedStep, TrailStep } from "../engine/engine";
import { short } from "../words/words";
import { itemOf, itemOfPiece, nameOf, startOf, targetOf } from "../document/parts";

/** Why a move was not possible, in words. */
const rejections: Record<string, string> = {
  early: "its time is before that of the move before it, or before the limit",
  late: "the time is up",
  tooLate: "it was received too late",
  phase: "this is not the moment for it",
  held: "the piece is held in place",
  notDealt: "the piece has not appeared yet",
  home: "the piece is already at its start",
  nothingToUndo: "there is nothing to undo",
  reset: "this activity has no reset",
  restart: "this activity cannot be started over",
  notAllPlaced: "not everything that can be placed has been placed",
  noHints: "no hint is left",
  nothingToPlace: "no piece is missing that a hint could place",
};

const settled: Record<string, string> = {
  lastAttempt: "That was the last attempt",
  allPlaced: "Nothing is left that could be placed, so it is checked",
  timeUp: "The time is up",
  done: "The sitting is done",
  again: "The next attempt begins",
  undone: "The last move is undone",
  reset: "All free pieces are back",
  restarted: "Restarted",
};

const hits: Record<string, string> = {
  touch: "it touches the target",
  inside: "it is completely inside",
  overlap: "enough of its area is over the target",
};

const wrongs: Record<string, string> = {
  noCell: "no answer has it there",
  surplus: "there are more than are required",
  order: "wrong position in the order",
};

/** A step of the trail as a sentence. */
export function stepWords(doc: Doc, t: TrailStep, step: RehearsedStep, called: Called): string {
  const item = nameOf(itemOf(doc, t.item ?? ""));
  const target = nameOf(targetOf(doc, t.target ?? ""));
  const start = startOf(itemOf(doc, t.item ?? ""));
  const names = (t.pieces ?? []).map((p) => nameOf(itemOf(doc, itemOfPiece(p)))).join(", ");
  const v = t.verdict;
  switch (t.code) {
    case "rejected":
      return `This cannot be done: ${rejections[t.why ?? ""] ?? "it names what is not there"}`;
    case "hit":
      return `${item} is dropped on ${target}: ${hits[t.why ?? ""] ?? "its centre is inside"}`;
    case "beside":
      return `${item} is dropped outside all targets`;
    case "letIn":
      return step.move.do === "drop" ? `${target} accepts it` : `${item} is put into ${target}, which accepts it`;
    case "turnedAway":
      return `${target} does not accept it: what is accepted there leaves ${item} out`;
    case "full":
      return `${target} does not accept it: it holds ${t.holds}, and all places are taken`;
    case "ousted":
      return `${item} returns to ${start} to make room: ${target} sends the earlier piece back`;
    case "traded":
      return `${item} trades places with it, into ${target}`;
    case "already":
      return `${item} is already in ${target}`;
    case "movedInLane":
      return `${item} is number ${(t.index ?? 0) + 1} in ${target}`;
    case "home":
      return `${item} returns to ${start}`;
    case "loose":
      return `${item} stays where it was dropped, outside all targets`;
    case "rightHere":
      return `${item} is correct in ${target}${way(doc, t)}`;
    case "wrongHere":
      return `${item} is not correct in ${target}${way(doc, t)}: ${wrongs[t.why ?? ""] ?? ""}`;
    case "becameRight":
      return `Now correct: ${names}`;
    case "becameWrong":
      return `Now incorrect: ${names}`;
    case "count":
      return v ? `So far ${countWords(t)}` : "";
    case "wrongPlacement":
      return t.charge
        ? `An incorrect placement, which costs ${t.charge}`
        : "An incorrect placement, which costs nothing";
    case "goesHome":
      return t.why === "right"
        ? `${item} returns to ${start}: correct pieces also do after a failed check`
        : `${item} returns to ${start}: incorrect pieces do${step.move.do === "again" ? " after a failed check" : ""}`;
    case "heldInPlace":
      return `${item} is held in place: it is correct`;
    case "dealt":
      return `${item} appears`;
    case "hinted":
      return t.text ? `Hint: ${t.text}` : "A hint places a piece";
    case "score":
      return v ? `${step.move.do === "check" ? "Checked: " : ""}${scoreWords(doc, t)}` : "";
    case "reply":
      return replyWords(called, t);
    case "finished":
      return `${called[t.why ?? ""]?.message ?? t.why} ends the sitting`;
    default:
      return settled[t.code] ?? t.code;
  }
}

/** Under which solution, where there are several. */
const way = (doc: Doc, t: TrailStep) =>
  doc.key.solutions.length > 1 && t.solution !== undefined
    ? ` (${doc.key.solutions[t.solution]?.name || `solution ${t.solution + 1}`})`
    : "";

/** How the score came about. Plain pieces add up by themselves; anything else is spelt out. */
export function scoreWords(doc: Doc, t: TrailStep): string {
  const v = t.verdict!;
  const by = doc.key.solutions[v.scoredBy];
  const credit = by?.credit ?? 100;
  const parts = [
    `${earnedWords(t)}${sumWords(t)}`,
    credit !== 100 ? `× ${credit}% for ${by?.name || `solution ${v.scoredBy + 1}`}` : "",
    t.share && doc.marks.shares.some((s) => s !== 100) ? `× ${t.share}% for this attempt` : "",
    t.hints && doc.marks.hintCost ? `− ${t.hints * doc.marks.hintCost}% for hints` : "",
    `of ${doc.marks.points} points: ${short(v.score)}`,
  ];
  return `${countWords(t)}. ${parts.filter(Boolean).join(", ")}`;
}

/** How many pieces are right and wrong, and how many are still to come for all to be right. */
const countWords = (t: TrailStep) =>
  `${t.verdict!.right.length} correct, ${t.verdict!.wrong.length} incorrect, ${t.lacking ?? 0} still missing`;

/** What was earned of what could be, in whole numbers: 13/17 of 1 is 13 of 17. */
export function earnedWords(t: TrailStep): string {
  const [earned, parts = "1"] = t.verdict!.earned.split("/");
  const [available, shares = "1"] = t.verdict!.available.split("/");
  return `${BigInt(earned!) * BigInt(shares)} of ${BigInt(available!) * BigInt(parts)} earned`;
}

/** The same in short, for a table: 22 of 22 × 50 % = 12. */
export function shortScoreWords(doc: Doc, t: TrailStep): string {
  const v = t.verdict!;
  const share = t.share && t.share !== 100 ? ` × ${t.share}%` : "";
  const hints = t.hints && doc.marks.hintCost ? ` − ${t.hints * doc.marks.hintCost}% for hints` : "";
  const sum = (t.entries?.length ?? 0) < 6 ? sumWords(t) : "";
  const credit =
    doc.key.solutions.length > 1 ? `, by ${doc.key.solutions[v.solution]?.name || `solution ${v.solution + 1}`}` : "";
  return `${earnedWords(t).replace(" earned", "")}${sum}${share}${hints} × ${doc.marks.points} points${credit}`;
}

/** What it was put together from; plain pieces add up by themselves. */
function sumWords(t: TrailStep): string {
  const entries = t.entries ?? [];
  if (entries.every((e) => e.what === "piece" && (e.share ?? 100) === 100)) return "";
  return ` (${entries.map(entryWords).join(" ").replace(/^\+ /, "")})`;
}

const entryWords = (e: Entry) =>
  `${e.points.startsWith("-") ? "−" : "+"} ${e.points.replace("-", "")}${e.share && e.share !== 100 ? ` × ${e.share}%` : ""}`;

/** A reply that was looked at: why it was given, or what it lacked. */
function replyWords(called: Called, t: TrailStep): string {
  const r = t.reply!;
  const why = r.facts
    .filter((f) => f.decides)
    .map((f) => f.said.message)
    .join(", ");
  return `${called[r.reply]?.message ?? r.reply} is ${r.given ? "given" : "not given"}${why && `: ${why}`}`;
}
