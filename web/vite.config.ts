import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { fileURLToPath } from "node:url";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";

/** What every page uses; not charts, days of a calendar, lists to choose many of. */
const GROUND =
  /\/src\/(api|offline|session)\/|\/src\/ui\/(?!Chart|DayField|ManyOf|JobProgress|FileButton|save-picture|picture|z\.ts)|\/node_modules\/(react|react-dom|scheduler|@tanstack\/(react-router|router-core|history|react-query|query-core|react-store|store)|uuid|idb|lucide-react|tslib|@noble|use-sync-external-store|react-remove-scroll|aria-hidden|@radix-ui|radix-ui)\//;

export default defineConfig({
  // the day of the build: screens that are too old say so (src/app/old-screens.ts)
  define: { __BUILT__: JSON.stringify(new Date().toISOString().slice(0, 10)) },
  resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      registerType: "prompt",
      injectRegister: null, // src/app/new-version.ts does, and says when a new one is taken
      manifest: {
        name: "Nailwright",
        short_name: "Nailwright",
        description: "One place for a fish-population study",
        display: "standalone",
        background_color: "#f6f1e6",
        theme_color: "#0f3d3a",
        icons: [{ src: "/mark.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        // The tablet starts with no signal: every part of the application is there beforehand.
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/r\//],
        clientsClaim: true,
        maximumFileSizeToCacheInBytes: 4_000_000,
      },
    }),
  ],
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  build: {
    target: "es2023",
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: {
        // what every page needs comes in one piece: seventy small files took longer to ask for than to send
        codeSplitting: { groups: [{ name: "ground", test: GROUND }] },
      },
    },
  },
  // a document for what draws; rules need none, and a file that does for other reasons says so in its first line
  test: {
    setupFiles: ["src/test-setup.ts"],
    testTimeout: 20_000,
    projects: [
      { extends: true, test: { name: "rules", environment: "node", include: ["src/**/*.test.ts"] } },
      { extends: true, test: { name: "screens", environment: "jsdom", include: ["src/**/*.test.tsx"] } },
    ],
  },
});
