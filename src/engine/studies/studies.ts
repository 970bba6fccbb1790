import { z } from "zod";
import { type Box } from "../tiles/layout";

/**
 * A sheet of studies: small frames in the proportion of a picture that is to come, to try
 * compositions and value plans side by side. Frames are seen over the sheet and never exported.
 */
export const LEAST_FRAMES = 2;
export const MOST_FRAMES = 12;
/** Longest side of a frame, px, and how much paper is left around it for notes. */
const FRAME = 800;
const GAP = 90;
const MARGIN = 110;
/** A sheet is laid out as near to this proportion as its frames allow. */
const SHEET_PROPORTION = 4 / 3;

const edge = z.int().min(0).max(16384);

export const studiesSchema = z.strictObject({
  frames: z
    .array(
      z
        .strictObject({ left: edge, top: edge, right: edge, bottom: edge })
        .refine(({ left, top, right, bottom }) => right > left && bottom > top, {
          message: "a frame needs a width and a height",
        }),
    )
    .min(LEAST_FRAMES)
    .max(MOST_FRAMES),
  /** The picture that the studies are for. */
  target: z.strictObject({
    width: z.int().min(1).max(16384),
    height: z.int().min(1).max(16384),
    ppi: z.number().min(1).max(9600),
  }),
});
export type Studies = z.infer<typeof studiesSchema>;

export type StudiesSheet = { width: number; height: number; frames: Box[] };

/** A sheet with so many frames (2 to 12) in the proportion of a picture. */
export function studiesSheet(
  picture: { width: number; height: number },
  count: number,
): StudiesSheet {
  const scale = FRAME / Math.max(picture.width, picture.height);
  const width = Math.max(8, Math.round(picture.width * scale));
  const height = Math.max(8, Math.round(picture.height * scale));
  let best = sheetOf(width, height, count, 1);
  for (let columns = 2; columns <= count; columns++) {
    const other = sheetOf(width, height, count, columns);
    if (misfit(other) < misfit(best)) best = other;
  }
  return best;
}

const misfit = (sheet: StudiesSheet): number =>
  Math.abs(Math.log(sheet.width / sheet.height / SHEET_PROPORTION));

function sheetOf(width: number, height: number, count: number, columns: number): StudiesSheet {
  const rows = Math.ceil(count / columns);
  const frames = Array.from({ length: count }, (_, i): Box => {
    const left = MARGIN + (i % columns) * (width + GAP);
    const top = MARGIN + Math.floor(i / columns) * (height + GAP);
    return { left, top, right: left + width, bottom: top + height };
  });
  return {
    width: 2 * MARGIN + columns * width + (columns - 1) * GAP,
    height: 2 * MARGIN + rows * height + (rows - 1) * GAP,
    frames,
  };
}
