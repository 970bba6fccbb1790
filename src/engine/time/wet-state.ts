import { isWet } from "../oil/drying";
import { WET_PLANES } from "../oil/wet-planes";
import { type Picture, type PlaneName } from "../picture/picture";
import { type TileStore } from "../tiles/tile-store";
import { isWashWet, WASH_PLANES } from "../water/wash-planes";

/** Planes of all that can still be moved in a layer, whatever the medium. What is seen of it is in its colour. */
export const MOVED_PLANES: readonly PlaneName[] = [...WET_PLANES, ...WASH_PLANES];

/** Whether anything in a layer is wet. */
export const isLayerWet = (picture: Picture, layer: string): boolean =>
  isWet(picture, layer) || isWashWet(picture, layer);

/** Forgets what is wet of a layer without a way back: for what could not be read. */
export function forgetWet(store: TileStore, picture: Picture, layer: string): void {
  for (const name of MOVED_PLANES) {
    const plane = picture.plane(layer, name);
    for (const tile of plane.values()) store.release(tile);
    plane.clear();
  }
}
