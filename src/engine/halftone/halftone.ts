import { z } from "zod";
import { hexColour } from "../colour/srgb";

/** What ink is laid in: dots of four kinds, lines, grain, and patterns of our own. */
export const screenKinds = [
  "round",
  "ellipse",
  "diamond",
  "square",
  "line",
  "cross",
  "grain",
  "wave",
  "brick",
  "scale",
  "star",
  "weave",
  "dash",
] as const;
export type ScreenKind = (typeof screenKinds)[number];

/** Coarsest and finest rulings, lines an inch. */
export const COARSEST = 2;
export const FINEST = 300;
/** Most greys that a halftone may be held to. */
export const MOST_GREYS = 16;
/** A pattern lies at most so far from the sheet's corner, px. */
const FARTHEST = 65_536;

/** How a layer is shown in dots, lines or grain. Nothing of its paint is changed. */
export const halftoneSchema = z.strictObject({
  /** Whether it is shown so; otherwise the settings are kept, and the layer is seen in its greys. */
  on: z.boolean(),
  screen: z.enum(screenKinds),
  /** Lines an inch on paper. */
  lpi: z.number().min(COARSEST).max(FINEST),
  /** Degrees, clockwise. */
  angle: z.number().min(-180).max(180),
  /** What the paint's darkness is multiplied by. */
  density: z.number().min(0.1).max(4),
  /** So many greys and no more; 0: as they are. */
  steps: z.union([z.literal(0), z.int().min(1).max(MOST_GREYS)]),
  /** The ink; null: the paint's own colours. */
  ink: hexColour.nullable(),
  /** What lies between the ink: nothing, or white. */
  paper: z.enum(["clear", "white"]),
  /** Where the pattern begins, px from the sheet's corner. Layers with the same agree in phase. */
  x: z.number().min(-FARTHEST).max(FARTHEST),
  y: z.number().min(-FARTHEST).max(FARTHEST),
});
export type Halftone = Readonly<z.infer<typeof halftoneSchema>>;

/** Round dots in black at 60 lines an inch and 45°: what a comic's page begins with. */
export const USUAL_HALFTONE: Halftone = {
  on: true,
  screen: "round",
  lpi: 60,
  angle: 45,
  density: 1,
  steps: 0,
  ink: "#000000",
  paper: "clear",
  x: 0,
  y: 0,
};

/** A halftone on a sheet that is `by` times as large: its ruling is that of the paper, which stays. */
export const scaledHalftone = (halftone: Halftone, by: number): Halftone => ({
  ...halftone,
  x: Math.max(-FARTHEST, Math.min(FARTHEST, halftone.x * by)),
  y: Math.max(-FARTHEST, Math.min(FARTHEST, halftone.y * by)),
});
