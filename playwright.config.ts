import { defineConfig } from "@playwright/test";

const args = [
  "--headless",
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

/** Large pictures take both cores by themselves: two such tests beside each other wait for one another. */
const LARGE = /(heavy|view|weigh)\.spec\.ts/;

export default defineConfig({
  testDir: "e2e",
  fullyParallel: false,
  // Each has an application of its own. One more than cores: a page that waits leaves them to the others.
  workers: 3,
  projects: [
    { name: "large pictures", testMatch: LARGE, workers: 1 },
    { name: "all else", testIgnore: LARGE },
  ],
  // A busy machine may once be too slow; a test that fails twice is wrong.
  retries: process.env.CI ? 1 : 0,
  timeout: 480_000,
  expect: { timeout: 60_000 },
  reporter: [["list"]],
  forbidOnly: true,
  globalSetup: "./e2e/support/start.ts",
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: "/usr/bin/chromium", args },
    // A trace costs time in every step: where it may be needed, the test is tried again with it.
    trace: "on-first-retry",
    acceptDownloads: true,
    // A button that never comes fails its test, not the time of all tests.
    actionTimeout: 240_000,
  },
});
