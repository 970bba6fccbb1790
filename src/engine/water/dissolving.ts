import { hexToRgb } from "../colour/oklch";
import { COLOUR, isFluid, type Picture, POWDER } from "../picture/picture";
import { type Bench } from "../bench";
import { type StrokeStart, type StrokeTile } from "../stroke/stroker";
import { realWord, TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { mixedPaint, nearestPair, nearestPaint, washPaint } from "./paints";
import { MOST_DISSOLVING, MOST_PAINTS, type WashPaint } from "./wash-state";

/** What a whole pass of a wet brush takes up of what can dissolve; one with little water in it takes less. */
const TAKES_UP = 0.7;
/** Threads are woken for more tiles than this. */
const TOGETHER_FROM = 3;
/** Films of water from which on it takes all of that. */
const WET_ENOUGH = 0.5;

/** The share of what can dissolve that a whole pass of a brush takes up. `water`: films that it lays. */
export const takesUp = (water: number): number => TAKES_UP * Math.min(1, water / WET_ENOUGH);

/** Paints that a layer's dry marks dissolve into, with one more: too many, and the nearest two are taken for one. */
export function withDissolving(known: WashPaint[], paint: WashPaint): WashPaint[] {
  if (known.some(({ colour }) => colour === paint.colour)) return known;
  const all = [...known, paint];
  if (all.length <= MOST_DISSOLVING) return all;
  const [into, gone] = nearestPair(all);
  const both = mixedPaint(all[into] as WashPaint, all[gone] as WashPaint, 0.5);
  return all.with(into, both).filter((_, i) => i !== gone);
}

/** Where paints that dissolve go among those of a wash: into their own where there is room for them, else into the nearest. */
export function placesIn(
  paints: readonly WashPaint[],
  dissolving: readonly WashPaint[],
): { paints: readonly WashPaint[]; slots: readonly number[] } {
  const all = [...paints];
  const slots = dissolving.map((paint) => {
    const own = all.findIndex(({ colour }) => colour === paint.colour);
    if (own >= 0) return own;
    if (all.length < MOST_PAINTS) return all.push(paint) - 1;
    return nearestPaint(all, paint.colour);
  });
  return { paints: all, slots };
}

/** Slots as the kernels read them: see `dissolve` in `kernels/water/dissolve.ts`. */
export const slotWord = (slots: readonly number[]): number =>
  slots.reduce((word, slot, i) => word | (slot << (4 + 4 * i)), slots.length);

/** Whether a stroke leaves what water takes up again: paint on a layer of paint, not on a mask or a film. */
export const laysSoluble = (
  picture: Picture,
  { layer, brush, mode, plane }: StrokeStart,
): boolean =>
  (brush.dissolves ?? 0) > 0 &&
  mode === "paint" &&
  plane === COLOUR &&
  picture.structure.layers.some((one) => one.id === layer && one.kind === "paint" && !isFluid(one));

/** Paints of a layer's dry marks after a stroke in another colour. */
export const dissolvingAfter = (picture: Picture, { layer, colour }: StrokeStart): WashPaint[] =>
  withDissolving(picture.layer(layer).dissolves ?? [], washPaint(picture, colour));

/** A stroke's tiles, with what water takes up again noted in their powder. */
export function withSoluble(
  bench: Bench,
  picture: Picture,
  { layer, brush, colour }: StrokeStart,
  tiles: readonly StrokeTile[],
): StrokeTile[] {
  const { store, workforce } = bench;
  const rgb = hexToRgb(colour).map(realWord);
  const dust = new Map(tiles.filter(({ plane }) => plane === POWDER).map((t) => [t.key, t]));
  const colours = tiles.filter(({ plane }) => plane === COLOUR);
  const address = (tile: Tile | null): number => (tile ? store.address(tile) : store.nothing);
  const marked = colours.map(({ key, before, after }): StrokeTile => {
    const laid = dust.get(key);
    const was = laid?.before ?? picture.plane(layer, POWDER).get(key) ?? null;
    const is = store.create();
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(
      ...[TAPE.markSoluble, is.address, address(laid?.after ?? was), address(after)],
      ...[address(before), ...rgb, realWord(brush.dissolves ?? 0)],
    );
    workforce.endJob();
    return { plane: POWDER, key, before: was, after: is };
  });
  workforce.run(colours.length > TOGETHER_FROM);
  for (const { after } of marked) store.settle(after);
  const keys = new Set(colours.map(({ key }) => key));
  for (const { key, after } of dust.values()) if (keys.has(key)) store.release(after);
  return [...tiles.filter(({ plane, key }) => plane !== POWDER || !keys.has(key)), ...marked];
}
