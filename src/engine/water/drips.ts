import { type Picture } from "../picture/picture";
import { type Bench } from "../bench";
import { tileColumn, tileKey, tileRow } from "../tiles/layout";
import { type Tilt } from "./wash-state";

/** A drip: the head that opens a way for the water behind it. In cells of the sheet; it carries nothing itself. */
export type Drip = { x: number; y: number; idle: number };

/** Numbers that a drip is kept as. */
export const DRIP_WORDS = 3;
/** No more run at once, so that they fit beside what is kept of a tile. */
export const MOST_DRIPS = 300;

/** Where the states of tiles are; 0 where there is none. See `kernels/water/film.ts`. */
type At = (key: number) => number;

/** Below this slope nothing drips. */
const LEAST_SLOPE = 0.15;
/** New ones are looked for every so many steps, at most so many. */
const LOOKS_EVERY = 16;
const MOST_NEW = 3;
/** Water heavy enough to break through. */
const BREAKS = 2.1;
/** Cells between two, aside of each other, and how far up and down that counts. */
const APART = 13;
const WITHIN = 40;
/** So thick a film runs. */
const RUNS_FROM = 0.42;
const FASTEST = 0.4;
/** Steps after which one that stands is given up. */
const GIVEN_UP = 400;
const COVER = 1024;
const RESIST = 6 * 1024;
const CELLS = 32;

const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/**
 * Heads of drips on a tilted sheet, as measured for washes: they begin where most water stands over a dry place,
 * and go on as long as the film behind them is thick.
 */
export class Drips {
  list: Drip[] = [];
  #slope: number;
  #down: { x: number; y: number };
  #clings: Float32Array;
  #strays: Float32Array;
  #row: number;
  #side: number;

  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    { x, y }: Tilt,
  ) {
    this.#slope = Math.sqrt(x * x + y * y);
    this.#down = this.#slope > 0 ? { x: x / this.#slope, y: y / this.#slope } : { x: 0, y: 0 };
    const { address, side } = bench.washPaper(picture);
    this.#side = side >> 1;
    this.#row = this.#side + 8;
    const plane = this.#row * this.#row;
    const first = (address + 2 * (side + 16) * (side + 16)) >> 2;
    const { f32 } = bench.store.heap;
    this.#clings = f32.slice(first + 3 * plane, first + 4 * plane);
    this.#strays = f32.slice(first + 4 * plane, first + 5 * plane);
  }

  #paper(plane: Float32Array, x: number, y: number): number {
    const [u, v] = [x % this.#side, y % this.#side];
    return plane[(v + 4) * this.#row + u + 4] as number;
  }

  /** The word of a cell in its tile's state, −1 where there is none. */
  #word(at: At, x: number, y: number): number {
    if (x < 0 || y < 0) return -1;
    const state = at(tileKey(x >> 5, y >> 5));
    return state ? (state >> 2) + (y & 31) * CELLS + (x & 31) : -1;
  }

  /** A number of a cell; `plane` 0: its water. */
  #number(at: At, x: number, y: number, plane: number): number {
    const word = this.#word(at, x, y);
    return word < 0 ? 0 : (this.bench.store.heap.f32[word + plane] as number);
  }

  /** One step of all, after one of the water. `tick` counts steps; `keys`: the tiles that water is in. */
  step(at: At, keys: readonly number[], tick: number): void {
    if (this.#slope < LEAST_SLOPE) return;
    for (const drip of this.list) this.#move(at, drip);
    this.list = this.list.filter(({ idle }) => idle < GIVEN_UP);
    if (tick % LOOKS_EVERY === 0) this.#find(at, keys);
  }

  #move(at: At, drip: Drip): void {
    const [x, y] = [Math.round(drip.x), Math.round(drip.y)];
    const stray = x < 0 || y < 0 ? 0 : this.#paper(this.#strays, x, y);
    const radius = 2 + 1.1 * clamp(0.5 + 0.09 * stray, 0, 1);
    const reach = Math.ceil(radius);
    let water = 0;
    let cover = 0;
    for (let v = -reach; v <= reach; v++)
      for (let u = -reach; u <= reach; u++) {
        if (u * u + v * v > radius * radius) continue;
        water += this.#number(at, x + u, y + v, 0);
        cover += this.#number(at, x + u, y + v, COVER);
      }
    const film = cover > 0 ? water / cover : 0;
    const speed = Math.min(FASTEST, 2 * this.#slope * (film - RUNS_FROM));
    if (speed <= 0 || x < 0 || y < 0) {
      drip.idle++;
      return;
    }
    drip.idle = 0;
    const { x: dx, y: dy } = this.#down;
    const [ax, ay] = [Math.max(0, Math.round(x - dy * 2)), Math.max(0, Math.round(y + dx * 2))];
    const aside = (this.#paper(this.#strays, ax, ay) - stray) / 2;
    const sideways = speed * clamp(0.02 * aside, -0.35, 0.35);
    // As it is kept: so a drip goes the same way whether it was put down in between or not.
    drip.x = Math.fround(drip.x + dx * speed - dy * sideways);
    drip.y = Math.fround(drip.y + dy * speed + dx * sideways);
    this.#open(at, drip, radius);
  }

  /** The head wets what it comes over. */
  #open(at: At, { x, y }: Drip, radius: number): void {
    const { f32 } = this.bench.store.heap;
    const reach = Math.ceil(radius + 1);
    for (let v = Math.round(y) - reach; v <= Math.round(y) + reach; v++)
      for (let u = Math.round(x) - reach; u <= Math.round(x) + reach; u++) {
        const word = this.#word(at, u, v);
        if (word < 0 || u >= this.picture.width / 2 || v >= this.picture.height / 2) continue;
        const far = Math.sqrt((u - x) * (u - x) + (v - y) * (v - y));
        const open = clamp(radius + 0.5 - far, 0, 1) * (1 - (f32[word + RESIST] as number));
        f32[word + COVER] = Math.max(f32[word + COVER] as number, open);
      }
  }

  /** Where most water stands over what is dry, drips begin. */
  #find(at: At, keys: readonly number[]): void {
    const found: { x: number; y: number; weight: number }[] = [];
    const [dx, dy] = [Math.round(this.#down.x * 2), Math.round(this.#down.y * 2)];
    const { f32 } = this.bench.store.heap;
    for (const key of keys) {
      const state = at(key) >> 2;
      const [left, top] = [tileColumn(key) * CELLS, tileRow(key) * CELLS];
      for (let i = 0; i < CELLS * CELLS; i++) {
        if ((f32[state + COVER + i] as number) < 0.5) continue;
        const [x, y] = [left + (i & 31), top + (i >> 5)];
        if (this.#word(at, x + dx, y + dy) < 0 || this.#number(at, x + dx, y + dy, COVER) > 0.2)
          continue;
        const weight = this.#weight(at, x, y);
        if (weight > BREAKS) found.push({ x, y, weight });
      }
    }
    // Equals in the order of tiles and cells, as they were found.
    found.sort((a, b) => b.weight - a.weight);
    let count = 0;
    for (const { x, y } of found) {
      if (count === MOST_NEW || this.list.length >= MOST_DRIPS) return;
      if (this.#isCrowded(x, y)) continue;
      this.list.push({ x, y, idle: 0 });
      count++;
    }
  }

  /** How hard the water above pushes at a cell. */
  #weight(at: At, x: number, y: number): number {
    const kernel = [1, 4, 6, 4, 1];
    let blurred = 0;
    for (let v = -2; v <= 2; v++)
      for (let u = -2; u <= 2; u++) {
        const share = ((kernel[v + 2] as number) * (kernel[u + 2] as number)) / 256;
        blurred += share * this.#number(at, x + u, y + v, 0);
      }
    const clings = 0.4 + 0.6 * this.#paper(this.#clings, x, y);
    const stray = 1 + 0.018 * this.#paper(this.#strays, x, y);
    return ((2 * blurred * (1 + 0.5 * this.#slope)) / clings) * stray;
  }

  #isCrowded(x: number, y: number): boolean {
    const apart = APART + 1.1 * Math.abs(this.#paper(this.#strays, x, y));
    return this.list.some((drip) => {
      const [u, v] = [drip.x - x, drip.y - y];
      const along = u * this.#down.x + v * this.#down.y;
      const aside = u * this.#down.y - v * this.#down.x;
      return Math.abs(along) < WITHIN && Math.abs(aside) < apart;
    });
  }
}
