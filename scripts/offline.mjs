/** Bundles what keeps Pampas in the browser into public/offline.js. */
import { build } from "esbuild";

await build({
  entryPoints: ["src/offline/service-worker.ts"],
  outfile: "public/offline.js",
  bundle: true,
  minify: true,
  format: "iife",
  target: "es2022",
  define: { "process.env.NODE_ENV": '"production"' },
  logLevel: "warning",
});
