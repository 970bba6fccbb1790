/**
 * Bundles the command `pampas` to dist/pampas/, with the kernels and papers beside it: a folder that runs under
 * Node alone, wherever it is put.
 */
import { chmodSync, cpSync, mkdirSync, rmSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

const root = new URL("../", import.meta.url);
const path = (name) => fileURLToPath(new URL(name, root));
const folder = "dist/pampas/";

rmSync(path(folder), { recursive: true, force: true });
mkdirSync(path(folder), { recursive: true });

/** Packages that are no modules ask for Node's own by `require`. */
const banner = `import $module from "node:module";
import $url from "node:url";
const require = $module.createRequire(import.meta.url);
process.env.PAMPAS_KERNELS ??= $url.fileURLToPath(new URL("./kernels", import.meta.url));`;

const bundle = (source, result, first = "") =>
  build({
    entryPoints: [path(source)],
    outfile: path(folder + result),
    ...{ bundle: true, platform: "node", target: "node20.9", format: "esm", minifySyntax: true },
    legalComments: "eof",
    banner: { js: `${first}${banner}` },
    logLevel: "warning",
  });

await bundle("src/cli/pampas.ts", "pampas.mjs", "#!/usr/bin/env node\n");
await bundle("src/node/helper.ts", "helper-start.mjs");
for (const name of ["kernels.wasm", "kernels-relaxed.wasm", "papers"])
  cpSync(path(`kernels/build/${name}`), path(`${folder}kernels/${name}`), { recursive: true });
chmodSync(path(`${folder}pampas.mjs`), 0o755);
