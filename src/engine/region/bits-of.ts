import { type Plane } from "../picture/picture";
import { tileColumn, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Bits, type Regions } from "./regions";

const HALF = 16384;

/** The pixels of a plane whose alpha is at least this (Q15): a half, if nothing else is said. */
export function bitsOfPlane(regions: Regions, plane: Plane, least = HALF): Bits {
  const { store, workforce } = regions.bench;
  const bits = regions.make();
  for (const [key, tile] of plane) {
    const [column, row] = [tileColumn(key), tileRow(key)];
    if (tile.colour) {
      regions.fillTile(bits, column, row, tile.colour[3] >= least);
      continue;
    }
    const at = regions.at(bits, column, row);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(TAPE.alphaBits, at, regions.stride, store.address(tile), least);
    workforce.endJob();
  }
  workforce.run(true);
  regions.trim(bits);
  return bits;
}
