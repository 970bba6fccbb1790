/**
 * Writes public/about.json, which “About Pampas” shows: its version, and the licence of every package that comes
 * with it, as that package words it.
 */
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";

const { version } = JSON.parse(readFileSync("package.json", "utf8"));
const { packages: locked } = JSON.parse(readFileSync("package-lock.json", "utf8"));

/** What a package's own file says, or "" where it has none. */
function textOf(path) {
  if (!existsSync(path)) return "";
  const name = readdirSync(path).find((one) => /^(licen[cs]e|copying)(\.(md|txt))?$/i.test(one));
  return name ? readFileSync(`${path}/${name}`, "utf8").trim() : "";
}

const all = Object.entries(locked)
  .filter(([path, { dev, devOptional, optional }]) => path && !dev && !devOptional && !optional)
  .map(([path, one]) => ({
    name: path.split("node_modules/").at(-1),
    version: one.version,
    licence: one.license ?? "none",
    text: textOf(path),
  }))
  .sort((a, b) => (a.name < b.name ? -1 : 1));
/** One that lies in several places is told once. */
const packages = [...new Map(all.map((one) => [`${one.name} ${one.version}`, one])).values()];

const licence = readFileSync("LICENSE", "utf8").trim();
writeFileSync("public/about.json", JSON.stringify({ version, licence, packages }));
