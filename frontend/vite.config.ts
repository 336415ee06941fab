import vue from "@vitejs/plugin-vue";
import vuetify from "vite-plugin-vuetify";
import { defineConfig } from "vitest/config";

export default defineConfig({
  base: "/static/",
  plugins: [vue(), vuetify({ autoImport: true })],
  // The server puts the answer's nonce in this place (backend/lauf/web/urls.py).
  html: { cspNonce: "__LAUF_CSP_NONCE__" },
  build: { outDir: "dist/static", emptyOutDir: true, assetsInlineLimit: 0, target: "es2022" },
  test: {
    environment: "happy-dom",
    // A busy machine takes its time: nothing fails for being slow.
    testTimeout: 120_000,
    include: ["src/**/*.test.ts"],
    server: { deps: { inline: ["vuetify"] } },
  },
});
