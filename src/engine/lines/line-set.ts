import { type Picture, type Plane } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { TILE_BYTES } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { decodeLines, encodeLines } from "./chunk";
import { isSound, type Line, MOST_LINES } from "./line";

/**
 * A line layer's truth is this plane of it: lines as bytes, sixteen to a chunk by their numbers, a chunk in as many
 * tiles as it needs. So undo, keeping and copying have nothing to know of lines.
 */
export const LINES = "lines";

const A_CHUNK = 16;
/** Tiles that one chunk may take: 8 MiB. */
const MOST_TILES = 256;

const chunkOf = (id: number): number => Math.floor(id / A_CHUNK);

/** The lines of a layer, lowest first. Never changed in place. */
export type LineSet = { lines: readonly Line[]; byId: ReadonlyMap<number, Line> };

type Known = { tiles: Tile[]; lines: Line[] };
/** What was read, by chunk, for as long as its tiles stay the same. */
const known = new WeakMap<Plane, { chunks: Map<number, Known>; set: LineSet }>();

const EMPTY: LineSet = { lines: [], byId: new Map() };

/** Bytes of a chunk's tiles. */
function bytesOf(store: TileStore, tiles: readonly Tile[]): Uint8Array {
  const bytes = new Uint8Array(tiles.length * TILE_BYTES);
  tiles.forEach((tile, i) => {
    const at = store.address(tile);
    bytes.set(store.heap.u8.subarray(at, at + TILE_BYTES), i * TILE_BYTES);
  });
  return bytes;
}

/** The tiles of each chunk, in order. */
function tilesByChunk(plane: Plane): Map<number, Tile[]> {
  const chunks = new Map<number, Tile[]>();
  for (const key of [...plane.keys()].sort((a, b) => a - b)) {
    const chunk = Math.floor(key / MOST_TILES);
    const tiles = chunks.get(chunk) ?? [];
    tiles.push(plane.get(key) as Tile);
    chunks.set(chunk, tiles);
  }
  return chunks;
}

export const inOrder = (a: Line, b: Line): number => a.z - b.z || a.id - b.id;

/**
 * The lines of a layer.
 * @throws Refusal where they cannot be read
 */
export function linesOf(store: TileStore, picture: Picture, layer: string): LineSet {
  const plane = picture.plane(layer, LINES);
  if (plane.size === 0) return EMPTY;
  const before = known.get(plane);
  const chunks = new Map<number, Known>();
  let isSame = before !== undefined;
  for (const [chunk, tiles] of tilesByChunk(plane)) {
    const old = before?.chunks.get(chunk);
    if (
      old &&
      old.tiles.length === tiles.length &&
      old.tiles.every((tile, i) => tile === tiles[i])
    ) {
      chunks.set(chunk, old);
      continue;
    }
    isSame = false;
    chunks.set(chunk, { tiles, lines: decodeLines(bytesOf(store, tiles)) });
  }
  if (before && isSame && before.chunks.size === chunks.size) return before.set;
  const lines = [...chunks.values()].flatMap((one) => one.lines).sort(inOrder);
  const set = { lines, byId: new Map(lines.map((line) => [line.id, line])) };
  known.set(plane, { chunks, set });
  return set;
}

/**
 * The line of a number.
 * @throws Refusal where there is none
 */
export function lineOf(set: LineSet, id: number): Line {
  const line = set.byId.get(id);
  if (!line) throw new Refusal(`there is no line ${id} on this layer`);
  return line;
}

/** The number that the next new line takes. */
export function nextId({ byId }: LineSet): number {
  let most = 0;
  for (const id of byId.keys()) most = Math.max(most, id);
  return most + 1;
}

/** What becomes of a layer's lines: some are gone, some are new or other than they were. */
export type LineChange = { gone: readonly number[]; put: readonly Line[] };

/** Tiles that are to be exchanged, none where a chunk needs it no longer. */
export type ChunkTile = { key: number; after: Tile | null };

/**
 * The tiles that hold a layer's lines after a change.
 * @throws Refusal where they would be too many
 */
export function chunksAfter(
  store: TileStore,
  picture: Picture,
  layer: string,
  { gone, put }: LineChange,
): ChunkTile[] {
  const { byId } = linesOf(store, picture, layer);
  const grown = put.filter(({ id }) => !byId.has(id)).length;
  if (byId.size + grown - gone.length > MOST_LINES)
    throw new Refusal(`a line layer holds ${MOST_LINES} lines at most`);
  // What could not be read again is not kept.
  if (!put.every(isSound)) throw new Refusal("That would leave a line that cannot be drawn.");
  const plane = picture.plane(layer, LINES);
  const after = new Map<number, Map<number, Line>>();
  const linesIn = (chunk: number): Map<number, Line> => {
    let lines = after.get(chunk);
    if (lines) return lines;
    lines = new Map();
    for (let id = chunk * A_CHUNK; id < (chunk + 1) * A_CHUNK; id++) {
      const line = byId.get(id);
      if (line) lines.set(id, line);
    }
    after.set(chunk, lines);
    return lines;
  };
  for (const id of gone) linesIn(chunkOf(id)).delete(id);
  for (const line of put) linesIn(chunkOf(line.id)).set(line.id, line);
  const tiles: ChunkTile[] = [];
  for (const [chunk, lines] of after) {
    const written = tilesOf(store, [...lines.values()]);
    if (written.length > MOST_TILES) throw new Refusal("these lines are too long to be kept");
    written.forEach((tile, i) => tiles.push({ key: chunk * MOST_TILES + i, after: tile }));
    for (let i = written.length; i < MOST_TILES && plane.has(chunk * MOST_TILES + i); i++)
      tiles.push({ key: chunk * MOST_TILES + i, after: null });
  }
  return tiles;
}

/** Tiles that hold these lines as bytes; none for none. */
function tilesOf(store: TileStore, lines: readonly Line[]): Tile[] {
  if (lines.length === 0) return [];
  const bytes = encodeLines(lines);
  const tiles: Tile[] = [];
  for (let at = 0; at < bytes.length; at += TILE_BYTES) {
    const tile = store.create();
    const { u8 } = store.heap;
    const part = bytes.subarray(at, at + TILE_BYTES);
    u8.set(part, tile.address);
    u8.fill(0, tile.address + part.length, tile.address + TILE_BYTES);
    tiles.push(tile);
  }
  return tiles;
}
