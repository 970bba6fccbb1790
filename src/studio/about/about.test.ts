import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { packagesLike, readAbout } from "./about";

const answer = (body: unknown, ok = true): void => {
  globalThis.fetch = (() =>
    Promise.resolve({ ok, json: () => Promise.resolve(body) })) as unknown as typeof fetch;
};

it("is written down whole: the version, the licence, and each package that is shipped, with its words", async () => {
  execFileSync(process.execPath, ["scripts/about.mjs"]);
  answer(JSON.parse(readFileSync("public/about.json", "utf8")));
  const { version, licence, packages } = await readAbout();
  const own = JSON.parse(readFileSync("package.json", "utf8")) as {
    version: string;
    dependencies: Record<string, string>;
  };
  expect(version).toBe(own.version);
  expect(licence).toMatch(/^MIT License/);
  const named = new Set(packages.map(({ name }) => name));
  expect(Object.keys(own.dependencies).filter((name) => !named.has(name))).toEqual([]);
  expect(named.has("jest")).toBe(false);
  expect(new Set(packages.map((one) => `${one.name} ${one.version}`)).size).toBe(packages.length);
  const react = packages.find(({ name }) => name === "react");
  expect(react).toMatchObject({ licence: "MIT", text: expect.stringMatching(/Permission is/) });
});

it("is not taken for what it is not", async () => {
  answer({ version: "1.0.0", licence: "", packages: [] });
  await expect(readAbout()).rejects.toThrow();
  answer(null);
  await expect(readAbout()).rejects.toThrow();
  answer({}, false);
  await expect(readAbout()).rejects.toThrow(/could not be fetched/);
});

it("is searched by name and by licence", () => {
  const one = (name: string, licence: string) => ({ name, licence, version: "1.0.0", text: "" });
  const all = [one("loom", "MIT"), one("shuttle", "ISC"), one("weft", "Apache-2.0")];
  const found = (typed: string): string[] => packagesLike(all, typed).map(({ name }) => name);
  expect(found(" LOO ")).toEqual(["loom"]);
  expect(found("apache")).toEqual(["weft"]);
  expect(found("")).toHaveLength(3);
  expect(found("warp")).toEqual([]);
});
