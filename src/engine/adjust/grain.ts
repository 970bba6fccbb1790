import { type Plane } from "../picture/picture";
import { type Bench } from "../stroke/stroke";
import { Chance } from "../stroke/chance";
import { TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";

/** Eight pixels of one channel lie together, and the four channels after each other. */
const channelOf = (i: number): number => (i >> 3) & 3;
const TILE_NUMBERS = TILE_SIDE * TILE_SIDE * 4;

/**
 * A blurred plane made into a sharpened one: what it lacks of the original is added to that,
 * `amount` times (unsharp mask). Colour stays within alpha.
 */
export function sharpened(
  { store }: Bench,
  original: Plane,
  blurred: Map<number, Tile>,
  amount: number,
): void {
  for (const [key, soft] of blurred) {
    const own = original.get(key);
    if (!own) {
      blurred.delete(key);
      store.release(soft);
      continue;
    }
    const from = store.address(own) >> 1;
    const to = store.address(soft) >> 1;
    const { u16 } = store.heap;
    for (let i = 0; i < TILE_NUMBERS; i++) {
      const v = u16[from + i] as number;
      const a = u16[from + (i & ~31) + 24 + (i & 7)] as number;
      const next = channelOf(i) === 3 ? v : Math.round(v + (v - (u16[to + i] as number)) * amount);
      if (channelOf(i) !== 3) u16[to + i] = Math.min(a, Math.max(0, next));
    }
    for (let i = 0; i < TILE_NUMBERS; i++)
      if (channelOf(i) === 3) u16[to + i] = u16[from + i] as number;
  }
}

/** How far noise of amount 1 goes: a share of white. */
const STRONGEST = 0.5;

/** A plane with noise in its colours, by chance that depends on the place alone; alpha stays. */
export function addNoise(
  { store }: Bench,
  plane: Plane,
  { amount, grey, seed }: { amount: number; grey: boolean; seed: number },
): Map<number, Tile> {
  const chance = new Chance(seed);
  const made = new Map<number, Tile>();
  for (const [key, tile] of plane) {
    const copy = store.copy(tile);
    made.set(key, copy);
    const at = store.address(copy) >> 1;
    const { u16 } = store.heap;
    const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    for (let y = 0; y < TILE_SIDE; y++)
      for (let x = 0; x < TILE_SIDE; x++) {
        const pixel = at + y * 256 + (x >> 3) * 32 + (x & 7);
        const a = u16[pixel + 24] as number;
        if (a === 0) continue;
        const place = ((top + y) * 16384 + left + x) * 4;
        for (let c = 0; c < 3; c++) {
          // Two throws together gather around nothing.
          const n = chance.at(place + (grey ? 0 : c)) + chance.at(~(place + (grey ? 0 : c))) - 1;
          const v = (u16[pixel + c * 8] as number) + n * amount * STRONGEST * a;
          u16[pixel + c * 8] = Math.min(a, Math.max(0, Math.round(v)));
        }
      }
  }
  return made;
}
