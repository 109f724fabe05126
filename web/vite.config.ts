import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** The staff application. The server fills in the nonce of each response. */
export default defineConfig({
  plugins: [react()],
  html: { cspNonce: "__NONCE__" },
  build: {
    rollupOptions: { input: "desk.html" },
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 900,
  },
});
