import { COLOUR, Picture, type Plane } from "../engine/picture/picture";
import { Refusal } from "../engine/picture/refusal";
import { type Box, growBox, emptyBox, ONE, pixelOffset, tileKey } from "../engine/tiles/layout";
import { type TileStore } from "../engine/tiles/tile-store";
import { contentBox } from "../engine/transform/bounds";
import { letGo, lift } from "../engine/transform/lift";

/** What is to be transformed, seen while it is dragged: where it lies, and a small picture of it. */
export type LiftedPicture = {
  from: Box;
  width: number;
  height: number;
  /** Straight RGBA. */
  data: Uint8ClampedArray<ArrayBuffer>;
};

/** Longest side of the small picture, px. */
const LONGEST = 900;
/** Points a side that stand for one of its pixels, at most. */
const MOST_POINTS = 2;

/** The box around what layers hold, within `box` where one is given; null where they hold nothing. */
export function heldBox(
  picture: Picture,
  store: TileStore,
  layers: readonly string[],
  box: Box | null,
): Box | null {
  const all = emptyBox();
  for (const id of layers) {
    const own = contentBox(store, picture.plane(id));
    if (own) growBox(all, own);
  }
  const { left, top, right, bottom } = box ?? {
    left: 0,
    top: 0,
    right: Infinity,
    bottom: Infinity,
  };
  const held = {
    left: Math.max(all.left, Math.round(left)),
    top: Math.max(all.top, Math.round(top)),
    right: Math.min(all.right, right === Infinity ? right : Math.round(right), picture.width),
    bottom: Math.min(all.bottom, bottom === Infinity ? bottom : Math.round(bottom), picture.height),
  };
  return held.right > held.left && held.bottom > held.top ? held : null;
}

/**
 * The layers' paint as it is to be moved.
 * @throws Refusal where there is none
 */
export function liftedPicture(
  picture: Picture,
  store: TileStore,
  layers: readonly string[],
  box: Box | null,
  selection: Plane | null = null,
): LiftedPicture {
  if (selection) return liftedThrough(picture, store, layers, selection);
  const from = heldBox(picture, store, layers, box);
  if (!from)
    throw new Refusal(
      box
        ? "There is no paint in this box on the chosen layer."
        : "There is nothing on this layer yet that could be moved.",
    );
  const across = from.right - from.left;
  const down = from.bottom - from.top;
  const step = Math.max(1, Math.max(across, down) / LONGEST);
  const width = Math.max(1, Math.round(across / step));
  const height = Math.max(1, Math.round(down / step));
  const data = new Uint8ClampedArray(width * height * 4);
  const points = Math.min(MOST_POINTS, Math.ceil(step));
  const stack = picture.structure.layers.filter(({ id }) => layers.includes(id));
  const sum = [0, 0, 0, 0];
  for (let y = 0, to = 0; y < height; y++)
    for (let x = 0; x < width; x++, to += 4) {
      sum.fill(0);
      for (let j = 0; j < points; j++)
        for (let i = 0; i < points; i++) {
          const px = Math.floor(from.left + ((x + (i + 0.5) / points) * across) / width);
          const py = Math.floor(from.top + ((y + (j + 0.5) / points) * down) / height);
          addSeen(sum, store, stack, picture, px, py);
        }
      const alpha = sum[3] as number;
      if (alpha === 0) continue;
      for (let c = 0; c < 3; c++) data[to + c] = ((sum[c] as number) * 255) / alpha;
      data[to + 3] = (alpha * 255) / (points * points);
    }
  return { from, width, height, data };
}

/** The same, of what is selected only. */
function liftedThrough(
  picture: Picture,
  store: TileStore,
  layers: readonly string[],
  selection: Plane,
): LiftedPicture {
  const part = new Picture(picture.header);
  part.structure = picture.structure;
  const parts = layers.map((id) => {
    const lifted = lift(store, picture.plane(id), null, selection);
    part.planes.set(id, new Map([[COLOUR, lifted.lifted]]));
    return lifted;
  });
  try {
    return liftedPicture(part, store, layers, null);
  } finally {
    for (const lifted of parts) letGo(store, lifted);
  }
}

const over = [0, 0, 0, 0];

/** Adds what a stack of layers shows at a pixel, premultiplied 0…1. */
function addSeen(
  sum: number[],
  store: TileStore,
  stack: Picture["structure"]["layers"],
  picture: Picture,
  x: number,
  y: number,
): void {
  over.fill(0);
  const key = tileKey(x >> 6, y >> 6);
  for (const { id, opacity } of stack) {
    const tile = picture.plane(id).get(key);
    if (!tile) continue;
    const at = tile.colour ? 0 : (store.address(tile) + pixelOffset(x & 63, y & 63, 0)) >> 1;
    const { u16 } = store.heap;
    const channel = (c: number): number =>
      (((tile.colour ? tile.colour[c] : u16[at + c * 8]) as number) / ONE) * opacity;
    const rest = 1 - channel(3);
    for (let c = 0; c < 4; c++) over[c] = channel(c) + (over[c] as number) * rest;
  }
  for (let c = 0; c < 4; c++) sum[c] = (sum[c] as number) + (over[c] as number);
}
