import { equal, test } from "../testing";
import { namesOf, tableOf } from "./names";

const lea = ["Lea Brandt", "Tom Ek"];

test("names of a list, one a line", () => {
  equal(namesOf({ text: " Lea Brandt\r\n\r\nTom Ek\n" }), lea);
  equal(namesOf({ text: 'Lea "Lu" Brandt\nTom Ek' }), ['Lea "Lu" Brandt', "Tom Ek"]);
  equal(namesOf({ text: "" }), []);
});

test("a comma that somebody wrote belongs to the name", () => {
  equal(namesOf({ text: "Brandt, Lea\nEk, Tom" }), ["Brandt, Lea", "Ek, Tom"]);
  equal(namesOf({ text: "Lea Brandt\nTom Ek,Ida Moe" }), ["Lea Brandt", "Tom Ek,Ida Moe"]);
  equal(namesOf({ text: '"Brandt, Lea"\n"Ek, Tom"' }), ["Brandt, Lea", "Ek, Tom"]);
});

test("of a table's rows the first cell, as long as nothing else is said", () => {
  for (const sign of ["\t", ";", ","]) {
    const text = lea.map((name, i) => [name, `${i}@tarnbridge.example`].join(sign)).join("\n");
    equal(namesOf({ text }), lea);
    equal(tableOf({ text }).wide, 2);
  }
  equal(namesOf({ text: 'Lea "Lu" Brandt\tleft-handed\n\nTom Ek' }), ['Lea "Lu" Brandt', "Tom Ek"]);
});

test("headings say which columns are the name, unless told otherwise", () => {
  const text = 'Email,First name,Last name\na@b.example,Lea,Brandt\n"c@d.example",Tom,"Ek"\n,,\n';
  equal(namesOf({ text }), lea);
  equal(namesOf({ text, columns: [2] }), ["Brandt", "Ek"]);
  equal(namesOf({ text, columns: [1], heading: false }), ["First name", "Lea", "Tom"]);
  equal(namesOf({ text: "Kim Reed\n" + text.replaceAll(",", "\t"), columns: [0] })[0], "Kim Reed");
});
