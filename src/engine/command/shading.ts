import { defineCommand } from "./define";
import { z } from "zod";
import { blurPlane } from "../adjust/blur";
import { hexColour, hexToQ15 } from "../colour/srgb";
import { tilesWithBits } from "../fill/cover";
import { type Layer, layerId, newId, layerName, newLayer, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { bitsOfPlane } from "../region/bits-of";
import { type Regions } from "../region/regions";
import { grownRest, writeMean } from "../region/soft-growth";
import { ONE, TILE_SIDE } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { type Applying } from "./command";
import { withRegions } from "./fill";
import { withLayers } from "./layers";

/** Widest band and widest fade, px. */
const MOST_BAND = 128;
const MOST_SOFT = 64;

/** An even rim cut along the inner edge of what a layer holds, on a layer of its own above it. */
export const edgeBandSchema = z.strictObject({
  do: z.literal("edge.band"),
  layer: layerId,
  id: newId,
  name: layerName,
  width: z.number().min(1).max(MOST_BAND),
  /** How far its inner side fades, px. */
  soft: z.number().min(0).max(MOST_SOFT).default(0),
  colour: hexColour,
});

/** What a layer holds in even steps of strength, from one softly painted area. */
export const shadeStepsSchema = z.strictObject({
  do: z.literal("shade.steps"),
  layer: layerId,
  steps: z.int().min(1).max(8),
});

/**
 * A new layer clipped to one that holds paint, and just above it.
 * @throws Refusal where the one below holds none, or the new one's id is taken
 */
export function addClipped(
  applying: Applying,
  { layer: source, id, name }: { layer: string; id: string; name: string },
): Layer {
  const { picture } = applying;
  const { layers } = picture.structure;
  if (layers.some((layer) => layer.id === id))
    throw new Refusal(`there is already a layer "${id}"`);
  const below = picture.layer(source);
  if (below.kind !== "paint") throw new Refusal(`“${below.name}” holds no paint.`);
  const made: Layer = { ...newLayer(id, name), group: below.group, clip: true };
  const place = picture.indexOf(source) + 1;
  withLayers(applying, [...layers.slice(0, place), made, ...layers.slice(place)]);
  return below;
}

export function edgeBand(applying: Applying, command: z.infer<typeof edgeBandSchema>): string {
  const { picture, bench } = applying;
  const { id, layer: source, colour } = command;
  const below = addClipped(applying, command);
  const plane = picture.plane(source);
  const hard = withRegions(applying, (regions) => bandTiles(applying, regions, command));
  const soft =
    command.soft > 0 ? blurPlane(bench, picture, hard, command.soft) : new Map<number, Tile>();
  const band = command.soft > 0 ? soft : hard;
  const { store } = bench;
  const [r, g, b] = hexToQ15(colour);
  for (const [key, tile] of band) {
    const shape = plane.get(key);
    if (!shape) continue;
    const kept = store.create();
    store.kernels.holdBack(kept.address, store.address(tile), store.address(shape), 0);
    bench.workforce.beginJob();
    bench.workforce.write(TAPE.colourMask, kept.address, r, g, b);
    bench.workforce.endJob();
    bench.workforce.run(false);
    store.settle(kept);
    if (store.isEmpty(kept)) store.release(kept);
    else applying.swap(id, key, kept);
  }
  for (const tiles of [hard, soft]) for (const tile of tiles.values()) store.release(tile);
  if (picture.plane(id).size === 0)
    throw new Refusal(`“${below.name}” holds nothing that a band could run along.`);
  return "edge band";
}

/** The band as a mask: what lies within its width of the outside. */
function bandTiles(
  { picture, bench }: Applying,
  regions: Regions,
  { layer, width }: z.infer<typeof edgeBandSchema>,
): Map<number, Tile> {
  const { store, workforce } = bench;
  const plane = picture.plane(layer);
  const shape = bitsOfPlane(regions, plane, 1);
  // Outside of the shape it goes on, so that blurring does not pale its outer side.
  const grown = grownRest(regions, plane, width);
  const made = new Map<number, Tile>();
  const near = regions.make();
  regions.grow(near, shape, 2);
  for (const key of tilesWithBits(regions, near)) {
    const tile = store.create();
    made.set(key, tile);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    writeMean(regions, grown, key, tile.address);
    workforce.endJob();
  }
  workforce.run(true);
  return made;
}

/** Between two steps alpha goes from one to the next over this share of a step. */
const STEEP = 10;

export function shadeSteps(applying: Applying, command: z.infer<typeof shadeStepsSchema>): string {
  const { picture, bench } = applying;
  const { steps } = command;
  const { id } = workableLayer(picture, command.layer);
  const { store } = bench;
  const plane = picture.plane(id);
  if (plane.size === 0) throw new Refusal("This layer is empty, so there is nothing to step.");
  for (const [key, tile] of [...plane]) {
    if (tile.colour?.[3] === ONE) continue;
    const made = store.copy(tile);
    const at = store.address(made) >> 1;
    const { u16 } = store.heap;
    for (let y = 0; y < TILE_SIDE; y++)
      for (let x = 0; x < TILE_SIDE; x++) {
        const pixel = at + y * 256 + (x >> 3) * 32 + (x & 7);
        const a = u16[pixel + 24] as number;
        if (a === 0) continue;
        const next = stepped(a / ONE, steps) * ONE;
        for (let c = 0; c < 24; c += 8)
          u16[pixel + c] = Math.min(next, Math.round(((u16[pixel + c] as number) * next) / a));
        u16[pixel + 24] = Math.round(next);
      }
    store.settle(made);
    if (!store.isEmpty(made)) applying.swap(id, key, made);
    else {
      store.release(made);
      applying.swap(id, key, null);
    }
  }
  return "shade in steps";
}

/** A strength 0…1 in even steps, with edges a little soft. */
function stepped(strength: number, steps: number): number {
  const at = strength * steps;
  const step = Math.min(steps - 1, Math.floor(at));
  const between = Math.min(1, Math.max(0, (at - step - 0.5) * STEEP + 0.5));
  return (step + between) / steps;
}

export const shadingCommands = [
  defineCommand({
    schema: edgeBandSchema,
    apply: edgeBand,
    scaled: (command, by) => ({
      ...command,
      width: Math.min(MOST_BAND, Math.max(1, command.width * by)),
      soft: Math.min(MOST_SOFT, command.soft * by),
    }),
  }),
  defineCommand({ schema: shadeStepsSchema, apply: shadeSteps }),
] as const;
