import { type WorkLog } from "../command/work-log";
import { flatten, type Progress } from "../compose/flatten";
import { type Engine } from "../engine";
import { type Work, type WorkEvents } from "../command/work";
import { Refusal, Stopped } from "../picture/refusal";
import { writeOpenRaster } from "./openraster/write";
import { PngWriter } from "./png";
import { writeSvg } from "./svg/write";

export type PngChoice = { depth: 8 | 16; ground: boolean };

/** The picture as PNG. With its ground it is opaque, without it keeps its transparency. */
export function writePicturePng(
  engine: Engine,
  work: Work,
  { depth, ground }: PngChoice,
  progress?: Progress,
): Uint8Array {
  const { picture } = work;
  const { width, height, header } = picture;
  const writer = new PngWriter({ width, height, depth, alpha: !ground, ppi: header.ppi });
  const rows = { depth, alpha: !ground, row: (samples: Uint8Array) => writer.row(samples) };
  flatten(picture, engine.store, engine.workforce, ground, rows, progress);
  return writer.finish();
}

/**
 * Paints a work log, a command at a time, giving way between them.
 * @param progressed told by long commands how far they have come; throw in it to stop
 * @param pause awaited now and then with the share done; throw in it to stop
 */
export async function paintLog(
  engine: Engine,
  log: WorkLog,
  pause: (share: number) => Promise<void>,
  progressed: WorkEvents["progressed"] = () => undefined,
): Promise<Work> {
  const work = engine.open(log.header, { progressed });
  work.history.limit = 0;
  for (const [i, command] of log.commands.entries()) {
    try {
      work.apply(command);
    } catch (error) {
      if (error instanceof Stopped) throw error;
      if (error instanceof Refusal) throw new Refusal(`command ${i + 1}: ${error.message}`);
      throw error;
    }
    if (i % 16 === 15) await pause(i / log.commands.length);
  }
  return work;
}

export type RenderFormat = "png" | "ora" | "svg";

/** The picture as a file of the wanted kind. */
export function writePicture(
  engine: Engine,
  work: Work,
  format: RenderFormat,
  progress?: Progress,
): Uint8Array {
  if (format === "svg") return writeSvg(engine, work.picture, progress);
  if (format === "ora") return writeOpenRaster(engine, work.picture, progress);
  return writePicturePng(engine, work, { depth: 8, ground: true }, progress);
}
