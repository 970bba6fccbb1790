import { Engine } from "../engine/engine";

/** Most helpers beside the engine's own thread. */
const MOST_HELPERS = 7;

/** An engine in the browser; helpers join it as they come up. */
export async function startEngine(): Promise<Engine> {
  const response = await fetch(new URL("../../kernels/build/kernels.wasm", import.meta.url));
  const engine = new Engine(await WebAssembly.compile(await response.arrayBuffer()));
  const helpers = Math.min(MOST_HELPERS, Math.max(0, navigator.hardwareConcurrency - 1));
  for (let i = 0; i < helpers; i++) {
    const start = engine.workforce.enlist(engine.module);
    const worker = new Worker(new URL("./helper.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = () => engine.workforce.admit(start);
    worker.postMessage(start);
  }
  return engine;
}
