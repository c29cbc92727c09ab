import js from "@eslint/js";
import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import imports from "eslint-plugin-import-x";
import lingui from "eslint-plugin-lingui";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

// Each room knows those before it, and none after it. docs/walk.md says what each is for.
const rooms = [
  "api",
  "engine",
  "words",
  "kit",
  "board",
  "document",
  "player",
  "outcomes",
  "release",
  "shelf",
  "learners",
  "people",
  "series",
  "workbench",
  "app",
];
// Within the workbench the lenses stand side by side, and do not know each other.
const beneath = ["model", "grid", "board"];
const lenses = [
  "content",
  "placing",
  "feedback",
  "marks",
  "outcomes",
  "settings",
  "details",
  "rehearse",
  "demonstrate",
  "proof",
];

const within = (room, others) => ({
  target: `./src/${room}`,
  from: others.map((other) => `./src/${other}${other.includes("*") ? "" : "/**/*"}`),
  message: "A room knows only the rooms before it: see eslint.config.js.",
});
const workbench = (name) => `workbench/${name}`;
const zones = [
  ...rooms.slice(0, -1).map((room, i) => within(room, rooms.slice(i + 1))),
  ...beneath.map((room, i) =>
    within(workbench(room), [...beneath.slice(i + 1), ...lenses, "dialogs", "*.*"].map(workbench)),
  ),
  ...lenses.map((lens) =>
    within(workbench(lens), [...lenses.filter((l) => l !== lens), "dialogs", "*.*"].map(workbench)),
  ),
  within(workbench("dialogs"), [workbench("*.*")]),
];

// What is no sentence: a word in lower case, an id, an address; a class; a style; a path or a tag; a selector; a key.
const unsaid = [
  "^[^A-Za-z]*$",
  "^[a-z][A-Za-z0-9]*$",
  "^\\S*[-_./#:[(=<>&]\\S*$",
  "(^| )-?(px|py|size|sunk|flex|grid|border|border-b|rounded|bg|fill|absolute|underline|whitespace|scroll|sticky|block|rich|mt|h|top|bottom|right|outline)[ -]",
  "(calc|translate|minmax|color-mix|shadow)\\(|px$|%$|serif|monospace",
  '^M$|[VH]$|^<|^"|^ (height|title)=',
  "(\\[(data|role)|:not\\(|a\\[href)",
  "^(Ctrl|Alt|Shift)\\+",
  "^(Enter|Escape|Tab|Home|End|Backspace|Delete|F\\d+|2d|(Arrow|Page)\\w+|Files|E|CSV|JWT|POST|Keen Magpie)$",
  "^as wide as this$", // measured, not read
];

export default ts.config(
  { ignores: ["src/api/schema.d.ts", "src/engine/generated"] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { "react-hooks": hooks, "import-x": imports },
    settings: { "import-x/resolver-next": [createTypeScriptImportResolver()] },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "import-x/no-cycle": "error",
      "import-x/no-restricted-paths": ["error", { zones }],
    },
  },
  {
    // What designers read goes through the catalogue; what learners read is in words/en.ts.
    files: ["src/**/*.ts", "src/**/*.tsx"],
    ignores: ["src/{api,engine,player,words}/**", "src/testing.ts", "**/*.test.ts"],
    plugins: { lingui },
    rules: {
      "lingui/no-unlocalized-strings": [
        "error",
        {
          ignore: unsaid,
          ignoreNames: [{ regex: { pattern: "[cC]lassName$|^data-" } }, "style", "d", "points", "transform"],
          ignoreFunctions: ["*.querySelector", "*.querySelectorAll", "*.closest", "*.matches"],
        },
      ],
    },
  },
);
