import { resolve } from "node:path";
import { defineConfig } from "vitest/config";

const root = import.meta.dirname;

export default defineConfig({
  resolve: { alias: { "@demo": resolve(root, "demo"), "@": resolve(root, "src") } },
  test: {
    include: ["tests/**/*.test.ts"],
    globalSetup: ["tests/support/database.ts", "tests/support/bundles.ts"],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Two cores: more files at once would only wait for each other.
    maxWorkers: 2,
  },
});
