import { mkdir } from "node:fs/promises";
import about from "../../package.json";
import { Refusal } from "../engine/picture/refusal";
import { type Asked, Miscalled, readAsked, usage } from "./asked";
import { runJobs } from "./batch";
import { inWords, lookInto } from "./look";
import { paint } from "./paint";
import { filesOf, resultsIn } from "./paths";

const say = (words: string): void => console.log(words);
const warn = (words: string): void => console.error(words);
const sayJson = (answer: object): void => say(JSON.stringify(answer));

/** What the system says of files, by its codes. */
const ofFiles: Readonly<Record<string, string>> = {
  ENOENT: "there is no such file or folder",
  EACCES: "it may not be read or written",
  EPERM: "it may not be read or written",
  EISDIR: "it is a folder",
  ENOTDIR: "there is a file where a folder is expected",
  EEXIST: "there is a file where a folder is expected",
  ENOSPC: "there is no room left on the disk",
};

/** What went wrong, in words; what nobody foresaw, as it is. */
function whyOf(error: unknown): string {
  if (error instanceof Refusal || error instanceof Miscalled) return error.message;
  const { code, path } = error as NodeJS.ErrnoException;
  if (code && Object.hasOwn(ofFiles, code)) return `${path ?? "a file"}: ${ofFiles[code]}`;
  return error instanceof Error ? (error.stack ?? error.message) : String(error);
}

type Looked = Extract<Asked, { verb: "info" | "check" }>;

async function look({ verb, files: named, json }: Looked): Promise<boolean> {
  const files = await filesOf(named);
  let good = true;
  for (const file of files) {
    try {
      const holds = await lookInto(file);
      if (json) sayJson({ file, ok: true, ...holds });
      else if (verb === "check") say(`${file}: a good ${holds.kind}`);
      else say((files.length > 1 ? `${file}\n` : "") + inWords(holds));
    } catch (error) {
      good = false;
      const why = whyOf(error);
      if (json) sayJson({ file, ok: false, why });
      else warn(files.length > 1 ? `${file}: ${why}` : why);
    }
  }
  return good;
}

async function render(asked: Extract<Asked, { verb: "render" }>): Promise<boolean> {
  const { from, to, manner, json } = asked;
  try {
    const painted = await paint(from, to, manner, warn);
    if (json) sayJson({ ok: true, ...painted });
    return true;
  } catch (error) {
    if (!json) throw error;
    sayJson({ ok: false, from, to, why: whyOf(error) });
    return false;
  }
}

async function batch(asked: Extract<Asked, { verb: "batch" }>): Promise<boolean> {
  const { files: named, into, kind, jobs, options, json } = asked;
  const files = await filesOf(named);
  const results = resultsIn(into, files, kind === "tiff" ? "tif" : kind);
  await mkdir(into, { recursive: true });
  let good = true;
  const each = files.map((from, i) => [
    ...["render", from, results[i] as string],
    ...options,
    ...(json ? ["--json"] : []),
  ]);
  await runJobs(each, jobs, (job, { code, out, error }) => {
    if (code !== 0) good = false;
    const from = files[job] as string;
    if (json && out.trim()) say(out.trim());
    else if (json) sayJson({ ok: false, from, to: results[job], why: error.trim() });
    else if (code === 0) say(`${from} → ${results[job]}`);
    if (!json && error.trim()) warn(`${from}: ${error.trim()}`);
  });
  return good;
}

async function carryOut(asked: Asked): Promise<boolean> {
  if (asked.verb === "info" || asked.verb === "check") return look(asked);
  if (asked.verb === "render") return render(asked);
  if (asked.verb === "batch") return batch(asked);
  say(asked.verb === "help" ? usage : `pampas ${about.version}`);
  return true;
}

async function main(): Promise<void> {
  if (!(await carryOut(readAsked(process.argv.slice(2))))) process.exitCode = 1;
}

main().catch((error: unknown) => {
  warn(whyOf(error));
  process.exitCode = error instanceof Miscalled ? 2 : 1;
});
