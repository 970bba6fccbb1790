import { hasPixels, MOST_CONTOUR } from "../picture/picture";
import { scaledAdjustment } from "./adjust";
import { MOST_LAYER_RADIUS } from "../adjust/adjustment";
import { scaledPaint } from "../gradient/gradient";
import { scaledFringe } from "../fringe/fringe";
import { scaledHalftone } from "../halftone/halftone";
import { defineCommand } from "./define";
import { z } from "zod";
import { layerToneSchema } from "../adjust/adjustment";
import { groupsAround, within } from "../compose/tree";
import { paintSchema } from "../gradient/gradient";
import {
  layerId,
  newId,
  type Layer,
  layerKinds,
  layerName,
  layerProperties,
  MASK,
  MOST_LAYERS,
  newLayer,
  type Picture,
  type Plane,
  type PlaneName,
  SELECTION,
} from "../picture/picture";
import { rewriteTiles } from "../fill/cover";
import { Refusal } from "../picture/refusal";
import { clearLines } from "../lines/clear";
import { clearPieces } from "../strew/clear";
import { TAPE } from "../tiles/tape";
import { type Applying } from "./command";

/** `above`: the layer it goes on top of; null for the lowest place. */
const above = layerId.nullable();

export const addSchema = z.strictObject({
  do: z.literal("layer.add"),
  id: newId,
  name: layerName,
  above,
  kind: z.enum(layerKinds).default("paint"),
  /** The group that it lies in. */
  group: layerId.nullable().default(null),
  paint: paintSchema.nullable().default(null),
  tone: layerToneSchema.nullable().default(null),
});
export const removeSchema = z.strictObject({ do: z.literal("layer.remove"), id: layerId });
export const moveSchema = z.strictObject({
  do: z.literal("layer.move"),
  id: layerId,
  above,
  /** Into a group, or out of all (null); left out, it stays in its own. */
  group: layerId.nullable().optional(),
});
export const copySchema = z.strictObject({
  do: z.literal("layer.copy"),
  id: layerId,
  as: newId,
  name: layerName,
});
export const clearSchema = z.strictObject({
  do: z.literal("layer.clear"),
  id: layerId,
  /** What is not selected goes instead. */
  outside: z.boolean().optional(),
});
export const setSchema = layerProperties
  .partial()
  .extend({ do: z.literal("layer.set"), id: layerId })
  .strict();

export const groupSchema = z.strictObject({
  do: z.literal("layer.group"),
  id: newId,
  name: layerName,
  layers: z.array(layerId).min(1).max(500),
});
export const ungroupSchema = z.strictObject({ do: z.literal("layer.ungroup"), id: layerId });

export function withLayers(applying: Applying, layers: readonly Layer[]): void {
  applying.setStructure({ ...applying.picture.structure, layers });
}

function refuseKnown(picture: Picture, id: string): void {
  if (picture.structure.layers.some((layer) => layer.id === id))
    throw new Refusal(`there is already a layer "${id}"`);
  if (picture.structure.layers.length >= MOST_LAYERS)
    throw new Refusal(`a picture has at most ${MOST_LAYERS} layers`);
}

function inserted(layers: readonly Layer[], layer: Layer, place: number): Layer[] {
  return [...layers.slice(0, place), layer, ...layers.slice(place)];
}

/** Takes every tile of every plane away. */
function emptyLayer(applying: Applying, id: string): void {
  for (const [name, plane] of applying.picture.planesOf(id))
    for (const key of [...plane.keys()]) applying.swap(id, key, null, name);
}

/** Puts a new layer at a place of the stack, 0 at the bottom. @throws Refusal where its id is taken or they are too many */
export function putLayer(applying: Applying, layer: Layer, place: number): void {
  refuseKnown(applying.picture, layer.id);
  withLayers(applying, inserted(applying.picture.structure.layers, layer, place));
}

const placeAbove = (picture: Picture, id: string | null): number =>
  id === null ? 0 : picture.indexOf(id) + 1;

export function addLayer(applying: Applying, command: z.infer<typeof addSchema>): string {
  const { picture } = applying;
  const { id, name, kind, group, paint, tone } = command;
  if (group !== null) refuseNoGroup(picture, group);
  if (kind === "fill" && !paint) throw new Refusal("a fill needs a colour or a gradient");
  if (kind === "adjustment" && !tone)
    throw new Refusal("an adjustment needs to say what it changes");
  const made: Layer = { ...newLayer(id, name), kind, group, paint, tone };
  putLayer(applying, made, placeAbove(picture, command.above));
  return kind === "paint" ? "add layer" : `add ${kind}`;
}

function refuseNoGroup(picture: Picture, id: string): void {
  if (picture.layer(id).kind !== "group")
    throw new Refusal(`“${picture.layer(id).name}” is no group`);
}

export function removeLayer(applying: Applying, { id }: z.infer<typeof removeSchema>): string {
  const { picture } = applying;
  const gone = new Set(within(picture.structure.layers, id));
  for (const one of gone) {
    const layer = picture.layer(one);
    if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to remove it.`);
  }
  for (const one of gone) emptyLayer(applying, one);
  withLayers(
    applying,
    picture.structure.layers.filter((other) => !gone.has(other.id)),
  );
  return "remove layer";
}

export function moveLayer(applying: Applying, command: z.infer<typeof moveSchema>): string {
  const { picture } = applying;
  const { id, above: under, group } = command;
  const layer = picture.layer(id);
  if (under === id) throw new Refusal("a layer cannot lie above itself");
  if (group) {
    refuseNoGroup(picture, group);
    if (within(picture.structure.layers, id).includes(group))
      throw new Refusal("a group cannot lie in itself");
  }
  const moved = group === undefined ? layer : { ...layer, group };
  const rest = picture.structure.layers.filter((other) => other.id !== id);
  const below = under === null ? -1 : rest.findIndex((other) => other.id === under);
  if (under !== null && below < 0) throw new Refusal(`there is no layer "${under}"`);
  withLayers(applying, inserted(rest, moved, below + 1));
  return "move layer";
}

/** Puts layers into a new group, where the topmost of them lies. */
export function groupLayers(applying: Applying, command: z.infer<typeof groupSchema>): string {
  const { picture } = applying;
  refuseKnown(picture, command.id);
  const { layers } = picture.structure;
  const wanted = new Set(command.layers);
  for (const id of wanted) picture.layer(id);
  // What lies in a group that is taken comes with it.
  const taken = layers.filter(
    ({ id }) => wanted.has(id) && ![...groupsAround(layers, id)].some((group) => wanted.has(group)),
  );
  const top = taken.at(-1) as Layer;
  const ids = new Set(taken.map(({ id }) => id));
  const group: Layer = {
    ...newLayer(command.id, command.name),
    kind: "group",
    group: top.group,
    clip: false,
  };
  const moved = taken.map((layer): Layer => ({ ...layer, group: group.id }));
  const place = layers.slice(0, layers.indexOf(top)).filter(({ id }) => !ids.has(id)).length;
  const rest = layers.filter(({ id }) => !ids.has(id));
  withLayers(applying, [...rest.slice(0, place), ...moved, group, ...rest.slice(place)]);
  return "group layers";
}

/** Takes a group apart; its layers stay where they are. */
export function ungroup(applying: Applying, { id }: z.infer<typeof ungroupSchema>): string {
  const { picture } = applying;
  refuseNoGroup(picture, id);
  const { group } = picture.layer(id);
  emptyLayer(applying, id);
  withLayers(
    applying,
    picture.structure.layers
      .filter((layer) => layer.id !== id)
      .map((layer) => (layer.group === id ? { ...layer, group } : layer)),
  );
  return "take a group apart";
}

/** Names of the copies of what lies in a group. */
const copyOf = (as: string, n: number): string => `${as.slice(0, 58)}.${n}`;

export function copyLayer(applying: Applying, command: z.infer<typeof copySchema>): string {
  const { picture, bench } = applying;
  const { layers } = picture.structure;
  refuseKnown(picture, command.as);
  const copied = within(layers, command.id);
  const names = new Map(
    copied.map((id, n) => [id, n === 0 ? command.as : copyOf(command.as, n)] as const),
  );
  if (layers.length + copied.length > MOST_LAYERS)
    throw new Refusal(`a picture has at most ${MOST_LAYERS} layers`);
  const made = layers
    .filter(({ id }) => names.has(id))
    .map(({ pass: _pass, ...layer }): Layer => ({
      ...layer,
      id: names.get(layer.id) as string,
      name: layer.id === command.id ? command.name : layer.name,
      group: (layer.group && names.get(layer.group)) ?? layer.group,
    }));
  const place = picture.indexOf(command.id) + 1;
  withLayers(applying, [...layers.slice(0, place), ...made, ...layers.slice(place)]);
  applying.keepingWet("all", () => {
    for (const [id, as] of names)
      for (const [name, plane] of picture.planesOf(id))
        for (const [key, tile] of plane) applying.swap(as, key, bench.store.retain(tile), name);
  });
  return "duplicate layer";
}

/** What is not selected of a layer's planes goes. */
function clearOutside(
  { picture, bench, swap }: Applying,
  layer: string,
  planes: readonly (readonly [PlaneName, Plane])[],
): void {
  const { store, workforce } = bench;
  const selection = picture.plane(SELECTION);
  for (const [name, plane] of planes)
    for (const [key, before] of [...plane]) {
      const selected = selection.get(key);
      const tile = selected ? store.create() : null;
      if (tile && selected) {
        workforce.beginJob();
        const from = [before, selected].map((one) => store.address(one));
        workforce.write(TAPE.holdBack, tile.address, ...from, 0);
        workforce.endJob();
        workforce.run(false);
        store.settle(tile);
      }
      const isLeft = tile && !store.isEmpty(tile);
      swap(layer, key, isLeft ? tile : null, name);
      if (tile && !isLeft) store.release(tile);
    }
}

export function clearLayer(
  applying: Applying,
  { id, outside }: z.infer<typeof clearSchema>,
): string {
  const { picture } = applying;
  const layer = picture.layer(id);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to clear it.`);
  if (outside && !picture.structure.selection) throw new Refusal("nothing is selected");
  if (outside && layer.kind !== "paint")
    throw new Refusal(`“${layer.name}” is no paint that could be cleared around what is selected`);
  applying.dry(id);
  const planes = picture.planesOf(id).filter(([name]) => name !== MASK);
  if (outside) {
    clearOutside(applying, id, planes);
    return "clear around what is selected";
  }
  if (!picture.structure.selection) {
    for (const [name, plane] of planes)
      for (const key of [...plane.keys()]) applying.swap(id, key, null, name);
    return "clear layer";
  }
  if (layer.kind === "lines") {
    clearLines(applying, id);
    return "clear what is selected";
  }
  if (layer.kind === "strewn") {
    clearPieces(applying, id);
    return "clear what is selected";
  }
  for (const [name, plane] of planes)
    rewriteTiles(
      applying,
      id,
      [...plane.keys()],
      (_key, address) => applying.bench.workforce.write(TAPE.fill, address, 0, 0, 0, 0),
      name,
    );
  return "clear what is selected";
}

export function setLayer(applying: Applying, command: z.infer<typeof setSchema>): string {
  const { picture } = applying;
  const { do: _, id, ...changes } = command;
  const layer = picture.layer(id);
  const names = Object.keys(changes);
  if (names.length === 0) throw new Refusal("nothing to set was given");
  if (changes.fringe && !hasPixels(layer.kind))
    throw new Refusal(`“${layer.name}” holds no paint that could gather along a rim.`);
  withLayers(
    applying,
    picture.structure.layers.map((other) => (other.id === id ? { ...layer, ...changes } : other)),
  );
  // “dryAfter” is “dry after” to who reads it.
  const spoken = names.map((name) => name.replace(/[A-Z]/g, (big) => ` ${big.toLowerCase()}`));
  return `set layer ${spoken.join(", ")}`;
}

/** Fills, adjustments and outlines of layers grow with the sheet. */
function scaledLook<T extends z.infer<typeof addSchema> | z.infer<typeof setSchema>>(
  command: T,
  by: number,
): T {
  const paint = command.paint && scaledPaint(command.paint, by);
  const tone = command.tone && scaledAdjustment(command.tone, by, MOST_LAYER_RADIUS);
  const made = {
    ...command,
    ...(command.paint === undefined ? {} : { paint }),
    ...(command.tone === undefined ? {} : { tone }),
  };
  if (made.do !== "layer.set") return made;
  const { contour, fringe, halftone } = made;
  const width = contour && Math.min(MOST_CONTOUR, Math.max(0.5, contour.width * by));
  return {
    ...made,
    ...(contour && width ? { contour: { ...contour, width } } : {}),
    ...(fringe ? { fringe: scaledFringe(fringe, by) } : {}),
    ...(halftone ? { halftone: scaledHalftone(halftone, by) } : {}),
  };
}

export const layerCommands = [
  defineCommand({ schema: addSchema, apply: addLayer, scaled: scaledLook }),
  defineCommand({ schema: removeSchema, apply: removeLayer }),
  defineCommand({ schema: moveSchema, apply: moveLayer }),
  defineCommand({ schema: copySchema, apply: copyLayer }),
  defineCommand({ schema: clearSchema, apply: clearLayer }),
  defineCommand({ schema: setSchema, apply: setLayer, scaled: scaledLook }),
  defineCommand({ schema: groupSchema, apply: groupLayers }),
  defineCommand({ schema: ungroupSchema, apply: ungroup }),
] as const;
