import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import i18n from "@intlify/unplugin-vue-i18n/vite";
import vue from "@vitejs/plugin-vue";
import { VitePWA } from "vite-plugin-pwa";
import vuetify from "vite-plugin-vuetify";
import { defineConfig } from "vitest/config";

const messagesOf = (id: string): string =>
  `messages-${/(\w+)\.(?:json|ts)/.exec(id)?.[1] ?? "more"}`;

/**
 * What is asked for together comes in one file: a page of the hall asked for ninety small ones, each
 * with a way to the server and back. Earlier ones have the say.
 */
const FILES = [
  // The messages of a part come with its code: the first page waits for none but its own.
  { name: messagesOf, test: /src\/messages\/(?!area)/, priority: 6 },
  // What stands before anybody is signed in; a test keeps it small.
  { name: "first", tags: ["$initial" as const], priority: 5 },
  // The head of a page is there before what the page needs.
  { name: "head", test: /src\/parts\/PageHead/, priority: 5 },
  // What every page has.
  {
    name: "every",
    test: /src\/(sync|api|app|parts)\/(?!BarPlot)|Search\.vue|@tanstack|@vueuse/,
    priority: 4,
  },
  // The ways of taking scores are all at hand in the hall, whatever the network does then.
  {
    name: "hall",
    test: /src\/(sheet\/|lessons\/hall\/(?!Projector|Stations))/,
    priority: 3,
  },
  { name: "fields", test: /vuetify\/lib\/components\//, priority: 2 },
  { name: "shared", test: /src\//, minShareCount: 2, priority: 1 },
];

/** What the API answers is of these shapes: a page kept by a version with others is not shown. */
const SHAPES = createHash("sha256")
  .update(readFileSync(new URL("./src/api/schema.d.ts", import.meta.url)))
  .digest("hex")
  .slice(0, 12);

export default defineConfig({
  base: "/static/",
  define: { "import.meta.env.VITE_SHAPES": JSON.stringify(SHAPES) },
  plugins: [
    vue(),
    vuetify({ autoImport: true }),
    // Messages are compiled when Lauf is built: nothing reads their braces in the browser.
    i18n({ include: fileURLToPath(new URL("./src/messages/en-GB/**", import.meta.url)) }),
    VitePWA({
      scope: "/",
      strategies: "injectManifest",
      srcDir: "src/worker",
      filename: "sw.ts",
      // Lauf registers it once somebody is signed in, and decides when a new version takes over.
      injectRegister: false,
      registerType: "prompt",
      manifest: {
        name: "Lauf",
        short_name: "Lauf",
        description: "Fitness tests and timed challenges in primary PE",
        lang: "en-GB",
        id: "/",
        start_url: "/",
        scope: "/",
        display: "standalone",
        background_color: "#e9eee8",
        theme_color: "#0b4f5c",
        icons: [
          { src: "/static/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/static/icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/static/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
      },
      injectManifest: {
        // The page is the server's, which puts its revision in this place (web/urls.py): it and
        // the files that it names are of one version.
        additionalManifestEntries: [{ url: "/", revision: "__LAUF_PAGE_REVISION__" }],
        globPatterns: ["**/*.{js,css,woff2,svg}"],
        modifyURLPrefix: { "": "/static/" },
        maximumFileSizeToCacheInBytes: 4_000_000,
      },
    }),
  ],
  // The server puts the answer's nonce in this place (backend/lauf/web/urls.py).
  html: { cspNonce: "__LAUF_CSP_NONCE__" },
  build: {
    outDir: "dist/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    target: "es2022",
    rolldownOptions: { output: { codeSplitting: { groups: FILES } } },
  },
  test: {
    environment: "happy-dom",
    // Not a process for each file: those spent longer on their browser than on the tests.
    pool: "vmThreads",
    setupFiles: ["src/testing/anew.ts"],
    // A busy machine takes its time: nothing fails for being slow.
    testTimeout: 120_000,
    include: ["src/**/*.test.ts"],
    server: { deps: { inline: ["vuetify"] } },
  },
});
