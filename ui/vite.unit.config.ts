import { defineConfig } from "vite";
import { spoken } from "./messages.ts";

/** The page of the modules' tests; it is no part of what ships. */
export default defineConfig({
  root: "unit",
  base: "./",
  plugins: [spoken()],
  build: { target: "esnext", emptyOutDir: true, reportCompressedSize: false, minify: false },
  worker: { format: "es" },
});
