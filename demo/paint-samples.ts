import { createHash } from "node:crypto";
import { mkdir, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { readWorkLog } from "../src/engine/command/work-log";
import { Compositor } from "../src/engine/compose/compositor";
import { type Engine } from "../src/engine/engine";
import { paintLog, writePicturePng } from "../src/engine/file/render";
import { addHelpers } from "../src/node/helpers";
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
  let shown = 0;
  const work = await paintLog(engine, readWorkLog(text), (share) => {
    if (share >= shown + 0.25) process.stdout.write(` ${Math.round((shown = share) * 100)} %`);
    return Promise.resolve();
  });
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

async function main(): Promise<void> {
  await mkdir(folder, { recursive: true });
  const known = new Set(await readdir(folder));
  const ofEngine = await engineHash();
  const list: Record<string, string> = {};
  let engine: Engine | null = null;
  for (const log of (await readdir(logs)).filter((file) => file.endsWith(".jsonl")).sort()) {
    const name = log.replace(/\.jsonl$/, "");
    const text = await readFile(join(logs, log), "utf8");
    const hash = createHash("sha256").update(ofEngine).update(text).digest("hex").slice(0, 24);
    const file = `${name}-${hash}.${name.startsWith(PIN) ? "png" : "painted"}`;
    list[name] = file;
    if (known.has(file)) continue;
    process.stdout.write(`Painting ${name}…`);
    const started = performance.now();
    if (!engine) await addHelpers((engine = await loadEngine()), 2);
    await writeFile(join(folder, file), await painted(engine, name, text));
    console.log(` done in ${Math.round((performance.now() - started) / 100) / 10} s`);
  }
  await writeFile(join(folder, "list.json"), JSON.stringify(list, null, 2));
  const wanted = new Set(["list.json", ...Object.values(list)]);
  for (const file of known) if (!wanted.has(file)) await rm(join(folder, file));
}

await main();
process.exit(0);
