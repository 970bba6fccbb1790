/** Starts render-thread.ts in a worker thread: threads do not inherit the loader for TypeScript. */
import { tsImport } from "tsx/esm/api";

await tsImport("./render-thread.ts", import.meta.url);
