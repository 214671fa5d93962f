import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  // The docs hold the catalogue and the schema that tests check the page against.
  server: { port: 5173, proxy: { "/api": "http://127.0.0.1:8765" }, fs: { allow: [".", "../docs"] } },
  build: { outDir: "dist", chunkSizeWarningLimit: 2000 },
  test: {
    environment: "node",
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/testing/setup.ts"],
    restoreMocks: true,
    isolate: false,
    // Nothing is measured by time: a machine that does something else besides fails no test.
    testTimeout: 60_000,
  },
});
