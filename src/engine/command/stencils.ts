import { defineCommand } from "./define";
import { z } from "zod";
import { fromBase64 } from "../file/base64";
import { ontoTiles } from "../file/onto-tiles";
import { readDeepPng } from "../file/png";
import {
  layerId,
  newId,
  type Picture,
  PLACED,
  type Plane,
  SELECTION,
  STENCILS,
  stencilPlanes,
} from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { isWhole } from "../select/inside";
import { shapeOf, shapeWays } from "../select/shape-of";
import {
  MOST_STENCILS,
  type Stencil,
  stencilName,
  stencilProperties,
  stencilWays,
} from "../stencil/stencil";
import { ONE, tilesIn } from "../tiles/layout";
import { JOIN, TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { contentBox } from "../transform/bounds";
import { atRest, freeMatrix } from "../transform/free";
import { originsOf } from "../transform/origins";
import { resample } from "../transform/resample";
import { type Warp, warpedBox } from "../transform/warp";
import { type Applying } from "./command";
import { MOST_BASE64, refuseScaled } from "./place";

export const addStencilSchema = z.strictObject({
  do: z.literal("stencil.add"),
  id: newId,
  name: stencilName,
  way: z.enum(stencilWays).default("holds"),
  from: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("selection") }),
    z.strictObject({
      kind: z.literal("layer"),
      layer: layerId,
      by: z.enum(shapeWays).default("shape"),
    }),
    /** A PNG, base64, in the middle of the sheet. */
    z.strictObject({
      kind: z.literal("picture"),
      png: z.base64().max(MOST_BASE64),
      by: z.enum(shapeWays).default("dark"),
    }),
  ]),
});

export const setStencilsSchema = z.strictObject({
  do: z.literal("stencil.set"),
  ids: z.array(layerId).min(1).max(MOST_STENCILS),
  changes: stencilProperties.partial(),
});

type SetStencils = z.infer<typeof setStencilsSchema>;

export const removeStencilSchema = z.strictObject({ do: z.literal("stencil.remove"), id: layerId });

function stencilOf({ structure }: Picture, id: string): Stencil {
  const found = structure.stencils.find((stencil) => stencil.id === id);
  if (!found) throw new Refusal(`there is no stencil "${id}"`);
  return found;
}

/** Cuts a stencil: it lies on the sheet, where its shape was found. */
export function addStencil(
  applying: Applying,
  { id, name, way, from }: z.infer<typeof addStencilSchema>,
): string {
  const { picture, bench } = applying;
  const { structure } = picture;
  if (structure.stencils.some((other) => other.id === id))
    throw new Refusal(`there is already a stencil "${id}"`);
  if (structure.stencils.length >= MOST_STENCILS)
    throw new Refusal(`a picture has at most ${MOST_STENCILS} stencils`);
  const shape = cut(applying, from);
  const box = contentBox(bench.store, shape);
  if (!box) {
    for (const tile of shape.values()) bench.store.release(tile);
    throw new Refusal("nothing was cut: there is no shape in that");
  }
  for (const [key, tile] of shape) {
    applying.swap(stencilPlanes(id), key, bench.store.retain(tile), PLACED);
    applying.swap(stencilPlanes(id), key, tile);
  }
  const made: Stencil = { id, name, way, on: true, place: atRest(box), from: box };
  lay(applying, [...structure.stencils, made]);
  return "cut a stencil";
}

function cut(
  { picture, bench }: Applying,
  from: z.infer<typeof addStencilSchema>["from"],
): Map<number, Tile> {
  if (from.kind === "selection") {
    if (!picture.structure.selection) throw new Refusal("nothing is selected");
    const { store } = bench;
    return new Map(
      [...picture.plane(SELECTION)].map(([key, tile]) => [key, store.retain(tile)] as const),
    );
  }
  if (from.kind === "layer") {
    picture.layer(from.layer);
    return shapeOf(bench, picture.plane(from.layer), from.by);
  }
  const image = readDeepPng(fromBase64(from.png));
  const { width, height } = picture;
  const x = Math.floor((width - image.width) / 2);
  const y = Math.floor((height - image.height) / 2);
  const nothing: Plane = new Map();
  const paint = new Map(ontoTiles(bench.store, image, { x, y, width, height }, nothing));
  const shape = shapeOf(bench, paint, from.by);
  for (const tile of paint.values()) bench.store.release(tile);
  return shape;
}

/** Changes stencils: lays them on the sheet or puts them by, moves them, turns hole into card. */
export function setStencils(applying: Applying, { ids, changes }: SetStencils): string {
  const { picture } = applying;
  for (const id of ids) stencilOf(picture, id);
  const chosen = new Set(ids);
  const next = picture.structure.stencils.map((stencil) =>
    chosen.has(stencil.id) ? { ...stencil, ...changes } : stencil,
  );
  if (changes.place)
    for (const stencil of next) if (chosen.has(stencil.id)) putInPlace(applying, stencil);
  lay(applying, next);
  if (changes.place) return "move a stencil";
  if (changes.on !== undefined) return changes.on ? "lay stencils" : "put stencils by";
  return "change a stencil";
}

export function removeStencil(
  applying: Applying,
  { id }: z.infer<typeof removeStencilSchema>,
): string {
  const { picture } = applying;
  stencilOf(picture, id);
  const planes = stencilPlanes(id);
  for (const [name, plane] of picture.planesOf(planes))
    for (const key of [...plane.keys()]) applying.swap(planes, key, null, name);
  lay(
    applying,
    picture.structure.stencils.filter((stencil) => stencil.id !== id),
  );
  return "throw a stencil away";
}

/** Resamples a stencil's shape, as it was cut, to where it lies now: it never wears out. */
function putInPlace(applying: Applying, { id, from, place }: Stencil): void {
  const { picture, bench } = applying;
  const { width, height } = picture;
  const planes = stencilPlanes(id);
  const warp: Warp = { kind: "matrix", matrix: [...freeMatrix(from, place)] };
  const target = warpedBox(warp, from);
  const left = new Set(picture.plane(planes, PLACED).keys());
  const origins = originsOf(warp, target);
  const source = picture.plane(planes);
  const rest: Plane = new Map();
  const filter = "bicubic";
  resample({ bench, source, rest, origins, target, filter, width, height }, (key, tile) => {
    if (!tile) return;
    left.delete(key);
    applying.swap(planes, key, tile, PLACED);
  });
  for (const key of left) applying.swap(planes, key, null, PLACED);
}

/** Puts all stencils where they are said to lie: the sheet is another one. */
export function layStencilsAnew(applying: Applying, stencils: readonly Stencil[]): void {
  for (const stencil of stencils) putInPlace(applying, stencil);
  lay(applying, stencils);
}

/** Notes the stencils, and what those on the sheet leave open together. */
function lay(applying: Applying, stencils: readonly Stencil[]): void {
  const { picture, bench } = applying;
  const { width, height } = picture;
  const lying = stencils.filter(({ on }) => on);
  const open = picture.plane(STENCILS);
  applying.setStructure({ ...picture.structure, stencils });
  const keys =
    lying.length === 0
      ? []
      : tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);
  const made = new Map<number, Tile>();
  const full = bench.store.plain([0, 0, 0, ONE]);
  for (const key of keys) {
    const tile = opening(applying, lying, key, full);
    if (tile) made.set(key, tile);
  }
  bench.workforce.run(true);
  bench.store.release(full);
  for (const key of [...open.keys()]) if (!made.has(key)) applying.swap(STENCILS, key, null);
  for (const [key, tile] of made) {
    bench.store.settle(tile);
    const known = open.get(key);
    if (known && isWhole(known) && isWhole(tile)) bench.store.release(tile);
    else applying.swap(STENCILS, key, tile);
  }
}

/** What stencils leave open of a tile; null: nothing. Written by the workforce when it runs. */
function opening(
  { picture, bench }: Applying,
  lying: readonly Stencil[],
  key: number,
  full: Tile,
): Tile | null {
  const { store, workforce } = bench;
  const shapes = lying.map(({ id, way }) => ({
    way,
    shape: picture.plane(stencilPlanes(id), PLACED).get(key),
  }));
  if (shapes.some(({ way, shape }) => way === "lets through" && !shape)) return null;
  if (shapes.every(({ shape }) => !shape)) return store.retain(full);
  const tile = store.create();
  if (workforce.isFull) workforce.run(true);
  workforce.beginJob();
  workforce.write(TAPE.fill, tile.address, 0, 0, 0, ONE);
  for (const { way, shape } of shapes) {
    if (!shape) continue;
    const how = way === "holds" ? JOIN.andNot : JOIN.and;
    workforce.write(TAPE.joinMasks, tile.address, store.address(shape), how);
  }
  workforce.endJob();
  return tile;
}

/** The same command on a sheet `by` times as large. */
function scaledStencil(command: SetStencils, by: number): SetStencils {
  const { place } = command.changes;
  if (!place) return command;
  const changes = { ...command.changes, place: { ...place, x: place.x * by, y: place.y * by } };
  return { ...command, changes };
}

export const stencilCommands = [
  defineCommand({
    schema: addStencilSchema,
    apply: addStencil,
    scaled: (command) => (command.from.kind === "picture" ? refuseScaled() : command),
  }),
  defineCommand({ schema: setStencilsSchema, apply: setStencils, scaled: scaledStencil }),
  defineCommand({ schema: removeStencilSchema, apply: removeStencil }),
] as const;
