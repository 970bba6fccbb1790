import { type Plane } from "../picture/picture";
import { type Bench } from "../bench";
import {
  type Box,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
  TILES_ACROSS,
  tilesIn,
} from "../tiles/layout";
import { REGION_BYTES, TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { type Filter, filterAddress, IN_LINEAR_LIGHT, TAPS } from "./filters";
import { Levels } from "./levels";
import { lightTables } from "./light";
import { NODES, NOWHERE, type Origins } from "./origins";

/** Jobs between two looks at memory. */
const BATCH = 192;
const NODE_NUMBERS = NODES * NODES * 2;
/** A step of the source greater than this a pixel of the target is taken from half the size. */
const HALVE_FROM = Math.SQRT2;
const MOST_LEVEL = 8;

/** Part of the source at a level, px of that level, whole blocks across. */
type Region = { level: number; left: number; top: number; right: number; bottom: number };

export type Resampling = {
  bench: Bench;
  source: Plane;
  /** What is already there: the source is laid over it. */
  rest: Plane;
  origins: Origins;
  target: Box;
  filter: Filter;
  width: number;
  height: number;
};

/**
 * Lays a plane, resampled, over what rests, tile by tile, and hands each target tile to `take`
 * (null: nothing there). `take` takes over the hold on it.
 */
export function resample(
  { bench, source, rest, origins, target, filter, width, height }: Resampling,
  take: (key: number, tile: Tile | null) => void,
): void {
  const { store, workforce } = bench;
  const { heap } = store;
  const light = IN_LINEAR_LIGHT[filter] ? lightTables(heap) : null;
  const levels = new Levels(source, store, workforce, light);
  const weights = filterAddress(heap, filter);
  const nodesAt = heap.allocate(BATCH * NODE_NUMBERS * 4);
  const nodes = new Float32Array(NODE_NUMBERS);
  let waiting: { key: number; tile: Tile }[] = [];
  const finish = (): void => {
    workforce.run(true);
    for (const { key, tile } of waiting) {
      store.settle(tile);
      if (!store.isEmpty(tile)) take(key, tile);
      else {
        store.release(tile);
        take(key, null);
      }
    }
    waiting = [];
    store.trim();
  };
  for (const key of tilesIn(grown(target), width, height)) {
    origins(key, nodes);
    const region = regionOf(nodes, filter);
    const parts = region ? partsOf(levels, region) : [];
    if (!region || parts.length === 0) {
      const there = rest.get(key);
      take(key, there ? store.retain(there) : null);
      continue;
    }
    const tile = store.create();
    const own = nodesAt + waiting.length * NODE_NUMBERS * 4;
    new Float32Array(heap.u8.buffer, own, NODE_NUMBERS).set(toRegion(nodes, region));
    const under = rest.get(key);
    const from = under ? store.address(under) : store.nothing;
    const to = store.address(tile);
    const stride = (region.right - region.left) * 8;
    const bytes = stride * (region.bottom - region.top);
    workforce.beginJob();
    if (light) workforce.write(TAPE.clear, to, TILE_BYTES);
    else workforce.write(TAPE.copy, to, from, TILE_BYTES);
    workforce.write(TAPE.clearRegion, bytes);
    for (const part of parts) workforce.write(TAPE.unweave, ...part);
    if (light && region.level === 0) workforce.write(TAPE.lightRegion, bytes, light.toLinear);
    workforce.write(TAPE.warp, to, own, stride, weights, TAPS[filter]);
    if (light) {
      workforce.write(TAPE.light, to, to, light.toSrgb);
      workforce.write(TAPE.under, to, from);
    }
    workforce.endJob();
    waiting.push({ key, tile });
    if (waiting.length === BATCH || workforce.isFull) finish();
  }
  finish();
  levels.free();
  heap.free(nodesAt, BATCH * NODE_NUMBERS * 4);
}

const grown = ({ left, top, right, bottom }: Box): Box => ({
  left: left - 4,
  top: top - 4,
  right: right + 4,
  bottom: bottom + 4,
});

/** The part of the source that a tile's nodes lie in, at the size that suits its scale; null: nowhere. */
function regionOf(nodes: Float32Array, filter: Filter): Region | null {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  let steps = 0;
  let sum = 0;
  for (let i = 0; i < NODE_NUMBERS; i += 2) {
    const x = nodes[i] as number;
    const y = nodes[i + 1] as number;
    if (x <= NOWHERE) continue;
    if (x < box.left) box.left = x;
    if (x > box.right) box.right = x;
    if (y < box.top) box.top = y;
    if (y > box.bottom) box.bottom = y;
    const across = i + 2;
    if (across % (NODES * 2) === 0 || (nodes[across] as number) <= NOWHERE) continue;
    steps++;
    sum += Math.hypot((nodes[across] as number) - x, (nodes[across + 1] as number) - y) / 8;
  }
  if (steps === 0) return null;
  const reach = TAPS[filter] / 2 + 2;
  const first = Math.max(0, Math.ceil(Math.log2(sum / steps / HALVE_FROM)));
  for (let level = first; level <= MOST_LEVEL; level++) {
    const size = 2 ** level;
    const region = {
      level,
      left: Math.floor((box.left / size - reach) / 8) * 8,
      top: Math.floor(box.top / size - reach),
      right: Math.ceil((box.right / size + reach) / 8) * 8,
      bottom: Math.ceil(box.bottom / size + reach),
    };
    const bytes = (region.right - region.left) * (region.bottom - region.top) * 8;
    if (bytes <= REGION_BYTES) return region;
  }
  return null;
}

/** The `unweave` operands of every tile that a region meets. */
function partsOf(levels: Levels, { level, left, top, right, bottom }: Region): number[][] {
  const parts: number[][] = [];
  const stride = (right - left) * 8;
  const most = TILES_ACROSS * TILE_SIDE;
  const lowest = Math.min(bottom, most);
  const rightmost = Math.min(right, most);
  for (let py = Math.floor(Math.max(0, top) / 64) * 64; py < lowest; py += 64)
    for (let px = Math.floor(Math.max(0, left) / 64) * 64; px < rightmost; px += 64) {
      const address = levels.at(level, tileKey(px / 64, py / 64));
      if (!address) continue;
      const x0 = Math.max(px, left);
      const x1 = Math.min(px + 64, right);
      const y0 = Math.max(py, top);
      const y1 = Math.min(py + 64, bottom);
      const offset = (y0 - top) * stride + (x0 - left) * 8;
      parts.push([offset, stride, address, (x0 - px) / 8, (x1 - px) / 8, y0 - py, y1 - py]);
    }
  return parts;
}

const placed = new Float32Array(NODE_NUMBERS);

/** Nodes in the region's own px, where a pixel's centre is a whole number. */
function toRegion(nodes: Float32Array, { level, left, top }: Region): Float32Array {
  const size = 2 ** level;
  for (let i = 0; i < NODE_NUMBERS; i += 2) {
    const x = nodes[i] as number;
    placed[i] = x <= NOWHERE ? NOWHERE : x / size - left - 0.5;
    placed[i + 1] = (nodes[i + 1] as number) / size - top - 0.5;
  }
  return placed;
}

/** Keys of tiles outside of a box, grown as `resample` grows it. */
export function tilesOutside(keys: Iterable<number>, target: Box): number[] {
  const { left, top, right, bottom } = grown(target);
  return [...keys].filter((key) => {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    return px >= right || py >= bottom || px + TILE_SIDE <= left || py + TILE_SIDE <= top;
  });
}
