import { type Picture, type Plane } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { TILE_BYTES } from "../tiles/layout";
import { type Tile, type TileStore } from "../tiles/tile-store";
import { A_CHUNK, isSoundPiece, MOST_PIECES, type Piece, readPieces, writePieces } from "./piece";

/**
 * A strewn layer's truth is this plane of it: pieces as bytes, each in the place of its number, as many to a tile as
 * go in. So undo, keeping and copying have nothing to know of pieces.
 */
export const PIECES = "pieces";

/** The pieces of a layer, lowest first. Never changed in place. */
export type Pieces = { pieces: readonly Piece[]; byId: ReadonlyMap<number, Piece> };

type Known = { tile: Tile; pieces: Piece[] };
/** What was read, by chunk, for as long as its tile stays the same. */
const known = new WeakMap<Plane, { chunks: Map<number, Known>; all: Pieces }>();

const NONE: Pieces = { pieces: [], byId: new Map() };

export const overEachOther = (a: Piece, b: Piece): number => a.z - b.z || a.id - b.id;

/**
 * The pieces of a layer.
 * @throws Refusal where they cannot be read
 */
export function piecesOf(store: TileStore, picture: Picture, layer: string): Pieces {
  const plane = picture.plane(layer, PIECES);
  if (plane.size === 0) return NONE;
  const before = known.get(plane);
  const chunks = new Map<number, Known>();
  let isSame = before?.chunks.size === plane.size;
  for (const [chunk, tile] of plane) {
    const old = before?.chunks.get(chunk);
    if (old?.tile === tile) {
      chunks.set(chunk, old);
      continue;
    }
    isSame = false;
    const at = store.address(tile);
    const bytes = store.heap.u8.slice(at, at + TILE_BYTES);
    chunks.set(chunk, { tile, pieces: readPieces(bytes, chunk * A_CHUNK) });
  }
  if (before && isSame) return before.all;
  const pieces = [...chunks.values()].flatMap((one) => one.pieces).sort(overEachOther);
  const all = { pieces, byId: new Map(pieces.map((piece) => [piece.id, piece])) };
  known.set(plane, { chunks, all });
  return all;
}

/** The number that the next new piece takes. */
export function nextPiece({ byId }: Pieces): number {
  let most = 0;
  for (const id of byId.keys()) most = Math.max(most, id);
  return most + 1;
}

/** What becomes of a layer's pieces: some are gone, some are new or other than they were. */
export type PieceChange = { gone: readonly number[]; put: readonly Piece[] };

/** Tiles that are to be exchanged, none where a chunk is empty. */
export type ChunkOfPieces = { key: number; after: Tile | null };

/**
 * The tiles that hold a layer's pieces after a change.
 * @throws Refusal where they would be too many, or one could not be kept
 */
export function piecesAfter(
  store: TileStore,
  picture: Picture,
  layer: string,
  { gone, put }: PieceChange,
): ChunkOfPieces[] {
  const { byId } = piecesOf(store, picture, layer);
  const more = put.filter(({ id }) => !byId.has(id)).length;
  if (byId.size + more - gone.length > MOST_PIECES)
    throw new Refusal(`a layer holds ${MOST_PIECES} strewn pieces at most: strew on a new one`);
  if (!put.every(isSoundPiece))
    throw new Refusal("That would leave a piece too large, too thin or too far away to be drawn.");
  const after = new Map<number, Map<number, Piece>>();
  const piecesIn = (chunk: number): Map<number, Piece> => {
    let pieces = after.get(chunk);
    if (pieces) return pieces;
    pieces = new Map();
    for (let id = chunk * A_CHUNK; id < (chunk + 1) * A_CHUNK; id++) {
      const piece = byId.get(id);
      if (piece) pieces.set(id, piece);
    }
    after.set(chunk, pieces);
    return pieces;
  };
  for (const id of gone) piecesIn(Math.floor(id / A_CHUNK)).delete(id);
  for (const piece of put) piecesIn(Math.floor(piece.id / A_CHUNK)).set(piece.id, piece);
  return [...after].map(([key, pieces]) => ({
    key,
    after: pieces.size > 0 ? tileOf(store, writePieces(pieces.values(), key * A_CHUNK)) : null,
  }));
}

function tileOf(store: TileStore, bytes: Uint8Array): Tile {
  const tile = store.create();
  store.heap.u8.set(bytes, tile.address);
  return tile;
}
