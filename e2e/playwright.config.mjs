// The journeys: ten places, four of them walked at a time, since most of a walk is waiting, in the system's Chromium.
//   KEEN_PITCHER=../target/debug/keen-pitcher npx playwright test [PART OF A NAME]
import { defineConfig } from "@playwright/test";
import { desk, program } from "./browser.mjs";

export default defineConfig({
  testDir: "journeys",
  outputDir: "../target/journeys",
  fullyParallel: true,
  workers: 4,
  retries: 0,
  // Other tests share the machine: what takes a second by itself may take many of them.
  timeout: 240_000,
  expect: { timeout: 40_000 },
  reporter: [["line"]],
  use: {
    viewport: desk,
    locale: "en-GB",
    actionTimeout: 40_000,
    navigationTimeout: 40_000,
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: program,
    // What failed can be walked again: npx playwright show-trace target/journeys/.../trace.zip
    trace: { mode: "retain-on-failure", screenshots: false, snapshots: false, sources: false },
  },
});
