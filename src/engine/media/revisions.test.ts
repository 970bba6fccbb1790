import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { type Brush } from "../stroke/brush";
import { brushes } from ".";

/**
 * What every brush that ships was in each of its revisions, as a hash of all that draws. `npm run golden`
 * adds new ones; one that is there is never written again, so a brush that changes must get a new revision.
 */
const FILE = join(__dirname, "revisions.json");
const writes = process.env.GOLDEN === "write";
const known = z
  .record(z.string(), z.string())
  .parse(existsSync(FILE) ? JSON.parse(readFileSync(FILE, "utf8")) : {});

const NAMING = new Set(["id", "name", "kit", "author", "tags", "revision"]);

const hashOf = (brush: Brush): string =>
  createHash("sha256")
    .update(JSON.stringify(Object.entries(brush).filter(([key]) => !NAMING.has(key))))
    .digest("hex")
    .slice(0, 16);

it.each(brushes.map((brush) => [brush.id, brush] as const))(
  "%s is what its revision was, or has a new one",
  (id, brush) => {
    const name = `${id} ${brush.revision}`;
    if (writes) known[name] ??= hashOf(brush);
    expect(hashOf(brush)).toBe(known[name]);
    expect(brush.revision).toBe(
      Object.keys(known).filter((other) => other.startsWith(`${id} `)).length,
    );
  },
);

afterAll(() => {
  if (writes) writeFileSync(FILE, `${JSON.stringify(known, null, 2)}\n`);
});

it("calls no two brushes the same: they are asked for by name", () => {
  const names = brushes.map(({ name }) => name);
  expect(names.filter((name, i) => names.indexOf(name) !== i)).toEqual([]);
});
