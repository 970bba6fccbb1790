import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { once } from "node:events";
import { mkdir, readdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { readWorkLog } from "../src/engine/command/work-log";
import { Compositor } from "../src/engine/compose/compositor";
import { type Engine } from "../src/engine/engine";
import { paintLog, writePicturePng } from "../src/engine/file/render";
import { loadEngine } from "../src/node/load-engine";
import { writePainted } from "../src/storage/painted";
import { PictureThumbnail } from "../src/worker/thumbnail";

/**
 * Paints the samples once, so that the Portfolio has them at the first start. A file is named by the
 * hash of all that it is painted from, and is painted again only where that has changed.
 */
const logs = join(process.cwd(), "demo", "logs");
const folder = join(process.cwd(), "demo", "painted");
const PIN = "pin-";

async function filesBelow(path: string): Promise<string[]> {
  const names = await readdir(path, { recursive: true });
  return names
    .filter((name) => name.endsWith(".ts") && !/\.(test|testing)\.ts$/.test(name))
    .map((name) => join(path, name))
    .sort();
}

/** A hash of the engine: its sources and its kernels. */
async function engineHash(): Promise<string> {
  const hash = createHash("sha256");
  const kernels = (await filesBelow("kernels")).filter((file) => !file.includes("build"));
  const sources = [...(await filesBelow("src/engine")), "src/storage/painted.ts"];
  for (const file of [...kernels, ...sources]) hash.update(file).update(await readFile(file));
  return hash.digest("hex");
}

/** A painted picture, or the PNG of a reference. */
async function painted(engine: Engine, name: string, text: string): Promise<Uint8Array> {
  const work = await paintLog(engine, readWorkLog(text), () => Promise.resolve());
  try {
    if (name.startsWith(PIN)) return writePicturePng(engine, work, { depth: 8, ground: true });
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    const thumbnail = await new PictureThumbnail(work.picture, engine.store.heap).refresh(
      compositor,
    );
    compositor.free();
    if (!thumbnail) throw new Error(`${name} has no thumbnail`);
    return await writePainted(engine, work, thumbnail);
  } finally {
    work.release();
  }
}

/** How much is painted, roughly: the ways of all strokes times their widths. */
function workIn(text: string): number {
  const strokes = readWorkLog(text).commands.filter((command) => command.do === "stroke");
  return strokes.reduce((sum, { size, samples }) => sum + size * samples.length, 0);
}

type Wanted = { name: string; text: string; file: string };

/** All samples and references, and the files that they are painted to. */
async function all(): Promise<Wanted[]> {
  const ofEngine = await engineHash();
  const names = (await readdir(logs)).filter((file) => file.endsWith(".jsonl")).sort();
  return Promise.all(
    names.map(async (log) => {
      const name = log.replace(/\.jsonl$/, "");
      const text = await readFile(join(logs, log), "utf8");
      const hash = createHash("sha256").update(ofEngine).update(text).digest("hex").slice(0, 24);
      const file = `${name}-${hash}.${name.startsWith(PIN) ? "png" : "painted"}`;
      return { name, text, file };
    }),
  );
}

/** Paints one of them in a process of its own. */
async function paintApart({ name }: Wanted): Promise<void> {
  const started = performance.now();
  const child = spawn(process.execPath, ["--import", "tsx", "demo/paint-samples.ts", name], {
    stdio: "inherit",
  });
  const [status] = (await once(child, "close")) as [number | null];
  if (status !== 0) throw new Error(`${name} could not be painted`);
  console.log(`Painted ${name} in ${Math.round((performance.now() - started) / 100) / 10} s`);
}

async function main(): Promise<void> {
  await mkdir(folder, { recursive: true });
  const known = new Set(await readdir(folder));
  const wanted = await all();
  // The longest first: one thread each, all cores have something to do until the end.
  const missing = wanted
    .filter(({ file }) => !known.has(file))
    .map((one) => ({ ...one, work: workIn(one.text) }))
    .sort((a, b) => b.work - a.work);
  const worker = async (): Promise<void> => {
    for (let next = missing.shift(); next; next = missing.shift()) await paintApart(next);
  };
  await Promise.all(Array.from({ length: availableParallelism() }, worker));
  const list = Object.fromEntries(wanted.map(({ name, file }) => [name, file]));
  await writeFile(join(folder, "list.json"), JSON.stringify(list, null, 2));
  const kept = new Set(["list.json", ...Object.values(list)]);
  for (const file of known) if (!kept.has(file)) await rm(join(folder, file));
}

async function paintOne(name: string): Promise<void> {
  const one = (await all()).find((wanted) => wanted.name === name);
  if (!one) throw new Error(`there is no log of ${name} in demo/logs`);
  const bytes = await painted(await loadEngine(), name, one.text);
  // A file that is there is whole.
  await writeFile(join(folder, `${one.file}.part`), bytes);
  await rename(join(folder, `${one.file}.part`), join(folder, one.file));
}

const [, , name] = process.argv;
await (name ? paintOne(name) : main());
process.exit(0);
