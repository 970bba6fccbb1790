import { type Picture } from "../picture/picture";
import { type Bench } from "../bench";
import { TILE_SIDE, tileColumn, tileRow, tilesAround } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { filmOf, hasFilm } from "./film-at-work";

/**
 * Lets what is wet shine on tiles that are composited and opaque: writes it to the tape for the tile at an address.
 * What is hidden does not shine; what lies over it does, as it is one sheet that is wet.
 */
export function shineOver(
  { store, workforce, washPaper }: Pick<Bench, "store" | "workforce" | "washPaper">,
  picture: Picture,
): (key: number, address: number) => void {
  const films = picture.structure.layers
    .filter(({ id, visible }) => visible && hasFilm(picture, id))
    .map(({ id }) => filmOf(store, picture, id));
  if (films.length === 0) return () => undefined;
  const { address: grain, side } = washPaper(picture);
  return (key, address) => {
    for (const film of films) {
      const states = tilesAround(key).map(film);
      if (states.every((state) => state === 0)) continue;
      const place = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
      workforce.write(TAPE.shineWash, address, ...states, ...place, grain, side);
    }
  };
}
