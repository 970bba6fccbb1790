import { readFile, rename, rm, writeFile } from "node:fs/promises";
import { readWorkLog, scaleWorkLog } from "../engine/command/work-log";
import { paintLog, writePicture } from "../engine/file/render";
import { otherEngine } from "../engine/revision";
import { addHelpers } from "../node/helpers";
import { loadEngine } from "../node/load-engine";
import { endingOf, formatOf, type Manner } from "./asked";

/** What came of painting a log. */
export type Painted = { from: string; to: string; width: number; height: number; bytes: number };

/**
 * Paints a work log to a file, which is written whole or not at all.
 * @param warn is told what may look otherwise than it did
 * @throws Refusal where the log cannot be read or painted
 */
export async function paint(
  from: string,
  to: string,
  { threads, scale, choice }: Manner,
  warn: (words: string) => void,
): Promise<Painted> {
  const format = formatOf(endingOf(to));
  const read = readWorkLog(await readFile(from, "utf8"));
  const other = otherEngine(read.header.engine);
  if (other) warn(other);
  const log = scale === 1 ? read : scaleWorkLog(read, scale);
  const engine = await loadEngine();
  const release = await addHelpers(engine, threads);
  const part = `${to}.${process.pid}.part`;
  try {
    const work = await paintLog(engine, log, async () => undefined);
    const bytes = await writePicture(engine, work, format, undefined, choice);
    await writeFile(part, bytes);
    await rename(part, to);
    const { width, height } = log.header;
    return { from, to, width, height, bytes: bytes.length };
  } finally {
    await rm(part, { force: true });
    await release();
  }
}
