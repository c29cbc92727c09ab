import { defineConfig } from "vite";
import react from "@vitejs/plugin-react";
import tailwind from "@tailwindcss/vite";

// The player of packages: plain scripts, since a page opened from a folder may load no modules.
// One at a time: what packages for cmi5 have besides comes second (MAGPIE_PART=cmi5).
const part = process.env.MAGPIE_PART === "cmi5" ? "cmi5" : "player";

export default defineConfig({
  base: "./",
  plugins: [react(), tailwind()],
  // Everything is in one script: there is nothing to load from where it stands.
  define: { "import.meta.url": JSON.stringify("") },
  publicDir: false,
  build: {
    outDir: "../formats/pack/player/built",
    emptyOutDir: part === "player",
    reportCompressedSize: false,
    chunkSizeWarningLimit: 1500,
    assetsInlineLimit: 0,
    cssCodeSplit: false,
    modulePreload: false,
    rollupOptions: {
      input: part === "cmi5" ? "src/player/hosts/cmi5.ts" : "src/player/packed.tsx",
      output: {
        format: "iife",
        entryFileNames: `${part}.js`,
        assetFileNames: (a) => (a.names[0]?.endsWith(".css") ? "player.css" : "[name][extname]"),
      },
    },
  },
});
