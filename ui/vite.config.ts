import { defineConfig } from "vite";
import react from "@vitejs/plugin-react";
import tailwind from "@tailwindcss/vite";
import { spoken } from "./messages.ts";

// What learners wait for is built by itself (MAGPIE_PAGE=play): built with the rest, its scripts
// would hold what other pages share with them.
const play = process.env.MAGPIE_PAGE === "play";

export default defineConfig({
  // The server knows below which path it stands, and writes it into the pages.
  base: "./",
  plugins: [spoken(), react(), tailwind()],
  build: {
    outDir: "../server/webui/dist/built",
    emptyOutDir: !play,
    assetsInlineLimit: 0,
    reportCompressedSize: false,
    chunkSizeWarningLimit: 1500,
    rollupOptions: { input: play ? { play: "play.html" } : { app: "index.html", launched: "launched.html" } },
  },
  worker: { format: "es" },
});
