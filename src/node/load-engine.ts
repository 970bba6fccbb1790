import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { Engine } from "../engine/engine";

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
