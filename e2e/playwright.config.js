import { defineConfig } from "@playwright/test";
import { launch } from "./browser.js";

export default defineConfig({
  testDir: ".",
  outputDir: "results",
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 2,
  retries: process.env.CI ? 1 : 0,
  reporter: [["list"]],
  use: { actionTimeout: 20_000, launchOptions: launch, viewport: { width: 1280, height: 800 } },
});
