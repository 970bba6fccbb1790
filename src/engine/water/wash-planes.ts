import { type Picture, type PlaneName } from "../picture/picture";

/**
 * What a layer has of a wash besides its colour, which is always what is seen of it. A tile of each holds eight
 * planes of 32 × 32 f32 for cells of 2 × 2 px (see `kernels/water/film.ts`): the water and the paper; then, of
 * four paints each, what hangs in the water and what has settled. When all of a layer has dried its water becomes
 * rest: the last coat can still be lifted, until another comes over it.
 */
export const WATER: PlaneName = "wash water";
export const REST: PlaneName = "wash rest";
export const PAINTS: readonly PlaneName[] = ["wash paints", "wash paints more"];
/** What is dry below. */
export const WASHED: PlaneName = "wash under";

/** All of these go where something else comes over a wash. */
export const WASH_PLANES: readonly PlaneName[] = [WATER, REST, ...PAINTS, WASHED];

const has = (picture: Picture, layer: string, name: PlaneName): boolean =>
  (picture.planes.get(layer)?.get(name)?.size ?? 0) > 0;

/** Whether there is water in a layer. */
export const isWashWet = (picture: Picture, layer: string): boolean => has(picture, layer, WATER);

/** Whether anything goes on in a layer's water: where its time stands nothing does. */
export const isWashRunning = (picture: Picture, layer: string): boolean =>
  isWashWet(picture, layer) &&
  picture.structure.layers.some(({ id, wash }) => id === layer && (wash?.pace ?? 1) > 0);

/** Whether the last coat of a layer's washes is still known, wet or dry. */
export const isWashed = (picture: Picture, layer: string): boolean =>
  has(picture, layer, WATER) || has(picture, layer, REST);
