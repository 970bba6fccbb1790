import { hexToQ15 } from "../colour/srgb";
import { type Layer, type Picture, type Plane, type Structure } from "../picture/picture";
import { ONE, TILE_BYTES } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { blendNumber } from "./blend-modes";

/** Bytes of cached tiles (below and above the working layer). */
const CACHE_LIMIT = 320 * 2 ** 20;
const JOBS_A_BATCH = 64;
const TOGETHER_FROM = 8;

/** A layer and those clipped to it. */
type Run = { base: Layer; clips: Layer[] };

/** What lies over the working layer: one cached tile for a stretch of normal layers, or a run. */
type Above = { merged: Run[]; run: null } | { merged: null; run: Run };

/** Tiles for one job: the result, a clipped run's base, a tinted layer. */
type Scratch = { out: number; clip: number; tint: number };

/** A tile's caches: all that lies below, and for each merged stretch above its tile (0: nothing there). */
type Cached = { below: number; above: number[] };

/**
 * Stacks layers into what is seen, tile by tile. All below the working layer is kept as one
 * tile, and so is every stretch of normal layers above it (source-over is associative),
 * so a mark costs the same under one layer as under forty.
 */
export class Compositor {
  #below: Run[] = [];
  #working: Run | null = null;
  #above: Above[] = [];
  #cached = new Map<number, Cached>();
  #cachedBytes = 0;
  #structure: Structure | null = null;
  #workingId: string | null = null;
  #scratch: Scratch[] = [];
  #standIns = new Map<string, Plane>();
  #previewed: ReadonlyMap<string, Partial<Layer>> | null = null;
  #isArranged = false;

  constructor(
    readonly picture: Picture,
    readonly store: TileStore,
    readonly workforce: Workforce,
    readonly withGround = true,
  ) {}

  free(): void {
    this.forgetAll();
    for (const scratch of this.#scratch)
      for (const address of Object.values(scratch)) this.store.heap.free(address, TILE_BYTES);
    this.#scratch = [];
  }

  /** Says which layer is worked on: the one whose changes must show at once. */
  setWorking(id: string | null): void {
    if (id === this.#workingId) return;
    this.#workingId = id;
    this.#structure = null;
  }

  /**
   * Shows other tiles in place of a layer's own, or its own again (null). Who calls forgets the
   * tiles that differ.
   */
  standIn(layer: string, tiles: Plane | null): void {
    if (tiles) this.#standIns.set(layer, tiles);
    else this.#standIns.delete(layer);
  }

  /** Shows layers as they would be with other properties, until told otherwise (null); nothing is changed. */
  preview(layers: ReadonlyMap<string, Partial<Layer>> | null): void {
    this.#previewed = layers;
    this.#isArranged = false;
  }

  #tile(layer: string, key: number): Tile | undefined {
    return (this.#standIns.get(layer) ?? this.picture.plane(layer)).get(key);
  }

  /** Forget what was cached for these tiles, unless only the working layer changed there. */
  forget(layer: string, keys: readonly number[]): void {
    if (this.#isWorking(layer)) return;
    for (const key of keys) this.#drop(key);
  }

  #isWorking(layer: string): boolean {
    const run = this.#working;
    return run !== null && (run.base.id === layer || run.clips.some((clip) => clip.id === layer));
  }

  forgetAll(): void {
    for (const key of [...this.#cached.keys()]) this.#drop(key);
  }

  #drop(key: number): void {
    const cached = this.#cached.get(key);
    if (!cached) return;
    for (const address of [cached.below, ...cached.above]) if (address) this.#freeCache(address);
    this.#cached.delete(key);
  }

  #freeCache(address: number): void {
    this.store.heap.free(address, TILE_BYTES);
    this.#cachedBytes -= TILE_BYTES;
  }

  #newCache(): number {
    this.#cachedBytes += TILE_BYTES;
    return this.store.heap.allocate(TILE_BYTES);
  }

  /** Looks at the structure again where it was replaced. */
  #arrange(): void {
    const { structure } = this.picture;
    if (structure === this.#structure && this.#isArranged) return;
    this.#isArranged = true;
    const before = this.#structure;
    const previewed = this.#previewed;
    const runs = runsOf(
      previewed
        ? structure.layers.map((layer) => ({ ...layer, ...previewed.get(layer.id) }))
        : structure.layers,
    );
    const at = runs.findIndex(({ base, clips }) =>
      [base, ...clips].some(({ id }) => id === this.#workingId),
    );
    const below = at < 0 ? runs : runs.slice(0, at);
    const above = at < 0 ? [] : stretches(runs.slice(at + 1));
    const same =
      before?.ground === structure.ground &&
      JSON.stringify([this.#below, this.#above]) === JSON.stringify([below, above]);
    // A change of the working layer alone (its opacity, say) leaves what is around it as it was.
    if (!same) this.forgetAll();
    this.#below = below;
    this.#working = at < 0 ? null : (runs[at] as Run);
    this.#above = above;
    this.#structure = structure;
  }

  /**
   * Composites tiles and hands each to `take` as the address of its RGBA8 pixels,
   * 64 ≫ level px a side, rows `4 · side` bytes.
   */
  pack(keys: readonly number[], level: number, take: (key: number, address: number) => void): void {
    const side = 64 >> level;
    this.#batches(
      keys,
      (key, { clip, out }) => {
        // The clip tile is free again by the time of packing and holds the bytes.
        this.workforce.write(TAPE.pack, clip, side * 4, out, level);
        void key;
        return clip;
      },
      take,
    );
  }

  /** Composites tiles and hands each to `take` as the address of its Q15 pixels. */
  compose(keys: readonly number[], take: (key: number, address: number) => void): void {
    this.#batches(keys, (_key, { out }) => out, take);
  }

  /** Composites tiles; `write` adds instructions to the job of each, given its pixels' address. */
  through(keys: readonly number[], write: (key: number, address: number) => void): void {
    this.#batches(
      keys,
      (key, { out }) => {
        write(key, out);
        return out;
      },
      () => undefined,
    );
  }

  #batches(
    keys: readonly number[],
    finish: (key: number, scratch: Scratch) => number,
    take: (key: number, address: number) => void,
  ): void {
    this.#arrange();
    for (let from = 0; from < keys.length; from += JOBS_A_BATCH) {
      const batch = keys.slice(from, from + JOBS_A_BATCH);
      const results = batch.map((key, i) => {
        const scratch = this.#scratchAt(i);
        this.workforce.beginJob();
        this.#writeTile(key, scratch);
        const address = finish(key, scratch);
        this.workforce.endJob();
        return address;
      });
      this.workforce.run(batch.length >= TOGETHER_FROM);
      batch.forEach((key, i) => take(key, results[i] as number));
    }
    this.#trim();
    this.store.trim();
  }

  #scratchAt(index: number): Scratch {
    const { heap } = this.store;
    return (this.#scratch[index] ??= {
      out: heap.allocate(TILE_BYTES),
      clip: heap.allocate(TILE_BYTES),
      tint: heap.allocate(TILE_BYTES),
    });
  }

  #writeTile(key: number, scratch: Scratch): void {
    const { out } = scratch;
    const cached = this.#cacheFor(key, scratch);
    this.workforce.write(TAPE.copy, out, cached.below, TILE_BYTES);
    if (this.#working) this.#writeRun(key, this.#working, out, scratch);
    this.#above.forEach((above, i) => {
      if (above.run) this.#writeRun(key, above.run, out, scratch);
      else if (cached.above[i])
        this.workforce.write(TAPE.blend, out, cached.above[i] as number, 0, ONE, 0);
    });
  }

  #cacheFor(key: number, scratch: Scratch): Cached {
    const known = this.#cached.get(key);
    if (known) {
      // Move to the end: least recently used come first.
      this.#cached.delete(key);
      this.#cached.set(key, known);
      return known;
    }
    const below = this.#newCache();
    const ground = this.withGround ? hexToQ15(this.picture.structure.ground) : [0, 0, 0, 0];
    this.workforce.write(TAPE.fill, below, ...ground);
    for (const run of this.#below) this.#writeRun(key, run, below, scratch);
    const above = this.#above.map(({ merged }) => {
      if (!merged?.some((run) => this.#isThere(key, run))) return 0;
      const address = this.#newCache();
      this.workforce.write(TAPE.fill, address, 0, 0, 0, 0);
      for (const run of merged) this.#writeRun(key, run, address, scratch);
      return address;
    });
    const cached = { below, above };
    this.#cached.set(key, cached);
    return cached;
  }

  #isThere(key: number, { base }: Run): boolean {
    return this.#tile(base.id, key) !== undefined;
  }

  /** Where a layer's tile is as it is seen: itself, or tinted. */
  #seen(layer: Layer, tile: Tile, { tint }: Scratch): number {
    const address = this.store.address(tile);
    if (!layer.tint) return address;
    const [r, g, b] = hexToQ15(layer.tint);
    this.workforce.write(TAPE.tint, tint, address, r, g, b);
    return tint;
  }

  #writeRun(key: number, { base, clips }: Run, into: number, scratch: Scratch): void {
    const { workforce } = this;
    const { clip } = scratch;
    const tile = this.#tile(base.id, key);
    if (!tile || base.opacity === 0) return;
    const shown = clips.filter((layer) => layer.opacity > 0 && this.#tile(layer.id, key));
    let from = this.#seen(base, tile, scratch);
    if (shown.length > 0) {
      workforce.write(TAPE.copy, clip, from, TILE_BYTES);
      for (const layer of shown) {
        const clipped = this.#tile(layer.id, key);
        if (clipped)
          workforce.write(
            TAPE.blend,
            clip,
            this.#seen(layer, clipped, scratch),
            blendNumber(layer.blend),
            opacityOf(layer),
            1,
          );
      }
      from = clip;
    }
    workforce.write(TAPE.blend, into, from, blendNumber(base.blend), opacityOf(base), 0);
  }

  #trim(): void {
    for (const key of this.#cached.keys()) {
      if (this.#cachedBytes <= CACHE_LIMIT) return;
      this.#drop(key);
    }
  }
}

const opacityOf = (layer: Layer): number => Math.round(layer.opacity * ONE);

/** Visible layers, each with those clipped to it. A clipped layer without a base stands alone. */
function runsOf(layers: readonly Layer[]): Run[] {
  const runs: Run[] = [];
  let base: Run | null = null;
  let baseHidden = false;
  for (const layer of layers) {
    if (layer.clip && (base || baseHidden)) {
      if (layer.visible) base?.clips.push(layer);
      continue;
    }
    baseHidden = !layer.visible;
    base = layer.visible ? { base: layer, clips: [] } : null;
    if (base) runs.push(base);
  }
  return runs;
}

const isPlain = ({ base }: Run): boolean => base.blend === "normal";

/** Stretches of normal runs to be merged; others, and single ones, stay as they are. */
function stretches(runs: Run[]): Above[] {
  const above: Above[] = [];
  for (let i = 0; i < runs.length;) {
    let end = i;
    while (end < runs.length && isPlain(runs[end] as Run)) end++;
    if (end - i > 1) above.push({ merged: runs.slice(i, end), run: null });
    else above.push({ merged: null, run: runs[i] as Run });
    i = Math.max(end, i + 1);
  }
  return above;
}
