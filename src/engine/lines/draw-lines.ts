import { type Applying } from "../command/command";
import { COLOUR, type Picture } from "../picture/picture";
import { type Brush } from "../stroke/brush";
import { type Bench } from "../bench";
import { type StrokeTile } from "../stroke/stroker";
import { COVERAGE_BYTES, TILE_BYTES, TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { isClean } from "./drawable";
import { brushOfLine, forgetTiles, LineInk, mayReach, SCRATCH_BYTES, tilesOfLine } from "./ink";
import { type Line } from "./line";
import { addTiles, CHORD_NUMBERS, shapeOf, shared } from "./shape";
import { chunksAfter, type LineChange, LINES, linesOf } from "./line-set";

/** Tiles that are worked at once, and bytes that marks may take meanwhile. */
const BATCH_TILES = 96;
const MOST_BYTES = 64 * 2 ** 20;
/** Threads are woken for more tiles than this. */
const TOGETHER_FROM = 2;

/** A batch of tiles that lines are laid on, one line after another. */
class Batch {
  #inks = new Map<Line, LineInk>();
  #bytes = 0;
  #scratch: number[] = [];
  #used = 0;

  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
  ) {}

  /** Lays lines, lowest first, on a tile in memory. */
  lay(key: number, tile: Tile, lines: readonly Line[]): void {
    const { store, workforce } = this.bench;
    const at = store.address(tile);
    const base = this.#room();
    const scratch = {
      first: base,
      over: base + TILE_BYTES,
      joined: base + TILE_BYTES + COVERAGE_BYTES,
    };
    workforce.beginJob();
    for (const line of lines) {
      if (workforce.isFull || this.#bytes > MOST_BYTES) {
        workforce.endJob();
        this.#run();
        workforce.beginJob();
      }
      this.#ink(line).write(key, at, scratch);
    }
    workforce.endJob();
    this.#used++;
    if (this.#used >= BATCH_TILES) this.#run();
  }

  end(): void {
    this.#run();
    for (const address of this.#scratch) this.bench.store.heap.free(address, SCRATCH_BYTES);
    this.#scratch = [];
  }

  #room(): number {
    const known = this.#scratch[this.#used];
    if (known !== undefined) return known;
    const made = this.bench.store.heap.allocate(SCRATCH_BYTES);
    this.#scratch.push(made);
    return made;
  }

  #ink(line: Line): LineInk {
    const known = this.#inks.get(line);
    if (known) return known;
    const ink = new LineInk(this.bench, this.picture, line);
    this.#inks.set(line, ink);
    this.#bytes += ink.bytes;
    return ink;
  }

  #run(): void {
    this.bench.workforce.run(this.#used > TOGETHER_FROM);
    this.#used = 0;
    for (const ink of this.#inks.values()) ink.free();
    this.#inks.clear();
    this.#bytes = 0;
  }
}

/** Which lines lie on which of some tiles, in their order. */
function linesByTile(
  bench: Bench,
  picture: Picture,
  keys: readonly number[],
  lines: readonly Line[],
): Map<number, Line[]> {
  const lying = new Map<number, Line[]>(keys.map((key) => [key, []]));
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const key of keys) {
    left = Math.min(left, tileColumn(key) * TILE_SIDE);
    top = Math.min(top, tileRow(key) * TILE_SIDE);
    right = Math.max(right, (tileColumn(key) + 1) * TILE_SIDE);
    bottom = Math.max(bottom, (tileRow(key) + 1) * TILE_SIDE);
  }
  for (const line of lines) {
    if (!mayReach(picture, line, left, top, right, bottom)) continue;
    for (const key of tilesOfLine(bench, picture, line)) lying.get(key)?.push(line);
  }
  return lying;
}

/**
 * Draws tiles of a line layer: lines in their order, on nothing or on what is there.
 * @param lines lowest first
 * @returns the tiles anew; the caller holds them
 */
export function drawLines(
  bench: Bench,
  picture: Picture,
  layer: string,
  keys: Iterable<number>,
  lines: readonly Line[],
  onto: "nothing" | "what is there",
): StrokeTile[] {
  const { store } = bench;
  const plane = picture.plane(layer, COLOUR);
  const batch = new Batch(bench, picture);
  const tiles: StrokeTile[] = [];
  const wanted = [...keys].sort((a, b) => a - b);
  const lying = linesByTile(bench, picture, wanted, lines);
  for (const key of wanted) {
    const before = plane.get(key) ?? null;
    const after = store.create();
    const from = onto === "what is there" && before ? store.address(before) : store.nothing;
    store.kernels.copyBytes(after.address, from, TILE_BYTES);
    tiles.push({ plane: COLOUR, key, before, after });
    const here = lying.get(key);
    if (here && here.length > 0) batch.lay(key, after, here);
  }
  batch.end();
  for (const { after } of tiles) store.settle(after);
  return tiles;
}

/** Adds the tiles that a line becoming another changes. */
function addChanged(
  bench: Bench,
  picture: Picture,
  before: Line,
  after: Line,
  keys: Set<number>,
): void {
  const looksSame =
    before.brush === after.brush &&
    before.colour === after.colour &&
    before.strength === after.strength &&
    before.z === after.z;
  if (!looksSame || !isClean(brushOfLine(picture, after))) {
    for (const line of [before, after])
      for (const key of tilesOfLine(bench, picture, line)) keys.add(key);
    return;
  }
  const [a, b] = [shapeOf(before), shapeOf(after)];
  const { first, last } = shared(a, b);
  for (const shape of [a, b]) {
    const n = shape.ends.length / CHORD_NUMBERS;
    addTiles(shape, Math.max(0, first - 1), Math.min(n - 1, n - last), picture, keys);
    if (n < 2) addTiles(shape, 0, 1, picture, keys);
  }
}

/** The tiles of a layer that a change of its lines reaches. */
export function changedTiles(
  bench: Bench,
  picture: Picture,
  layer: string,
  { gone, put }: LineChange,
): Set<number> {
  const { byId } = linesOf(bench.store, picture, layer);
  const keys = new Set<number>();
  for (const id of gone) {
    const line = byId.get(id);
    if (line) for (const key of tilesOfLine(bench, picture, line)) keys.add(key);
  }
  for (const line of put) {
    const before = byId.get(line.id);
    if (before) addChanged(bench, picture, before, line, keys);
    else for (const key of tilesOfLine(bench, picture, line)) keys.add(key);
  }
  return keys;
}

/** Changes a layer's lines, and draws anew what that touches. */
export function changeLines(applying: Applying, layer: string, change: LineChange): void {
  const { bench, picture } = applying;
  const keys = changedTiles(bench, picture, layer, change);
  for (const { key, after } of chunksAfter(bench.store, picture, layer, change))
    applying.swap(layer, key, after, LINES);
  putTiles(applying, layer, keys);
}

/** Draws lines of all layers anew whose brush is meant: what it lays has changed. */
export function redrawLinesOn(applying: Applying, isMeant: (brush: Brush) => boolean): void {
  const { bench, picture } = applying;
  for (const layer of picture.structure.layers) {
    if (layer.kind !== "lines") continue;
    const { lines } = linesOf(bench.store, picture, layer.id);
    const meant = lines.filter((line) => isMeant(brushOfLine(picture, line)));
    const keys = new Set<number>();
    for (const line of meant) {
      for (const key of tilesOfLine(bench, picture, line)) keys.add(key);
      forgetTiles(line);
      for (const key of tilesOfLine(bench, picture, line)) keys.add(key);
    }
    putTiles(applying, layer.id, keys);
  }
}

/** Draws tiles of a layer anew and puts them in place. */
function putTiles(applying: Applying, layer: string, keys: ReadonlySet<number>): void {
  const { bench, picture } = applying;
  const { lines } = linesOf(bench.store, picture, layer);
  for (const { key, before, after } of drawLines(bench, picture, layer, keys, lines, "nothing")) {
    const isEmpty = bench.store.isEmpty(after);
    if (isEmpty) bench.store.release(after);
    if (!isEmpty || before) applying.swap(layer, key, isEmpty ? null : after);
  }
}
