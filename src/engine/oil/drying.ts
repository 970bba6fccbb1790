import { type Applying } from "../command/command";
import { type Picture } from "../picture/picture";
import { type Bench } from "../bench";
import { TAPE } from "../tiles/tape";
import { RELIEF, SKIN, WET_PLANES } from "./wet-planes";

/** Whether a layer holds paint that can still be moved. */
export const isWet = (picture: Picture, layer: string): boolean =>
  (picture.planes.get(layer)?.get(SKIN)?.size ?? 0) > 0;

/** Whether a layer holds paint that stands up, wet or dry. */
export const standsUp = (picture: Picture, layer: string): boolean =>
  (picture.planes.get(layer)?.get(RELIEF)?.size ?? 0) > 0;

/**
 * Lets the wet paint of a layer dry. What is seen of it is in the colour already, and its surface in the
 * relief: the paint itself is forgotten, and no longer shines as much.
 */
export function letDry(
  { store, workforce }: Bench,
  picture: Picture,
  layer: string,
  exchange: Applying["swap"],
): void {
  if (!isWet(picture, layer)) return;
  const wet = [...picture.plane(layer, SKIN).keys()];
  const made = wet.map((key) => {
    const tile = store.create();
    const relief = picture.plane(layer, RELIEF).get(key);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(TAPE.dryRelief, tile.address, relief ? store.address(relief) : store.nothing);
    workforce.endJob();
    return tile;
  });
  workforce.run(true);
  wet.forEach((key, i) => exchange(layer, key, made[i] ?? null, RELIEF));
  for (const name of WET_PLANES)
    for (const key of [...picture.plane(layer, name).keys()]) exchange(layer, key, null, name);
}
