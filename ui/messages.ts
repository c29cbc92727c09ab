import { fileURLToPath } from "node:url";
import babel, { defineRolldownBabelPreset } from "@rolldown/plugin-babel";

const words = (name: string) => fileURLToPath(new URL(`src/words/${name}`, import.meta.url));

/**
 * Makes messages of t, plural and Trans. The English stays where it is written: it is what is said
 * where no other language is loaded.
 */
export const spoken = () => [
  babel({
    presets: [
      defineRolldownBabelPreset({
        preset: { plugins: [["@lingui/babel-plugin-lingui-macro", { stripMessageField: false }]] },
        rolldown: { filter: { code: "@lingui/" } },
      }),
    ],
  }),
  {
    name: "spoken",
    config: () => ({
      resolve: { alias: { "magpie:spoken": words("spoken.ts"), "magpie:Trans": words("Trans.tsx") } },
    }),
  },
];
