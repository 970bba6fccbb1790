import { type Layer, type Picture, type Plane } from "../picture/picture";
import { RELIEF } from "../oil/wet-planes";
import { type SunPin, towardLight } from "../sun/sun-pin";
import { realWord, TAPE } from "../tiles/tape";
import { type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";

/** Where light comes from as long as nobody has said: from the upper left, px right, down and up. */
const DEFAULT_LIGHT = [-0.56, -0.56, 0.61] as const;
/** Light that comes flatter than this over the picture would draw out every thread of the ground. */
const FLATTEST = 0.4;

/** The direction toward the light, of length 1: right, down, and toward who looks. */
function lightOf(sun: SunPin | null): readonly [number, number, number] {
  if (!sun) return DEFAULT_LIGHT;
  const [right, up, front] = towardLight(sun);
  const steep = Math.max(FLATTEST, front);
  const flat = Math.sqrt(right * right + up * up);
  if (flat < 1e-6) return DEFAULT_LIGHT;
  const scale = Math.sqrt(1 - steep * steep) / flat;
  return [right * scale, -up * scale, steep];
}

/** The heights of a layer's paint, where there is any that stands up. */
export function reliefOf(picture: Picture, layer: string): Plane | null {
  const plane = picture.planes.get(layer)?.get(RELIEF);
  return plane && plane.size > 0 ? plane : null;
}

/**
 * Writes to the tape how paint at `from` looks in the light, into `into`.
 * @param keys the tile and its neighbours, row by row
 */
export function writeRelief(
  store: TileStore,
  workforce: Workforce,
  relief: Plane,
  keys: readonly number[],
  { depth, gloss }: Layer["relief"],
  sun: SunPin | null,
  [into, from]: readonly [number, number],
): void {
  const heights = keys.map((key) => {
    const tile = relief.get(key);
    return tile ? store.address(tile) : 0;
  });
  const light = [...lightOf(sun), depth, gloss].map(realWord);
  workforce.write(TAPE.lightRelief, into, from, ...heights, ...light);
}
