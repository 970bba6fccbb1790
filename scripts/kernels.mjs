/** Compiles kernels/ to kernels/build/kernels.wasm, unless it is newer than its sources. */
import { mkdir, readdir, stat } from "node:fs/promises";
import asc from "assemblyscript/asc";

const folder = new URL("../kernels/", import.meta.url);
const output = new URL("build/kernels.wasm", folder);

const modified = async (url) => (await stat(url).catch(() => null))?.mtimeMs ?? 0;
const sources = (await readdir(folder)).filter((name) => name.endsWith(".ts"));
const newest = Math.max(
  ...(await Promise.all(sources.map((name) => modified(new URL(name, folder))))),
);

if ((await modified(output)) <= newest || process.argv.includes("--force")) {
  await mkdir(new URL("build/", folder), { recursive: true });
  const { error, stderr } = await asc.main(
    [
      "kernels/index.ts",
      "--outFile",
      "kernels/build/kernels.wasm",
      "--runtime",
      "stub",
      "--optimizeLevel",
      "3",
      "--shrinkLevel",
      "0",
      "--noAssert",
      "--enable",
      "simd",
      "--enable",
      "threads",
      "--enable",
      "bulk-memory",
      "--importMemory",
      "--sharedMemory",
      "--initialMemory",
      "16",
      "--maximumMemory",
      "65536",
    ],
    { baseDir: new URL("..", import.meta.url).pathname },
  );
  if (error) {
    console.error(stderr.toString());
    process.exit(1);
  }
}
