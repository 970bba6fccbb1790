import { type Compositor } from "../engine/compose/compositor";
import { hexToQ15 } from "../engine/colour/srgb";
import { type Pixels } from "../engine/file/png";
import { type Rgb } from "../engine/colour/oklch";
import { countPixel, emptyHistogram, type Histogram } from "../engine/crit/histogram";
import { type Engine } from "../engine/engine";
import { type Picture, SELECTION } from "../engine/picture/picture";
import { ONE, pixelOffset, tileKey, tilesIn } from "../engine/tiles/layout";

/** Pixels that are looked at, at most: more say no more. */
const MOST = 160_000;

/** Counts the colours of a layer, or of all that is seen (null), inside the selection where there is one. */
export function histogramOf(
  { store }: Engine,
  picture: Picture,
  compositor: Compositor,
  layer: string | null,
): Histogram {
  const { width, height } = picture;
  const step = Math.max(1, Math.ceil(Math.sqrt((width * height) / MOST)));
  const counted = emptyHistogram();
  const selection = picture.structure.selection ? picture.plane(SELECTION) : null;
  const read = (key: number, address: number): void => {
    // The heap may have grown since the last batch.
    const { u16 } = store.heap;
    const mask = selection?.get(key);
    if (selection && !mask) return;
    const maskAt = mask && !mask.colour ? store.address(mask) : 0;
    const [left, top] = [(key & 255) * 64, (key >> 8) * 64];
    const first = (from: number): number => Math.ceil(from / step) * step;
    for (let y = first(top); y < Math.min(top + 64, height); y += step)
      for (let x = first(left); x < Math.min(left + 64, width); x += step) {
        const at = (address + pixelOffset(x & 63, y & 63, 0)) >> 1;
        const a = u16[at + 24] as number;
        if (a === 0) continue;
        const held = maskAt
          ? (u16[(maskAt + pixelOffset(x & 63, y & 63, 3)) >> 1] as number) / ONE
          : 1;
        const v = (c: number): number => Math.min(1, (u16[at + c * 8] as number) / a);
        countPixel(counted, [v(0), v(1), v(2)], (a / ONE) * held);
      }
  };
  if (layer) {
    picture.layer(layer);
    for (const [key, tile] of picture.plane(layer)) read(key, store.address(tile));
    store.trim();
  } else {
    const keys = tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);
    compositor.compose(
      keys.filter((key) => !selection || selection.has(key)),
      read,
    );
  }
  return counted;
}

/** Points a side at which a picture's colours are looked at; more where little of it is painted. */
const ACROSS = 72;
const ACROSS_SPARSE = 320;
/** Fewer colours than this say little. */
const FEW = 300;

/** What is less opaque than this is paper. */
const PAINT = 0.5 * ONE;

/**
 * Colours of points spread evenly over the picture, or over what is selected; bare paper is left out.
 * @param painted composites the picture without its ground
 */
export function sampledColours(engine: Engine, picture: Picture, painted: Compositor): Rgb[] {
  const colours = coloursAt(engine, picture, painted, ACROSS);
  return colours.length >= FEW ? colours : coloursAt(engine, picture, painted, ACROSS_SPARSE);
}

function coloursAt(
  { store }: Engine,
  picture: Picture,
  painted: Compositor,
  across: number,
): Rgb[] {
  const { width, height } = picture;
  const selection = picture.structure.selection ? picture.plane(SELECTION) : null;
  const ground = hexToQ15(picture.structure.ground);
  const points = new Map<number, [number, number][]>();
  for (let j = 0; j < across; j++)
    for (let i = 0; i < across; i++) {
      const x = Math.floor(((i + 0.5) * width) / across);
      const y = Math.floor(((j + 0.5) * height) / across);
      const key = tileKey(x >> 6, y >> 6);
      if (selection && !selection.has(key)) continue;
      const known = points.get(key);
      if (known) known.push([x, y]);
      else points.set(key, [[x, y]]);
    }
  const colours: Rgb[] = [];
  painted.compose([...points.keys()], (key, address) => {
    // The heap may have grown since the last batch.
    const { u16 } = store.heap;
    for (const [x, y] of points.get(key) ?? []) {
      const at = (address + pixelOffset(x & 63, y & 63, 0)) >> 1;
      const alpha = u16[at + 24] as number;
      if (alpha < PAINT) continue;
      const seen = (c: number): number =>
        ((u16[at + c * 8] as number) + (ground[c] as number) * (1 - alpha / ONE)) / ONE;
      colours.push([Math.min(1, seen(0)), Math.min(1, seen(1)), Math.min(1, seen(2))]);
    }
  });
  return colours;
}

/** Colours of points spread evenly over a picture from a file; what is clear is left out. */
export function coloursOfPixels({ width, height, data }: Pixels): Rgb[] {
  const colours: Rgb[] = [];
  for (let j = 0; j < ACROSS; j++)
    for (let i = 0; i < ACROSS; i++) {
      const x = Math.floor(((i + 0.5) * width) / ACROSS);
      const y = Math.floor(((j + 0.5) * height) / ACROSS);
      const at = (y * width + x) * 4;
      if ((data[at + 3] as number) < 128) continue;
      colours.push([0, 1, 2].map((c) => (data[at + c] as number) / 255) as Rgb);
    }
  return colours;
}
