import { defineConfig } from "vite";
import react from "@vitejs/plugin-react";
import tailwind from "@tailwindcss/vite";

export default defineConfig({
  // The server knows below which path it stands, and writes it into the pages.
  base: "./",
  plugins: [react(), tailwind()],
  build: {
    outDir: "../server/webui/dist/built",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    reportCompressedSize: false,
    chunkSizeWarningLimit: 1500,
    rollupOptions: { input: { app: "index.html", play: "play.html", launched: "launched.html" } },
  },
  worker: { format: "es" },
});
