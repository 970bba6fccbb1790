import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { putLayer } from "../command/layers";
import { changeLayer } from "../command/stroke";
import { mapOf } from "../lines/moved";
import { COLOUR, layerId, layerName, newId, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { Chance } from "../stroke/chance";
import { inverse, type Matrix, scaledWarp, warpSchema } from "../transform/warp";
import { collect, collectSchema } from "./collect";
import { type Pieces, PIECES, piecesOf } from "./heap-of-pieces";
import { changePieces } from "./lay";
import { movedPiece } from "./moved";
import { MOST_PIECES, type Piece, settledPiece } from "./piece";
import { picturesIn } from "./sets";
import { ownNumber, setNumber, setPlanes } from "./strew";

const share = z.number().min(0).max(1);
const number = z.int().min(1);
const numbers = z.array(number).min(1).max(MOST_PIECES);
const taken = z.tuple([hexColour, share]);

export const moveSchema = z.strictObject({
  do: z.literal("strew.move"),
  layer: layerId,
  pieces: numbers,
  warp: warpSchema,
});
export const setSchema = z.strictObject({
  do: z.literal("strew.set"),
  layer: layerId,
  pieces: numbers,
  tint: taken.optional(),
  air: taken.optional(),
  opacity: share.optional(),
  blur: share.optional(),
  /** Other pictures than they have. */
  picture: z.strictObject({ set: setNumber, picture: z.int().min(0).max(63) }).optional(),
});
export const removeSchema = z.strictObject({
  do: z.literal("strew.remove"),
  layer: layerId,
  pieces: numbers,
});
export const thinSchema = z.strictObject({
  do: z.literal("strew.thin"),
  layer: layerId,
  pieces: numbers,
  /** The share that stays. */
  keep: share,
  seed: z.int().min(0).max(0xffffffff).default(0),
});
export const orderSchema = z.strictObject({
  do: z.literal("strew.order"),
  layer: layerId,
  pieces: numbers,
  to: z.enum(["front", "back"]),
});
export const duplicateSchema = z.strictObject({
  do: z.literal("strew.duplicate"),
  layer: layerId,
  pieces: numbers,
  by: z.tuple([z.number().min(-65_536).max(65_536), z.number().min(-65_536).max(65_536)]),
});
export const placeSchema = z.strictObject({
  do: z.literal("strew.place"),
  layer: layerId,
  /** Pieces that come on a layer of their own above another one; null: all stay together. */
  before: z
    .strictObject({ pieces: numbers, id: newId, name: layerName, above: layerId })
    .nullable()
    .default(null),
});
export const forgetSchema = z.strictObject({ do: z.literal("strew.forget"), set: ownNumber });

function strewnOn({ bench, picture }: Applying, layer: string): Pieces {
  workableLayer(picture, layer, COLOUR, "strewn");
  return piecesOf(bench.store, picture, layer);
}

/** Pieces by their numbers, each once. @throws Refusal where there is none of a number */
function chosen(applying: Applying, layer: string, ids: readonly number[]): Piece[] {
  const { byId } = strewnOn(applying, layer);
  return [...new Set(ids)].map((id) => {
    const piece = byId.get(id);
    if (!piece) throw new Refusal(`there is no piece ${id} on this layer`);
    return piece;
  });
}

const many = (count: number): string => (count === 1 ? "a piece" : `${count} pieces`);

function move(applying: Applying, command: z.infer<typeof moveSchema>): string {
  const { layer, pieces, warp } = command;
  if (warp.kind === "matrix") inverse(warp.matrix as unknown as Matrix);
  const map = mapOf(warp);
  const put = chosen(applying, layer, pieces).map((piece) => movedPiece(piece, map) ?? piece);
  changePieces(applying, layer, { gone: [], put });
  return `move ${many(put.length)}`;
}

function set(applying: Applying, command: z.infer<typeof setSchema>): string {
  const { layer, pieces, picture, tint, air, opacity, blur } = command;
  if (picture && picture.picture >= picturesIn(applying.picture, picture.set))
    throw new Refusal(`that set has no picture ${picture.picture + 1}`);
  const put = chosen(applying, layer, pieces).map((piece) =>
    settledPiece({
      ...piece,
      ...picture,
      tint: tint ?? piece.tint,
      air: air ?? piece.air,
      opacity: opacity ?? piece.opacity,
      blur: blur ?? piece.blur,
    }),
  );
  changePieces(applying, layer, { gone: [], put });
  return `change ${many(put.length)}`;
}

function remove(applying: Applying, command: z.infer<typeof removeSchema>): string {
  const gone = chosen(applying, command.layer, command.pieces).map(({ id }) => id);
  changePieces(applying, command.layer, { gone, put: [] });
  return `remove ${many(gone.length)}`;
}

/** Takes away by chance as many as there are too many: exactly the share stays. */
function thin(applying: Applying, command: z.infer<typeof thinSchema>): string {
  const { layer, keep, seed } = command;
  const pieces = chosen(applying, layer, command.pieces);
  const chance = new Chance(seed);
  const drawn = pieces
    .map(({ id }) => ({ id, draw: chance.at(id) }))
    .sort((a, b) => a.draw - b.draw || a.id - b.id);
  const gone = drawn.slice(Math.round(keep * drawn.length)).map(({ id }) => id);
  if (gone.length > 0) changePieces(applying, layer, { gone, put: [] });
  return "thin pieces out";
}

function order(applying: Applying, command: z.infer<typeof orderSchema>): string {
  const { layer, to } = command;
  const { pieces } = strewnOn(applying, layer);
  const z = to === "front" ? (pieces.at(-1)?.z ?? 0) + 1 : (pieces[0]?.z ?? 0) - 1;
  const put = chosen(applying, layer, command.pieces).map((piece) => ({ ...piece, z }));
  changePieces(applying, layer, { gone: [], put });
  return to === "front" ? "bring pieces before" : "send pieces behind";
}

function duplicate(applying: Applying, command: z.infer<typeof duplicateSchema>): string {
  const { layer, by } = command;
  const pieces = chosen(applying, layer, command.pieces);
  let next = Math.max(0, ...strewnOn(applying, layer).byId.keys()) + 1;
  const put = pieces.map((piece) =>
    settledPiece({ ...piece, id: next++, x: piece.x + by[0], y: piece.y + by[1] }),
  );
  changePieces(applying, layer, { gone: [], put });
  return `duplicate ${many(put.length)}`;
}

/** Pieces become paint: where they are, or some of them on a layer of their own. */
function place(applying: Applying, command: z.infer<typeof placeSchema>): string {
  const { picture } = applying;
  const { layer, before } = command;
  strewnOn(applying, layer);
  if (before) {
    const pieces = chosen(applying, layer, before.pieces);
    const { pass: _pass, mask: _mask, ...own } = picture.layer(layer);
    const { group } = picture.layer(before.above);
    putLayer(
      applying,
      { ...own, mask: null, id: before.id, name: before.name, group },
      picture.indexOf(before.above) + 1,
    );
    changePieces(applying, before.id, { gone: [], put: pieces });
    changePieces(applying, layer, { gone: pieces.map(({ id }) => id), put: [] });
    settle(applying, before.id);
  }
  settle(applying, layer);
  return "place pieces as paint";
}

function settle(applying: Applying, layer: string): void {
  for (const key of [...applying.picture.plane(layer, PIECES).keys()])
    applying.swap(layer, key, null, PIECES);
  changeLayer(applying, layer, { kind: "paint" });
}

/** Which layers hold pieces of a set. */
function lyingOn({ bench, picture }: Applying, number: number): string[] {
  return picture.structure.layers
    .filter(
      ({ id, kind }) =>
        kind === "strewn" &&
        piecesOf(bench.store, picture, id).pieces.some((piece) => piece.set === number),
    )
    .map(({ name }) => name);
}

function forget(applying: Applying, { set: number }: z.infer<typeof forgetSchema>): string {
  const { picture } = applying;
  const sets = picture.structure.strewn ?? [];
  const own = sets.find((one) => one.number === number);
  if (!own) throw new Refusal(`this picture holds no set ${number} of pieces`);
  const [name] = lyingOn(applying, number);
  if (name !== undefined)
    throw new Refusal(
      `Pieces of “${own.name}” still lie on “${name}”. Place them as paint or remove them first.`,
    );
  for (const [plane, tiles] of picture.planesOf(setPlanes(number)))
    for (const key of [...tiles.keys()]) applying.swap(setPlanes(number), key, null, plane);
  const left = sets.filter((one) => one !== own);
  const { strewn: _strewn, ...rest } = picture.structure;
  applying.setStructure(left.length > 0 ? { ...rest, strewn: left } : rest);
  return `remove set “${own.name}”`;
}

const grown = ([x, y]: [number, number], by: number): [number, number] => [x * by, y * by];

export const strewCommands = [
  defineCommand({
    schema: moveSchema,
    apply: move,
    scaled: (command, by) => ({ ...command, warp: scaledWarp(command.warp, by) }),
  }),
  defineCommand({ schema: setSchema, apply: set }),
  defineCommand({ schema: removeSchema, apply: remove }),
  defineCommand({ schema: thinSchema, apply: thin }),
  defineCommand({ schema: orderSchema, apply: order }),
  defineCommand({
    schema: duplicateSchema,
    apply: duplicate,
    scaled: (command, by) => ({ ...command, by: grown(command.by, by) }),
  }),
  defineCommand({ schema: placeSchema, apply: place }),
  defineCommand({ schema: collectSchema, apply: collect }),
  defineCommand({ schema: forgetSchema, apply: forget }),
] as const;
