import { defineConfig } from "@playwright/test";
import { launch } from "./browser.js";

export default defineConfig({
  testDir: ".",
  globalSetup: "./prepare.js",
  outputDir: "results",
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 2,
  retries: 0, // a test that passes at the second try has found something
  reporter: [["list"]],
  use: { actionTimeout: 20_000, launchOptions: launch, viewport: { width: 1280, height: 800 } },
});
