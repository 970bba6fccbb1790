import { type Applying } from "../command/command";
import { hexToQ15 } from "../colour/srgb";
import { COLOUR, type Picture } from "../picture/picture";
import { type Bench } from "../bench";
import { type StrokeTile } from "../stroke/stroker";
import {
  type Box,
  ONE,
  TILE_BYTES,
  TILE_SIDE,
  tileColumn,
  tileRow,
  tilesIn,
} from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { type PieceChange, PIECES, piecesAfter, piecesOf } from "./heap-of-pieces";
import { type Piece } from "./piece";

/** A piece in memory: see `kernels/strew.ts`. */
const WORDS = 32;
/** Tiles that are worked at once. */
const BATCH_TILES = 512;
/** Threads are woken for more tiles than this. */
const TOGETHER_FROM = 2;
/** How far a picture out of focus reaches beyond a sharp one. */
const SPREAD_OUT = 1.8;

/** The box that a piece lies in, whole px; its blur reaches beyond it. */
export function boxOfPiece({ x, y, matrix: [a, b, c, d], blur }: Piece): Box {
  const by = blur > 0 ? SPREAD_OUT : 1;
  const [w, h] = [(Math.abs(a) + Math.abs(c)) * by + 1, (Math.abs(b) + Math.abs(d)) * by + 1];
  return {
    left: Math.floor(x - w),
    top: Math.floor(y - h),
    right: Math.ceil(x + w),
    bottom: Math.ceil(y + h),
  };
}

/** Whether a place lies on a piece's picture: inside the round that most of them fill. */
export function isOnPiece({ x, y, matrix: [a, b, c, d] }: Piece, px: number, py: number): boolean {
  const det = a * d - b * c;
  const [dx, dy] = [px - x, py - y];
  const [u, v] = [(d * dx - c * dy) / det, (a * dy - b * dx) / det];
  return u * u + v * v <= 0.8;
}

const meets = (a: Box, b: Box): boolean =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

const boxOfTile = (key: number): Box => {
  const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
  return { left, top, right: left + TILE_SIDE, bottom: top + TILE_SIDE };
};

export const tilesOfPiece = ({ width, height }: Picture, piece: Piece): number[] =>
  tilesIn(boxOfPiece(piece), width, height);

/** Writes a piece where the kernel reads it. */
function writePiece(bench: Bench, picture: Picture, piece: Piece, at: number): void {
  const [a, b, c, d] = piece.matrix;
  const across = 2 * Math.max(Math.sqrt(a * a + b * b), Math.sqrt(c * c + d * d));
  const { address, side, extent } = bench.pieces.get(
    picture,
    piece.set,
    piece.picture,
    across,
    piece.blur,
  );
  const texels = side / (2 * extent);
  const det = a * d - b * c;
  const [ux, uy, vx, vy] = [d / det, -c / det, -b / det, a / det].map((n) => n * texels) as [
    number,
    number,
    number,
    number,
  ];
  const [tr, tg, tb] = hexToQ15(piece.tint[0]);
  const [ar, ag, ab] = hexToQ15(piece.air[0]);
  const { f32, i32 } = bench.store.heap;
  const word = at >>> 2;
  // Where a pixel is wider than a texel, one look between texels would leave some out.
  const isFine = Math.max(ux * ux + vx * vx, uy * uy + vy * vy) > 0.9;
  const middle = side / 2 - 0.5;
  f32.set([piece.x, piece.y, ux, uy, vx, vy, middle, middle], word);
  i32.set([address, side, isFine ? 1 : 0], word + 8);
  f32.set(
    [
      ...piece.gain,
      ...[tr / ONE, tg / ONE, tb / ONE, piece.tint[1]],
      ...[ar / ONE, ag / ONE, ab / ONE, piece.air[1]],
      piece.opacity,
    ],
    word + 11,
  );
  const { left, top, right, bottom } = boxOfPiece(piece);
  i32.set([left, top, right, bottom], word + 27);
}

/**
 * Lays pieces on tiles in memory, lowest first.
 * @param tiles each with the pieces that reach it, as places in `pieces`
 */
function layOn(
  bench: Bench,
  picture: Picture,
  pieces: readonly Piece[],
  tiles: readonly { key: number; tile: Tile; here: readonly number[] }[],
): void {
  const { store, workforce } = bench;
  const count = tiles.reduce((sum, { here }) => sum + here.length, 0);
  if (count === 0) return;
  const bytes = pieces.length * WORDS * 4 + count * 4;
  const base = store.heap.allocate(bytes);
  pieces.forEach((piece, i) => writePiece(bench, picture, piece, base + i * WORDS * 4));
  let at = base + pieces.length * WORDS * 4;
  for (const { key, tile, here } of tiles) {
    if (here.length === 0) continue;
    const to = store.address(tile);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    store.heap.i32.set(here, at >>> 2);
    const { left, top } = boxOfTile(key);
    workforce.write(TAPE.strew, to, left, top, base, at, here.length);
    workforce.endJob();
    at += here.length * 4;
  }
  workforce.run(tiles.length > TOGETHER_FROM);
  store.heap.free(base, bytes);
  bench.pieces.trim();
}

/** Which of some pieces reach each of some tiles, in their order. */
function byTile(
  picture: Picture,
  pieces: readonly Piece[],
  keys: ReadonlySet<number>,
): Map<number, number[]> {
  const found = new Map<number, number[]>();
  pieces.forEach((piece, i) => {
    for (const key of tilesOfPiece(picture, piece)) {
      if (!keys.has(key)) continue;
      const here = found.get(key);
      if (here) here.push(i);
      else found.set(key, [i]);
    }
  });
  return found;
}

/** Lays new pieces on tiles that are being worked on. */
export function layMore(
  bench: Bench,
  picture: Picture,
  pieces: readonly Piece[],
  tileAt: (key: number) => Tile,
): number[] {
  const keys = new Set(pieces.flatMap((piece) => tilesOfPiece(picture, piece)));
  const here = byTile(picture, pieces, keys);
  const tiles = [...keys].map((key) => ({ key, tile: tileAt(key), here: here.get(key) ?? [] }));
  layOn(bench, picture, pieces, tiles);
  return [...keys];
}

/**
 * Lays tiles of a strewn layer: pieces in their order, on nothing or on what is there.
 * @param pieces lowest first
 * @returns the tiles anew; the caller holds them
 */
export function layPieces(
  bench: Bench,
  picture: Picture,
  layer: string,
  keys: ReadonlySet<number>,
  pieces: readonly Piece[],
  onto: "nothing" | "what is there",
): StrokeTile[] {
  const { store } = bench;
  const plane = picture.plane(layer, COLOUR);
  const reached = byTile(picture, pieces, keys);
  const tiles: StrokeTile[] = [];
  const sorted = [...keys].sort((a, b) => a - b);
  for (let i = 0; i < sorted.length; i += BATCH_TILES) {
    const batch = sorted.slice(i, i + BATCH_TILES).map((key) => {
      const before = plane.get(key) ?? null;
      const after = store.create();
      const from = onto === "what is there" && before ? store.address(before) : store.nothing;
      store.kernels.copyBytes(after.address, from, TILE_BYTES);
      tiles.push({ plane: COLOUR, key, before, after });
      return { key, tile: after, here: reached.get(key) ?? [] };
    });
    // Only those that reach the batch are brought to memory.
    const used = [...new Set(batch.flatMap(({ here }) => here))].sort((a, b) => a - b);
    const placeOf = new Map(used.map((piece, n) => [piece, n]));
    layOn(
      bench,
      picture,
      used.map((piece) => pieces[piece] as Piece),
      batch.map((one) => ({ ...one, here: one.here.map((piece) => placeOf.get(piece) as number) })),
    );
    for (const { tile } of batch) store.settle(tile);
  }
  return tiles;
}

/** The tiles that a change of a layer's pieces reaches. */
export function tilesChanged(
  bench: Bench,
  picture: Picture,
  layer: string,
  { gone, put }: PieceChange,
): Set<number> {
  const { byId } = piecesOf(bench.store, picture, layer);
  const keys = new Set<number>();
  const add = (piece: Piece | undefined): void => {
    if (piece) for (const key of tilesOfPiece(picture, piece)) keys.add(key);
  };
  for (const id of gone) add(byId.get(id));
  for (const piece of put) {
    add(byId.get(piece.id));
    add(piece);
  }
  return keys;
}

/** Changes a layer's pieces, and lays anew what that touches. */
export function changePieces(applying: Applying, layer: string, change: PieceChange): void {
  const { bench, picture } = applying;
  const keys = tilesChanged(bench, picture, layer, change);
  for (const { key, after } of piecesAfter(bench.store, picture, layer, change))
    applying.swap(layer, key, after, PIECES);
  const { pieces } = piecesOf(bench.store, picture, layer);
  const near = [...keys].map(boxOfTile);
  const box = near.reduce<Box | null>((all, one) => (all ? joined(all, one) : one), null);
  const reaching = box ? pieces.filter((piece) => meets(boxOfPiece(piece), box)) : [];
  for (const { key, before, after } of layPieces(
    bench,
    picture,
    layer,
    keys,
    reaching,
    "nothing",
  )) {
    const isEmpty = bench.store.isEmpty(after);
    if (isEmpty) bench.store.release(after);
    if (!isEmpty || before) applying.swap(layer, key, isEmpty ? null : after);
  }
}

const joined = (a: Box, b: Box): Box => ({
  left: Math.min(a.left, b.left),
  top: Math.min(a.top, b.top),
  right: Math.max(a.right, b.right),
  bottom: Math.max(a.bottom, b.bottom),
});
