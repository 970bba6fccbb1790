/**
 * Compiles kernels/ to kernels/build/, unless what is there is newer than the sources: once for
 * every machine, once with relaxed SIMD, which gives the same pixels sooner where it is known. Then
 * makes the papers.
 */
import { spawnSync } from "node:child_process";
import { mkdir, readdir, readFile, stat, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import asc from "assemblyscript/asc";

const folder = new URL("../kernels/", import.meta.url);
const builds = { "kernels.wasm": [], "kernels-relaxed.wasm": ["--enable", "relaxed-simd"] };

const modified = async (url) => (await stat(url).catch(() => null))?.mtimeMs ?? 0;
const sources = (await readdir(folder, { recursive: true })).filter(
  (name) => name.endsWith(".ts") && !name.startsWith("build"),
);

/** Runs a script of this project that is written in TypeScript. */
function make(script) {
  const { status } = spawnSync(process.execPath, ["--import", "tsx", script], {
    stdio: "inherit",
    cwd: fileURLToPath(new URL("..", import.meta.url)),
  });
  if (status !== 0) process.exit(1);
}

await mkdir(new URL("build/", folder), { recursive: true });
make("scripts/make-codes.ts");
const inputs = [...sources, "build/codes.ts"];
const newest = Math.max(
  ...(await Promise.all(inputs.map((name) => modified(new URL(name, folder))))),
);

async function compile(name, features) {
  const output = new URL(`build/${name}`, folder);
  if ((await modified(output)) > newest && !process.argv.includes("--force")) return;
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

/** A module as a text that any bundler takes along: for what is read where there is no engine. */
async function asText(source, name, constant) {
  const output = new URL(`build/${name}.ts`, folder);
  if ((await modified(output)) > (await modified(source))) return;
  const text = (await readFile(source)).toString("base64");
  await writeFile(output, `export const ${constant} =\n  "${text}";\n`);
}

/** A small module with memory of its own: rows of PNG files, papers. */
async function compileApart(path, name) {
  const source = new URL(path, folder);
  const output = new URL(`build/${name}.wasm`, folder);
  if ((await modified(output)) > (await modified(source))) return;
  const { error, stderr } = await asc.main(
    [`kernels/${path}`, "--outFile", `kernels/build/${name}.wasm`, "--runtime", "stub"].concat([
      "--optimizeLevel",
      "3",
      "--noAssert",
      "--enable",
      "simd",
    ]),
    { baseDir: new URL("..", import.meta.url).pathname },
  );
  if (!error) return;
  console.error(stderr.toString());
  process.exit(1);
}

await compileApart("png/rows.ts", "png-rows");
await compileApart("paper/fields.ts", "paper-fields");
await asText(new URL("build/paper-fields.wasm", folder), "paper-fields", "paperFieldsModule");
await asText(new URL("build/png-rows.wasm", folder), "png-rows", "pngRowsModule");
const zlib = fileURLToPath(import.meta.resolve("@zip.js/zip.js/dist/zip-module.wasm"));
await asText(zlib, "zlib", "zlibModule");

// The bands of the papers that ship are made with the small module.
make("scripts/make-papers.ts");
