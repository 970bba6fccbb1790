import { defineConfig } from "@playwright/test";
import tests from "../playwright.config";

/** Long trials that are run by hand: `npm run campaign`. */
export default defineConfig({
  ...tests,
  testDir: ".",
  timeout: 4 * 60 * 60 * 1000,
  reporter: [["list"]],
  outputDir: "../test-results/campaign",
});
