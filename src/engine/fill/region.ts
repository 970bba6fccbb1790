import { type Bits, type Flooded, type Patch, type Regions } from "../region/regions";
import { type Open } from "../region/source";

/** Widest gap that a fill closes, px. */
export const MOST_BRIDGE = 64;
/** Farthest that a fill goes on under a line, px. */
export const MOST_UNDER = 32;
/** Half the width of the widest specks in a line, px. */
const SPECK = 2;

/** A region that was found: its bits, and the tiles that they lie in or beside. */
export type Found = { bits: Bits; area: number; patch: Patch };

/** Bit pictures that finding a region needs, made once and used again. */
export class RegionFinder {
  #barrier: Bits;
  #core: Bits;
  #other: Bits;
  #foreign: Bits;
  #bridged = -1;
  #open: Open;

  /** @param open the pixels that are no border; it is freed with the finder */
  constructor(
    readonly regions: Regions,
    open: Open,
  ) {
    this.#open = open;
    this.#barrier = regions.make();
    this.#core = regions.make();
    this.#other = regions.make();
    this.#foreign = regions.make();
  }

  /** The pixels of the whole sheet that are no border. */
  get open(): Bits {
    this.#open.knowAll();
    return this.#open.bits;
  }

  /** Gives the bit pictures back; regions that were found stay. */
  free(): void {
    for (const bits of [this.#barrier, this.#core, this.#other, this.#foreign])
      this.regions.release(bits);
    this.#open.free();
  }

  /**
   * The region around a pixel. Gaps up to `bridge` px wide are closed: borders are grown by
   * half of it (exact Euclidean discs; Felzenszwalb & Huttenlocher 2012 for the distance),
   * what is left is flooded, and grows back as far without crossing a border. Nooks that lead
   * nowhere else belong to it too.
   * @returns null where the pixel lies on a border
   */
  at(x: number, y: number, bridge: number): Found | null {
    const { regions } = this;
    this.#open.know([regions.tileOf(x, y)]);
    if (!regions.has(this.#open.bits, x, y)) return null;
    if (bridge === 0) return this.#reached(x, y);
    // Where there is no room for the bridge itself, a narrower one decides.
    for (let width = bridge; ; width = Math.floor(width / 2)) {
      if (width === 0) return this.#reached(x, y);
      this.#prepare(width);
      const seed = this.#nearestCore(x, y, Math.ceil(width / 2) + 1);
      if (seed) return this.#grown(seed[0] as number, seed[1] as number, width);
    }
  }

  /** All that hangs together with a pixel: no more of the page is read than the flood comes to. */
  #reached(x: number, y: number): Found {
    const { regions } = this;
    const open = this.#open;
    const bits = regions.make();
    regions.set(bits, x, y);
    const all = new Set<number>();
    for (let from = [regions.tileOf(x, y)]; from.length > 0;) {
      const { tiles } = regions.flood(open.bits, bits, from);
      const beside = new Set<number>();
      for (const tile of tiles) {
        all.add(tile);
        for (const next of regions.besides(bits, tile)) beside.add(next);
      }
      from = open.know(beside);
    }
    const tiles = Int32Array.from(all);
    return { bits, area: regions.areaIn(bits, tiles), patch: regions.patchOf(bits, tiles) };
  }

  /** Core: what is open farther than half the bridge from any border. */
  #prepare(bridge: number): void {
    if (bridge === this.#bridged) return;
    const { regions, open } = this;
    this.#bridged = bridge;
    regions.copy(this.#core, open);
    if (bridge === 0) return;
    regions.not(this.#barrier, open);
    regions.grow(this.#other, this.#barrier, bridge / 2);
    regions.join(this.#core, "andNot", this.#other);
  }

  /** The pixel of the core nearest to one that may lie beside it, by ways that cross no border. */
  #nearestCore(x: number, y: number, reach: number): [number, number] | null {
    const { regions, open } = this;
    const seen = new Set<number>();
    let ring: [number, number][] = [[x, y]];
    for (let step = 0; step <= reach && ring.length > 0; step++) {
      const next: [number, number][] = [];
      for (const [px, py] of ring) {
        if (regions.has(this.#core, px, py)) return [px, py];
        for (const [dx, dy] of STEPS) {
          const [nx, ny] = [px + dx, py + dy];
          const name = ny * regions.width + nx;
          if (seen.has(name) || !regions.has(open, nx, ny)) continue;
          seen.add(name);
          next.push([nx, ny]);
        }
      }
      ring = next;
    }
    return null;
  }

  #grown(x: number, y: number, bridge: number): Found {
    const { regions, open } = this;
    const bits = regions.make();
    regions.set(bits, x, y);
    const core = regions.flood(this.#core, bits, [regions.tileOf(x, y)]);
    const near = regions.patchOf(bits, core.tiles);
    regions.spreadBy(bits, this.#other, open, Math.ceil(bridge / 2), near);
    // Other regions' cores, and all that can be reached from them.
    regions.copy(this.#foreign, this.#core);
    regions.join(this.#foreign, "andNot", bits);
    regions.copy(this.#other, open);
    regions.join(this.#other, "andNot", bits);
    regions.flood(this.#other, this.#foreign);
    // What is left and hangs on this region alone.
    regions.join(this.#other, "andNot", this.#foreign);
    regions.join(this.#other, "or", bits);
    const { area, tiles } = regions.flood(this.#other, bits);
    return { bits, area, patch: regions.patchOf(bits, tiles) };
  }

  /** All regions that lie wholly in a loop, taken together. */
  closedIn(loop: Bits, bridge: number): Found {
    const { regions, open } = this;
    this.#prepare(bridge);
    const reached = this.#foreign;
    regions.copy(reached, this.#core);
    regions.join(reached, "andNot", loop);
    regions.flood(this.#core, reached);
    const bits = regions.make();
    regions.copy(bits, this.#core);
    regions.join(bits, "andNot", reached);
    regions.spreadBy(bits, this.#other, open, Math.ceil(bridge / 2));
    regions.join(bits, "and", loop);
    const tiles = Int32Array.from({ length: regions.words * regions.tileRows }, (_, i) => i);
    return { bits, area: regions.area(bits), patch: regions.patchOf(bits, tiles) };
  }

  /**
   * Lets a region grow on under the lines around it by up to `px` pixels, no farther than
   * their middle: what lies beyond grows toward it as fast. Specks of paper that a dry pen
   * leaves in its line are part of the line.
   */
  under({ bits, patch: around }: Found, px: number): void {
    const { regions } = this;
    const beyond = this.#foreign;
    this.#bridged = -1;
    // A tile is wider than this grows, so what lies beyond the patch cannot meet it.
    this.#open.know(tilesOf(around, regions.words));
    regions.not(this.#barrier, this.#open.bits, around);
    regions.copy(beyond, this.#open.bits, around);
    regions.join(beyond, "andNot", bits, around);
    const lined = regions.patchWith(around, this.#barrier);
    this.#takeSpecks(beyond, bits, { around, lined }, Math.min(SPECK, Math.floor(px / 2)));
    let [own, ownNext] = [bits, this.#other];
    let [far, farNext] = [beyond, this.#core];
    regions.copy(ownNext, own, around);
    regions.copy(farNext, far, around);
    for (let step = 0; step < px; step++) {
      const eight = step % 2 === 1;
      regions.spread(ownNext, own, this.#barrier, far, eight, lined);
      [own, ownNext] = [ownNext, own];
      regions.spread(farNext, far, this.#barrier, own, eight, lined);
      [far, farNext] = [farNext, far];
    }
    if (own !== bits) regions.copy(bits, own, lined);
  }

  /**
   * What lies beyond a region and is nowhere wider than twice `half` px becomes barrier: an
   * opening by reconstruction (Vincent 1993). `lined`: the tiles around it with lines in them.
   */
  #takeSpecks(
    beyond: Bits,
    bits: Bits,
    { around, lined }: { around: Patch; lined: Patch },
    half: number,
  ): void {
    if (half === 0) return;
    const { regions } = this;
    let [rim, wide] = [this.#other, this.#core];
    // What was left beside the patch by other work has no part in this.
    regions.clear(rim);
    regions.clear(wide);
    regions.copy(rim, this.#barrier, around);
    regions.join(rim, "or", bits, around);
    regions.copy(wide, rim, around);
    for (let step = 0; step < half; step++) {
      regions.spread(wide, rim, beyond, 0, step % 2 === 1, lined);
      [rim, wide] = [wide, rim];
    }
    regions.copy(wide, beyond, around);
    regions.join(wide, "andNot", rim, around);
    const specks = rim;
    regions.clear(specks);
    regions.copy(specks, beyond, lined);
    regions.flood(specks, wide, tilesOf(lined, regions.words));
    regions.join(specks, "andNot", wide, lined);
    regions.join(this.#barrier, "or", specks, lined);
    regions.join(beyond, "andNot", specks, lined);
  }
}

function tilesOf(patch: Patch, words: number): number[] {
  return patch.flatMap(({ row, from, to }) =>
    Array.from({ length: to - from }, (_, i) => row * words + from + i),
  );
}

const STEPS = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;

/** A place where a region leaves through a gap. */
export type Escape = { x: number; y: number };

/** What is said of a region that seems to leak: which bridge would hold it, and where it escapes. */
export type Leak = { bridge: number; places: Escape[] };

/** Bridges that are tried against a leak, px. */
const TRIED = [4, 8, 14, 20, 32, 48, 64];
/** A bridge that takes away this share of a region has closed something. */
const HOLDS = 0.72;
/** Gaps that are named at most. */
const MOST_PLACES = 24;

/**
 * Whether a wider bridge would hold a region much smaller, and where it gets out then.
 * @returns null where no bridge up to 64 px makes a difference
 */
export function leakOf(
  finder: RegionFinder,
  x: number,
  y: number,
  bridge: number,
  { bits, area }: Found,
): Leak | null {
  for (const wider of TRIED) {
    if (wider <= bridge) continue;
    const held = finder.at(x, y, wider);
    if (!held) continue;
    const { regions, open } = finder;
    const leak =
      held.area > area * HOLDS
        ? null
        : { bridge: wider, places: escapes(regions, open, held.bits, bits) };
    regions.release(held.bits);
    if (leak) return leak;
  }
  return null;
}

/** Middles of the places where `all` leaves `held`, the widest first. */
function escapes(regions: Regions, open: Bits, held: Bits, all: Bits): Escape[] {
  const rim = regions.make();
  const left = regions.make();
  const one = regions.make();
  regions.spread(rim, held, open, 0, true);
  regions.join(rim, "andNot", held);
  regions.join(rim, "and", all);
  // A rim is thin: grown a little it hangs together.
  regions.grow(left, rim, 1.5);
  const places: (Escape & { area: number })[] = [];
  eachRegion(regions, left, one, (found) => {
    const { x, y } = middleOf(regions, one, found);
    places.push({ x, y, area: found.area });
    return 0;
  });
  for (const bits of [rim, left, one]) regions.release(bits);
  return places
    .sort((a, b) => b.area - a.area)
    .slice(0, MOST_PLACES)
    .map(({ x, y }) => ({ x, y }));
}

/**
 * Takes the regions of `left` out one after the other, top to bottom. `one` (empty) holds
 * each while `take` looks at it; the number that `take` answers goes to its pixels in
 * `labels` (0: none).
 */
export function eachRegion(
  regions: Regions,
  left: Bits,
  one: Bits,
  take: (found: Flooded) => number,
  labels = 0,
): void {
  const { kernels, heap } = regions.bench.store;
  let word = 0;
  for (;;) {
    word = kernels.nextWord(left, word, regions.count);
    if (word < 0) return;
    const low = heap.i32[(left >> 2) + word * 2] as number;
    const high = heap.i32[(left >> 2) + word * 2 + 1] as number;
    const bit = low !== 0 ? lowestBit(low) : 32 + lowestBit(high);
    const x = (word % regions.words) * 64 + bit;
    const y = Math.floor(word / regions.words);
    regions.set(one, x, y);
    const found = regions.flood(left, one, [regions.tileOf(x, y)]);
    regions.takeRegion(one, left, labels, found, take(found));
  }
}

const lowestBit = (v: number): number => 31 - Math.clz32(v & -v);

function middleOf(regions: Regions, bits: Bits, { tiles }: Flooded): Escape {
  let sumX = 0;
  let sumY = 0;
  let n = 0;
  for (const tile of tiles) {
    const left = (tile % regions.words) * 64;
    const top = Math.floor(tile / regions.words) * 64;
    for (let y = top; y < Math.min(top + 64, regions.height); y++)
      for (let x = left; x < Math.min(left + 64, regions.width); x++)
        if (regions.has(bits, x, y)) {
          sumX += x;
          sumY += y;
          n++;
        }
  }
  return { x: sumX / n + 0.5, y: sumY / n + 0.5 };
}
