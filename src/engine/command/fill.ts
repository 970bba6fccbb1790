import { scaledBridge, scaledFill, scaledLoop } from "./scaled-regions";
import { defineCommand } from "./define";
import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { cover, type Through, rewriteTiles } from "../fill/cover";
import { cutIntoRegions, flatColours } from "../fill/flats";
import { MOST_BRIDGE, MOST_UNDER, RegionFinder } from "../fill/region";
import {
  type Layer,
  layerId,
  newId,
  layerName,
  type Picture,
  workableLayer,
} from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { bitsOfPlane } from "../region/bits-of";
import { type Bits, Regions } from "../region/regions";
import { borders, Open, openBits, type Source, sourceOf } from "../region/source";
import { shapeTiles } from "../select/shape-tiles";
import { ONE, tileKey } from "../tiles/layout";
import { softMouths } from "../fill/mouths";
import { TAPE } from "../tiles/tape";
import { type Q15Colour, type Tile, type TileStore } from "../tiles/tile-store";
import { type Applying } from "./command";
import { addLayer, addSchema } from "./layers";

const pixel = z.tuple([z.number().min(-20_000).max(20_000), z.number().min(-20_000).max(20_000)]);

/** How borders are read: the same for every fill, and for regions that are selected. */
export const readingSchema = z.strictObject({
  /** Borders are looked for on the layer itself, on the line source, or in all that is seen. */
  borders: z.enum(borders).default("all"),
  /** How far a colour may lie from the one pressed on (ΔE in OKLab). */
  tolerance: z.number().min(0).max(1).default(0.2),
  /** Gaps up to this width are closed, px. */
  bridge: z.number().min(0).max(MOST_BRIDGE).default(0),
});
export type Reading = z.infer<typeof readingSchema>;

const layingSchema = readingSchema.extend({
  layer: layerId,
  colour: hexColour,
  /** Goes on under the lines by this many px, to their middle at most. */
  under: z.int().min(0).max(MOST_UNDER).default(6),
});

export const fillSchema = layingSchema
  .extend({
    do: z.literal("fill"),
    /** Each point's region is filled. */
    at: z.array(pixel).min(1).max(1000),
  })
  .strict();

export const fillLoopSchema = layingSchema
  .extend({
    do: z.literal("fill.loop"),
    loop: z.array(pixel).min(3).max(20_000),
    /** All that lies in the loop, or every closed region that lies wholly in it. */
    what: z.enum(["inside", "regions"]).default("inside"),
  })
  .strict();

export const flatsSchema = readingSchema
  .extend({
    do: z.literal("flats"),
    /** The new layer. */
    id: newId,
    name: layerName,
    above: layerId.nullable(),
    hues: z.int().min(1).max(24).default(7),
    /** Leaves the region around the figure bare. */
    bare: z.boolean().default(true),
  })
  .strict();

type Laying = z.infer<typeof layingSchema>;

/** Runs an act with a sheet's bit pictures, and gives their memory back. */
export function withRegions<T>(
  { picture, bench }: Pick<Applying, "picture" | "bench">,
  act: (regions: Regions) => T,
): T {
  const regions = new Regions(bench, picture.width, picture.height);
  try {
    return act(regions);
  } finally {
    regions.free();
  }
}

/** Runs an act with what borders are read from. */
export function withSource<T>(
  regions: Regions,
  picture: Picture,
  from: Reading["borders"],
  layer: string,
  act: (source: Source) => T,
): T {
  const source = sourceOf(regions, picture, from, layer);
  try {
    return act(source);
  } finally {
    source.free();
  }
}

/** A finder for the regions around pixels that look like one. */
export function finderFor(
  regions: Regions,
  source: Source,
  seed: Q15Colour,
  tolerance: number,
): RegionFinder {
  return new RegionFinder(regions, new Open(regions, source, seed, tolerance));
}

/** Fills the regions around points: tap on one, or drag across several. */
export function fill(applying: Applying, command: z.infer<typeof fillSchema>): string {
  const { picture } = applying;
  const layer = workableLayer(picture, command.layer);
  withRegions(applying, (regions) =>
    withSource(regions, picture, command.borders, layer.id, (source) => {
      const points = command.at
        .map(([x, y]): [number, number] => [Math.floor(x), Math.floor(y)])
        .filter(([x, y]) => regions.isInside(x, y));
      if (points.length === 0)
        throw new Refusal("Nothing was filled. That spot is outside the sheet.");
      const all = regions.make();
      const finders = new Map<string, RegionFinder>();
      let found = 0;
      let through: Through = "cover";
      for (const [x, y] of points) {
        if (regions.has(all, x, y)) continue;
        const seed = source.colourAt(x, y);
        const name = seed.join(" ");
        let finder = finders.get(name);
        if (!finder)
          finders.set(name, (finder = finderFor(regions, source, seed, command.tolerance)));
        const region = finder.at(x, y, command.bridge);
        if (!region) continue;
        found++;
        through = throughFor(layer, command, seed);
        if (through !== "cover" || !isOwn(layer, command)) finder.under(region, command.under);
        regions.join(all, "or", region.bits);
      }
      if (found === 0)
        throw new Refusal("Nothing was filled. That spot lies on a line; tap beside it.");
      const last = [...finders.values()].at(-1);
      const masks =
        command.bridge > 0 && last ? softMouths(regions, last.open, all) : new Map<number, Tile>();
      cover(applying, regions, all, layer.id, command.colour, through, masks);
      releaseAll(applying.bench.store, masks);
    }),
  );
  return "fill";
}

/** Whether a fill lies on the very layer whose marks are its borders. */
const isOwn = (layer: Layer, { borders: from }: Laying): boolean =>
  from === "layer" || (from === "lines" && layer.lines);

/** On its own lines' layer a fill goes behind them; over a flat it takes the flat's place. */
function throughFor(layer: Layer, command: Laying, seed: Q15Colour): Through {
  if (layer.lockTransparency) return "inside";
  return isOwn(layer, command) && seed[3] < ONE / 2 ? "behind" : "cover";
}

/** Fills what a loop holds. */
export function fillLoop(applying: Applying, command: z.infer<typeof fillLoopSchema>): string {
  const { picture } = applying;
  const layer = workableLayer(picture, command.layer);
  withRegions(applying, (regions) => {
    const { store } = applying.bench;
    const mask = shapeTiles(store, regions, command.loop);
    if (mask.size === 0) throw new Refusal("Nothing was filled. The loop holds no pixel.");
    if (command.what === "inside") {
      // Every pixel that the loop touches, and of those on its edge as much as it covers.
      const touched = bitsOfPlane(regions, mask, 1);
      const through = layer.lockTransparency ? "inside" : "cover";
      cover(applying, regions, touched, layer.id, command.colour, through, mask);
      releaseAll(store, mask);
      return;
    }
    const loop = bitsOfPlane(regions, mask);
    releaseAll(store, mask);
    withSource(regions, picture, command.borders, layer.id, (source) => {
      const seed = firstInside(regions, source, command.loop);
      const finder = finderFor(regions, source, seed, command.tolerance);
      const region = finder.closedIn(loop, command.bridge);
      if (region.area === 0)
        throw new Refusal("Nothing was filled. No closed region lies wholly in the loop.");
      finder.under(region, command.under);
      const through = throughFor(layer, command, seed);
      cover(applying, regions, region.bits, layer.id, command.colour, through);
    });
  });
  return command.what === "inside" ? "fill the loop" : "fill the regions";
}

function releaseAll(store: TileStore, tiles: Map<number, Tile>): void {
  for (const tile of tiles.values()) store.release(tile);
}

function firstInside(
  regions: Regions,
  source: Source,
  loop: readonly (readonly [number, number])[],
): Q15Colour {
  const first = loop.find(([x, y]) => regions.isInside(Math.floor(x), Math.floor(y)));
  if (!first) return [0, 0, 0, 0];
  return source.colourAt(Math.floor(first[0]), Math.floor(first[1]));
}

/** Columns and rows at which the most common colour of a line drawing is looked for. */
const LOOKED_AT = 48;

/** What a drawing has between its lines: the colour that is met most often. */
export function paperColour(regions: Regions, source: Source): Q15Colour {
  const met = new Map<string, { colour: Q15Colour; times: number }>();
  for (let j = 0; j < LOOKED_AT; j++)
    for (let i = 0; i < LOOKED_AT; i++) {
      const x = Math.floor(((i + 0.5) * regions.width) / LOOKED_AT);
      const y = Math.floor(((j + 0.5) * regions.height) / LOOKED_AT);
      const colour = source.colourAt(x, y);
      const known = met.get(colour.join(" "));
      if (known) known.times++;
      else met.set(colour.join(" "), { colour, times: 1 });
    }
  const most = [...met.values()].sort((a, b) => b.times - a.times)[0];
  return most?.colour ?? [0, 0, 0, 0];
}

/** From the line source to a layer of flats: every closed region in a colour of its own. */
export function layFlats(applying: Applying, command: z.infer<typeof flatsSchema>): string {
  const { bench } = applying;
  const { id, name, above } = command;
  withRegions(applying, (regions) => {
    const open = openOf(applying, regions, command);
    const cut = cutIntoRegions(regions, open, command.bridge, (share) =>
      applying.tell("Laying flats", 0.1 + share * 0.8),
    );
    const colours = flatColours(cut, command.hues);
    if (command.bare && cut.outside > 0) colours.fill(0, cut.outside * 4, cut.outside * 4 + 4);
    if (colours.every((v) => v === 0))
      throw new Refusal("no flats were laid: the lines close nothing in. Try a wider bridge");
    addLayer(applying, addSchema.parse({ do: "layer.add", id, name, above }));
    const palette = regions.room(colours.length * 2);
    bench.store.heap.u16.set(colours, palette >> 1);
    const keys: number[] = [];
    for (let row = 0; row < regions.tileRows; row++)
      for (let column = 0; column < regions.words; column++) keys.push(tileKey(column, row));
    const stride = cut.pitch * 2;
    rewriteTiles(applying, id, keys, (key, address) =>
      bench.workforce.write(
        TAPE.layLabels,
        address,
        cut.labels + (key >> 8) * 64 * stride + (key & 255) * 128,
        stride,
        palette,
      ),
    );
    applying.tell("Laying flats", 1);
  });
  return "lay flats";
}

function openOf({ picture, tell }: Applying, regions: Regions, command: Reading): Bits {
  const layer = picture.structure.layers.at(-1)?.id ?? "";
  return withSource(regions, picture, command.borders, layer, (source) => {
    const open = openBits(regions, source, paperColour(regions, source), command.tolerance);
    tell("Laying flats", 0.1);
    return open;
  });
}

export const fillCommands = [
  defineCommand({ schema: fillSchema, apply: fill, scaled: scaledFill }),
  defineCommand({ schema: fillLoopSchema, apply: fillLoop, scaled: scaledLoop }),
  defineCommand({
    schema: flatsSchema,
    apply: layFlats,
    scaled: (command, by) => ({ ...command, bridge: scaledBridge(command.bridge, by) }),
  }),
] as const;
