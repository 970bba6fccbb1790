import { hexToQ15 } from "../../colour/srgb";
import { Compositor } from "../../compose/compositor";
import { flatten, layerRows, type Progress, type Rows, writeBands } from "../../compose/flatten";
import { type Engine } from "../../engine";
import { type Layer, MASK, Picture } from "../../picture/picture";
import { ONE, TILE_BYTES } from "../../tiles/layout";
import { PngWriter } from "../png";

/** A picture in an OpenRaster file, as large as the sheet. */
export type Drawing =
  /** The sheet's colour. */
  | { draw: "sheet"; colour: string }
  /** Clear all over. */
  | { draw: "nothing" }
  /** A layer's own pixels. */
  | { draw: "own"; id: string }
  /** What a layer's mask lets through, as alpha. */
  | { draw: "mask"; id: string }
  /** What is seen of some layers. */
  | { draw: "seen"; layers: readonly Layer[]; ground: boolean }
  /** Of a layer that is blended with those before it: its shape, in the colours that come of it; null: all over. */
  | {
      draw: "blended";
      before: readonly Layer[];
      after: readonly Layer[];
      shape: readonly Layer[] | null;
    }
  /** The outline alone that some layers have. */
  | { draw: "outline"; plain: readonly Layer[]; outlined: readonly Layer[]; colour: string };

/** Draws to a PNG of 8 bits with alpha. */
export function drawPng(
  engine: Engine,
  picture: Picture,
  drawing: Drawing,
  progress: Progress,
): Uint8Array {
  const { width, height, ppi } = picture;
  const writer = new PngWriter({ width, height, depth: 8, alpha: true, ppi });
  const row = (samples: Uint8Array): void => writer.row(samples);
  draw(engine, picture, drawing, { depth: 8, alpha: true, row }, progress);
  return writer.finish();
}

function draw(
  engine: Engine,
  picture: Picture,
  drawing: Drawing,
  rows: Rows,
  progress: Progress,
): void {
  const { store, workforce } = engine;
  switch (drawing.draw) {
    case "sheet":
    case "nothing": {
      const [r, g, b] = drawing.draw === "sheet" ? hexToBytes(drawing.colour) : [0, 0, 0];
      const pixel = [r, g, b, drawing.draw === "sheet" ? 255 : 0];
      const row = Uint8Array.from({ length: picture.width * 4 }, (_, i) => pixel[i & 3] as number);
      for (let y = 0; y < picture.height; y++) rows.row(row);
      return;
    }
    case "own":
      return layerRows(picture, store, drawing.id, rows, progress);
    case "mask":
      return layerRows(picture, store, drawing.id, letThrough(rows), progress, MASK);
    case "seen":
      return flatten(of(picture, drawing.layers), store, workforce, drawing.ground, rows, progress);
    case "blended": {
      const { before, after, shape } = drawing;
      const sources = [before, after, ...(shape ? [shape] : [])];
      return combined(engine, picture, sources, shape ? blendedColour : asItIs, rows, progress);
    }
    case "outline": {
      const colour = hexToQ15(drawing.colour);
      const write = (out: Uint16Array, [plain, outlined]: readonly Uint16Array[]): void =>
        outlineAlone(out, plain as Uint16Array, outlined as Uint16Array, colour);
      return combined(engine, picture, [drawing.plain, drawing.outlined], write, rows, progress);
    }
  }
}

const hexToBytes = (hex: string): [number, number, number] => {
  const value = parseInt(hex.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
};

/** A mask holds back where it is painted: its alpha the other way round. */
const letThrough = (rows: Rows): Rows => ({
  ...rows,
  row: (samples) => {
    for (let i = 3; i < samples.length; i += 4) samples[i] = 255 - (samples[i] as number);
    rows.row(samples);
  },
});

/** The same planes under other layers. */
function of(picture: Picture, layers: readonly Layer[]): Picture {
  const other = new Picture(picture.header);
  other.structure = { ...picture.structure, layers };
  for (const [name, planes] of picture.planes) other.planes.set(name, planes);
  return other;
}

/** Writes a tile (Q15, premultiplied) from the same tile of several pictures. */
type Combine = (out: Uint16Array, from: readonly Uint16Array[]) => void;

/** Draws what is made of several pictures, tile by tile. */
function combined(
  { store, workforce }: Engine,
  picture: Picture,
  pictures: readonly (readonly Layer[])[],
  combine: Combine,
  rows: Rows,
  progress: Progress,
): void {
  const seen = pictures.map(
    (layers) => new Compositor(of(picture, layers), store, workforce, false),
  );
  const { heap } = store;
  const out = heap.allocate(TILE_BYTES);
  const pixels = (address: number): Uint16Array =>
    heap.u16.subarray(address >> 1, (address + TILE_BYTES) >> 1);
  try {
    writeBands(
      picture,
      store,
      (keys, take) => {
        const bands = seen.map((compositor) => {
          const band: Uint16Array[] = [];
          compositor.compose(keys, (_key, address) => band.push(pixels(address).slice()));
          compositor.forgetAll();
          return band;
        });
        keys.forEach((key, i) => {
          combine(
            pixels(out),
            bands.map((band) => band[i] as Uint16Array),
          );
          take(key, out);
        });
      },
      rows,
      progress,
    );
  } finally {
    heap.free(out, TILE_BYTES);
    for (const compositor of seen) compositor.free();
  }
}

/** Pixels lie in eights: eight of each channel, alpha last. */
const EIGHT = 32;

const held = (v: number): number => Math.min(ONE, Math.max(0, Math.round(v)));

/** The shape's alpha in the colour that, laid over what was before, gives what is after. */
const blendedColour: Combine = (out, [before, after, shape]) => {
  if (!before || !after || !shape) return;
  for (let block = 0; block < out.length; block += EIGHT)
    for (let i = block; i < block + 8; i++) {
      const [a, base] = [shape[i + 24] as number, before[i + 24] as number];
      const isThere = a > 0 && base > 0;
      out[i + 24] = isThere ? a : 0;
      for (let c = i; c < i + 24; c += 8) {
        const [from, to] = [before[c] as number, after[c] as number];
        // Premultiplied by the shape's alpha: after − (1 − a) · before, each out of its own alpha.
        out[c] = isThere ? Math.min(a, held(((to - from) * ONE + from * a) / base)) : 0;
      }
    }
};

/** What is seen, solid. */
const asItIs: Combine = (out, [, after]) => {
  if (!after) return;
  for (let block = 0; block < out.length; block += EIGHT)
    for (let i = block; i < block + 8; i++) {
      const alpha = after[i + 24] as number;
      out[i + 24] = alpha > 0 ? ONE : 0;
      for (let c = i; c < i + 24; c += 8)
        out[c] = alpha > 0 ? held(((after[c] as number) * ONE) / alpha) : 0;
    }
};

/** The alpha that an outline had before paint was laid over it. */
function outlineAlone(
  out: Uint16Array,
  plain: Uint16Array,
  outlined: Uint16Array,
  [r, g, b]: readonly number[],
): void {
  const colour = [r, g, b] as number[];
  for (let block = 0; block < out.length; block += EIGHT)
    for (let i = block; i < block + 8; i++) {
      const [a, all] = [plain[i + 24] as number, outlined[i + 24] as number];
      const alpha = a >= ONE ? 0 : held(((all - a) * ONE) / (ONE - a));
      out[i + 24] = alpha;
      for (let c = 0; c < 3; c++)
        out[i + c * 8] = Math.round((alpha * (colour[c] as number)) / ONE);
    }
}
