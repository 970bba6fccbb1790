import { keptFiles } from "../../offline/files";

/** The files that this version consists of, and the code that keeps them in the browser. */
export async function GET(): Promise<Response> {
  const files = JSON.stringify(await keptFiles(process.cwd()));
  return new Response(`self.FILES = ${files};\nimportScripts("/offline.js");\n`, {
    headers: { "Content-Type": "text/javascript; charset=utf-8", "Cache-Control": "no-cache" },
  });
}
