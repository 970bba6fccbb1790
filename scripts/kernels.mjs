/**
 * Compiles kernels/ to kernels/build/, unless what is there is newer than the sources: once for
 * every machine, once with relaxed SIMD, which gives the same pixels sooner where it is known.
 */
import { mkdir, readdir, stat } from "node:fs/promises";
import asc from "assemblyscript/asc";

const folder = new URL("../kernels/", import.meta.url);
const builds = { "kernels.wasm": [], "kernels-relaxed.wasm": ["--enable", "relaxed-simd"] };

const modified = async (url) => (await stat(url).catch(() => null))?.mtimeMs ?? 0;
const sources = (await readdir(folder)).filter((name) => name.endsWith(".ts"));
const newest = Math.max(
  ...(await Promise.all(sources.map((name) => modified(new URL(name, folder))))),
);

async function compile(name, features) {
  const output = new URL(`build/${name}`, folder);
  if ((await modified(output)) > newest && !process.argv.includes("--force")) return;
  await mkdir(new URL("build/", folder), { recursive: true });
  const { error, stderr } = await asc.main(
    [
      "kernels/index.ts",
      "--outFile",
      `kernels/build/${name}`,
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
      ...features,
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

for (const [name, features] of Object.entries(builds)) await compile(name, features);
