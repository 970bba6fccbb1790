import { hexToQ15 } from "../colour/srgb";
import { writeFringe } from "../fringe/write";
import { isResolved, writeHalftone } from "../halftone/write";
import { writeGradient } from "../gradient/write";
import { writeNoise, writeSharper, writeTone } from "../adjust/write";
import {
  hasPixels,
  isFluid,
  type Layer,
  MASK,
  type Picture,
  type Plane,
  type Structure,
} from "../picture/picture";
import { discTable } from "../region/regions";
import {
  coveredBy,
  levels,
  reachOf as levelReach,
  WHOLLY,
  writeLevel,
} from "../region/soft-growth";
import {
  ONE,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileKey,
  tileRow,
  tilesAround,
  WHOLE_TILE,
} from "../tiles/layout";
import { tableAddress } from "../tiles/tables";
import { TAPE } from "../tiles/tape";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { blendNumber } from "./blend-modes";
import {
  grownBy,
  isOpenGroup,
  meansOf,
  reachOf,
  type Soft,
  softOf,
  type SoftPlace,
  softPlaces,
  windowAround,
} from "./soft";
import { reliefOf, writeRelief } from "./relief";
import { type Level, levelsAround, opened } from "./levels";
import { holds, type Node, treeOf } from "./tree";

/** Bytes of cached tiles (below and above the working layer). */
const CACHE_LIMIT = 320 * 2 ** 20;
const JOBS_A_BATCH = 64;
const TOGETHER_FROM = 8;
/** Bits of nine tiles, three by three. */
const CONTOUR_STRIDE = 24;
const CONTOUR_BITS = CONTOUR_STRIDE * 3 * TILE_SIDE;
/** From this alpha on paint has an outline as solid as any; fainter paint has a fainter one. */
const OUTLINED = 0.5;
/** Most tiles side by side that a blurred tile is made of. */
const MOST_ASIDE = 9;
const LIST_BYTES = MOST_ASIDE * 8;
const BUFFER_BYTES = 2 * MOST_ASIDE * TILE_SIDE * 64;

/** A tile's caches at one level: all that lies below, and for each merged stretch above its tile (0: nothing there). */
type Cached = { below: number; above: number[] };

/** Tiles of one job's own, taken and given back like plates from a pile. */
class Plates {
  #tiles: number[] = [];
  #taken = 0;
  /** For outlines: two cuts of a tile and its neighbours, and what they grow to. */
  #bits: [number, number, number] | null = null;
  /** For blurs: lists of tiles, each used once in a job, and a place to work in. */
  #lists: number[] = [];
  #listsTaken = 0;
  #buffer = 0;

  constructor(readonly heap: TileStore["heap"]) {}

  take(): number {
    return (this.#tiles[this.#taken++] ??= this.heap.allocate(TILE_BYTES));
  }

  giveBack(): void {
    this.#taken--;
  }

  /** How many are taken: `backTo` gives back all that were taken since. */
  get mark(): number {
    return this.#taken;
  }

  backTo(mark: number): void {
    this.#taken = mark;
  }

  get bits(): [number, number, number] {
    const make = (): number => this.heap.allocate(CONTOUR_BITS);
    return (this.#bits ??= [make(), make(), make()]);
  }

  /** A list of tiles: the first half is read, the second is written. */
  list(from: readonly number[], to: readonly number[]): number {
    const list = (this.#lists[this.#listsTaken++] ??= this.heap.allocate(LIST_BYTES));
    this.heap.i32.set([...from, ...to], list >> 2);
    return list;
  }

  get buffer(): number {
    return (this.#buffer ||= this.heap.allocate(BUFFER_BYTES));
  }

  /** A new job begins. */
  newJob(): void {
    this.#listsTaken = 0;
  }

  free(): void {
    for (const tile of this.#tiles) this.heap.free(tile, TILE_BYTES);
    for (const list of this.#lists) this.heap.free(list, LIST_BYTES);
    if (this.#buffer) this.heap.free(this.#buffer, BUFFER_BYTES);
    for (const bits of this.#bits ?? []) this.heap.free(bits, CONTOUR_BITS);
  }
}

/**
 * Stacks layers into what is seen, tile by tile. All below the working layer is kept as one
 * tile, and so is every stretch of normal layers above it (source-over is associative), in
 * each group that it lies in, so a mark costs the same under one layer as under forty.
 */
export class Compositor {
  #levels: Level[] = [];
  #cached = new Map<number, Cached[]>();
  /** What is cached, by which halftones are shown as their mean: views near and far have their own. */
  #cachedFor = new Map<string, Map<number, Cached[]>>([["", this.#cached]]);
  #cachedBytes = 0;
  /** Px of the screen for one of the picture; from 1 on every halftone is seen dot by dot. */
  #scale = 1;
  #blurredScreens: readonly string[] = [];
  #structure: Structure | null = null;
  #workingId: string | null = null;
  #plates: Plates[] = [];
  /** Soft adjustments from the lowest, and what lies under each, by tile. */
  #soft: SoftPlace[] = [];
  #under = new Map<string, Map<number, number>>();
  #standIns = new Map<string, Plane>();
  #maskStandIns = new Map<string, Plane>();
  #previewed: ReadonlyMap<string, Partial<Layer>> | null = null;
  #previewedLayers: readonly Layer[] | null = null;
  #isArranged = false;
  #atWork: Plates;
  /** What lies under soft adjustments is worked out without caches: those hold what lies over them, too. */
  #isPreparing = false;

  constructor(
    readonly picture: Picture,
    readonly store: TileStore,
    readonly workforce: Workforce,
    readonly withGround = true,
    /** Whether films of masking fluid are seen: on the table they are, in what is exported they are not. */
    readonly withFluid = false,
  ) {
    this.#atWork = this.#platesOf(0);
  }

  free(): void {
    this.forgetAll();
    for (const plates of this.#plates) plates.free();
    this.#plates = [];
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

  /** Says how many px of the screen show one of the picture: halftones too fine for it are shown as their mean. */
  setScale(scale: number): void {
    this.#scale = scale;
  }

  /** The layers whose halftones are shown as their mean at a level of detail, or where a px takes `most` px at most. */
  blurredScreens(level = 0, most = 1): readonly string[] {
    const scale = Math.min(this.#scale, most, 1 / 2 ** level);
    if (scale >= 1) return [];
    const { ppi } = this.picture;
    return this.#layers
      .filter(
        ({ visible, halftone }) => visible && halftone?.on && !isResolved(halftone, ppi, scale),
      )
      .map(({ id }) => id);
  }

  #lookFrom(level: number, most = 1): void {
    const blurred = this.blurredScreens(level, most);
    const name = blurred.join("\n");
    if (name === this.#blurredScreens.join("\n")) return;
    this.#blurredScreens = blurred;
    let cached = this.#cachedFor.get(name);
    if (!cached) this.#cachedFor.set(name, (cached = new Map()));
    this.#cached = cached;
    for (const tiles of this.#under.values()) this.#forgetUnder([...tiles.keys()]);
  }

  /** Shows layers as they would be with other properties, until told otherwise (null); nothing is changed. */
  preview(layers: ReadonlyMap<string, Partial<Layer>> | null): void {
    this.#previewed = layers;
    this.#isArranged = false;
  }

  #tile(layer: string, key: number): Tile | undefined {
    return (this.#standIns.get(layer) ?? this.picture.plane(layer)).get(key);
  }

  /** As `standIn`, for a mask; it need not be a layer of the picture. */
  standInMask(layer: string, tiles: Plane | null): void {
    if (tiles) this.#maskStandIns.set(layer, tiles);
    else this.#maskStandIns.delete(layer);
  }

  /** Shows the picture as it would be with other layers, until told otherwise (null). */
  previewLayers(layers: readonly Layer[] | null): void {
    this.#previewedLayers = layers;
    this.#isArranged = false;
  }

  /** Forget what was cached for these tiles, unless only the working layer changed there. */
  forget(layer: string, keys: readonly number[]): void {
    this.#forgetUnder(keys);
    if (this.#isWorking(layer)) return;
    for (const key of keys) this.#drop(key);
  }

  /** Forgets what was cached for these tiles, whatever changed there. */
  forgetTiles(keys: readonly number[]): void {
    this.#forgetUnder(keys);
    for (const key of keys) this.#drop(key);
  }

  #isWorking(layer: string): boolean {
    const working = this.#levels.at(-1)?.working;
    return !!working && holds(working, layer);
  }

  forgetAll(): void {
    for (const cached of this.#cachedFor.values())
      for (const key of [...cached.keys()]) this.#dropFrom(cached, key);
    for (const tiles of this.#under.values()) this.#forgetUnder([...tiles.keys()]);
  }

  #forgetUnder(keys: readonly number[]): void {
    for (const tiles of this.#under.values())
      for (const key of keys) {
        const address = tiles.get(key);
        if (address === undefined) continue;
        this.#freeCache(address);
        tiles.delete(key);
      }
  }

  #drop(key: number): void {
    for (const cached of this.#cachedFor.values()) this.#dropFrom(cached, key);
  }

  #dropFrom(tiles: Map<number, Cached[]>, key: number): void {
    const cached = tiles.get(key);
    if (!cached) return;
    for (const { below, above } of cached)
      for (const address of [below, ...above]) if (address) this.#freeCache(address);
    tiles.delete(key);
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
    const layers = this.#layers;
    const nodes = opened(
      treeOf(
        previewed ? layers.map((layer) => ({ ...layer, ...previewed.get(layer.id) })) : layers,
      ),
    );
    const levels = levelsAround(nodes, this.#workingId);
    const lit = before?.ground === structure.ground && before.sun === structure.sun;
    const same = lit && outside(this.#levels) === outside(levels);
    // A change of the working layer alone (its opacity, say) leaves what is around it as it was.
    if (!same) this.forgetAll();
    for (const tiles of this.#under.values()) this.#forgetUnder([...tiles.keys()]);
    this.#placeSoft(nodes);
    this.#levels = levels;
    this.#structure = structure;
  }

  /**
   * Composites tiles and hands each to `take` as the address of its RGBA8 pixels,
   * 64 ≫ level px a side, rows `4 · side` bytes.
   * @param most px of the screen that they will take for one of the picture, where that is less than their level has
   */
  pack(
    keys: readonly number[],
    level: number,
    take: (key: number, address: number) => void,
    most = 1,
    over: (key: number, address: number) => void = () => undefined,
  ): void {
    const side = 64 >> level;
    this.#lookFrom(level, most);
    this.#batches(
      keys,
      (key, out, plates) => {
        over(key, out);
        const packed = plates.take();
        this.workforce.write(TAPE.pack, packed, side * 4, out, level);
        plates.giveBack();
        return packed;
      },
      take,
    );
  }

  /** Composites tiles and hands each to `take` as the address of its Q15 pixels. */
  compose(keys: readonly number[], take: (key: number, address: number) => void): void {
    this.#lookFrom(0);
    this.#batches(keys, (_key, out) => out, take);
  }

  /** Composites tiles; `write` adds instructions to the job of each, given its pixels' address. */
  through(keys: readonly number[], write: (key: number, address: number) => void): void {
    this.#lookFrom(0);
    this.#batches(
      keys,
      (key, out) => {
        write(key, out);
        return out;
      },
      () => undefined,
    );
  }

  #placeSoft(nodes: readonly Node[]): void {
    const { workforce } = this;
    // What lies under a soft layer is worked out in jobs of its own, one at a time a plate pile.
    const plates = (): Plates => this.#atWork;
    this.#soft = softPlaces(nodes, {
      ground: (_key, into) => workforce.write(TAPE.fill, into, ...this.#ground),
      empty: (_key, into) => workforce.write(TAPE.fill, into, 0, 0, 0, 0),
      lay: (key, node, into) => this.#writeNode(key, node, into, plates()),
      own: (key, node, into) => {
        const mark = plates().mark;
        const from = this.#isThere(key, node) ? this.#own(key, node, plates()) : 0;
        if (from === 0) workforce.write(TAPE.fill, into, 0, 0, 0, 0);
        else workforce.write(TAPE.copy, into, from, TILE_BYTES);
        plates().backTo(mark);
      },
      clip: (key, node, into) => {
        if (this.#isThere(key, node)) this.#writeClip(key, node, into, plates());
      },
    });
    this.#under = new Map(this.#soft.map(({ id }) => [id, new Map<number, number>()]));
  }

  get #ground(): readonly number[] {
    return this.withGround ? hexToQ15(this.picture.structure.ground) : [0, 0, 0, 0];
  }

  /** Works out what lies under soft adjustments as far as these tiles need it, the lowest first. */
  #prepare(keys: readonly number[]): void {
    if (this.#soft.length === 0) return;
    const outlined = this.#layers.some(({ contour, visible }) => contour && visible) ? 1 : 0;
    let wanted = new Set(keys);
    const needs = this.#soft
      .toReversed()
      .map(({ reach }) => (wanted = grownBy(wanted, reach + outlined, this.picture)))
      .reverse();
    this.#soft.forEach(({ id, under }, i) => {
      const tiles = this.#under.get(id) as Map<number, number>;
      const missing = [...(needs[i] as Set<number>)].filter((key) => !tiles.has(key));
      this.#isPreparing = true;
      for (let from = 0; from < missing.length; from += JOBS_A_BATCH) {
        missing.slice(from, from + JOBS_A_BATCH).forEach((key, job) => {
          const address = this.#newCache();
          this.#atWork = this.#platesOf(job);
          this.workforce.beginJob();
          under(key, address);
          this.workforce.endJob();
          tiles.set(key, address);
        });
        this.workforce.run(true);
      }
      this.#isPreparing = false;
    });
  }

  #platesOf(job: number): Plates {
    const plates = (this.#plates[job] ??= new Plates(this.store.heap));
    plates.newJob();
    return plates;
  }

  #batches(
    keys: readonly number[],
    finish: (key: number, out: number, plates: Plates) => number,
    take: (key: number, address: number) => void,
  ): void {
    this.#arrange();
    for (let from = 0; from < keys.length; from += JOBS_A_BATCH) {
      const batch = keys.slice(from, from + JOBS_A_BATCH);
      this.#prepare(batch);
      const results = batch.map((key, i) => {
        const plates = this.#platesOf(i);
        const out = plates.take();
        this.workforce.beginJob();
        this.#writeTile(key, out, plates);
        const address = finish(key, out, plates);
        this.workforce.endJob();
        plates.giveBack();
        return address;
      });
      this.workforce.run(batch.length >= TOGETHER_FROM);
      batch.forEach((key, i) => take(key, results[i] as number));
      this.#trim();
    }
    this.store.trim();
  }

  #writeTile(key: number, out: number, plates: Plates): void {
    this.#cacheFor(key, plates);
    this.#writeLevel(0, key, out, plates);
  }

  /** Lays what is cached of a level around the working layer, and that between. */
  #writeLevel(i: number, key: number, out: number, plates: Plates): void {
    const { workforce } = this;
    const level = this.#levels[i] as Level;
    const cached = this.#cached.get(key)?.[i] as Cached;
    workforce.write(TAPE.copy, out, cached.below, TILE_BYTES);
    if (level.working) this.#writeNode(key, level.working, out, plates);
    level.above.forEach((above, j) => {
      if (above.node) this.#writeNode(key, above.node, out, plates);
      else if (cached.above[j])
        workforce.write(TAPE.blend, out, cached.above[j] as number, 0, ONE, 0);
    });
  }

  /** Writes the caches of a tile where there are none yet. */
  #cacheFor(key: number, plates: Plates): void {
    const known = this.#cached.get(key);
    if (known) {
      // Move to the end: least recently used come first.
      this.#cached.delete(key);
      this.#cached.set(key, known);
      return;
    }
    const cached = this.#levels.map((level) => this.#newLevel(level, key, plates));
    this.#cached.set(key, cached);
  }

  #newLevel({ group, below: nodes, above: stretches }: Level, key: number, plates: Plates): Cached {
    const below = this.#newCache();
    const ground = group === null ? this.#ground : [0, 0, 0, 0];
    this.workforce.write(TAPE.fill, below, ...ground);
    for (const node of nodes) this.#writeNode(key, node, below, plates);
    const above = stretches.map(({ merged }) => {
      if (!merged?.some((node) => this.#isThere(key, node))) return 0;
      const address = this.#newCache();
      this.workforce.write(TAPE.fill, address, 0, 0, 0, 0);
      for (const node of merged) this.#writeNode(key, node, address, plates);
      return address;
    });
    return { below, above };
  }

  /** Whether a node may show anything in a tile. */
  #isThere(key: number, { layer, children }: Node): boolean {
    if (layer.opacity === 0) return false;
    if (layer.kind === "fill") return layer.paint !== null;
    if (layer.kind === "adjustment") return layer.tone !== null;
    const keys = layer.contour ? tilesAround(key) : [key];
    return keys.some((one) =>
      layer.kind === "group"
        ? children.some((child) => this.#isThere(one, child))
        : this.#tile(layer.id, one) !== undefined,
    );
  }

  /** Tiles that look different when a layer changes in some: more of them where it has an outline. */
  reach(layer: string, keys: readonly number[]): readonly number[] {
    const layers = this.#layers;
    let reached = keys;
    for (let one = layers.find(({ id }) => id === layer); one;) {
      // An outline, a fringe and light on paint that stands up look at what is beside it.
      if (one.contour || one.fringe || reliefOf(this.picture, one.id)) {
        reached = [...new Set(keys.flatMap(tilesAround))].filter((beside) =>
          this.#isOnSheet(beside),
        );
        break;
      }
      const { group } = one;
      one = layers.find(({ id }) => id === group);
    }
    const above = layers.slice(layers.findIndex(({ id }) => id === layer) + 1);
    const soft = above.flatMap((one) => (one.visible ? (softOf(one) ?? []) : []));
    const far = soft.reduce((sum, one) => sum + reachOf(one), 0);
    return far === 0 ? reached : [...grownBy(reached, far, this.picture)];
  }

  #isOnSheet(key: number): boolean {
    const { width, height } = this.picture;
    return key >= 0 && tileColumn(key) * TILE_SIDE < width && tileRow(key) * TILE_SIDE < height;
  }

  get #layers(): readonly Layer[] {
    const layers = this.#previewedLayers ?? this.picture.structure.layers;
    return this.withFluid || !layers.some(isFluid) ? layers : layers.filter((own) => !isFluid(own));
  }

  /** Lays a node on what is there. */
  #writeNode(key: number, node: Node, into: number, plates: Plates): void {
    const { layer, clips } = node;
    if (!this.#isThere(key, node)) return;
    if (layer.kind === "adjustment") return this.#adjust(key, layer, into, plates);
    if (isOpenGroup(node)) return this.#writeThrough(key, node, into, plates);
    const mark = plates.mark;
    let from = this.#own(key, node, plates);
    if (from === 0) return plates.backTo(mark);
    const shown = clips.filter((clip) => this.#isThere(key, clip));
    if (shown.length > 0) {
      const shape = plates.take();
      this.workforce.write(TAPE.copy, shape, from, TILE_BYTES);
      for (const clip of shown) this.#writeClip(key, clip, shape, plates);
      from = shape;
    }
    this.workforce.write(TAPE.blend, into, from, blendNumber(layer.blend), opacityOf(layer), 0);
    plates.backTo(mark);
  }

  #writeClip(key: number, clip: Node, shape: number, plates: Plates): void {
    const { layer } = clip;
    if (layer.kind === "adjustment") return this.#adjust(key, layer, shape, plates, true);
    const mark = plates.mark;
    const from = this.#own(key, clip, plates);
    if (from !== 0)
      this.workforce.write(TAPE.blend, shape, from, blendNumber(layer.blend), opacityOf(layer), 1);
    plates.backTo(mark);
  }

  /** Where a node's own pixels are, outlined and masked; 0 where there are none. */
  #own(key: number, node: Node, plates: Plates): number {
    const { layer } = node;
    const plain = this.#plain(key, node, plates);
    let from = this.#screened(key, layer, this.#fringed(key, layer, plain, plates), plates);
    if (layer.contour) from = this.#outlined(key, node, plain, from, layer.contour, plates);
    const mask = from === 0 ? undefined : this.#mask(key, layer);
    if (!mask) return from;
    const kept = plates.take();
    this.workforce.write(TAPE.holdBack, kept, from, this.store.address(mask), 1);
    return kept;
  }

  /** A layer's pixels gathered along their rim, where it has a fringe. */
  #fringed(key: number, { id, kind, fringe }: Layer, from: number, plates: Plates): number {
    if (!fringe || !hasPixels(kind) || from === 0) return from;
    const into = plates.take();
    const near = tilesAround(key).map((beside) => {
      const tile = this.#tile(id, beside);
      return tile ? this.store.address(tile) : 0;
    });
    writeFringe(this.workforce, fringe, key, [into, from], near, this.picture);
    return into;
  }

  /** A layer's pixels as dots, lines or grain, where it is shown so. */
  #screened(key: number, { id, halftone }: Layer, from: number, plates: Plates): number {
    if (!halftone?.on || from === 0) return from;
    const into = plates.take();
    const { store, workforce } = this;
    const isSeen = !this.#blurredScreens.includes(id);
    const { ppi } = this.picture;
    writeHalftone(store, workforce, halftone, ppi, isSeen, key, into, from);
    return into;
  }

  #mask(key: number, { id, mask }: Layer): Tile | undefined {
    if (!mask?.on) return undefined;
    return (this.#maskStandIns.get(id) ?? this.picture.plane(id, MASK)).get(key);
  }

  /** A node's pixels before outline and mask; 0 where there are none. */
  #plain(key: number, { layer, children }: Node, plates: Plates): number {
    const { workforce } = this;
    if (layer.kind === "group") {
      const shown = children.filter((child) => this.#isThere(key, child));
      if (shown.length === 0) return 0;
      const sheet = plates.take();
      const level = this.#isPreparing
        ? -1
        : this.#levels.findIndex(({ group }) => group === layer.id);
      if (level > 0) {
        this.#writeLevel(level, key, sheet, plates);
        return sheet;
      }
      workforce.write(TAPE.fill, sheet, 0, 0, 0, 0);
      for (const child of shown) this.#writeNode(key, child, sheet, plates);
      return sheet;
    }
    if (layer.kind === "fill") return this.#filled(key, layer, plates);
    const tile = this.#tile(layer.id, key);
    if (!tile) return 0;
    const address = this.#lit(key, layer, this.store.address(tile), plates);
    if (!layer.tint) return address;
    const tinted = plates.take();
    const [r, g, b] = hexToQ15(layer.tint);
    workforce.write(TAPE.tint, tinted, address, r, g, b);
    return tinted;
  }

  /** Paint that stands up, in the light; other paint as it is. */
  #lit(key: number, layer: Layer, from: number, plates: Plates): number {
    const relief = this.#standIns.has(layer.id) ? null : reliefOf(this.picture, layer.id);
    if (!relief?.has(key)) return from;
    const lit = plates.take();
    const { sun } = this.picture.structure;
    writeRelief(this.store, this.workforce, relief, tilesAround(key), layer.relief, sun, [
      lit,
      from,
    ]);
    return lit;
  }

  #filled(key: number, { paint }: Layer, plates: Plates): number {
    if (!paint) return 0;
    const tile = plates.take();
    if (paint.kind === "colour") this.workforce.write(TAPE.fill, tile, ...hexToQ15(paint.colour));
    else writeGradient(this.store, this.workforce, paint, key, tile);
    return tile;
  }

  /** What lies in a group is laid on what is below it; the group's opacity and mask say how far. */
  #writeThrough(key: number, { layer, children }: Node, into: number, plates: Plates): void {
    const { workforce } = this;
    const mask = this.#mask(key, layer);
    const mark = plates.mark;
    const before = mask || layer.opacity < 1 ? plates.take() : 0;
    if (before) workforce.write(TAPE.copy, before, into, TILE_BYTES);
    for (const child of children) this.#writeNode(key, child, into, plates);
    if (before) this.#backTo(before, into, layer, mask, plates);
    plates.backTo(mark);
  }

  /** What was done to `into` is kept only as far as opacity and mask let it through. */
  #backTo(
    before: number,
    into: number,
    layer: Layer,
    mask: Tile | undefined,
    plates: Plates,
  ): void {
    const { workforce } = this;
    if (layer.opacity < 1) workforce.write(TAPE.mix, into, before, opacityOf(layer));
    if (!mask) return;
    const held = plates.take();
    workforce.write(TAPE.copy, held, before, TILE_BYTES);
    workforce.write(TAPE.keepInside, held, into, this.store.address(mask), ...WHOLE_TILE);
    workforce.write(TAPE.copy, into, held, TILE_BYTES);
  }

  /** Writes a tile as an adjustment changes it. */
  #changed(key: number, layer: Layer, into: number, from: number, plates: Plates): void {
    const { workforce, store } = this;
    const { tone } = layer;
    if (!tone) return;
    if (tone.kind === "noise") return writeNoise(workforce, tone, key, into, from);
    if (tone.kind === "blur") return this.#blurred(key, layer.id, tone, into, plates);
    if (tone.kind !== "sharpen") return writeTone(store, workforce, tone, into, from);
    const mark = plates.mark;
    const soft = plates.take();
    this.#blurred(key, layer.id, tone, soft, plates);
    writeSharper(workforce, tone, into, from, soft);
    plates.backTo(mark);
  }

  /** Blurs one tile of what lies under a soft layer: its rows, and of those its column. */
  #blurred(key: number, id: string, soft: Soft, into: number, plates: Plates): void {
    const { workforce, picture } = this;
    const under = this.#under.get(id);
    const means = meansOf(soft);
    const { left, right, top, bottom } = windowAround(key, reachOf(soft), picture);
    const { buffer, mark } = plates;
    const [across, down] = [right - left, bottom - top];
    const wide = Math.min(picture.width - left * TILE_SIDE, across * TILE_SIDE);
    const high = Math.min(picture.height - top * TILE_SIDE, down * TILE_SIDE);
    const rows = Array.from({ length: down }, (_, j) => {
      const row = plates.take();
      workforce.write(TAPE.fill, row, 0, 0, 0, 0);
      const from = Array.from(
        { length: across },
        (_, i) => under?.get(tileKey(left + i, top + j)) ?? 0,
      );
      const to = from.map((_, i) => (left + i === tileColumn(key) ? row : 0));
      const list = plates.list(from, to);
      const lists = [list, list + across * 4];
      workforce.write(TAPE.blurRow, ...lists, across, wide, buffer, ...means);
      return row;
    });
    const to = rows.map((_, j) => (top + j === tileRow(key) ? into : 0));
    const list = plates.list(rows, to);
    workforce.write(TAPE.fill, into, 0, 0, 0, 0);
    workforce.write(TAPE.blurColumn, list, list + down * 4, down, high, buffer, ...means);
    plates.backTo(mark);
  }

  /** Changes what lies below. */
  #adjust(key: number, layer: Layer, into: number, plates: Plates, isClipped = false): void {
    const { workforce } = this;
    if (!layer.tone) return;
    const mark = plates.mark;
    const before = plates.take();
    workforce.write(TAPE.copy, before, into, TILE_BYTES);
    // A clipped blur stays inside the shape that it is clipped to.
    const isWhole = layer.blend === "normal" && !(isClipped && layer.tone.kind === "blur");
    if (isWhole) this.#changed(key, layer, into, before, plates);
    else {
      const changed = plates.take();
      this.#changed(key, layer, changed, before, plates);
      workforce.write(TAPE.blend, into, changed, blendNumber(layer.blend), ONE, 1);
    }
    this.#backTo(before, into, layer, this.#mask(key, layer), plates);
    plates.backTo(mark);
  }

  /** A node's pixels over an outline around them. */
  #outlined(
    key: number,
    node: Node,
    plain: number,
    own: number,
    { width, colour }: NonNullable<Layer["contour"]>,
    plates: Plates,
  ): number {
    const { workforce } = this;
    const [wholly, partly, grown] = plates.bits;
    const outline = plates.take();
    const mark = plates.mark;
    const sources = tilesAround(key).map((beside) =>
      beside === key ? plain : this.#plain(beside, node, plates),
    );
    workforce.write(TAPE.fill, outline, 0, 0, 0, 0);
    this.#cut(wholly, sources, WHOLLY * OUTLINED);
    for (const level of levels) {
      this.#grow(grown, wholly, levelReach(width, level), false);
      this.#cut(partly, sources, coveredBy(level) * OUTLINED);
      this.#grow(grown, partly, width, true);
      writeLevel(workforce, outline, grown + (TILE_SIDE * 3 + 1) * 8, CONTOUR_STRIDE);
    }
    plates.backTo(mark);
    workforce.write(TAPE.colourMask, outline, ...hexToQ15(colour).slice(0, 3));
    // Under what is pale by its fringe alone the paper shows, not the outline.
    if (node.layer.fringe && plain !== 0) {
      const around = plates.take();
      workforce.write(TAPE.copy, around, outline, TILE_BYTES);
      workforce.write(TAPE.holdBack, outline, around, plain, 1);
    }
    if (own !== 0) workforce.write(TAPE.blend, outline, own, 0, ONE, 0);
    return outline;
  }

  /** What has at least so much alpha (Q15) in nine tiles, three by three, as bits. */
  #cut(bits: number, sources: readonly number[], alpha: number): void {
    const { workforce } = this;
    const least = Math.round(alpha);
    workforce.write(TAPE.clear, bits, CONTOUR_BITS);
    sources.forEach((from, i) => {
      const at = bits + (Math.floor(i / 3) * TILE_SIDE * 3 + (i % 3)) * 8;
      if (from !== 0) workforce.write(TAPE.alphaBits, at, CONTOUR_STRIDE, from, least);
    });
  }

  /** Grows bits of nine tiles in the middle row of them, onto what is grown already or not. */
  #grow(grown: number, bits: number, radius: number, onto: boolean): void {
    const disc = tableAddress(this.store.heap, `disc ${radius}`, () => discTable(radius));
    const [first, last, rows] = [TILE_SIDE, 2 * TILE_SIDE, 3 * TILE_SIDE];
    const [r, keeps] = [Math.floor(radius), onto ? 1 : 0];
    this.workforce.write(TAPE.growBits, grown, bits, 3, rows, first, last, r, disc, keeps);
  }

  #trim(): void {
    for (const cached of this.#cachedFor.values())
      for (const key of [...cached.keys()]) {
        if (this.#cachedBytes <= CACHE_LIMIT) return;
        this.#dropFrom(cached, key);
      }
    for (const tiles of this.#under.values())
      for (const key of tiles.keys()) {
        if (this.#cachedBytes <= CACHE_LIMIT) return;
        this.#forgetUnder([key]);
      }
  }
}

/** All that is cached around the working layer, to be compared. */
const outside = (levels: readonly Level[]): string =>
  JSON.stringify(levels.map(({ group, below, above }) => [group, below, above]));

const opacityOf = (layer: Layer): number => Math.round(layer.opacity * ONE);
