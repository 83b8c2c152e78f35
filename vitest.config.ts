import { resolve } from "node:path";
import { defineConfig } from "vitest/config";

const root = import.meta.dirname;

export default defineConfig({
  resolve: { alias: { "@demo": resolve(root, "demo"), "@": resolve(root, "src") } },
  test: {
    testTimeout: 120_000,
    hookTimeout: 120_000,
    setupFiles: ["tests/support/samples-alike.ts"],
    // Two cores: more files at once would only wait for each other.
    maxWorkers: 2,
    projects: [
      // The core holds nothing between two calls, so its files may share what they import.
      { extends: true, test: { name: "core", include: ["tests/core/**/*.test.ts"], isolate: false } },
      // Nor does what works on photos: threads and caches serve any of them.
      {
        extends: true,
        test: {
          name: "imaging",
          include: ["tests/{imaging,delivery}/**/*.test.ts"],
          isolate: false,
          globalSetup: ["tests/support/bundles.ts"],
        },
      },
      {
        extends: true,
        test: {
          name: "rest",
          include: ["tests/**/*.test.ts"],
          exclude: ["tests/{core,imaging,delivery}/**"],
          isolate: false,
          globalSetup: ["tests/support/database.ts", "tests/support/bundles.ts"],
        },
      },
    ],
  },
});
