import { TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { noiseAddress } from "../tiles/noise";
import { tableAddress } from "../tiles/tables";
import { TAPE } from "../tiles/tape";
import { type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { type GradientPaint, shapeTable, stopsTable } from "./gradient";

/** Writes the instruction that lays a gradient over a tile. */
export function writeGradient(
  { heap }: TileStore,
  workforce: Workforce,
  paint: GradientPaint,
  key: number,
  tile: number,
): void {
  const { kind, numbers } = shapeTable(paint);
  const { shape, from, to, path } = paint;
  const place = JSON.stringify([shape, from, to, path]);
  workforce.write(
    TAPE.gradient,
    tile,
    tileColumn(key) * TILE_SIDE,
    tileRow(key) * TILE_SIDE,
    kind,
    tableAddress(heap, `shape ${place}`, () => numbers),
    tableAddress(heap, `stops ${JSON.stringify(paint.stops)}`, () => stopsTable(paint.stops)),
    noiseAddress(heap),
  );
}
