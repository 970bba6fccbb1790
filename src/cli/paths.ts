import { existsSync } from "node:fs";
import { basename, extname, isAbsolute, join } from "node:path";
import { glob, isDynamicPattern } from "tinyglobby";
import { Refusal } from "../engine/picture/refusal";

/**
 * The files that names and patterns stand for, each once, in the order given; those of a pattern by name.
 * @throws Refusal where a pattern stands for none
 */
export async function filesOf(named: readonly string[]): Promise<string[]> {
  const found: string[] = [];
  for (const name of named) {
    // A file that is called like a pattern is that file.
    if (existsSync(name) || !isDynamicPattern(name)) {
      found.push(name);
      continue;
    }
    const some = await glob(name, { expandDirectories: false, absolute: isAbsolute(name) });
    if (some.length === 0) throw new Refusal(`no file is called like “${name}”`);
    found.push(...some.sort());
  }
  return [...new Set(found)];
}

/**
 * Where the results of several logs go: each beside the others, named after its log.
 * @throws Refusal where two would have one name
 */
export function resultsIn(folder: string, logs: readonly string[], ending: string): string[] {
  const from = new Map<string, string>();
  for (const log of logs) {
    const to = join(folder, `${basename(log, extname(log))}.${ending}`);
    const other = from.get(to);
    if (other !== undefined) throw new Refusal(`“${other}” and “${log}” would both become ${to}`);
    from.set(to, log);
  }
  return [...from.keys()];
}
