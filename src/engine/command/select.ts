import { scaledChange, scaledShape } from "./scaled-regions";
import { defineCommand } from "./define";
import { z } from "zod";
import { MOST_BRIDGE, MOST_UNDER } from "../fill/region";
import { rewriteTiles, tilesWithBits } from "../fill/cover";
import {
  COLOUR,
  keptPlanes,
  layerId,
  newId,
  layerName,
  type Picture,
  SELECTION,
} from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { type Bits, type Regions } from "../region/regions";
import { borders, openBits } from "../region/source";
import { shapeOf, shapeWays } from "../select/shape-of";
import { shapeTiles } from "../select/shape-tiles";
import { ellipseIn, type Polygon } from "../select/shapes";
import { grownBy, softened } from "../select/change";
import { ONE, TILE_BYTES, tileKey } from "../tiles/layout";
import { JOIN, TAPE, THROUGH } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { boxSchema } from "../transform/warp";
import { paintScene } from "../scene/passes";
import { MOST_SOLIDS, solidId } from "../scene/solid";
import { type Applying } from "./command";
import { finderFor, readingSchema, withRegions, withSource } from "./fill";
import { transformPlanes } from "./transform";

const place = z.number().min(-20_000).max(20_000);
const point = z.tuple([place, place]);

/** How what is newly selected joins what was. */
const ways = ["replace", "add", "take away", "intersect"] as const;
export type Joining = (typeof ways)[number];

const shapeSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("all") }),
  z.strictObject({ kind: z.literal("box"), box: boxSchema }),
  z.strictObject({ kind: z.literal("ellipse"), box: boxSchema }),
  z.strictObject({ kind: z.literal("polygon"), points: z.array(point).min(3).max(20_000) }),
  readingSchema
    .extend({
      kind: z.literal("region"),
      layer: layerId,
      at: point,
      bridge: z.number().min(0).max(MOST_BRIDGE).default(0),
      /** Goes on under the lines by this many px, to their middle at most. */
      under: z.int().min(0).max(MOST_UNDER).default(0),
    })
    .strict(),
  z.strictObject({
    kind: z.literal("colour"),
    layer: layerId,
    at: point,
    borders: z.enum(borders).default("all"),
    tolerance: z.number().min(0).max(1).default(0.1),
  }),
  /** What a layer holds: its shape, or how light or dark it is. */
  z.strictObject({
    kind: z.literal("layer"),
    layer: layerId,
    by: z.enum(shapeWays).default("shape"),
  }),
  z.strictObject({ kind: z.literal("kept"), id: layerId }),
  /** Where solids of the scene are seen. */
  z.strictObject({ kind: z.literal("solids"), ids: z.array(solidId).min(1).max(MOST_SOLIDS) }),
]);

export const selectSchema = z.strictObject({
  do: z.literal("select"),
  how: z.enum(ways).default("replace"),
  shape: shapeSchema,
});

const px = z.number().min(0.5).max(128);
export const changeSelectionSchema = z.strictObject({
  do: z.literal("select.change"),
  change: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("grow"), by: px }),
    z.strictObject({ kind: z.literal("shrink"), by: px }),
    z.strictObject({ kind: z.literal("border"), by: px }),
    z.strictObject({ kind: z.literal("feather"), by: px }),
    z.strictObject({ kind: z.literal("smooth"), by: px }),
    z.strictObject({ kind: z.literal("invert") }),
    z.strictObject({ kind: z.literal("move"), x: z.int(), y: z.int() }),
  ]),
});

export const noSelectionSchema = z.strictObject({ do: z.literal("select.none") });
export const keepSelectionSchema = z.strictObject({
  do: z.literal("select.keep"),
  id: newId,
  name: layerName,
});
export const forgetSelectionSchema = z.strictObject({
  do: z.literal("select.forget"),
  id: layerId,
});

const MOST_KEPT = 100;

function setSelection({ picture, setStructure }: Applying, selection: boolean): void {
  if (picture.structure.selection !== selection) setStructure({ ...picture.structure, selection });
}

/** Takes every tile of the selection away. */
function empty(applying: Applying): void {
  for (const key of [...applying.picture.plane(SELECTION).keys()])
    applying.swap(SELECTION, key, null);
}

/** The selection's tiles exchanged for ones that are written; there may be no selection yet. */
export function rewriteSelection(
  applying: Applying,
  keys: readonly number[],
  write: (key: number, address: number) => void,
): void {
  // It does not keep itself inside itself.
  setSelection(applying, false);
  rewriteTiles(applying, SELECTION, keys, write);
}

const everyTile = ({ words, tileRows }: Regions): number[] => {
  const keys: number[] = [];
  for (let row = 0; row < tileRows; row++)
    for (let column = 0; column < words; column++) keys.push(tileKey(column, row));
  return keys;
};

/** Selects, or changes what is selected by a shape. */
export function select(applying: Applying, command: z.infer<typeof selectSchema>): string {
  const { how } = command;
  const had = applying.picture.structure.selection;
  if (!had && how === "take away")
    throw new Refusal("nothing is selected that could be taken away");
  const joining: Joining = had ? how : how === "intersect" ? "replace" : how;
  withRegions(applying, (regions) => {
    const tiles = tilesOf(applying, regions, command.shape);
    try {
      joinSelection(applying, tiles, joining);
    } finally {
      for (const tile of tiles.values()) applying.bench.store.release(tile);
    }
  });
  setSelection(applying, true);
  if (applying.picture.plane(SELECTION).size === 0)
    throw new Refusal("nothing was selected: there is nothing like that here");
  return "select";
}

/** Tiles of a mask; who asked releases them. */
type Mask = Map<number, Tile>;

function tilesOf(applying: Applying, regions: Regions, shape: z.infer<typeof shapeSchema>): Mask {
  const { picture } = applying;
  const polygon = polygonOf(shape, picture);
  if (polygon) return shapeTiles(applying.bench.store, regions, polygon);
  switch (shape.kind) {
    case "region":
    case "colour":
      return bitTiles(applying, regions, bitsLike(picture, regions, shape));
    case "layer":
      picture.layer(shape.layer);
      return shapeOf(applying.bench, picture.plane(shape.layer), shape.by);
    case "kept": {
      if (!picture.structure.kept.some(({ id }) => id === shape.id))
        throw new Refusal(`there is no kept selection "${shape.id}"`);
      const { store } = applying.bench;
      const plane = picture.plane(keptPlanes(shape.id));
      return new Map([...plane].map(([key, tile]) => [key, store.retain(tile)]));
    }
    case "solids":
      return solidTiles(applying, new Set(shape.ids));
    default:
      return new Map();
  }
}

function polygonOf(shape: z.infer<typeof shapeSchema>, { width, height }: Picture): Polygon | null {
  if (shape.kind === "polygon") return shape.points;
  if (shape.kind === "ellipse") {
    const { left, top, right, bottom } = shape.box;
    return ellipseIn(left, top, right, bottom);
  }
  if (shape.kind !== "box" && shape.kind !== "all") return null;
  const { left, top, right, bottom } =
    shape.kind === "box" ? shape.box : { left: 0, top: 0, right: width, bottom: height };
  return [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom],
  ];
}

function solidTiles({ picture, bench, tell }: Applying, chosen: ReadonlySet<string>): Mask {
  const { width, height, structure } = picture;
  if (!structure.scene) throw new Refusal("the picture has no scene");
  const made = paintScene(bench.store, bench.workforce, structure.scene, {
    ...{ width, height, chosen, lineWidth: 1, ink: "#000000" },
    passes: ["chosen"],
    tell: (share) => tell("Looking for the solids", share),
  });
  return made.get("chosen") ?? new Map();
}

type Like = Extract<z.infer<typeof shapeSchema>, { kind: "region" | "colour" }>;

function bitsLike(picture: Picture, regions: Regions, shape: Like): Bits {
  const [x, y] = [Math.floor(shape.at[0]), Math.floor(shape.at[1])];
  if (!regions.isInside(x, y)) throw new Refusal("nothing was selected: that is beside the sheet");
  picture.layer(shape.layer);
  return withSource(regions, picture, shape.borders, shape.layer, (source) => {
    const seed = source.colourAt(x, y);
    if (shape.kind === "region") {
      const finder = finderFor(regions, source, seed, shape.tolerance);
      const found = finder.at(x, y, shape.bridge);
      if (!found) throw new Refusal("nothing was selected");
      finder.under(found, shape.under);
      return found.bits;
    }
    return openBits(regions, source, seed, shape.tolerance);
  });
}

function bitTiles({ bench }: Applying, regions: Regions, bits: Bits): Mask {
  const { store, workforce } = bench;
  const made: Mask = new Map();
  for (const key of tilesWithBits(regions, bits)) {
    const tile = store.create();
    made.set(key, tile);
    const at = regions.at(bits, key & 255, key >> 8);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(TAPE.fill, tile.address, 0, 0, 0, 0);
    workforce.write(TAPE.layBits, tile.address, at, regions.stride, THROUGH.cover, 0, 0, 0);
    workforce.endJob();
  }
  workforce.run(true);
  for (const tile of made.values()) store.settle(tile);
  return made;
}

/** Joins a mask with the selection. */
function joinSelection(applying: Applying, mask: Mask, how: Joining): void {
  const { picture, bench } = applying;
  const { store, workforce } = bench;
  const plane = picture.plane(SELECTION);
  if (how === "replace") {
    empty(applying);
    for (const [key, tile] of mask) applying.swap(SELECTION, key, store.retain(tile));
    return;
  }
  const join = how === "add" ? JOIN.or : how === "intersect" ? JOIN.and : JOIN.andNot;
  const keys = how === "intersect" ? [...plane.keys()] : [...mask.keys()];
  rewriteSelection(applying, keys, (key, address) => {
    const other = mask.get(key);
    const from = other ? store.address(other) : store.nothing;
    workforce.write(TAPE.joinMasks, address, from, join);
  });
}

/** Grows, shrinks, softens, turns round or moves what is selected. */
export function changeSelection(
  applying: Applying,
  { change }: z.infer<typeof changeSelectionSchema>,
): string {
  const { picture, bench } = applying;
  if (!picture.structure.selection) throw new Refusal("nothing is selected");
  const { workforce, store } = bench;
  if (change.kind === "move") {
    const matrix = [1, 0, change.x, 0, 1, change.y, 0, 0, 1];
    transformPlanes(applying, SELECTION, { warp: { kind: "matrix", matrix } });
  } else if (change.kind === "feather") softened(applying, change.by, false);
  else if (change.kind === "smooth") softened(applying, change.by, true);
  else
    withRegions(applying, (regions) => {
      if (change.kind === "invert") {
        const full = store.plain([0, 0, 0, ONE]);
        const whole = store.address(full);
        rewriteSelection(applying, everyTile(regions), (key, address) => {
          const own = picture.plane(SELECTION).get(key);
          if (own) workforce.write(TAPE.holdBack, address, whole, store.address(own), 1);
          else workforce.write(TAPE.copy, address, whole, TILE_BYTES);
        });
        store.release(full);
        return;
      }
      grownBy(applying, regions, change.kind, change.by);
    });
  setSelection(applying, true);
  if (picture.plane(SELECTION).size === 0) throw new Refusal("nothing would be left selected");
  return `${change.kind} the selection`;
}

/** Nothing is selected any more: changes go anywhere. */
export function selectNone(applying: Applying): string {
  if (!applying.picture.structure.selection) throw new Refusal("nothing is selected");
  empty(applying);
  setSelection(applying, false);
  return "select nothing";
}

/** Keeps the selection under a name, to be had again. */
export function keepSelection(
  applying: Applying,
  { id, name }: z.infer<typeof keepSelectionSchema>,
): string {
  const { picture, bench } = applying;
  const { structure } = picture;
  if (!structure.selection) throw new Refusal("nothing is selected that could be kept");
  if (structure.kept.some((other) => other.id === id))
    throw new Refusal(`there is already a kept selection "${id}"`);
  if (structure.kept.length >= MOST_KEPT)
    throw new Refusal(`a picture keeps at most ${MOST_KEPT} selections`);
  for (const [key, tile] of picture.plane(SELECTION))
    applying.swap(keptPlanes(id), key, bench.store.retain(tile), COLOUR);
  applying.setStructure({ ...structure, kept: [...structure.kept, { id, name }] });
  return "keep the selection";
}

export function forgetSelection(
  applying: Applying,
  { id }: z.infer<typeof forgetSelectionSchema>,
): string {
  const { picture } = applying;
  const { structure } = picture;
  if (!structure.kept.some((other) => other.id === id))
    throw new Refusal(`there is no kept selection "${id}"`);
  for (const key of [...picture.plane(keptPlanes(id)).keys()])
    applying.swap(keptPlanes(id), key, null);
  applying.setStructure({
    ...structure,
    kept: structure.kept.filter((other) => other.id !== id),
  });
  return "forget a kept selection";
}

export const selectCommands = [
  defineCommand({
    schema: selectSchema,
    apply: select,
    scaled: (command, by) => ({ ...command, shape: scaledShape(command.shape, by) }),
  }),
  defineCommand({
    schema: changeSelectionSchema,
    apply: changeSelection,
    scaled: (command, by) => ({ ...command, change: scaledChange(command.change, by) }),
  }),
  defineCommand({ schema: noSelectionSchema, apply: selectNone }),
  defineCommand({ schema: keepSelectionSchema, apply: keepSelection }),
  defineCommand({ schema: forgetSelectionSchema, apply: forgetSelection }),
] as const;
