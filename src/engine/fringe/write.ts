import { meansFor } from "../adjust/blur";
import { TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { realWord, TAPE } from "../tiles/tape";
import { type Workforce } from "../tiles/workforce";
import { type Fringe } from "./fringe";

/** Standard deviations of the blur from the rim to where a tenth of the fringe is left. */
const DEVIATIONS = 1.645;
/** Widths of the fringe from one hill of its unevenness to the next. */
const HILLS = 16;
const KEY = 0x5eed;

/**
 * Writes to the tape a tile of paint at `from` with its fringe, into `into`.
 * @param around addresses of the tile and its neighbours, row by row; 0 where there is none
 * @param sheet px across and down of the whole sheet: paint that runs off it has no rim there
 */
export function writeFringe(
  workforce: Workforce,
  { width, strength }: Fringe,
  key: number,
  [into, from]: readonly [number, number],
  around: readonly number[],
  sheet: { width: number; height: number },
): void {
  const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
  const box = [-left, -top, sheet.width - left, sheet.height - top].map((edge) =>
    Math.max(-TILE_SIDE, Math.min(2 * TILE_SIDE, edge)),
  );
  workforce.write(
    TAPE.fringe,
    into,
    from,
    ...around,
    ...[strength, 1 / (HILLS * width)].map(realWord),
    ...meansFor(width / DEVIATIONS),
    left,
    top,
    ...box,
    KEY,
  );
}
