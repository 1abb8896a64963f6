import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

/** What a phone under a car asks for: kept as it was last answered, for when nothing answers. */
const BENCH = /\/api\/(session|builds\/\d+|stages\/(job-card|fit|track-book)\/\d+)(\?.*)?$/;
/** Days for which an answer is kept on the phone. */
const KEPT_DAYS = 14;

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      registerType: "autoUpdate",
      injectRegister: null, // only where the certificate is trusted: see offline/worker.ts
      filename: "worker.js",
      manifestFilename: "bilge.webmanifest",
      manifest: {
        name: "Bilge",
        short_name: "Bilge",
        description: "When, where and for how long the oil pickup runs dry.",
        display: "standalone",
        background_color: "#F5F1E8",
        theme_color: "#F5F1E8",
        icons: [{ src: "/mark.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//],
        cleanupOutdatedCaches: true,
        runtimeCaching: [
          {
            urlPattern: BENCH,
            handler: "NetworkFirst",
            options: {
              cacheName: "bench",
              networkTimeoutSeconds: 6,
              expiration: { maxEntries: 60, maxAgeSeconds: KEPT_DAYS * 86_400 },
              cacheableResponse: { statuses: [200] },
            },
          },
        ],
      },
    }),
  ],
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
});
