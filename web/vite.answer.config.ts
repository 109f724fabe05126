import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** The public answering page: one script, apart from the staff application's. */
export default defineConfig({
  plugins: [react()],
  html: { cspNonce: "__NONCE__" },
  build: {
    emptyOutDir: false,
    rollupOptions: { input: "answer.html" },
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
});
