import { defineCommand } from "./define";
import { z } from "zod";
import { Compositor } from "../compose/compositor";
import { groupsAround, isEverywhere, within } from "../compose/tree";
import { mergedPowder } from "../dry/merged";
import {
  type Layer,
  layerId,
  newId,
  layerName,
  newLayer,
  Picture,
  POWDER,
} from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { TILE_BYTES, tilesIn } from "../tiles/layout";
import { withDissolving } from "../water/dissolving";
import { type WashPaint } from "../water/wash-state";
import { type Applying } from "./command";
import { removeLayer, withLayers } from "./layers";

export const mergeSchema = z.strictObject({
  do: z.literal("layer.merge"),
  /** What is merged, groups with all that is in them. */
  layers: z.array(layerId).min(1).max(500),
  /** The layer that they become. */
  id: newId,
  name: layerName,
  /** Whether those merged stay (a copy is made of what they show), or give way. */
  keep: z.boolean().default(false),
});

/**
 * Layers become one that looks as they do. It lies where the topmost was; where the lowest is
 * wholly opaque in its blend mode, the new layer takes that mode, so that merging down onto a
 * multiplied layer leaves it multiplied.
 */
export function mergeLayers(applying: Applying, command: z.infer<typeof mergeSchema>): string {
  const { picture, bench } = applying;
  const { layers } = picture.structure;
  if (layers.some(({ id }) => id === command.id))
    throw new Refusal(`there is already a layer "${command.id}"`);
  const wanted = new Set(command.layers);
  for (const id of wanted) picture.layer(id);
  const taken = layers.filter(
    ({ id }) => wanted.has(id) && ![...groupsAround(layers, id)].some((group) => wanted.has(group)),
  );
  const locked = taken.find((layer) => layer.locked);
  if (locked && !command.keep)
    throw new Refusal(`“${locked.name}” is locked. Unlock it to merge it.`);
  const lowest = taken[0] as Layer;
  const top = taken.at(-1) as Layer;
  const takesMode = lowest.opacity === 1 && lowest.kind === "paint" && !command.keep;
  const stack = stackOf(applying, taken, takesMode ? lowest.id : null);
  const made: Layer = {
    ...newLayer(command.id, command.name),
    group: top.group,
    blend: takesMode ? lowest.blend : "normal",
    clip: takesMode && lowest.clip,
    lines: takesMode && lowest.lines,
    ...dissolvingOf(stack),
  };
  const place = picture.indexOf(top.id) + 1;
  withLayers(applying, [...layers.slice(0, place), made, ...layers.slice(place)]);
  const compositor = new Compositor(stack, bench.store, bench.workforce, false);
  compositor.compose(keysOf(stack), (key, from) => {
    const tile = bench.store.create();
    bench.store.kernels.copyBytes(tile.address, from, TILE_BYTES);
    bench.store.settle(tile);
    if (bench.store.isEmpty(tile)) bench.store.release(tile);
    else applying.swap(command.id, key, tile);
  });
  compositor.free();
  for (const [key, tile] of mergedPowder(bench, stack))
    applying.swap(command.id, key, tile, POWDER);
  if (!command.keep) for (const { id } of taken) removeLayer(applying, { do: "layer.remove", id });
  return command.keep ? "copy merged" : "merge layers";
}

/** A picture of these layers alone. */
function stackOf({ picture }: Applying, taken: readonly Layer[], plain: string | null): Picture {
  const { structure } = picture;
  const ids = new Set(taken.flatMap(({ id }) => within(structure.layers, id)));
  const tops = new Set(taken.map(({ id }) => id));
  const stack = new Picture(picture.header);
  stack.structure = {
    ...structure,
    layers: structure.layers
      .filter(({ id }) => ids.has(id))
      .map((layer) => ({
        ...layer,
        group: tops.has(layer.id) ? null : layer.group,
        ...(layer.id === plain ? { blend: "normal" as const, clip: false } : {}),
      })),
  };
  for (const [id, planes] of picture.planes) stack.planes.set(id, planes);
  return stack;
}

/** What water takes up of the layers that become one. */
function dissolvingOf({ structure }: Picture): Pick<Layer, "dissolves"> {
  let dissolves: WashPaint[] = [];
  for (const layer of structure.layers)
    for (const paint of layer.dissolves ?? []) dissolves = withDissolving(dissolves, paint);
  return dissolves.length > 0 ? { dissolves } : {};
}

function keysOf(stack: Picture): number[] {
  const { width, height, structure } = stack;
  if (isEverywhere(structure.layers))
    return tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);
  return [...new Set(structure.layers.flatMap(({ id }) => [...stack.plane(id).keys()]))];
}

export const mergeCommand = defineCommand({ schema: mergeSchema, apply: mergeLayers });
