/**
 * Everything that must hold, in order: set-up, format, lint, types, licences, code that nothing uses, build, unit
 * tests, end-to-end tests. Ends with a line `N passed, N failed`.
 */
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";

const results = "test-results";
let passed = 0;
let failed = 0;

function run(command, args, env = {}) {
  console.log(`\n> ${command} ${args.join(" ")}`);
  const { status } = spawnSync(command, args, {
    stdio: "inherit",
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", npm_config_loglevel: "error", ...env },
  });
  return status === 0;
}

/** Starts a command beside the next ones; what it says is shown when it ends. */
function beside(...args) {
  const child = spawn("npx", ["--no-install", ...args], {
    env: { ...process.env, npm_config_loglevel: "error" },
  });
  let said = "";
  child.stdout.on("data", (data) => (said += data));
  child.stderr.on("data", (data) => (said += data));
  return new Promise((resolve) =>
    child.on("close", (status) => {
      console.log(`\n> npx ${args.join(" ")}\n${said}`);
      resolve(status === 0);
    }),
  );
}

const npx = (...args) => run("npx", ["--no-install", ...args]);

function count(ok) {
  if (ok) passed++;
  else failed++;
}

/** Set-up that later steps cannot do without. */
function must(name, ok) {
  if (ok) return;
  console.error(`\n${name} failed, so the rest cannot run`);
  console.log(`\n${passed} passed, ${failed + 1} failed`);
  process.exit(1);
}

function ensureChromium() {
  if (existsSync("/usr/bin/chromium")) return true;
  return (
    run("apt-get", ["update", "-q"]) &&
    run("apt-get", ["install", "-y", "-q", "chromium"], { DEBIAN_FRONTEND: "noninteractive" })
  );
}

function countJest() {
  const file = `${results}/jest.json`;
  const ok = npx("jest", "--json", `--outputFile=${file}`);
  const report = JSON.parse(readFileSync(file, "utf8"));
  passed += report.numPassedTests;
  failed += report.numFailedTests + report.numRuntimeErrorTestSuites;
  if (!ok && report.numFailedTests + report.numRuntimeErrorTestSuites === 0) failed++;
}

function countPlaywright() {
  const file = `${results}/playwright.json`;
  const ok = run("npx", ["--no-install", "playwright", "test"], {
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
  });
  if (!existsSync(file)) {
    failed++;
    return;
  }
  const { stats } = JSON.parse(readFileSync(file, "utf8"));
  passed += stats.expected + stats.flaky;
  failed += stats.unexpected;
  if (!ok && stats.unexpected === 0) failed++;
}

rmSync(results, { recursive: true, force: true });
must(
  "npm install",
  existsSync("node_modules/.package-lock.json") ||
    run("npm", ["install", "--no-audit", "--no-fund"]),
);
must("Chromium", ensureChromium());
mkdirSync(results, { recursive: true });
must("the kernels", run("npm", ["run", "-s", "kernels"]));
must("the sample logs", run("npm", ["run", "-s", "samples"]));
must("what works offline", run("npm", ["run", "-s", "offline"]));
const painted = beside("tsx", "demo/paint-samples.ts");
const built = beside("next", "build");
count(await beside("prettier", "--check", "--log-level", "warn", "."));
must("the build", await built);
must("the painted samples", await painted);
const linted = beside("eslint", ".", "--max-warnings", "0");
count(run("node", ["scripts/licences.mjs"]));
count(npx("knip", "--no-progress", "--no-config-hints"));
count(await beside("tsc", "--noEmit"));
count(await linted);
countJest();
mkdirSync(results, { recursive: true });
countPlaywright();
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
