import { z } from "zod";
import {
  layerId,
  type Layer,
  layerName,
  layerProperties,
  MOST_LAYERS,
  newLayer,
  type Picture,
} from "../picture/picture";
import { rewriteTiles } from "../fill/cover";
import { Refusal } from "../picture/refusal";
import { TAPE } from "../tiles/tape";
import { type Applying } from "./command";

/** `above`: the layer it goes on top of; null for the lowest place. */
const above = layerId.nullable();

export const addSchema = z.strictObject({
  do: z.literal("layer.add"),
  id: layerId,
  name: layerName,
  above,
});
export const removeSchema = z.strictObject({ do: z.literal("layer.remove"), id: layerId });
export const moveSchema = z.strictObject({ do: z.literal("layer.move"), id: layerId, above });
export const copySchema = z.strictObject({
  do: z.literal("layer.copy"),
  id: layerId,
  as: layerId,
  name: layerName,
});
export const clearSchema = z.strictObject({ do: z.literal("layer.clear"), id: layerId });
export const setSchema = layerProperties
  .partial()
  .extend({ do: z.literal("layer.set"), id: layerId })
  .strict();

function withLayers(applying: Applying, layers: readonly Layer[]): void {
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

const placeAbove = (picture: Picture, id: string | null): number =>
  id === null ? 0 : picture.indexOf(id) + 1;

export function addLayer(applying: Applying, command: z.infer<typeof addSchema>): string {
  const { picture } = applying;
  refuseKnown(picture, command.id);
  const place = placeAbove(picture, command.above);
  withLayers(
    applying,
    inserted(picture.structure.layers, newLayer(command.id, command.name), place),
  );
  return "add layer";
}

export function removeLayer(applying: Applying, { id }: z.infer<typeof removeSchema>): string {
  const { picture } = applying;
  const layer = picture.layer(id);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to remove it.`);
  emptyLayer(applying, id);
  withLayers(
    applying,
    picture.structure.layers.filter((other) => other.id !== id),
  );
  return "remove layer";
}

export function moveLayer(applying: Applying, command: z.infer<typeof moveSchema>): string {
  const { picture } = applying;
  const layer = picture.layer(command.id);
  if (command.above === command.id) throw new Refusal("a layer cannot lie above itself");
  const rest = picture.structure.layers.filter((other) => other.id !== command.id);
  const below = command.above === null ? -1 : rest.findIndex((other) => other.id === command.above);
  if (command.above !== null && below < 0)
    throw new Refusal(`there is no layer "${command.above}"`);
  withLayers(applying, inserted(rest, layer, below + 1));
  return "move layer";
}

export function copyLayer(applying: Applying, command: z.infer<typeof copySchema>): string {
  const { picture, bench } = applying;
  refuseKnown(picture, command.as);
  const layer = picture.layer(command.id);
  const place = picture.indexOf(command.id) + 1;
  const made: Layer = { ...layer, id: command.as, name: command.name };
  withLayers(applying, inserted(picture.structure.layers, made, place));
  for (const [name, plane] of picture.planesOf(command.id))
    for (const [key, tile] of plane) applying.swap(command.as, key, bench.store.retain(tile), name);
  return "duplicate layer";
}

export function clearLayer(applying: Applying, { id }: z.infer<typeof clearSchema>): string {
  const { picture } = applying;
  const layer = picture.layer(id);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to clear it.`);
  if (!picture.structure.selection) {
    emptyLayer(applying, id);
    return "clear layer";
  }
  for (const [name, plane] of picture.planesOf(id))
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
  withLayers(
    applying,
    picture.structure.layers.map((other) => (other.id === id ? { ...layer, ...changes } : other)),
  );
  return `set layer ${names.join(", ")}`;
}
