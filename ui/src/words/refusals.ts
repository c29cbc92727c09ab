import type { Problem } from "../api/types";
import { momentWords, type WordID, type Words } from "./words";

/** What learners are told by what the server refuses, by its code. */
const refusals: Record<string, WordID> = {
  "no-release": "noRelease",
  "no-sitting": "noSitting",
  "no-draft": "noDraft",
  "no-name": "noName",
  "not-open-yet": "notOpenYet",
  closed: "closed",
  full: "full",
  "wrong-code": "wrongCode",
  "too-many-tries": "manyCodes",
  ended: "linkEnded",
  "begun-before": "begunBefore",
  "not-yet": "notYet",
  raced: "raced",
  "time-over": "timeOver",
};

/** A refusal in the learner's language and by this browser's clock; what has no words of its own stays as it was said. */
export function refusal(w: Words, lang: string, p: Problem): Problem {
  const word = refusals[p.code];
  if (!word) return p;
  return { ...p, detail: w(word, { date: p.at ? momentWords(lang, p.at) : "" }) };
}
