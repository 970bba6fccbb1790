import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { setFlagsFromString } from "node:v8";
import { Engine } from "../engine/engine";
import { kernelsFolder } from "./kernels-folder";
import { bringPapers } from "./papers";

/** A build of the kernels, as `npm run kernels` leaves them. */
const build = async (name: string): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await readFile(join(kernelsFolder(), name)));

let compiled: Promise<WebAssembly.Module> | null = null;

/** The kernels, compiled once a process. */
export function loadKernels(): Promise<WebAssembly.Module> {
  compiled ??= quickestBuild().then((bytes) => WebAssembly.compile(bytes));
  return compiled;
}

/** The build with relaxed SIMD where this Node knows it, at once or when asked to. */
async function quickestBuild(): Promise<Uint8Array<ArrayBuffer>> {
  const relaxed = await build("kernels-relaxed.wasm");
  if (WebAssembly.validate(relaxed)) return relaxed;
  setFlagsFromString("--experimental-wasm-relaxed-simd");
  return WebAssembly.validate(relaxed) ? relaxed : build("kernels.wasm");
}

/** An engine in Node on this thread alone. */
export async function loadEngine(): Promise<Engine> {
  bringPapers();
  return new Engine(await loadKernels());
}
