import tailwindcss from "@tailwindcss/vite";
import vue from "@vitejs/plugin-vue";
import { readFileSync } from "node:fs";
import { defineConfig } from "vitest/config";

/** The interpreter of the board's worker is served under its version. */
const pyodide = JSON.parse(readFileSync("node_modules/pyodide/package.json", "utf8")) as { version: string };

export default defineConfig({
  plugins: [vue(), tailwindcss()],
  define: { __PYODIDE__: JSON.stringify(pyodide.version) },
  worker: { format: "es" },
  build: { target: "es2022", assetsInlineLimit: 0 },
  server: { proxy: { "/api": "http://127.0.0.1:8040" } },
  test: { environment: "jsdom", include: ["tests/**/*.spec.ts"] },
});
