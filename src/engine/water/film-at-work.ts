import { type Picture } from "../picture/picture";
import { type TileStore } from "../tiles/tile-store";
import { isWashWet, WATER } from "./wash-planes";

/** Where the state of a tile's water is; 0 where there is none. */
export type Film = (key: number) => number;

/** Water that a stroke or time is working on, unpacked, by layer. */
const atWork = new WeakMap<Picture, Map<string, Film>>();

/** Says where a layer's water is while it is worked; null: it is packed again. */
export function workFilm(picture: Picture, layer: string, film: Film | null): void {
  const films = atWork.get(picture) ?? new Map<string, Film>();
  atWork.set(picture, films);
  if (film) films.set(layer, film);
  else films.delete(layer);
}

/** Whether there is any water in a layer, or may be. */
export const hasFilm = (picture: Picture, layer: string): boolean =>
  (atWork.get(picture)?.has(layer) ?? false) || isWashWet(picture, layer);

/** Where the water of a layer is, as it stands now. */
export function filmOf(store: TileStore, picture: Picture, layer: string): Film {
  const working = atWork.get(picture)?.get(layer);
  const packed = picture.plane(layer, WATER);
  return (key) => {
    const tile = packed.get(key);
    return working?.(key) || (tile ? store.address(tile) : 0);
  };
}
