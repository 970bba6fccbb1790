import { type Regions } from "../region/regions";
import { ONE, TILE_SIDE, tileKey } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { addSpan, type Polygon, ROWS, rowsOf, stretchesAt } from "./shapes";

/** Sample rows of a row of tiles. */
const SAMPLES = TILE_SIDE * ROWS;
/** From so much on a pixel is covered wholly. */
const WHOLE = 0.9999;

/** Stretches inside a shape, by sample row; empty where a row has none. */
type Stretches = readonly (readonly (readonly [from: number, to: number])[])[];

const OUTSIDE: Stretches[number] = [];

/** A polygon as tiles of a mask: alpha is how much of a pixel it covers. The caller releases them. */
export function shapeTiles(
  store: TileStore,
  { width, height, words }: Pick<Regions, "width" | "height" | "words">,
  polygon: Polygon,
): Map<number, Tile> {
  const made = new Map<number, Tile>();
  const { top, bottom } = rowsOf(polygon, height);
  const pixels = new Float32Array(TILE_SIDE * TILE_SIDE);
  for (let row = Math.floor(top / TILE_SIDE); row * TILE_SIDE < bottom; row++) {
    const stretches: Stretches = Array.from({ length: SAMPLES }, (_, i) => {
      const y = row * TILE_SIDE + Math.floor(i / ROWS);
      const sample = y + ((i % ROWS) + 0.5) / ROWS;
      return y >= top && y < bottom ? stretchesAt(polygon, sample) : OUTSIDE;
    });
    for (let column = 0; column < words; column++) {
      const tile = tileFrom(store, stretches, column * TILE_SIDE, width, pixels);
      if (tile) made.set(tileKey(column, row), tile);
    }
  }
  return made;
}

/** How many sample rows of a tile lie wholly in a shape, and how many touch it. */
function counted(stretches: Stretches, left: number, right: number): [whole: number, any: number] {
  let [whole, any] = [0, 0];
  for (const row of stretches) {
    let touches = 0;
    for (const [from, to] of row) {
      if (to <= left || from >= right) continue;
      touches = 1;
      if (from <= left && to >= right) whole++;
    }
    any += touches;
  }
  return [whole, any];
}

/** Looked up once: globals are slow to come by in a loop over pixels. */
const { round } = Math;

function tileFrom(
  store: TileStore,
  stretches: Stretches,
  left: number,
  width: number,
  pixels: Float32Array,
): Tile | null {
  const [whole, any] = counted(stretches, left, left + TILE_SIDE);
  if (any === 0) return null;
  const right = Math.min(left + TILE_SIDE, width);
  const isFull = right - left === TILE_SIDE;
  if (isFull && whole === SAMPLES) return store.plain([0, 0, 0, ONE]);
  pixels.fill(0);
  stretches.forEach((row, i) => {
    const y = Math.floor(i / ROWS) * TILE_SIDE;
    const line = pixels.subarray(y, y + TILE_SIDE);
    for (const [from, to] of row) addSpan(line, from, to, 1 / ROWS, left, right);
  });
  let most = 0;
  let least = 1;
  for (let y = 0; y < TILE_SIDE; y++)
    for (let x = 0; x < right - left; x++) {
      const v = pixels[y * TILE_SIDE + x] as number;
      if (v > most) most = v;
      if (v < least) least = v;
    }
  if (most === 0) return null;
  if (isFull && least >= WHOLE) return store.plain([0, 0, 0, ONE]);
  return written(store, pixels, right - left);
}

function written(store: TileStore, pixels: Float32Array, across: number): Tile {
  const tile = store.create();
  store.kernels.fillTile(tile.address, 0, 0, 0, 0);
  const { u16 } = store.heap;
  for (let y = 0; y < TILE_SIDE; y++) {
    const row = (tile.address >>> 1) + y * 256 + 24;
    for (let x = 0; x < across; x++) {
      const share = pixels[y * TILE_SIDE + x] as number;
      u16[row + (x >> 3) * 32 + (x & 7)] = round(share < 1 ? share * ONE : ONE);
    }
  }
  return tile;
}
