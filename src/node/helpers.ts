import { Worker } from "node:worker_threads";
import { type Engine } from "../engine/engine";
import { type HelperStart } from "../engine/tiles/workforce";

/** Adds helpers, so that `threads` threads work. Returns a function that lets them go. */
export async function addHelpers(engine: Engine, threads: number): Promise<() => Promise<void>> {
  const workers: Worker[] = [];
  for (let i = 1; i < threads; i++) {
    const start: HelperStart = engine.workforce.enlist(engine.module);
    const worker = new Worker(new URL("./helper-start.mjs", import.meta.url), {
      workerData: start,
    });
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
