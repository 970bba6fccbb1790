import { type WorkLog } from "../command/work-log";
import { type Progress } from "../compose/flatten";
import { type Engine } from "../engine";
import { type Work, type WorkEvents } from "../command/work";
import { Refusal, Stopped } from "../picture/refusal";
import { writeOpenRaster } from "./openraster/write";
import { PngWriter } from "./png";
import { writeTiff } from "./print/tiff";
import { bitsOf, hasAlpha, outSize, type Rendering, writeTones } from "./print/tones";
import { writeSvg } from "./svg/write";

/** How a picture goes out where nothing else is said: its colours, its halftones dot by dot. */
export type PngChoice = Pick<Rendering, "depth" | "ground"> & Partial<Rendering>;

/** All that a rendering says, of what was chosen. */
export const renderingOf = (choice: PngChoice): Rendering => ({
  tones: "colour",
  dots: true,
  ...choice,
});

/** The picture as PNG. With its ground it is opaque, without it keeps its transparency. */
export function writePicturePng(
  engine: Engine,
  { picture }: Pick<Work, "picture">,
  choice: PngChoice,
  progress?: Progress,
): Uint8Array {
  const rendering = renderingOf(choice);
  const writer = new PngWriter({
    ...outSize(picture, rendering),
    depth: bitsOf(rendering),
    grey: rendering.tones !== "colour",
    alpha: hasAlpha(rendering),
  });
  writeTones(engine, picture, rendering, (row) => writer.row(row), progress);
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

export const renderFormats = ["png", "ora", "svg", "tiff", "pdf"] as const;
export type RenderFormat = (typeof renderFormats)[number];

/** The picture as a file of the wanted kind. */
export async function writePicture(
  engine: Engine,
  work: Work,
  format: RenderFormat,
  progress?: Progress,
  choice: PngChoice = { depth: 8, ground: true },
): Promise<Uint8Array> {
  const { picture } = work;
  const rendering = renderingOf(choice);
  if (format === "tiff")
    return writeTiff(engine, [{ picture, name: "All layers" }], rendering, progress);
  if (format === "pdf") {
    const { writePdf } = await import("./print/pdf");
    const plain = { bleed: 0, marks: false, curves: true };
    return writePdf(engine, picture, picture.header.title ?? "", rendering, plain, progress);
  }
  if (format === "svg") return writeSvg(engine, work.picture, progress);
  if (format === "ora") return writeOpenRaster(engine, work.picture, progress);
  return writePicturePng(engine, work, rendering, progress);
}
