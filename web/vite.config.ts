import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    // the shell opens with no signal from a cold start; what the service answers is kept elsewhere (src/local/answers.ts)
    VitePWA({
      registerType: "autoUpdate",
      injectRegister: null, // src/local/files.ts does, when there is time
      manifest: {
        name: "Deriva",
        short_name: "Deriva",
        description: "Nymph rigs set by computation, drifts logged by thumb",
        start_url: "/",
        display: "standalone",
        background_color: "#e9e4d8",
        theme_color: "#e9e4d8",
        icons: [
          { src: "/icon.svg", sizes: "any", type: "image/svg+xml", purpose: "any" },
          // drawn from it by `make icons`, to the edges: a phone cuts them to its own shape
          ...[192, 512].map((px) => ({
            src: `/icon-${px}.png`,
            sizes: `${px}x${px}`,
            type: "image/png",
            purpose: "maskable",
          })),
        ],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}", "engine/engine.json"],
        // the engine is large: it is kept once a beat is taken along (src/local/pack.ts)
        globIgnores: ["engine/python-*/**", "engine/*.zip", "api.html", "assets/document-*"],
        runtimeCaching: [
          {
            urlPattern: ({ url }) =>
              url.pathname.startsWith("/engine/") && !url.pathname.endsWith("engine.json"),
            handler: "CacheFirst",
            options: { cacheName: "engine" },
          },
        ],
        clientsClaim: true,
        skipWaiting: true,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api[./]/],
      },
    }),
  ],
  build: {
    outDir: "../src/deriva/site", // it is part of the package that serves it
    emptyOutDir: true,
    modulePreload: { polyfill: false }, // a browser that knows no preloading does without
    chunkSizeWarningLimit: 1800, // kB as they lie on disk: the page of the API's document, which no angler loads
    rolldownOptions: {
      input: ["index.html", "api.html"],
      output: {
        codeSplitting: {
          groups: [
            // for one page, and not for anglers
            { name: "document", test: /swagger-ui-dist/, priority: 4 },
            // they change less often than screens: in a file of their own they stay in the browser's store
            {
              name: "libraries",
              test: /node_modules\/(react|react-dom|react-error-boundary|scheduler|wouter|regexparam|@tanstack(?!.*(useQueries|queriesObserver)))\/|rolldown\/runtime/,
              priority: 3,
            },
            // each with all that it stands on: what who is not signed in waits for, then what every screen of the app is made with
            { name: "door", test: /web\/src\/(main|app\/screens)\.tsx/, priority: 2 },
            { name: "welcome", test: /web\/src\/features\/welcome/, priority: 1.5 },
            {
              name: "app",
              test: /web\/src\/(app\/(shell|lie|rigs)|ui\/(choosing|back)|local\/(?!files|kept|pack|ledger)|queries\/(water|coach|either|angler|trial))/,
              priority: 1,
            },
            // what the bank shares with other screens
            {
              name: "drawn",
              test: /web\/src\/(draw|features\/(bank|read)\/[a-z]\w*\.ts$|features\/bank\/OutcomeKeys)/,
              minShareCount: 2,
              includeDependenciesRecursively: false,
            },
            { name: "told", test: /web\/src\/local\/ledger/, includeDependenciesRecursively: false },
            // what is opened over a screen, which no screen waits for
            {
              name: "sheets",
              test: /web\/src\/(ui\/(dialogue|slider)|features\/(box\/RodPanel|rig\/SetIt)|.*Sheet)\.tsx/,
              minShareCount: 2,
              includeDependenciesRecursively: false,
            },
            // what most screens share, rather than twenty files of a kilobyte; not what brings a library or a book of words along
            {
              name: "shared",
              test: /web\/src\/(?!ui\/figure|features\/(rig\/RigFacts|ledger|trade|(bank|today)\/sheets))/,
              minShareCount: 2,
              maxModuleSize: 8000,
              includeDependenciesRecursively: false,
            },
          ],
        },
      },
    },
  },
  resolve: {
    alias: {
      // the package's own for browsers of today: by its name comes one for those of ten years ago, a tenth larger
      dexie: "dexie/dist/modern/dexie.mjs",
      // its <style> elements would need a hole in the content policy
      "react-style-singleton": decodeURIComponent(new URL("./src/ui/styles.ts", import.meta.url).pathname),
    },
  },
  worker: { format: "es" },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  test: { environment: "node", include: ["src/**/*.test.ts"] },
});
