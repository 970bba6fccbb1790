/**
 * Looks at the licence of every package that the lock file names: one that is not on the list of usual
 * permissive ones needs a word in NOTICES.md.
 */
import { readFileSync } from "node:fs";

const usual = new Set([
  "MIT",
  "ISC",
  "Apache-2.0",
  "BSD-2-Clause",
  "BSD-3-Clause",
  "0BSD",
  "OFL-1.1",
]);

/** Whether a licence asks for no more than the usual ones do, all of its parts together. */
const isUsual = (licence) =>
  licence
    .replace(/[()]/g, "")
    .split(" AND ")
    .every((part) => usual.has(part));

const { packages } = JSON.parse(readFileSync("package-lock.json", "utf8"));
const notices = readFileSync("NOTICES.md", "utf8");
const named = [...notices.matchAll(/`([^`]+)`/g)].map(([, name]) => name);
const isNamed = (name) =>
  named.some((one) => (one.endsWith("*") ? name.startsWith(one.slice(0, -1)) : name === one));

const missing = Object.entries(packages)
  .filter(([path]) => path !== "")
  .map(([path, { license = "none" }]) => [path.split("node_modules/").at(-1), license])
  .filter(([name, licence]) => !isUsual(licence) && !isNamed(name));

for (const [name, licence] of missing)
  console.error(`${name} is under ${licence}: say in NOTICES.md what it is for, or take another`);
if (missing.length > 0) process.exit(1);
console.log(`${Object.keys(packages).length - 1} packages: their licences are as expected`);
