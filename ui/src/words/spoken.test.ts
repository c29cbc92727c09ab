import { createElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { msg, plural, t } from "@lingui/core/macro";
import { equal, test } from "../testing";
import { i18n } from "./spoken";
import { Trans } from "./Trans";
import { listed } from "./figures";

test("sentences: what is counted agrees with its number, and a large one is grouped", () => {
  const pieces = (n: number) => plural(n, { one: "# piece", other: "# pieces" });
  equal([0, 1, 2, 12345].map(pieces), ["0 pieces", "1 piece", "2 pieces", "12,345 pieces"]);
  equal(listed(["Wood", "Metal", "Glass"]), "Wood, Metal, and Glass");
});

test("sentences: another language is spoken where it is loaded, and English where it has no sentence", () => {
  const n = 3;
  const says = () => [t`${n} pieces are held`, t`Not in the catalogue`];
  i18n.load("xx", { [msg`${n} pieces are held`.id]: "so: {n}" });
  i18n.activate("xx");
  const spoken = says();
  i18n.activate("en");
  equal(spoken, ["so: 3", "Not in the catalogue"]);
  equal(says(), ["3 pieces are held", "Not in the catalogue"]);
});

test("sentences: what is filled in is shown as it is, also where it looks like an element", () => {
  const shown = createElement(Trans, {
    id: "shown",
    message: "<0>{title}</0> is deleted, with {many}",
    values: { title: "A <1>tall</1> {tale}", many: 3 },
    components: { 0: createElement("b") },
  });
  equal(renderToStaticMarkup(shown), "<b>A &lt;1&gt;tall&lt;/1&gt; {tale}</b> is deleted, with 3");
});
