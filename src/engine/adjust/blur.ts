import { type Picture, type Plane } from "../picture/picture";
import { type Bench } from "../bench";
import { TILE_SIDE, tileColumn, tileKey, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";

/** Standard deviation of a blur of a radius: nearly all of its weight lies within the radius. */
export const SIGMA_OF_RADIUS = 0.5;
/** Lines of tiles that are worked on at a time. */
const AT_A_TIME = 8;
/** Eight pixels side by side. */
const ELEMENT_BYTES = 64;

/** Radii of three means whose weights together have a Gaussian's deviation (Kovesi 2010). */
export function meansFor(sigma: number): [number, number, number] {
  const ideal = Math.sqrt((12 * sigma * sigma) / 3 + 1);
  const floor = Math.floor(ideal);
  const narrow = floor % 2 === 0 ? floor - 1 : floor;
  const wide = narrow + 2;
  const m = Math.round(
    (12 * sigma * sigma - 3 * narrow * narrow - 12 * narrow - 9) / (-4 * narrow - 4),
  );
  const radius = (i: number): number => ((i < m ? narrow : wide) - 1) / 2;
  return [radius(0), radius(1), radius(2)];
}

/**
 * A plane blurred by a radius in px; beyond the sheet it goes on as at its edge. The tiles
 * are the caller's.
 */
export function blurPlane(
  bench: Bench,
  { width, height }: Pick<Picture, "width" | "height">,
  plane: Plane,
  radius: number,
): Map<number, Tile> {
  const { store } = bench;
  const means = meansFor(Math.max(0.5, radius * SIGMA_OF_RADIUS));
  const reach = Math.ceil((means[0] + means[1] + means[2] + 1) / TILE_SIDE);
  const columns = Math.ceil(width / TILE_SIDE);
  const rows = Math.ceil(height / TILE_SIDE);
  const wanted = new Set<number>();
  for (const key of plane.keys()) {
    const [column, row] = [tileColumn(key), tileRow(key)];
    for (let y = Math.max(0, row - reach); y <= Math.min(rows - 1, row + reach); y++)
      for (let x = Math.max(0, column - reach); x <= Math.min(columns - 1, column + reach); x++)
        wanted.add(tileKey(x, y));
  }
  const made = new Map<number, Tile>();
  for (const key of wanted) {
    const tile = store.create();
    store.kernels.fillTile(tile.address, 0, 0, 0, 0);
    made.set(key, tile);
  }
  blurLines(bench, TAPE.blurRow, rows, columns, width, means, plane, made, (line, i) =>
    tileKey(i, line),
  );
  blurLines(bench, TAPE.blurColumn, columns, rows, height, means, made, made, (line, i) =>
    tileKey(line, i),
  );
  for (const [key, tile] of made) {
    store.settle(tile);
    if (!store.isEmpty(tile)) continue;
    made.delete(key);
    store.release(tile);
  }
  return made;
}

function blurLines(
  { store, workforce }: Bench,
  tape: number,
  lines: number,
  count: number,
  length: number,
  means: readonly number[],
  from: Plane,
  to: Plane,
  keyOf: (line: number, i: number) => number,
): void {
  const { heap } = store;
  const listBytes = count * 8;
  const bufferBytes = 2 * count * TILE_SIDE * ELEMENT_BYTES;
  const places = Array.from({ length: Math.min(AT_A_TIME, lines) }, () => ({
    list: heap.allocate(listBytes),
    buffer: heap.allocate(bufferBytes),
  }));
  let used = 0;
  for (let line = 0; line < lines; line++) {
    const keys = Array.from({ length: count }, (_, i) => keyOf(line, i));
    if (!keys.some((key) => from.has(key)) || !keys.some((key) => to.has(key))) continue;
    const { list, buffer } = places[used] as { list: number; buffer: number };
    keys.forEach((key, i) => {
      const source = from.get(key);
      const target = to.get(key);
      const sourceAt = source ? store.address(source) : 0;
      const targetAt = target ? store.address(target) : 0;
      heap.i32[(list >> 2) + i] = sourceAt;
      heap.i32[(list >> 2) + count + i] = targetAt;
    });
    workforce.beginJob();
    workforce.write(tape, list, list + count * 4, count, length, buffer, ...means);
    workforce.endJob();
    if (++used === places.length) {
      workforce.run(true);
      used = 0;
    }
  }
  workforce.run(true);
  for (const { list, buffer } of places) {
    heap.free(list, listBytes);
    heap.free(buffer, bufferBytes);
  }
}
