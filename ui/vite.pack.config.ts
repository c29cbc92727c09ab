import { defineConfig } from "vite";
import react from "@vitejs/plugin-react";
import tailwind from "@tailwindcss/vite";

// The player of packages: one plain script, since a page opened from a folder may load no modules.
export default defineConfig({
  base: "./",
  plugins: [react(), tailwind()],
  // Everything is in one script: there is nothing to load from where it stands.
  define: { "import.meta.url": JSON.stringify("") },
  publicDir: false,
  build: {
    outDir: "../formats/pack/player/built",
    emptyOutDir: true,
    reportCompressedSize: false,
    chunkSizeWarningLimit: 1500,
    assetsInlineLimit: 0,
    cssCodeSplit: false,
    modulePreload: false,
    rollupOptions: {
      input: "src/player/packed.tsx",
      output: {
        format: "iife",
        entryFileNames: "player.js",
        assetFileNames: (a) => (a.names[0]?.endsWith(".css") ? "player.css" : "[name][extname]"),
      },
    },
  },
});
