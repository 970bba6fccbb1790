import { defineConfig } from "@playwright/test";

const PORT = 3217;

/** What tests have no use for in the browser itself. This list takes the place of the driver's own, which is in it. */
const unneeded = [
  "WebUIOmniboxPopup",
  "WebUIOmniboxAimPopup",
  "AimEnabled",
  "AvoidUnnecessaryBeforeUnloadCheckSync",
  "DestroyProfileOnBrowserClose",
  "HttpsUpgrades",
  "HttpsFirstBalancedModeAutoEnable",
  "LensOverlay",
  "MediaRouter",
  "NetworkTimeServiceQuerying",
  "OptimizationHints",
  "PaintHolding",
  "PreconnectToSearch",
  "ThirdPartyStoragePartitioning",
];

export default defineConfig({
  testDir: "e2e",
  // A slow machine is no fault of the code.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  workers: 2,
  outputDir: "test-results/e2e",
  reporter: [["list"], ["json", { outputFile: "test-results/playwright.json" }]],
  use: {
    actionTimeout: 90_000,
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // Answers that tests give in the server's place must reach the page; what works offline has tests of its own.
    serviceWorkers: "block",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      chromiumSandbox: false,
      args: [
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        // The suggestions under the browser's address bar are pages of their own, and cost a tenth of the time.
        `--disable-features=${unneeded.join()}`,
      ],
    },
  },
  webServer: {
    command: `PORT=${PORT} node scripts/start.mjs`,
    url: `http://localhost:${PORT}`,
    timeout: 60_000,
  },
});
