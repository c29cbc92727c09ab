import { formatter } from "@lingui/format-po";

/** What designers read: written in English where it is said, gathered here for whoever translates it. */
export default {
  sourceLocale: "en",
  locales: ["en"],
  catalogs: [
    {
      path: "src/words/designers/{locale}",
      include: ["src"],
      exclude: ["src/player/**", "src/**/*.test.ts", "src/api/schema.d.ts"],
    },
  ],
  format: formatter({ lineNumbers: false, printPlaceholdersInComments: false }),
  orderBy: "message",
  runtimeConfigModule: { i18n: ["magpie:spoken", "i18n"], Trans: ["magpie:Trans", "Trans"] },
};
