import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** The answering page once more, for Node, which draws it before it is sent: one script. */
export default defineConfig({
  plugins: [react()],
  ssr: { noExternal: true },
  define: { "process.env.NODE_ENV": JSON.stringify("production") },
  build: { emptyOutDir: false, ssr: "render.js", outDir: "dist/render", target: "node22" },
});
