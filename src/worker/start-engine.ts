import { Engine } from "../engine/engine";
import { bringPapers } from "./papers";

/** Most helpers beside the engine's own thread. */
const MOST_HELPERS = 7;

/** An engine in the browser; helpers join it as they come up. */
export async function startEngine(): Promise<Engine> {
  const [module] = await Promise.all([compiled(), bringPapers()]);
  const engine = new Engine(module);
  const helpers = Math.min(MOST_HELPERS, Math.max(0, navigator.hardwareConcurrency - 1));
  for (let i = 0; i < helpers; i++) {
    const start = engine.workforce.enlist(engine.module);
    const worker = new Worker(new URL("./helper.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = () => engine.workforce.admit(start);
    worker.postMessage(start);
  }
  return engine;
}

const compiled = async (): Promise<WebAssembly.Module> =>
  WebAssembly.compile(await quickestBuild());

/** The kernels with relaxed SIMD where the browser knows it: the same pixels, sooner. */
async function quickestBuild(): Promise<ArrayBuffer> {
  const bytes = async (url: URL): Promise<ArrayBuffer> => (await fetch(url)).arrayBuffer();
  const relaxed = await bytes(new URL("../../kernels/build/kernels-relaxed.wasm", import.meta.url));
  if (WebAssembly.validate(relaxed)) return relaxed;
  return bytes(new URL("../../kernels/build/kernels.wasm", import.meta.url));
}
