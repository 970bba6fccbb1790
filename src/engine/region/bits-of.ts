import { type Plane } from "../picture/picture";
import { tileColumn, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Bits, type Regions } from "./regions";

/** From this alpha on a pixel counts. */
const HALF = 16384;

/** The pixels of a plane whose alpha is a half and more. */
export function bitsOfPlane(regions: Regions, plane: Plane): Bits {
  const { store, workforce } = regions.bench;
  const bits = regions.make();
  for (const [key, tile] of plane) {
    const [column, row] = [tileColumn(key), tileRow(key)];
    if (tile.colour) {
      regions.fillTile(bits, column, row, tile.colour[3] >= HALF);
      continue;
    }
    const at = regions.at(bits, column, row);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(TAPE.alphaBits, at, regions.stride, store.address(tile), HALF);
    workforce.endJob();
  }
  workforce.run(true);
  regions.trim(bits);
  return bits;
}
