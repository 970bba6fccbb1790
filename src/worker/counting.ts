import { type Compositor } from "../engine/compose/compositor";
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
  const { u16 } = store.heap;
  const read = (key: number, address: number): void => {
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

/** Points a side at which a picture's colours are looked at. */
const ACROSS = 72;

/** Colours of points spread evenly over the picture, or over what is selected. */
export function sampledColours({ store }: Engine, picture: Picture, compositor: Compositor): Rgb[] {
  const { width, height } = picture;
  const selection = picture.structure.selection ? picture.plane(SELECTION) : null;
  const points = new Map<number, [number, number][]>();
  for (let j = 0; j < ACROSS; j++)
    for (let i = 0; i < ACROSS; i++) {
      const x = Math.floor(((i + 0.5) * width) / ACROSS);
      const y = Math.floor(((j + 0.5) * height) / ACROSS);
      const key = tileKey(x >> 6, y >> 6);
      if (selection && !selection.has(key)) continue;
      const known = points.get(key);
      if (known) known.push([x, y]);
      else points.set(key, [[x, y]]);
    }
  const colours: Rgb[] = [];
  const { u16 } = store.heap;
  compositor.compose([...points.keys()], (key, address) => {
    for (const [x, y] of points.get(key) ?? []) {
      const at = (address + pixelOffset(x & 63, y & 63, 0)) >> 1;
      colours.push([0, 8, 16].map((c) => Math.min(1, (u16[at + c] as number) / ONE)) as Rgb);
    }
  });
  return colours;
}
