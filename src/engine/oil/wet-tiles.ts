import { COLOUR, type Picture, type PlaneName } from "../picture/picture";
import { Inside } from "../select/inside";
import { type Bench } from "../bench";
import { type StrokeTile } from "../stroke/stroker";
import { type Box, TILE_BYTES, TILE_SIDE, tileColumn, tileKey, tileRow } from "../tiles/layout";
import { realWord, TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { BULK, BULK_MORE, RELIEF, SKIN, SKIN_MORE, THINNER, UNDER } from "./wet-planes";

/** Bytes of a tile of wet paint while it is worked: see `kernels/oil/wet.ts`. */
const WET_BYTES = 1024 * 304 + 1024;
const GROUP_WORDS = 76;
const SKIN_H = 28;
const BULK_H = 60;
const GROUND = 64;
/** Most tiles that are kept unpacked; those left longest ago are packed first. */
const MOST_AWAKE = 640;

/** Tiles that are shown for the last time at once. */
const SHOWN_AT_ONCE = 32;

const PAINT = [SKIN, SKIN_MORE, BULK, BULK_MORE] as const;

/** What of a box is shown: what has changed but was not shown last; all of it; all that has changed. */
const DUE = 0;
const ALL = 1;
const CHANGES = 2;

/**
 * Rows and blocks of a tile where something has changed since it was shown: left, top, right, bottom; and whether
 * all of that is to be shown, or what is marked in the tile itself.
 */
type Stale = [left: number, top: number, right: number, bottom: number, what: number];

type Worked = {
  key: number;
  /** What is dry below, and whether that was seen already. */
  under: Tile | null;
  wasWet: boolean;
  before: { colour: Tile | null; relief: Tile | null };
  colour: Tile;
  relief: Tile;
  /** Where it lies unpacked; 0 while it is packed away in `packed`. */
  wet: number;
  packed: Tile[] | null;
  stale: Stale | null;
  /** The same when it was shown last, where some of it was left out then. */
  leftOut: Stale | null;
};

const NOTHING_STALE = (): Stale => [8, TILE_SIDE, 0, 0, CHANGES];
const WHOLE = (): Stale => [0, 0, 8, TILE_SIDE, ALL];

/** A box around two. */
const around = (a: Stale, b: Stale): Stale => [
  Math.min(a[0], b[0]),
  Math.min(a[1], b[1]),
  Math.max(a[2], b[2]),
  Math.max(a[3], b[3]),
  Math.min(a[4], b[4]),
];

/**
 * The tiles of wet paint that one stroke works. Each is unpacked when the stroke first reaches it, shown in the
 * layer's colour and relief as it changes, and packed at the end.
 */
export class WetTiles {
  #worked = new Map<number, Worked>();
  #inside: Inside;
  /** The planes that a tile is packed into. */
  #planes: readonly PlaneName[];
  /** Tiles that were shown before they were put away, and that nobody has been told of. */
  #shownBefore: number[] = [];
  /** Whether what was shown in passing is left out the next time. */
  inTurns = false;

  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly layer: string,
    { frame, card }: Pick<Inside, "frame" | "card">,
    /** Whether thinner comes to it. */
    thins = false,
  ) {
    this.#inside = new Inside(bench, picture, layer, frame, card);
    const isThinned = thins || this.#plane(THINNER).size > 0;
    this.#planes = isThinned ? [...PAINT, THINNER] : PAINT;
  }

  get keys(): number[] {
    return [...this.#worked.keys()];
  }

  #plane(name: PlaneName): Map<number, Tile> {
    return this.picture.plane(this.layer, name);
  }

  #address(tile: Tile | null | undefined): number {
    const { store } = this.bench;
    return tile ? store.address(tile) : store.nothing;
  }

  /** Makes ready the tiles of these keys that the stroke may change; the others are left out. */
  wake(keys: readonly number[]): void {
    const { workforce } = this.bench;
    const asleep = keys.filter((key) => !this.#worked.get(key)?.wet && this.#inside.reaches(key));
    for (const key of asleep) {
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      this.#unpack(this.#worked.get(key) ?? this.#begin(key));
      workforce.endJob();
    }
    if (asleep.length > 0) workforce.run(asleep.length > 1);
    this.#putAway(keys);
  }

  /** Where a tile lies unpacked; 0 where the stroke may not change it. */
  at(key: number): number {
    return this.#worked.get(key)?.wet ?? 0;
  }

  #begin(key: number): Worked {
    const { store } = this.bench;
    const { kernels } = store;
    const before = {
      colour: this.#plane(COLOUR).get(key) ?? null,
      relief: this.#plane(RELIEF).get(key) ?? null,
    };
    const wasWet = this.#plane(SKIN).has(key);
    const colour = store.create();
    kernels.copyBytes(colour.address, this.#address(before.colour), TILE_BYTES);
    const relief = store.create();
    kernels.copyBytes(relief.address, this.#address(before.relief), TILE_BYTES);
    const under = wasWet ? (this.#plane(UNDER).get(key) ?? null) : before.colour;
    const worked: Worked = {
      ...{ key, under, wasWet, before, colour, relief },
      // Its relief says of every pixel what is dry below, also where nothing changes.
      ...{ wet: 0, packed: null, stale: wasWet ? null : WHOLE(), leftOut: null },
    };
    this.#worked.set(key, worked);
    this.#plane(COLOUR).set(key, colour);
    this.#plane(RELIEF).set(key, relief);
    return worked;
  }

  /** Writes to the tape what unpacks a tile. */
  #unpack(worked: Worked): void {
    const { store, workforce } = this.bench;
    const { key, packed, before } = worked;
    const { address, period, roughness } = this.bench.paper(this.picture);
    worked.wet ||= store.heap.allocate(WET_BYTES);
    const tiles = packed
      ? packed.map((tile) => store.address(tile))
      : this.#planes.map((name) => this.#address(this.#plane(name).get(key)));
    if (tiles.length === PAINT.length) tiles.push(store.nothing);
    const relief = packed ? worked.relief : before.relief;
    workforce.write(
      ...[TAPE.wakePaint, worked.wet, ...tiles, relief ? store.address(relief) : 0],
      packed || worked.wasWet ? 1 : 0,
      tileColumn(key) * TILE_SIDE,
      tileRow(key) * TILE_SIDE,
      ...[address, period, realWord(roughness)],
    );
    for (const mask of this.#inside.masks(key)) workforce.write(TAPE.closeWet, worked.wet, mask);
  }

  /** Packs tiles that were left long ago, but for these. */
  #putAway(but: readonly number[]): void {
    const awake = [...this.#worked.values()].filter(({ wet }) => wet !== 0);
    if (awake.length <= MOST_AWAKE) return;
    const kept = new Set(but);
    const away = awake.filter(({ key }) => !kept.has(key)).slice(0, awake.length - MOST_AWAKE);
    this.#shownBefore.push(...this.#show(away, CHANGES));
    this.#pack(away);
  }

  #pack(list: readonly Worked[]): void {
    const { store, workforce } = this.bench;
    for (const worked of list) {
      if (workforce.isFull) workforce.run(true);
      worked.packed ??= this.#planes.map(() => store.create());
      workforce.beginJob();
      const tiles = worked.packed.map((tile) => store.address(tile));
      if (tiles.length === PAINT.length) tiles.push(0);
      workforce.write(TAPE.restPaint, worked.wet, ...tiles);
      workforce.endJob();
    }
    workforce.run(true);
    for (const worked of list) {
      store.heap.free(worked.wet, WET_BYTES);
      worked.wet = 0;
    }
  }

  /** Notes that a tile changes inside a box of picture px: all of it, or what is marked in the tile. */
  stain(key: number, { left, top, right, bottom }: Box, changes: "all" | "marked" = "all"): void {
    const worked = this.#worked.get(key);
    if (!worked) return;
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    const stale = (worked.stale ??= NOTHING_STALE());
    stale[0] = Math.min(stale[0], Math.max(0, left - px) >> 3);
    stale[1] = Math.min(stale[1], Math.max(0, top - py));
    stale[2] = Math.max(stale[2], Math.min(8, (right - px + 7) >> 3));
    stale[3] = Math.max(stale[3], Math.min(TILE_SIDE, bottom - py));
    if (changes === "all") stale[4] = ALL;
  }

  /** Shows in colour and relief what has changed. Returns the keys of those tiles. */
  show(): number[] {
    const before = this.#shownBefore;
    this.#shownBefore = [];
    return before.concat(this.#show(this.#worked.values(), CHANGES));
  }

  /**
   * The same while the hand goes on. Where a broad tuft goes over a place for many looks, every other one of them
   * is enough: paint is seen as soon where the tuft has just come.
   */
  showInPassing(): number[] {
    if (!this.inTurns) return this.show();
    const before = this.#shownBefore;
    this.#shownBefore = [];
    return before.concat(this.#show(this.#worked.values(), DUE));
  }

  #show(some: Iterable<Worked>, what: number): number[] {
    const { workforce } = this.bench;
    const shown: number[] = [];
    for (const worked of some) {
      const { stale, leftOut } = worked;
      const box = stale && leftOut ? around(stale, leftOut) : (stale ?? leftOut);
      if (!box || !worked.wet) continue;
      if (workforce.isFull) workforce.run(true);
      if (box[4] !== ALL) box[4] = what;
      workforce.beginJob();
      this.#writeShow(worked, box);
      workforce.endJob();
      worked.leftOut = box[4] === DUE ? stale : null;
      worked.stale = null;
      shown.push(worked.key);
    }
    workforce.run(shown.length > 1);
    return shown;
  }

  #writeShow({ colour, relief, under, wet }: Worked, stale: Stale): void {
    const { store, workforce } = this.bench;
    const [to, high] = [store.address(colour), store.address(relief)];
    workforce.write(TAPE.showWet, to, high, this.#address(under), wet, ...stale);
  }

  /**
   * How high the paint stands around a place, px: the mean over a disc; 0 where nothing is worked.
   * Call `wake` for its tiles first.
   */
  heightAround(x: number, y: number, radius: number): number {
    const { f32 } = this.bench.store.heap;
    let sum = 0;
    let count = 0;
    for (let v = Math.floor(y - radius); v <= y + radius; v++)
      for (let u = Math.floor(x - radius); u <= x + radius; u++) {
        const [dx, dy] = [u + 0.5 - x, v + 0.5 - y];
        if (dx * dx + dy * dy > radius * radius || u < 0 || v < 0) continue;
        const wet = this.at(tileKey(u >> 6, v >> 6));
        if (!wet) continue;
        const at = (wet >> 2) + ((v & 63) * 16 + ((u & 63) >> 2)) * GROUP_WORDS + (u & 3);
        const h = (f32[at + SKIN_H] as number) + (f32[at + BULK_H] as number);
        sum += (f32[at + GROUND] as number) / (1 + h * (1 / 2.2 + 0.4 * h)) + h;
        count++;
      }
    return count > 0 ? sum / count : 0;
  }

  /**
   * Packs everything, and shows it once more as it was packed, so that what is seen is what a later stroke finds.
   * @param letsThinnerGo what thinner is left is forgotten
   * @returns what has changed; the planes still hold the tiles of before but for colour and relief
   */
  finish(letsThinnerGo = false): StrokeTile[] {
    const { store, workforce } = this.bench;
    this.#show(this.#worked.values(), CHANGES);
    const all = [...this.#worked.values()];
    this.#pack(all.filter(({ wet }) => wet !== 0));
    for (let from = 0; from < all.length; from += SHOWN_AT_ONCE) {
      const some = all.slice(from, from + SHOWN_AT_ONCE);
      for (const worked of some) {
        workforce.beginJob();
        this.#unpack(worked);
        this.#writeShow(worked, WHOLE());
        workforce.endJob();
      }
      workforce.run(true);
      for (const { wet } of some) store.heap.free(wet, WET_BYTES);
    }
    if (letsThinnerGo) for (const { packed } of all) this.#emptyThinner(packed as Tile[]);
    const tiles = all.flatMap((worked) => this.#settled(worked));
    this.#worked.clear();
    this.#inside.free();
    return tiles;
  }

  #emptyThinner(packed: readonly Tile[]): void {
    const { store } = this.bench;
    const tile = packed[PAINT.length];
    if (!tile) return;
    const address = store.address(tile);
    store.heap.u8.fill(0, address, address + TILE_BYTES);
  }

  #settled({ key, before, colour, relief, under, wasWet, packed }: Worked): StrokeTile[] {
    const { store } = this.bench;
    const made = packed as Tile[];
    for (const tile of [colour, ...made]) store.settle(tile);
    const isWet = made.some((tile) => !store.isEmpty(tile));
    if (!isWet && !wasWet) {
      this.#putBack(COLOUR, key, before.colour, colour);
      this.#putBack(RELIEF, key, before.relief, relief);
      for (const tile of made) store.release(tile);
      return [];
    }
    const changed: StrokeTile[] = [
      { plane: COLOUR, key, before: before.colour, after: colour },
      { plane: RELIEF, key, before: before.relief, after: relief },
    ];
    this.#planes.forEach((plane, i) => {
      const was = this.#plane(plane).get(key) ?? null;
      changed.push({ plane, key, before: was, after: made[i] as Tile });
    });
    if (!wasWet && under)
      changed.push({ plane: UNDER, key, before: null, after: store.retain(under) });
    return changed;
  }

  #putBack(name: PlaneName, key: number, before: Tile | null, after: Tile): void {
    const plane = this.#plane(name);
    if (before) plane.set(key, before);
    else plane.delete(key);
    this.bench.store.release(after);
  }

  /** Puts everything back as it was. Returns the keys of the tiles that had changed. */
  abandon(): number[] {
    const { store } = this.bench;
    const { keys } = this;
    for (const { key, before, colour, relief, wet, packed } of this.#worked.values()) {
      this.#putBack(COLOUR, key, before.colour, colour);
      this.#putBack(RELIEF, key, before.relief, relief);
      if (wet) store.heap.free(wet, WET_BYTES);
      for (const tile of packed ?? []) store.release(tile);
    }
    this.#worked.clear();
    this.#inside.free();
    return keys;
  }
}
