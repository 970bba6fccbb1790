import { nanoid } from "nanoid";
import { type CommandInput, parseCommand } from "../engine/command/commands";
import { type WorkLog } from "../engine/command/work-log";
import { type Compositor } from "../engine/compose/compositor";
import { valueShares } from "../engine/crit/values";
import { toBase64 } from "../engine/file/base64";
import { writePng } from "../engine/file/png";
import { type Header, newHeader } from "../engine/picture/header";
import { type Picture } from "../engine/picture/picture";
import { Refusal } from "../engine/picture/refusal";
import { studiesSheet } from "../engine/studies/studies";
import { type Box, TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";
import { type Heap } from "../engine/tiles/heap";
import { type TileStore } from "../engine/tiles/tile-store";
import { deepLayerPixels } from "./layer-pixels";
import { type NewPicture } from "./new-picture";

/** One frame of a sheet of studies as it is seen. */
export type Study = {
  width: number;
  height: number;
  /** RGBA. */
  data: Uint8ClampedArray<ArrayBuffer>;
  /** How much of it lies in each step of value, dark first. */
  values: number[];
};

export const VALUE_STEPS = 5;

/** What a box of the picture shows, composited. */
export function seenIn(
  picture: Picture,
  compositor: Compositor,
  heap: Heap,
  { left, top, right, bottom }: Box,
): Omit<Study, "values"> {
  const width = right - left;
  const height = bottom - top;
  const data = new Uint8ClampedArray(width * height * 4);
  const keys = tilesIn({ left, top, right, bottom }, picture.width, picture.height);
  compositor.pack(keys, 0, (key, address) => {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const x0 = Math.max(px, left);
    const x1 = Math.min(px + TILE_SIDE, right);
    for (let y = Math.max(py, top); y < Math.min(py + TILE_SIDE, bottom); y++) {
      const from = address + ((y - py) * TILE_SIDE + (x0 - px)) * 4;
      data.set(heap.u8.subarray(from, from + (x1 - x0) * 4), ((y - top) * width + x0 - left) * 4);
    }
  });
  return { width, height, data };
}

/** @throws Refusal where the picture is no sheet of studies */
export function lookAtStudies(picture: Picture, compositor: Compositor, heap: Heap): Study[] {
  return framesOf(picture).map((frame) => {
    const seen = seenIn(picture, compositor, heap, frame);
    return { ...seen, values: valueShares(seen.data, VALUE_STEPS) };
  });
}

function framesOf(picture: Picture): readonly Box[] {
  const { studies } = picture.structure;
  if (!studies) throw new Refusal("this picture is no sheet of studies");
  return studies.frames;
}

/** The log of a new sheet of studies for a picture of that size. */
export function studiesLog(
  title: string,
  { width, height, ppi, ground, paper }: Omit<NewPicture, "title" | "studies">,
  count: number,
): WorkLog {
  const target = newHeader({ width, height, ppi });
  const sheet = studiesSheet(target, count);
  const header = newHeader({
    title,
    width: sheet.width,
    height: sheet.height,
    ground,
    paper,
  });
  const studies = { frames: sheet.frames, target: { width, height, ppi } };
  const commands: CommandInput[] = [
    { do: "layer.add", id: nanoid(10), name: "Studies", above: null },
    { do: "studies.set", studies },
  ];
  return { header, commands: commands.map((command) => parseCommand(command)) };
}

/**
 * A picture of full size that begins with what a frame holds, layer by layer, scaled by
 * Lanczos; the sheet stays as it is.
 * @throws Refusal where there is no such frame, or nothing in it
 */
export function carryOver(
  picture: Picture,
  store: TileStore,
  index: number,
  title: string,
): { header: Header; commands: CommandInput[] } {
  const frame = framesOf(picture)[index];
  const { studies, ground, paper, layers, brushes, sun } = picture.structure;
  if (!frame || !studies) throw new Refusal(`there is no frame ${index + 1} on this sheet`);
  const header = newHeader({ title, ...studies.target, ground, paper });
  const scaleX = header.width / (frame.right - frame.left);
  const scaleY = header.height / (frame.bottom - frame.top);
  const steps: CommandInput[] = [];
  let above: string | null = null;
  for (const layer of layers) {
    const pixels = deepLayerPixels(picture, store, layer.id, frame);
    if (!pixels.data.some((v, i) => (i & 3) === 3 && v > 0)) continue;
    const id = nanoid(10);
    const { name, opacity, blend, visible, clip, tint } = layer;
    const matrix = [scaleX, 0, 0, 0, scaleY, 0, 0, 0, 1];
    steps.push(
      { do: "layer.add", id, name, above },
      { do: "place", layer: id, x: 0, y: 0, png: toBase64(writePng(pixels, header.ppi)) },
      { do: "transform", layers: [id], warp: { kind: "matrix", matrix }, filter: "lanczos" },
      { do: "layer.set", id, opacity, blend, visible, clip, tint },
    );
    above = id;
  }
  if (!above) throw new Refusal(`There is nothing in frame ${index + 1} yet. Draw in it first.`);
  steps.push({ do: "layer.add", id: nanoid(10), name: "Drawing", above });
  for (const brush of Object.values(brushes)) steps.push({ do: "brush.bring", brush });
  if (sun) {
    const at = { x: header.width * 0.82, y: header.height * 0.24 };
    steps.push({ do: "sun.set", sun: { ...sun, at } });
  }
  return { header, commands: steps };
}

/** Title of a picture that begins with one of a sheet's studies: “Studies for the cover” gives “Cover, study 3”. */
export function studyTitle(title: string, frame: number): string {
  const plain = title.replace(/^studies(?: for)?(?: the)?\s+(?=\S)/i, "");
  const called = plain.charAt(0).toUpperCase() + plain.slice(1);
  const ending = `, study ${frame + 1}`;
  return called.slice(0, 200 - ending.length) + ending;
}
