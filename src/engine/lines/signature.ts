import { fromBase64, toBase64 } from "../file/base64";
import { Refusal } from "../picture/refusal";
import { type Box, emptyBox, growBox } from "../tiles/layout";
import { decodeLines, encodeLines } from "./chunk";
import { type Line } from "./line";
import { movedLine } from "./moved";
import { shapeOf } from "./shape";

/** Lines that a signature has at most: it is a name, not a picture. */
export const MOST_STROKES = 400;
/** How much of the sheet's width a signature takes, and how far from its lower right corner it stands. */
const SHARE = 0.14;
const MARGIN = 0.03;

function boxOf(lines: readonly Line[]): Box {
  const box = emptyBox();
  for (const line of lines) growBox(box, shapeOf(line).box);
  return box;
}

/** Lines moved and scaled alike in both directions. */
const laid = (lines: readonly Line[], by: number, x: number, y: number): Line[] =>
  lines.flatMap((line) => movedLine(line, (px, py) => [px * by + x, py * by + y], true) ?? []);

/**
 * Lines as a signature to be kept: bytes (see `chunk.ts`) in base64, their upper left corner at 0, 0.
 * @throws Refusal where there are none, or too many
 */
export function signatureOf(lines: readonly Line[]): string {
  if (lines.length === 0)
    throw new Refusal("This layer holds no line. Write your name on it, then keep it");
  if (lines.length > MOST_STROKES)
    throw new Refusal(
      `A signature has at most ${MOST_STROKES} lines; this layer has ${lines.length}. Use a layer of its own`,
    );
  const { left, top } = boxOf(lines);
  return toBase64(encodeLines(laid(lines, 1, -left, -top)));
}

/**
 * A kept signature as lines in the lower right corner of a sheet, in a colour, for `line.add`.
 * @throws Refusal where what was kept cannot be read
 */
export function signatureOn(
  kept: string,
  sheet: { width: number; height: number },
  colour: string,
): string {
  const lines = decodeLines(fromBase64(kept));
  if (lines.length === 0) throw new Refusal("the kept signature holds no line");
  const box = boxOf(lines);
  const wide = box.right - box.left;
  const high = box.bottom - box.top;
  const margin = MARGIN * Math.min(sheet.width, sheet.height);
  const by = Math.min((SHARE * sheet.width) / wide, (SHARE * sheet.height) / high);
  const x = sheet.width - margin - wide * by - box.left * by;
  const y = sheet.height - margin - high * by - box.top * by;
  return toBase64(encodeLines(laid(lines, by, x, y).map((line) => ({ ...line, colour }))));
}
