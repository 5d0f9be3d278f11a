import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";
import { browserCore } from "./browser-core.ts";

export default defineConfig({
  base: "/static/",
  plugins: [
    react(),
    tailwindcss(),
    browserCore(),
    VitePWA({
      // Registered by hand after the first paint (src/offline/worker.ts), and served by the site at the root, so that it rules every address.
      injectRegister: false,
      registerType: "autoUpdate",
      filename: "sw.js",
      scope: "/",
      manifest: {
        name: "Ulsek",
        short_name: "Ulsek",
        start_url: "/shift",
        scope: "/",
        display: "standalone",
        background_color: "#DCE2E4",
        theme_color: "#1B3A6B",
        icons: [{ src: "/static/mark.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        globPatterns: ["assets/*.{js,css}", "assets/*-latin-wght-*.woff2", "mark.svg", "core.zip", "pyodide/*"],
        modifyURLPrefix: { "": "/static/" },
        maximumFileSizeToCacheInBytes: 16_000_000,
        inlineWorkboxRuntime: true,
        importScripts: ["/static/push.js"],
        navigateFallback: null,
        cleanupOutdatedCaches: true,
        runtimeCaching: [
          {
            urlPattern: ({ request, url }) => request.mode === "navigate" && !url.pathname.startsWith("/api/"),
            handler: "NetworkFirst",
            // Every address answers with the same page.
            options: { cacheName: "page", plugins: [{ cacheKeyWillBeUsed: async () => "/" }] },
          },
          {
            urlPattern: ({ request, url, sameOrigin }) =>
              sameOrigin && request.method === "GET" && url.pathname.startsWith("/api/") && url.pathname !== "/api/health",
            handler: "NetworkFirst",
            options: { cacheName: "answers", expiration: { maxEntries: 400, maxAgeSeconds: 3 * 86_400 } },
          },
        ],
      },
    }),
  ],
  build: { target: "es2022", assetsInlineLimit: 0 },
  worker: { format: "es" },
  server: { proxy: { "/api": "http://127.0.0.1:8713" } },
  test: { environment: "jsdom", globals: false, include: ["tests/**/*.test.{ts,tsx}"], setupFiles: ["tests/setup.ts"] },
});
