import { createHash } from "node:crypto";
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { type WorkLog, readWorkLog, scaleWorkLog } from "../command/work-log";
import { fingerprint, line, stroke, testEngine, testHeader } from "../engine.testing";
import { paintLog } from "../file/render";
import { brushes } from "../media";

/**
 * What logs paint, kept as hashes of every pixel of every plane. A change that is meant is written
 * with `npm run golden`, and the commit says why.
 */
const FILE = join(__dirname, "golden.json");
const writes = process.env.GOLDEN === "write";
const golden = z.record(z.string(), z.string()).parse(JSON.parse(readFileSync(FILE, "utf8")));

const engine = testEngine();

async function hashOf(log: WorkLog): Promise<string> {
  const work = await paintLog(engine, log, () => Promise.resolve());
  const hash = createHash("sha256").update(fingerprint(engine, work)).digest("hex").slice(0, 32);
  work.release();
  return hash;
}

function expectGolden(name: string, hash: string): void {
  if (!writes) return expect(hash).toBe(golden[name]);
  golden[name] = hash;
  const sorted = Object.fromEntries(Object.entries(golden).sort(([a], [b]) => (a < b ? -1 : 1)));
  writeFileSync(FILE, `${JSON.stringify(sorted, null, 2)}\n`);
}

/** A row of a brush in one mode, over paint where there must be some. */
function logOf(brush: string, mode: "paint" | "lift" | "blend"): WorkLog {
  const header = testHeader({ ground: "#f4efe6" });
  const curve = line([24, 60], [230, 130], { pressure: (u) => 0.15 + 0.8 * u, altitude: 1.1 });
  const commands = [
    { do: "layer.add", id: "a", name: "A", above: null },
    stroke(line([10, 30], [240, 160]), { brush: "round-soft", size: 90, colour: "#b5532a" }),
    stroke(curve, { brush, size: 36, mode, colour: "#24406a", second: "#f0d890", seed: 9 }),
  ];
  const text = [header, ...commands].map((one) => JSON.stringify(one)).join("\n");
  return readWorkLog(text);
}

it.each(brushes.map(({ id }) => id))("%s paints, lifts and blends as it did", async (brush) => {
  for (const mode of ["paint", "lift", "blend"] as const)
    expectGolden(`${brush} ${mode}`, await hashOf(logOf(brush, mode)));
});

/** A broad stroke, short, in the middle of a larger sheet: what is broad is swept in other steps. */
function broadLog(brush: string): WorkLog {
  const header = testHeader({ width: 1024, height: 1024, ground: "#f4efe6" });
  const curve = line([380, 500], [660, 540], { pressure: (u) => 0.2 + 0.6 * u, altitude: 1.1 });
  const commands = [
    { do: "layer.add", id: "a", name: "A", above: null },
    stroke(line([500, 300], [520, 700]), { brush, size: 200, colour: "#b5532a" }),
    stroke(curve, { brush, size: 800, colour: "#24406a", seed: 9 }),
  ];
  return readWorkLog([header, ...commands].map((one) => JSON.stringify(one)).join("\n"));
}

const broad = ["oil-flat", "oil-round", "chalk", "gouache-flat", "wash-mop", "round-soft"];

it.each(broad)("%s paints broadly as it did", async (brush) => {
  expectGolden(`${brush} broad`, await hashOf(broadLog(brush)));
});

const folder = join(process.cwd(), "demo", "logs");
const logs = readdirSync(folder).filter((name) => name.endsWith(".jsonl"));

it.each(logs.toSorted())("%s is painted as it was, at an eighth of its size", async (name) => {
  const log = readWorkLog(readFileSync(join(folder, name), "utf8"));
  expectGolden(`sample ${name}`, await hashOf(scaleWorkLog(log, 0.125)));
});

it("holds a hash for every brush and sample, and no others", () => {
  const known = brushes.flatMap(({ id }) =>
    ["paint", "lift", "blend"].map((mode) => `${id} ${mode}`),
  );
  const broadly = broad.map((id) => `${id} broad`);
  const samples = logs.map((name) => `sample ${name}`);
  expect(Object.keys(golden).toSorted()).toEqual([...known, ...broadly, ...samples].toSorted());
});
