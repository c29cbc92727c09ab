import { t } from "@lingui/core/macro";
import type { Doc } from "../api/types";
import type { Called, Entry, RehearsedStep, TrailStep } from "../engine/engine";
import { short } from "../words/words";
import { itemOf, itemOfPiece, nameOf, startOf, targetOf } from "../document/parts";

/** Why a move was not possible, in words. */
const rejections: Record<string, string> = {
  early: t`its time is before that of the move before it, or before the limit`,
  late: t`the time is up`,
  tooLate: t`it was received too late`,
  phase: t`this is not the moment for it`,
  held: t`the piece is held in place`,
  notDealt: t`the piece has not appeared yet`,
  home: t`the piece is already at its start`,
  nothingToUndo: t`there is nothing to undo`,
  reset: t`this activity has no reset`,
  restart: t`this activity cannot be started over`,
  notAllPlaced: t`not everything that can be placed has been placed`,
  noHints: t`no hint is left`,
  nothingToPlace: t`no piece is missing that a hint could place`,
};

const settled: Record<string, string> = {
  lastAttempt: t`That was the last attempt`,
  allPlaced: t`Nothing is left that could be placed, so it is checked`,
  timeUp: t`Time’s up`,
  done: t`The sitting is done`,
  again: t`The next attempt begins`,
  undone: t`The last move is undone`,
  reset: t`All free pieces returned`,
  restarted: t`Restarted`,
};

const hits: Record<string, string> = {
  touch: t`it touches the target`,
  inside: t`it is completely inside`,
  overlap: t`enough of its area is over the target`,
};

const wrongs: Record<string, string> = {
  noCell: t`no answer has it there`,
  surplus: t`there are more than are required`,
  order: t`wrong position in the order`,
};

/** A step of the trail as a sentence. */
export function stepWords(doc: Doc, line: TrailStep, step: RehearsedStep, called: Called): string {
  const item = nameOf(itemOf(doc, line.item ?? ""));
  const target = nameOf(targetOf(doc, line.target ?? ""));
  const start = startOf(itemOf(doc, line.item ?? ""));
  const names = (line.pieces ?? []).map((p) => nameOf(itemOf(doc, itemOfPiece(p)))).join(", ");
  const v = line.verdict;
  switch (line.code) {
    case "rejected":
      return t`This cannot be done: ${rejections[line.why ?? ""] ?? t`it names what is not there`}`;
    case "hit":
      return t`${item} is dropped on ${target}: ${hits[line.why ?? ""] ?? t`its centre is inside`}`;
    case "beside":
      return t`${item} is dropped outside all targets`;
    case "letIn":
      return step.move.do === "drop" ? t`${target} accepts it` : t`${item} is put into ${target}, which accepts it`;
    case "turnedAway":
      return t`${target} does not accept it: what is accepted there leaves ${item} out`;
    case "full":
      return t`${target} does not accept it: it holds ${line.holds ?? 0}, and all places are taken`;
    case "ousted":
      return t`${item} returns to ${start} to make room: ${target} sends the earlier piece back`;
    case "traded":
      return t`${item} trades places with it, into ${target}`;
    case "already":
      return t`${item} is already in ${target}`;
    case "movedInLane":
      return t`${item} is number ${(line.index ?? 0) + 1} in ${target}`;
    case "home":
      return t`${item} returns to ${start}`;
    case "loose":
      return t`${item} stays where it was dropped, outside all targets`;
    case "rightHere":
      return t`${item} is correct in ${target}${way(doc, line)}`;
    case "wrongHere":
      return t`${item} is not correct in ${target}${way(doc, line)}: ${wrongs[line.why ?? ""] ?? ""}`;
    case "becameRight":
      return t`Now correct: ${names}`;
    case "becameWrong":
      return t`Now incorrect: ${names}`;
    case "count":
      return v ? t`So far ${countWords(line)}` : "";
    case "wrongPlacement":
      return line.charge
        ? t`An incorrect placement, which costs ${line.charge}`
        : t`An incorrect placement, which costs nothing`;
    case "goesHome":
      return line.why === "right"
        ? t`${item} returns to ${start}: correct pieces also do after a failed check`
        : step.move.do === "again"
          ? t`${item} returns to ${start}: incorrect pieces do after a failed check`
          : t`${item} returns to ${start}: incorrect pieces do`;
    case "heldInPlace":
      return t`${item} is held in place: it is correct`;
    case "dealt":
      return t`${item} appears`;
    case "hinted":
      return line.text ? t`Hint: ${line.text}` : t`A hint places a piece`;
    case "score":
      return v ? `${step.move.do === "check" ? t`Checked:` : ""} ${scoreWords(doc, line)}`.trim() : "";
    case "reply":
      return replyWords(called, line);
    case "finished":
      return t`${called[line.why ?? ""]?.message ?? line.why ?? ""} ends the sitting`;
    default:
      return settled[line.code] ?? line.code;
  }
}

const solutionNamed = (doc: Doc, i: number) => doc.key.solutions[i]?.name || t`solution ${i + 1}`;

/** Under which solution, where there are several. */
const way = (doc: Doc, step: TrailStep) =>
  doc.key.solutions.length > 1 && step.solution !== undefined ? ` (${solutionNamed(doc, step.solution)})` : "";

/** How the score came about. Plain pieces add up by themselves; anything else is spelt out. */
export function scoreWords(doc: Doc, step: TrailStep): string {
  const v = step.verdict!;
  const credit = doc.key.solutions[v.scoredBy]?.credit ?? 100;
  const [earned, available] = earnedOf(step);
  const parts = [
    `${t`${earned} of ${available} earned`}${sumWords(step)}`,
    credit !== 100 ? t`× ${credit}% for ${solutionNamed(doc, v.scoredBy)}` : "",
    step.share && doc.marks.shares.some((s) => s !== 100) ? t`× ${step.share}% for this attempt` : "",
    step.hints && doc.marks.hintCost ? t`− ${step.hints * doc.marks.hintCost}% for hints` : "",
    t`of ${doc.marks.points} points: ${short(v.score)}`,
  ];
  return `${countWords(step)}. ${parts.filter(Boolean).join(", ")}`;
}

/** How many pieces are right and wrong, and how many are still to come for all to be right. */
const countWords = (step: TrailStep) =>
  t`${step.verdict!.right.length} correct, ${step.verdict!.wrong.length} incorrect, ${step.lacking ?? 0} still missing`;

/** What was earned, and what could be, in whole numbers: 13/17 of 1 is 13 of 17. */
export function earnedOf(step: TrailStep): [earned: string, available: string] {
  const [earned, parts = "1"] = step.verdict!.earned.split("/");
  const [available, shares = "1"] = step.verdict!.available.split("/");
  return [String(BigInt(earned!) * BigInt(shares)), String(BigInt(available!) * BigInt(parts))];
}

/** The same in short, for a table: 22 of 22 × 50 % = 12. */
export function shortScoreWords(doc: Doc, step: TrailStep): string {
  const v = step.verdict!;
  const share = step.share && step.share !== 100 ? ` × ${step.share}%` : "";
  const hints = step.hints && doc.marks.hintCost ? ` ${t`− ${step.hints * doc.marks.hintCost}% for hints`}` : "";
  const [earned, available] = earnedOf(step);
  const sum = (step.entries?.length ?? 0) < 6 ? sumWords(step) : "";
  const counted = `${t`${earned} of ${available}`}${sum}${share}${hints}`;
  const product = t`${counted} × ${doc.marks.points} points`;
  return doc.key.solutions.length > 1 ? t`${product}, by ${solutionNamed(doc, v.solution)}` : product;
}

/** What it was put together from; plain pieces add up by themselves. */
function sumWords(step: TrailStep): string {
  const entries = step.entries ?? [];
  if (entries.every((e) => e.what === "piece" && (e.share ?? 100) === 100)) return "";
  return ` (${entries.map(entryWords).join(" ").replace(/^\+ /, "")})`;
}

const entryWords = (e: Entry) =>
  `${e.points.startsWith("-") ? "−" : "+"} ${e.points.replace("-", "")}${e.share && e.share !== 100 ? ` × ${e.share}%` : ""}`;

/** A reply that was looked at: why it was given, or what it lacked. */
function replyWords(called: Called, step: TrailStep): string {
  const r = step.reply!;
  const why = r.facts
    .filter((f) => f.decides)
    .map((f) => f.said.message)
    .join(", ");
  const reply = called[r.reply]?.message ?? r.reply;
  const given = r.given ? t`${reply} is given` : t`${reply} is not given`;
  return why ? `${given}: ${why}` : given;
}
