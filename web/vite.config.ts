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
      // Registered by hand after the first paint (src/sync/serviceWorker.ts), and served by the site at the root, so that it rules every address.
      injectRegister: false,
      strategies: "injectManifest",
      srcDir: "src/worker",
      filename: "sw.ts",
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
      injectManifest: {
        rollupFormat: "iife",
        globPatterns: ["assets/*.{js,css}", "assets/*-latin-wght-*.woff2", "mark.svg", "core.zip", "pyodide/*"],
        modifyURLPrefix: { "": "/static/" },
        maximumFileSizeToCacheInBytes: 16_000_000,
      },
    }),
  ],
  build: { target: "es2022", assetsInlineLimit: 0 },
  worker: { format: "es" },
  server: { proxy: { "/api": "http://127.0.0.1:8713" } },
  test: {
    environment: "jsdom",
    globals: false,
    include: ["tests/**/*.test.{ts,tsx}"],
    setupFiles: ["tests/setup.ts"],
    pool: "threads",
    isolate: false,
  },
});
