import optimizeLocales from "@react-aria/optimize-locales-plugin";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** The staff application, in English. The server fills in the nonce of each response. */
export default defineConfig({
  plugins: [react(), optimizeLocales.vite({ locales: ["en-US"] })],
  html: { cspNonce: "__NONCE__" },
  build: {
    // Which script needs which, for the check of their sizes.
    manifest: "desk.json",
    rollupOptions: { input: "desk.html" },
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    chunkSizeWarningLimit: 900,
  },
});
