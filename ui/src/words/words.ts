import { createContext, useContext } from "react";
import type { Move, Scene, Standing } from "../api/types";
import { de } from "./de";
import { deFormal } from "./deFormal";
import { en } from "./en";

export type WordID = keyof typeof en;
type Forms = Partial<Record<Intl.LDMLPluralRule, string>>;
export type Catalogue = Record<WordID, string | Forms>;

/** The languages that are complete. */
export const languages: Record<string, { name: string; words: Catalogue }> = {
  en: { name: "English", words: en },
  de: { name: "Deutsch (du)", words: de },
  "de-x-formal": { name: "Deutsch (Sie)", words: { ...de, ...deFormal } },
};

/** Which of them is meant: that of the language, and of how learners are addressed in it where it says so; undefined where there is none. */
export function languageKey(lang: string): string | undefined {
  const [base = "", ...rest] = lang.toLowerCase().split("-");
  const formal = `${base}-x-formal`;
  if (rest.join("-").endsWith("x-formal") && formal in languages) return formal;
  return base in languages ? base : undefined;
}

const languageOf = (lang: string) => languages[languageKey(lang) ?? "en"]!;

/** A moment in words, by this browser's clock. */
export const momentWords = (lang: string, at: string) =>
  new Intl.DateTimeFormat(languageOf(lang) === languages.en ? "en" : lang, {
    dateStyle: "long",
    timeStyle: "short",
  }).format(new Date(at));

/** Words by id, with what is filled in; n decides between one and many. */
export type Words = (id: WordID, values?: Record<string, string | number>) => string;

/** The words of a language, with the author's own in place of some: by id, or id.one and so on where a number decides. */
export function wordsFor(lang: string, own: Record<string, string> = {}): Words {
  const known = languageOf(lang).words;
  const language = languageOf(lang) === languages.en ? "en" : lang;
  const plurals = new Intl.PluralRules(language);
  const numbers = new Intl.NumberFormat(language, { maximumFractionDigits: 2 });
  const percents = new Intl.NumberFormat(language, { style: "percent", maximumFractionDigits: 2 });
  return (id, values = {}) => {
    const word = known[id];
    const form = plurals.select(Number(values.n ?? 1));
    const text =
      typeof word === "string"
        ? own[id] || word
        : own[`${id}.${form}`] || own[`${id}.other`] || word[form] || word.other || "";
    // A number is written as its language has it, and so is its sign for percent.
    return text.replace(/\{(\w+)\}(\s?%)?/g, (all, name: string, sign = "") => {
      const value = values[name];
      if (value === undefined) return all;
      if (typeof value === "string") return value + sign;
      return sign ? percents.format(value / 100) : numbers.format(value);
    });
  };
}

/** All words that an author can change, as they are by themselves. */
export function allWords(lang: string): { id: string; text: string }[] {
  return Object.entries(languageOf(lang).words).flatMap(([id, word]) =>
    typeof word === "string"
      ? [{ id, text: word }]
      : Object.entries(word).map(([form, text]) => ({ id: `${id}.${form}`, text })),
  );
}

const WordsContext = createContext<Words>(wordsFor("en"));
export const WordsProvider = WordsContext.Provider;
export const useWords = () => useContext(WordsContext);

/** A figure without zeros that say nothing: 7.50 is 7.5. */
export const short = (figure = "0") => figure.replace(/\.?0+$/, (end) => (figure.includes(".") ? "" : end));

/** What the button for checking says: where each placement is judged, or none is, it hands in. */
export const checkWord = (check: Scene["check"]): WordID => (check === "each" || check === "none" ? "handIn" : "check");

/** Tries in words. */
export function attemptWords(w: Words, scene: Scene, s: Standing): string {
  if (s.phase === "done") return w("finished");
  if (scene.check === "none") return "";
  if (s.left === undefined) return scene.check === "each" ? "" : w("attempt", { n: s.attempt });
  const left = s.phase === "placing" ? s.left + 1 : s.left;
  return w(scene.check === "each" ? "tries" : "checksLeft", { n: left });
}

export function outcomeWords(w: Words, s: Standing): string {
  if (!s.shown) return w("checked");
  const { outcome, right, wrong } = s.shown;
  if (outcome === "right") return w("allRight");
  const of = w("rightSoFar", { n: right.length });
  if (wrong.length === 0) return w("somethingMissing", { right: of });
  return w("someWrong", { right: of, n: wrong.length });
}

export function scoreWords(w: Words, scene: Scene, s: Standing): string {
  return w("score", {
    score: Number(s.final?.score ?? 0),
    points: scene.points,
    percent: Number(s.final?.percent ?? 0),
  });
}

/** A warning while little time is left: under a minute of a longer limit, and again near the end. "" before. */
export function leftWords(w: Words, left: number, limit: number): string {
  const marks = [60000, 30000, 10000].filter((ms) => ms < limit / 2);
  const mark = marks.findLast((ms) => left <= ms);
  if (mark === undefined || left <= 0) return "";
  return mark >= 60000 ? w("minutesLeft", { n: mark / 60000 }) : w("secondsLeft", { n: mark / 1000 });
}

const spokenOf = (list: { id: string; spoken: string }[], id: string | undefined) =>
  list.find((x) => x.id === id)?.spoken ?? "";

/** Which target a piece is in. */
const homeOf = (s: Standing, piece: string) => Object.keys(s.targets).find((t) => s.targets[t]!.includes(piece));

/** What a screen reader says after a move, and what came with it: who made room, who is next, how it came out. */
export function announce(w: Words, scene: Scene, move: Move, before: Standing, after: Standing): string {
  const parts = [outcomeOf(w, scene, move, before, after)];
  if (["placed", "kept"].includes(after.result))
    for (const x of scene.pieces) {
      const [was, now] = [homeOf(before, x.id), homeOf(after, x.id)];
      if (x.id !== move.piece && was && was !== now)
        parts.push(
          now
            ? w("saidMoved", { piece: x.spoken, target: spokenOf(scene.targets, now) })
            : w("saidMadeRoom", { piece: x.spoken }),
        );
    }
  if (after.dealt > before.dealt && after.phase === "placing")
    parts.push(w("saidNext", { piece: scene.pieces[after.dealt - 1]?.spoken ?? "" }));
  if (after.phase === "done" && before.phase !== "done" && scene.check !== "none") {
    parts.push(scoreWords(w, scene, after));
    if (after.final?.band) parts.push(`${after.final.band}.`);
  }
  return parts.filter(Boolean).join(" ");
}

function outcomeOf(w: Words, scene: Scene, move: Move, before: Standing, after: Standing): string {
  const piece = spokenOf(scene.pieces, move.piece);
  const target = spokenOf(scene.targets, homeOf(after, move.piece ?? ""));
  switch (after.result) {
    case "placed":
    case "kept":
      return target ? w("saidPlaced", { piece, target }) : w("saidBack", { piece });
    case "refused":
      return w(after.reason === "full" ? "saidNoRoom" : "saidNotIn", { piece });
    case "lifted":
      return w("saidBack", { piece });
    case "loose":
      return w("saidLoose", { piece });
    case "undone":
      return [w("saidUndone"), ...undone(w, scene, before, after)].join(" ");
    case "reset":
      return w("saidReset");
    case "restarted":
      return w("saidRestarted");
    case "again":
      return `${attemptWords(w, scene, after)}. ${w("saidHeld", { n: after.held.length })}`;
    case "timeUp":
      return w("timeUp");
    case "checked":
      return [outcomeWords(w, after), after.phase === "done" ? "" : attemptWords(w, scene, after)]
        .filter(Boolean)
        .join(" ");
    default:
      return "";
  }
}

/** Where everything is that an undone move had moved. */
function undone(w: Words, scene: Scene, before: Standing, after: Standing): string[] {
  return scene.pieces.flatMap((x) => {
    const [was, now] = [homeOf(before, x.id), homeOf(after, x.id)];
    if (was === now) return [];
    return now
      ? w("saidPlaced", { piece: x.spoken, target: spokenOf(scene.targets, now) })
      : w("saidBack", { piece: x.spoken });
  });
}

/** Where everything stands, a line for each target, and the tray last. */
export function summary(w: Words, scene: Scene, s: Standing): string[] {
  const said = (ids: string[]) => ids.map((id) => spokenOf(scene.pieces, id)).join(", ");
  const placed = new Set(Object.values(s.targets).flat());
  const rest = scene.pieces.slice(0, s.dealt).filter((x) => !placed.has(x.id));
  return [
    ...scene.targets.map((t) => {
      const here = s.targets[t.id] ?? [];
      return here.length > 0 ? w("holds", { target: t.spoken, pieces: said(here) }) : w("empty", { target: t.spoken });
    }),
    rest.length > 0 ? w("stillToPlace", { pieces: rest.map((x) => x.spoken).join(", ") }) : w("trayEmpty"),
  ];
}

const toLeft = new Set(["ar", "arc", "ckb", "dv", "fa", "he", "ps", "sd", "ug", "ur", "yi"]);

/** Which way a language is written. */
export const directionOf = (lang: string): "ltr" | "rtl" =>
  toLeft.has(lang.toLowerCase().split("-")[0]!) ? "rtl" : "ltr";
