import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { Engine } from "../engine/engine";
import { type HelperStart } from "../engine/tiles/workforce";

/** The compiled kernels, as `npm run kernels` leaves them. */
const kernelsPath = (): string => join(process.cwd(), "kernels", "build", "kernels.wasm");

let compiled: Promise<WebAssembly.Module> | null = null;

/** The kernels, compiled once a process. */
export function loadKernels(): Promise<WebAssembly.Module> {
  compiled ??= readFile(kernelsPath()).then((bytes) => WebAssembly.compile(bytes));
  return compiled;
}

/** An engine in Node on this thread alone. */
export async function loadEngine(): Promise<Engine> {
  return new Engine(await loadKernels());
}

/** Adds helpers, so that `threads` threads work. Returns a function that lets them go. */
export async function addHelpers(engine: Engine, threads: number): Promise<() => Promise<void>> {
  const workers: Worker[] = [];
  for (let i = 1; i < threads; i++) {
    const start: HelperStart = engine.workforce.enlist(engine.module);
    const worker = new Worker(new URL("./helper-start.mjs", import.meta.url), { workerData: start });
    await new Promise((resolve, reject) => {
      worker.once("message", resolve);
      worker.once("error", reject);
    });
    engine.workforce.admit(start);
    workers.push(worker);
  }
  return async () => {
    engine.workforce.stop();
    await Promise.all(workers.map((worker) => worker.terminate()));
  };
}
