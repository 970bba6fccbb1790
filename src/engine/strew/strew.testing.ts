import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { testWork } from "../engine.testing";
import { type Header } from "../picture/header";
import { type Sample } from "../stroke/sample";
import { piecesOf } from "./heap-of-pieces";
import { type Piece } from "./piece";
import { type strewSchema } from "./strew";
import { type z } from "zod";

type StrewInput = z.input<typeof strewSchema>;

/** Nothing left to chance. */
export const plainly: StrewInput = {
  set: 0,
  gap: 1,
  spread: 0,
  sizes: 0,
  press: 0,
  turn: "upright",
  turns: 0,
  flips: false,
  tint: 0,
  strays: 0,
  fades: 0,
  blurs: 0,
};
/** Much of it is. */
export const freely: StrewInput = {
  ...plainly,
  set: 4,
  gap: 0.3,
  spread: 1.5,
  sizes: 0.6,
  press: 0.5,
  turn: "any",
  flips: true,
  tint: 0.4,
  strays: 0.5,
  fades: 0.5,
  blurs: 0.6,
};

/** A picture with a layer to strew on, “s”, above a layer of paint, “a”. */
export function strewWork(changes: Partial<Header> = {}): { engine: Engine; work: Work } {
  const made = testWork({ width: 640, height: 480, ...changes });
  made.work.apply({ do: "layer.add", id: "s", name: "Strewn", above: "a", kind: "strewn" });
  return made;
}

export const strewing = (
  samples: Sample[],
  strew: StrewInput,
  changes: Partial<Extract<CommandInput, { do: "stroke" }>> = {},
): Extract<CommandInput, { do: "stroke" }> => ({
  do: "stroke",
  layer: "s",
  brush: "pen-even",
  size: 40,
  seed: 5,
  samples,
  strew,
  ...changes,
});

/** One piece, upright, whose picture spans `size` px. */
export const onePiece = (
  x: number,
  y: number,
  strew: Partial<StrewInput> = {},
  changes: Partial<Extract<CommandInput, { do: "stroke" }>> = {},
): CommandInput =>
  strewing([[0, x, y, 1, 1.5, 0, 0]], { ...plainly, only: 0, gap: 20, ...strew }, changes);

export const strewnPieces = (engine: Engine, work: Work, layer = "s"): readonly Piece[] =>
  piecesOf(engine.store, work.picture, layer).pieces;

export const idsOf = (engine: Engine, work: Work): number[] =>
  strewnPieces(engine, work).map(({ id }) => id);
