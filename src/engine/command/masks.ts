import { defineCommand } from "./define";
import { z } from "zod";
import { type Layer, layerId, MASK, type Picture, SELECTION } from "../picture/picture";
import { type Bench } from "../bench";
import { Refusal } from "../picture/refusal";
import { ONE, TILE_BYTES, tilesIn } from "../tiles/layout";
import { realWord, TAPE } from "../tiles/tape";
import { type Tile } from "../tiles/tile-store";
import { type Applying } from "./command";
import { withLayers } from "./layers";

const component = z.number().min(-1).max(1);

export const addMaskSchema = z.strictObject({
  do: z.literal("mask.add"),
  id: layerId,
  from: z.discriminatedUnion("kind", [
    /** Holds nothing back, or all. */
    z.strictObject({ kind: z.literal("nothing") }),
    z.strictObject({ kind: z.literal("all") }),
    /** Holds back what is not selected. */
    z.strictObject({ kind: z.literal("selection") }),
    /** Lets through where a picture is light, dark, or painted at all. */
    z.strictObject({
      kind: z.literal("layer"),
      layer: layerId,
      by: z.enum(["light", "dark", "shape"]),
    }),
    /** Lets through where surfaces face a light, the more the straighter, by a picture of where they face. */
    z.strictObject({
      kind: z.literal("facing"),
      layer: layerId,
      /** Toward the light: right, up, toward who looks; of length 1. */
      toward: z
        .tuple([component, component, component])
        .refine(([x, y, z]) => Math.abs(x * x + y * y + z * z - 1) < 1e-3, {
          message: "the way toward a light has length 1",
        }),
    }),
  ]),
});

export const removeMaskSchema = z.strictObject({
  do: z.literal("mask.remove"),
  id: layerId,
  /** Whether what it held back is taken away for good; else it is seen again. */
  lay: z.boolean().default(false),
});

export const invertMaskSchema = z.strictObject({ do: z.literal("mask.invert"), id: layerId });

function setMask(applying: Applying, id: string, mask: Layer["mask"]): void {
  withLayers(
    applying,
    applying.picture.structure.layers.map((layer) =>
      layer.id === id ? { ...layer, mask } : layer,
    ),
  );
}

const everyTile = ({ picture: { width, height } }: Pick<Applying, "picture">): number[] =>
  tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);

/** Puts tiles in place of a mask's; those that hold nothing back are left out. */
function putMask(applying: Applying, id: string, tiles: Map<number, Tile>): void {
  const { picture, bench } = applying;
  for (const key of [...picture.plane(id, MASK).keys()])
    if (!tiles.has(key)) applying.swap(id, key, null, MASK);
  for (const [key, tile] of tiles) {
    bench.store.settle(tile);
    if (!bench.store.isEmpty(tile)) applying.swap(id, key, tile, MASK);
    else {
      bench.store.release(tile);
      if (picture.plane(id, MASK).has(key)) applying.swap(id, key, null, MASK);
    }
  }
}

/** Tiles of a mask made the other way round from what each key's tile lets through (0: nothing). */
function heldBack(
  { bench }: Pick<Applying, "picture" | "bench">,
  keys: readonly number[],
  through: (key: number, spare: number) => number,
): Map<number, Tile> {
  const { store, workforce } = bench;
  const full = store.plain([0, 0, 0, ONE]);
  const made = new Map<number, Tile>();
  for (const key of keys) {
    const tile = store.create();
    made.set(key, tile);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    const from = through(key, tile.address);
    const whole = store.address(full);
    if (from === 0) workforce.write(TAPE.copy, tile.address, whole, TILE_BYTES);
    else if (from !== tile.address) workforce.write(TAPE.holdBack, tile.address, whole, from, 1);
    workforce.endJob();
  }
  workforce.run(true);
  store.release(full);
  return made;
}

/** A mask of all that is not selected. The tiles are the caller's. */
export const unselected = (picture: Picture, bench: Bench): Map<number, Tile> =>
  heldBack({ picture, bench }, everyTile({ picture }), (key) => {
    const tile = picture.plane(SELECTION).get(key);
    return tile ? bench.store.address(tile) : 0;
  });

/** Gives a layer a mask: its alpha is what is held back. */
export function addMask(applying: Applying, command: z.infer<typeof addMaskSchema>): string {
  const { picture, bench } = applying;
  const { id, from } = command;
  const layer = picture.layer(id);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to mask it.`);
  if (layer.mask) throw new Refusal(`“${layer.name}” has a mask already.`);
  if (from.kind === "selection") {
    if (!picture.structure.selection) throw new Refusal("nothing is selected");
    putMask(applying, id, unselected(picture, bench));
  } else if (from.kind === "all") {
    putMask(
      applying,
      id,
      heldBack(applying, everyTile(applying), () => 0),
    );
  } else if (from.kind === "layer") {
    const { by } = from;
    const write = by === "shape" ? null : lightOrDark(applying, by);
    putMask(applying, id, maskFrom(applying, from.layer, write));
  } else if (from.kind === "facing") {
    const { workforce } = bench;
    const [right, up, front] = from.toward.map(realWord) as [number, number, number];
    const write = (value: number, own: number): void =>
      workforce.write(TAPE.facingMask, value, own, right, up, front);
    putMask(applying, id, maskFrom(applying, from.layer, write));
  }
  setMask(applying, id, { on: true, linked: true });
  return "add a mask";
}

/**
 * Gives a layer a mask that lets through only what some tiles cover, or that in place of the one it has.
 * The tiles are released.
 */
export function maskTo(applying: Applying, id: string, through: ReadonlyMap<number, Tile>): void {
  const { store } = applying.bench;
  // Most tiles of a sheet lie wholly inside or outside: only those on the edge are worked out.
  const onEdge = [...through].filter(([, tile]) => tile.colour === null).map(([key]) => key);
  const held = heldBack(applying, onEdge, (key) => store.address(through.get(key) as Tile));
  for (const key of everyTile(applying))
    if (!through.has(key)) held.set(key, store.plain([0, 0, 0, ONE]));
  for (const tile of through.values()) store.release(tile);
  putMask(applying, id, held);
  setMask(applying, id, { on: true, linked: true });
}

const lightOrDark =
  ({ bench }: Applying, by: "light" | "dark") =>
  (value: number, own: number): void =>
    bench.workforce.write(TAPE.lightMask, value, own, by === "dark" ? 1 : 0);

/**
 * What is let through where another layer is painted, or what is worked out of its paint; the rest is held back.
 * @param write works a tile's mask out of its paint; null: its shape
 */
function maskFrom(
  applying: Applying,
  source: string,
  write: ((value: number, own: number) => void) | null,
): Map<number, Tile> {
  const { picture, bench } = applying;
  const { store, workforce } = bench;
  const { name } = picture.layer(source);
  const plane = picture.plane(source);
  if (plane.size === 0) throw new Refusal(`“${name}” holds no paint to make a mask of.`);
  const values = new Map<number, Tile>();
  if (write)
    for (const [key, tile] of plane) {
      const value = store.create();
      values.set(key, value);
      if (workforce.isFull) workforce.run(true);
      workforce.beginJob();
      write(value.address, store.address(tile));
      workforce.endJob();
    }
  workforce.run(true);
  const from = write ? values : plane;
  const made = heldBack(applying, everyTile(applying), (key) => {
    const tile = from.get(key);
    return tile ? store.address(tile) : 0;
  });
  for (const value of values.values()) store.release(value);
  return made;
}

/** Takes a layer's mask away, with what it holds back or without. */
export function removeMask(
  applying: Applying,
  { id, lay }: z.infer<typeof removeMaskSchema>,
): string {
  const { picture, bench } = applying;
  const layer = picture.layer(id);
  if (!layer.mask) throw new Refusal(`“${layer.name}” has no mask.`);
  if (layer.locked) throw new Refusal(`“${layer.name}” is locked. Unlock it to change its mask.`);
  const mask = picture.plane(id, MASK);
  if (lay) {
    if (layer.kind !== "paint")
      throw new Refusal(`“${layer.name}” holds no paint that its mask could be laid on.`);
    for (const [key, held] of mask) {
      const tile = picture.plane(id).get(key);
      if (!tile) continue;
      const made = bench.store.create();
      const { store } = bench;
      store.kernels.holdBack(made.address, store.address(tile), store.address(held), 1);
      store.settle(made);
      if (store.isEmpty(made)) {
        store.release(made);
        applying.swap(id, key, null);
      } else applying.swap(id, key, made);
    }
  }
  for (const key of [...mask.keys()]) applying.swap(id, key, null, MASK);
  setMask(applying, id, null);
  return lay ? "lay the mask" : "remove the mask";
}

/** What was held back is let through, and the other way round. */
export function invertMask(applying: Applying, { id }: z.infer<typeof invertMaskSchema>): string {
  const { picture, bench } = applying;
  const layer = picture.layer(id);
  if (!layer.mask) throw new Refusal(`“${layer.name}” has no mask.`);
  const mask = picture.plane(id, MASK);
  putMask(
    applying,
    id,
    heldBack(applying, everyTile(applying), (key) => {
      const tile = mask.get(key);
      return tile ? bench.store.address(tile) : 0;
    }),
  );
  return "invert the mask";
}

export const maskCommands = [
  defineCommand({ schema: addMaskSchema, apply: addMask }),
  defineCommand({ schema: removeMaskSchema, apply: removeMask }),
  defineCommand({ schema: invertMaskSchema, apply: invertMask }),
] as const;
