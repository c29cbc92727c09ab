import { equal, test } from "../testing";
import { de } from "./de";
import { en } from "./en";
import { allWords, short, wordsFor } from "./words";

test("words: each language has every word, with the same blanks", () => {
  const blanks = (word: unknown) => [...new Set(JSON.stringify(word).match(/\{\w+\}/g) ?? [])].sort();
  equal(Object.keys(de).sort(), Object.keys(en).sort());
  for (const id of Object.keys(en) as (keyof typeof en)[]) {
    // A form for one thing may leave the number out.
    const needed = blanks(en[id]).filter((b) => b !== "{n}");
    equal(
      blanks(de[id]).filter((b) => b !== "{n}"),
      needed,
      id,
    );
  }
});

test("words: one and many, by the rules of the language", () => {
  const w = wordsFor("en");
  equal(w("checksLeft", { n: 1 }) === w("checksLeft", { n: 2 }), false);
  equal(w("checksLeft", { n: 2 }).includes("2"), true);
});

test("words: numbers as the language writes them", () => {
  const own = { finished: "{n} von {total}, {percent} %" };
  equal(wordsFor("de", own)("finished", { n: 1234.5, total: 2, percent: 12.5 }), "1.234,5 von 2, 12,5\u00a0%");
  equal(wordsFor("en", own)("finished", { n: 1234.5, total: 2, percent: 12.5 }), "1,234.5 von 2, 12.5%");
});

test("words: an author's own take the place of ours, and an empty one does not", () => {
  equal(wordsFor("en", { finished: "That is all." })("finished"), "That is all.");
  equal(wordsFor("en", { finished: "" })("finished"), wordsFor("en")("finished"));
});

test("words: a language that is not there is English", () => {
  equal(wordsFor("sq")("finished"), wordsFor("en")("finished"));
});

test("words: figures without zeros that say nothing", () => {
  equal(["7.50", "7.00", "70", "0.05"].map(short), ["7.5", "7", "70", "0.05"]);
});

test("words: German addresses learners as du or as Sie", () => {
  equal(wordsFor("de")("yourName"), "Dein Name");
  for (const lang of ["de-x-formal", "de-AT-x-formal"]) equal(wordsFor(lang)("yourName"), "Ihr Name", lang);
  // Nothing of the other form is left.
  const formal = JSON.stringify(allWords("de-x-formal").map(({ text }) => text));
  equal(formal.match(/\b([Dd]u|[Dd]ich|[Dd]ir|[Dd]ein\w*|Frag|Wähle|Lade|Gib|Vergleich)\b[^e]/g), null);
});
