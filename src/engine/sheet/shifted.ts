import { type Applying } from "../command/command";
import { TILE_BYTES, TILE_SIDE, tileColumn, tileKey, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";

/** The tiles that one falls into when it is moved: column and row, and by how many px within them. */
function targets(
  key: number,
  dx: number,
  dy: number,
): [column: number, row: number, x: number, y: number][] {
  const [left, top] = [tileColumn(key) * TILE_SIDE + dx, tileRow(key) * TILE_SIDE + dy];
  const found: [number, number, number, number][] = [];
  for (let row = Math.floor(top / TILE_SIDE); row * TILE_SIDE < top + TILE_SIDE; row++)
    for (let column = Math.floor(left / TILE_SIDE); column * TILE_SIDE < left + TILE_SIDE; column++)
      found.push([column, row, left - column * TILE_SIDE, top - row * TILE_SIDE]);
  return found;
}

/**
 * Moves all that a plane holds by whole px, to the bit; what leaves the sheet is gone. Whole tiles are moved as they are.
 */
export function shiftPlane(
  applying: Applying,
  id: string,
  name: string,
  dx: number,
  dy: number,
): void {
  const { picture, bench } = applying;
  const { store, workforce } = bench;
  const plane = picture.plane(id, name);
  const across = Math.ceil(picture.width / TILE_SIDE);
  const down = Math.ceil(picture.height / TILE_SIDE);
  const parts = new Map<number, { tile: Tile; x: number; y: number }[]>();
  for (const [key, tile] of plane)
    for (const [column, row, x, y] of targets(key, dx, dy)) {
      if (column < 0 || row < 0 || column >= across || row >= down) continue;
      const to = tileKey(column, row);
      const known = parts.get(to);
      if (known) known.push({ tile, x, y });
      else parts.set(to, [{ tile, x, y }]);
    }
  const made = new Map<number, Tile>();
  for (const [key, from] of parts) {
    const [only] = from;
    if (only && from.length === 1 && only.x === 0 && only.y === 0) {
      made.set(key, store.retain(only.tile));
      continue;
    }
    const tile = store.create();
    const addresses = from.map((part) => store.address(part.tile));
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    // Four parts cover a tile; fewer leave some of it bare.
    if (from.length < 4) workforce.write(TAPE.clear, tile.address, TILE_BYTES);
    from.forEach(({ x, y }, i) => workforce.write(TAPE.shift, tile.address, addresses[i]!, x, y));
    workforce.endJob();
    made.set(key, tile);
  }
  workforce.run(true);
  const isNew = new Set(
    [...parts]
      .filter(([, from]) => from.length > 1 || from[0]?.x !== 0 || from[0].y !== 0)
      .map(([key]) => key),
  );
  const before = [...plane.keys()];
  for (const [key, tile] of made) {
    if (isNew.has(key)) store.settle(tile);
    if (isNew.has(key) && store.isEmpty(tile)) {
      store.release(tile);
      made.delete(key);
      continue;
    }
    applying.swap(id, key, tile, name);
  }
  for (const key of before) if (!made.has(key)) applying.swap(id, key, null, name);
  store.trim();
}
