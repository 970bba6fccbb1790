import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { hexColour } from "../colour/srgb";
import { type Layer, layerId, MOST_LAYERS, newId, newLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { MOST_LINE, paintScene } from "./passes";
import {
  type Camera,
  cameraSchema,
  lightSchema,
  newScene,
  type PassKind,
  passKinds,
  type Scene,
} from "./scene";
import { faultOf, MOST_SOLIDS, type Solid, solidId, solidSchema } from "./solid";
import { broughtMesh } from "./mesh";

export const setSceneSchema = z.strictObject({
  do: z.literal("scene.set"),
  /** What is left out stays as it is. */
  camera: cameraSchema.optional(),
  light: lightSchema.optional(),
  /** null: there is none. */
  ground: hexColour.nullable().optional(),
});
export const putSolidsSchema = z.strictObject({
  do: z.literal("scene.put"),
  /** Those whose id is known take its place. */
  solids: z.array(solidSchema).min(1).max(MOST_SOLIDS),
});
export const removeSolidsSchema = z.strictObject({
  do: z.literal("scene.remove"),
  ids: z.array(solidId).min(1).max(MOST_SOLIDS),
});
export const clearSceneSchema = z.strictObject({ do: z.literal("scene.clear") });
export const paintSceneSchema = z.strictObject({
  do: z.literal("scene.paint"),
  /** A picture and the layer for it: a layer that this scene painted, or a new one. */
  passes: z
    .array(z.strictObject({ pass: z.enum(passKinds), layer: newId }))
    .min(1)
    .max(passKinds.length)
    .refine((passes) => new Set(passes.map(({ pass }) => pass)).size === passes.length, {
      message: "each pass once",
    }),
  /** Above what new layers lie; null: at the bottom. */
  above: layerId.nullable(),
  group: layerId.nullable().default(null),
  lineWidth: z.number().min(0.5).max(MOST_LINE).default(2),
  ink: hexColour.default("#26262b"),
});

/** The picture's scene, or one with nothing in it. */
export const sceneOf = ({ picture }: Pick<Applying, "picture">): Scene =>
  picture.structure.scene ?? newScene(picture.width, picture.height);

function setScene(applying: Applying, scene: Scene): void {
  applying.setStructure({ ...applying.picture.structure, scene });
}

/** Sets the camera, the light or the ground. */
export function changeScene(
  applying: Applying,
  { camera, light, ground }: z.infer<typeof setSceneSchema>,
): string {
  const scene = sceneOf(applying);
  setScene(applying, {
    ...scene,
    camera: camera ?? scene.camera,
    light: light ?? scene.light,
    ground: ground === undefined ? scene.ground : ground,
  });
  if (camera) return "scene camera";
  return light ? "scene light" : "scene ground";
}

/** @throws Refusal where one of them cannot be */
function refuseFaulty(solids: readonly Solid[]): void {
  for (const solid of solids) {
    const fault = faultOf(solid);
    if (fault) throw new Refusal(fault);
    if (solid.kind === "mesh" && solid.mesh) broughtMesh(solid.name, solid.mesh);
  }
}

/** Adds solids, or puts them in place of those of the same id. */
export function putSolids(applying: Applying, { solids }: z.infer<typeof putSolidsSchema>): string {
  refuseFaulty(solids);
  const scene = sceneOf(applying);
  const put = new Map<string, Solid>(solids.map((solid) => [solid.id, solid]));
  const known = new Set(scene.solids.map(({ id }) => id));
  const kept = scene.solids.map((solid) => put.get(solid.id) ?? solid);
  const added = [...put.values()].filter(({ id }) => !known.has(id));
  if (kept.length + added.length > MOST_SOLIDS)
    throw new Refusal(`a scene has at most ${MOST_SOLIDS} solids`);
  setScene(applying, { ...scene, solids: [...kept, ...added] });
  if (added.length > 0) return added.length === 1 ? `add ${added[0]?.kind}` : "add solids";
  return put.size === 1 ? "change solid" : "change solids";
}

export function removeSolids(
  applying: Applying,
  { ids }: z.infer<typeof removeSolidsSchema>,
): string {
  const scene = sceneOf(applying);
  const gone = new Set(ids);
  for (const id of ids)
    if (!scene.solids.some((solid) => solid.id === id))
      throw new Refusal(`there is no solid "${id}"`);
  setScene(applying, { ...scene, solids: scene.solids.filter(({ id }) => !gone.has(id)) });
  return ids.length === 1 ? "remove solid" : "remove solids";
}

/** Takes the scene away; layers that it painted stay. */
export function clearScene({ picture, setStructure }: Applying): string {
  const { scene: _gone, ...rest } = picture.structure;
  setStructure(rest);
  return "remove scene";
}

/** What layers with a scene's pictures are called. */
const PASS_NAMES: Record<PassKind, string> = {
  colour: "Scene, colour",
  line: "Scene, lines",
  depth: "Scene, depth",
  id: "Scene, solids",
  normal: "Scene, facing",
};

/** Paints the scene's pictures, each onto its layer. Layers that a hand has changed are not among them. */
export function paintPasses(applying: Applying, command: z.infer<typeof paintSceneSchema>): string {
  const { picture, bench } = applying;
  const { scene } = picture.structure;
  if (!scene || scene.solids.length === 0)
    throw new Refusal("The scene is empty. Put a solid into it first.");
  const { layers } = picture.structure;
  const fresh: Layer[] = [];
  for (const { pass, layer } of command.passes) {
    const known = layers.find(({ id }) => id === layer);
    if (!known)
      fresh.push({
        ...newLayer(layer, PASS_NAMES[pass]),
        group: command.group,
        pass: { kind: pass },
      });
    else if (known.pass?.kind !== pass)
      throw new Refusal(`“${known.name}” is not the scene’s. Paint it onto a new layer`);
    else if (known.locked) throw new Refusal(`“${known.name}” is locked. Unlock it to work on it.`);
  }
  if (layers.length + fresh.length > MOST_LAYERS)
    throw new Refusal(`a picture has at most ${MOST_LAYERS} layers`);
  if (command.group !== null && picture.layer(command.group).kind !== "group")
    throw new Refusal(`“${picture.layer(command.group).name}” is no group`);
  const place = command.above === null ? 0 : picture.indexOf(command.above) + 1;
  const { width, height } = picture;
  const made = paintScene(bench.store, bench.workforce, scene, {
    ...{ width, height, lineWidth: command.lineWidth, ink: command.ink },
    passes: command.passes.map(({ pass }) => pass),
    tell: (share) => applying.tell("Painting the scene", share),
  });
  applying.setStructure({
    ...picture.structure,
    layers: [...layers.slice(0, place), ...fresh, ...layers.slice(place)],
  });
  // The layers stay the scene's own.
  applying.keepingWet("all", () => {
    for (const { pass, layer } of command.passes) {
      const tiles = made.get(pass) ?? new Map();
      for (const key of picture.plane(layer).keys())
        if (!tiles.has(key)) applying.swap(layer, key, null);
      for (const [key, tile] of tiles) applying.swap(layer, key, tile);
    }
  });
  return "paint the scene";
}

const scaledCamera = (camera: Camera, by: number): Camera => {
  const { x, y, width } = camera.frame;
  return { ...camera, frame: { x: x * by, y: y * by, width: width * by } };
};

export const sceneCommands = [
  defineCommand({
    schema: setSceneSchema,
    apply: changeScene,
    scaled: ({ camera, ...command }, by) => ({
      ...command,
      ...(camera ? { camera: scaledCamera(camera, by) as typeof camera } : {}),
    }),
  }),
  defineCommand({ schema: putSolidsSchema, apply: putSolids }),
  defineCommand({ schema: removeSolidsSchema, apply: removeSolids }),
  defineCommand({ schema: clearSceneSchema, apply: clearScene }),
  defineCommand({
    schema: paintSceneSchema,
    apply: paintPasses,
    scaled: (command, by) => ({
      ...command,
      lineWidth: Math.min(MOST_LINE, Math.max(0.5, command.lineWidth * by)),
    }),
  }),
] as const;
