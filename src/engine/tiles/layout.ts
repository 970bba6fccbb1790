/**
 * How pixels lie in memory, for the TypeScript side; `kernels/layout.ts` says it for the
 * kernels. A tile is 64 × 64 px, in blocks of eight pixels R8 G8 B8 A8 of unsigned Q15
 * numbers (0…32767 ≙ 0…1), premultiplied.
 */
export const TILE_SIDE = 64;
export const TILE_BYTES = 32768;
/** All of a tile, as instructions are told of a part of it: first block, first row, and those after the last. */
export const WHOLE_TILE = [0, 0, TILE_SIDE >> 3, TILE_SIDE] as const;
export const COVERAGE_BYTES = 8192;
/** Of a tile of contact: see `kernels/contact.ts`. */
export const CONTACT_BYTES = 16384;
export const MARK_WORDS = 48;
export const MARK_BYTES = MARK_WORDS * 4;
export const ONE = 32767;

/** Widest picture, in tiles; a tile's key is `row · TILES_ACROSS + column`. */
export const TILES_ACROSS = 256;

export const tileKey = (column: number, row: number): number => row * TILES_ACROSS + column;
export const tileColumn = (key: number): number => key % TILES_ACROSS;
export const tileRow = (key: number): number => Math.floor(key / TILES_ACROSS);

/** Byte offset of channel `c` (0…3) of pixel (x, y) in a tile. */
export const pixelOffset = (x: number, y: number, c: number): number =>
  y * 512 + (x >> 3) * 64 + c * 16 + (x & 7) * 2;

/** A box of picture pixels, right and bottom exclusive. */
export type Box = { left: number; top: number; right: number; bottom: number };

export const emptyBox = (): Box => ({
  left: Infinity,
  top: Infinity,
  right: -Infinity,
  bottom: -Infinity,
});

export function growBox(box: Box, by: Box): void {
  box.left = Math.min(box.left, by.left);
  box.top = Math.min(box.top, by.top);
  box.right = Math.max(box.right, by.right);
  box.bottom = Math.max(box.bottom, by.bottom);
}

/** Keys of the tiles that a box touches, inside a picture of `width` × `height` px. */
export function tilesIn(box: Box, width: number, height: number): number[] {
  const keys: number[] = [];
  const left = Math.max(0, Math.floor(box.left / TILE_SIDE));
  const top = Math.max(0, Math.floor(box.top / TILE_SIDE));
  const right = Math.min(Math.ceil(width / TILE_SIDE), Math.ceil(box.right / TILE_SIDE));
  const bottom = Math.min(Math.ceil(height / TILE_SIDE), Math.ceil(box.bottom / TILE_SIDE));
  for (let row = top; row < bottom; row++)
    for (let column = left; column < right; column++) keys.push(tileKey(column, row));
  return keys;
}

/** A tile and the eight around it, row by row; −1 beyond the edges of the widest sheet. */
export function tilesAround(key: number): number[] {
  const [column, row] = [tileColumn(key), tileRow(key)];
  const near: number[] = [];
  for (let v = -1; v <= 1; v++)
    for (let u = -1; u <= 1; u++) {
      const [x, y] = [column + u, row + v];
      near.push(x < 0 || y < 0 || x >= TILES_ACROSS ? -1 : tileKey(x, y));
    }
  return near;
}
