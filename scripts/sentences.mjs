// Prints every sentence of the interface and of the core’s catalogues that a person meets, by file, so that a view can be
// read aloud from beginning to end; {…} stands for what is filled in. With --check it looks for
// what the house does not write.
import { existsSync, readFileSync, readdirSync } from "node:fs";
import { join, relative } from "node:path";
import { createRequire } from "node:module";

const root = new URL("../ui/src/", import.meta.url).pathname;
const ts = createRequire(join(root, "../package.json"))("typescript");

/** What nobody reads: class names, selectors, ids, names of types, keys and headers. */
const code =
  /(^| )-?(px|py|flex|grid|rounded|border|text|bg|fill|stroke|outline|size|max|min|w|h|gap|top|bottom|left|right|absolute|relative|whitespace|underline|m[btlrxy]?)-|var\(|calc\(|\[|=>|^[a-z-]+$|^[#./]|^[A-Z][A-Za-z]+-[A-Z]|^\w+\.\w+|[0-9}]px\b|^<svg|100%,|monospace$|serif$|^(input|textarea|a\[|button)\b/;

/** What is not written, and what is written instead. */
const house = [
  [/[A-Za-z]'[a-z]/, "an apostrophe is ’"],
  [/"[^"]+"/, "quotation marks are “ and ”"],
  [/\.\.\./, "an ellipsis is …"],
  [/!$/, "no exclamation marks"],
  [/[a-z] {2,}[a-z]/, "one space between words"],
  [/\b(anew|afresh|by itself|beside every|lets? in|turn(s|ed)? away|lens)\b/i, "say it in plain words"],
  [/\b(take|takes|took) (it |this |that )?(off|away|back|out|in)\b/i, "import, remove, clear, undo or revert"],
];

function* files(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* files(path);
    else if (/\.tsx?$/.test(entry.name) && !/\.test\.|\.d\.ts$|^(de|deFormal|types|schema)\.ts$/.test(entry.name)) yield path;
  }
}

const plain = (node) => (ts.isStringLiteralLike(node.expression ?? node) ? (node.expression ?? node).text : "{…}");

function sentences(path) {
  const found = new Set();
  const add = (text) => {
    const said = text.replace(/\s*\n\s*/g, " ").trim();
    if (/[A-Za-z]{2}/.test(said) && !code.test(said) && (said.includes(" ") || /^[A-Z][a-z]+…?$/.test(said))) found.add(said);
  };
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isJsxAttribute(node) && /className|^d$|points|viewBox|^type$/.test(node.name.getText())) return;
    if ((ts.isJsxElement(node) || ts.isJsxFragment(node)) && node.children.some((c) => ts.isJsxText(c) && c.text.trim())) {
      add(node.children.map((c) => (ts.isJsxText(c) ? c.text : ts.isJsxExpression(c) ? (c.expression ? plain(c) : "") : "<…>")).join(""));
    } else if (ts.isTemplateExpression(node)) {
      add(node.head.text + node.templateSpans.map((s) => `{…}${s.literal.text}`).join(""));
    } else if (ts.isStringLiteralLike(node)) add(node.text);
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile(path, readFileSync(path, "utf8"), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX));
  return found;
}

/** The catalogues of the core: code and sentence in a line. */
function said(path) {
  const lines = readFileSync(path, "utf8").matchAll(/^\t"[a-zA-Z/-]+": +"(.*)",$/gm);
  return new Set([...lines].map((m) => m[1].replaceAll(/\{(\w+), (plural|select),/g, "{$1,").trim()));
}

const check = process.argv.includes("--check");
let faults = 0;
const core = join(root, "../../core");
const sources = [
  ...[...files(root)].map((path) => [path, sentences(path)]),
  ...readdirSync(core).map((name) => join(core, name, "said.go")).filter(existsSync).map((path) => [path, said(path)]),
];
for (const [path, list] of sources) {
  const name = relative(join(root, "../.."), path);
  if (list.size > 0 && !check) console.log(`\n${name}\n${[...list].map((s) => `  ${s}`).join("\n")}`);
  for (const s of check ? list : []) {
    for (const [pattern, instead] of house) {
      if (!pattern.test(s)) continue;
      console.log(`${name}: ${instead}: ${s}`);
      faults++;
    }
  }
}
process.exit(faults > 0 ? 1 : 0);
