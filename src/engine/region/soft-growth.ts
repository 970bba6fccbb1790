import { type Plane } from "../picture/picture";
import { ONE, tileColumn, tileRow } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Workforce } from "../tiles/workforce";
import { bitsOfPlane } from "./bits-of";
import { type Bits, type Regions } from "./regions";

/**
 * Growth of a soft shape by a disc, with an edge as soft as it was.
 *
 * A pixel of alpha `a` is taken to be covered up to `a − ½` px beyond its middle, so the grown
 * edge lies `r + a − ½` px from it, and a pixel at distance `d` is covered by more than `s`
 * where `d < r + a − s` for any pixel of the shape. Two cuts of the shape stand for all: the
 * pixels that are covered by `s` themselves, grown by `r`, and those that are covered wholly,
 * grown by `r + 1 − s`. That is done for a few levels `s`; their mean is the grown shape.
 * Straight edges along the pixels move by exactly `r`, to the last bit.
 */
const COUNT = 6;

/** The levels of cover, in the middle of even steps. */
export const levels: readonly number[] = Array.from({ length: COUNT }, (_, i) => (i + 0.5) / COUNT);

/** From this alpha (Q15) on a pixel counts as wholly covered. */
export const WHOLLY = Math.round(ONE * (1 - 0.25 / COUNT));

/** From this alpha on a pixel is covered by a level. */
export const coveredBy = (level: number): number => Math.round(ONE * level);

/** How far the wholly covered pixels are grown for a level. */
export const reachOf = (radius: number, level: number): number => radius + 1 - level;

/** What each level adds to the mask where it lies. */
const SHARE = Math.ceil(ONE / COUNT);

/** Pixels of at least so much alpha, or of what alpha leaves bare. */
type Cut = (least: number) => Bits;

/** Grows a shape that is given by its cuts. The bits of each level; who asked releases them. */
function grown(regions: Regions, cut: Cut, radius: number): Bits[] {
  const wholly = cut(WHOLLY);
  const hard = regions.area(wholly);
  const made = levels.map((level) => {
    const into = regions.make();
    regions.grow(into, wholly, reachOf(radius, level));
    const own = cut(coveredBy(level));
    // A shape without soft edges is the same at every cut.
    if (regions.area(own) !== hard) regions.grow(into, own, radius, true);
    regions.release(own);
    return into;
  });
  regions.release(wholly);
  return made;
}

/** What a plane's alpha covers, grown by `radius` px, level by level. */
export const grownCover = (regions: Regions, plane: Plane, radius: number): Bits[] =>
  grown(regions, (least) => bitsOfPlane(regions, plane, least), radius);

/** What a plane's alpha leaves bare, grown by `radius` px, level by level. */
export const grownRest = (regions: Regions, plane: Plane, radius: number): Bits[] =>
  grown(
    regions,
    (least) => {
      const covered = bitsOfPlane(regions, plane, ONE + 1 - least);
      const rest = regions.make();
      regions.not(rest, covered);
      regions.release(covered);
      return rest;
    },
    radius,
  );

/** Writes into the job at hand: one level's bits (`at`, rows `stride` bytes) join a mask's tile. */
export function writeLevel(workforce: Workforce, tile: number, at: number, stride: number): void {
  workforce.write(TAPE.raiseBits, tile, at, stride, SHARE);
}

/** Writes a tile of a mask into the job at hand: the mean of all levels' bits. */
export function writeMean(
  regions: Regions,
  made: readonly Bits[],
  key: number,
  tile: number,
): void {
  const { workforce } = regions.bench;
  workforce.write(TAPE.fill, tile, 0, 0, 0, 0);
  for (const bits of made)
    writeLevel(workforce, tile, regions.at(bits, tileColumn(key), tileRow(key)), regions.stride);
}
