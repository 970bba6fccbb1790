import { defineConfig } from "@playwright/test";
import { join } from "node:path";
import tests from "../playwright.config";

/** Long trials that are run by hand: `npm run campaign`. */
export default defineConfig({
  ...tests,
  testDir: ".",
  timeout: 4 * 60 * 60 * 1000,
  reporter: [["list"]],
  webServer: Object.assign({}, tests.webServer, { cwd: join(import.meta.dirname, "..") }),
  outputDir: "../test-results/campaign",
});
