import { z } from "zod";
import { laysSchema } from "../compose/blend-modes";
import { parameter } from "./drives";
import { type Contact } from "../dry/material";
import { layingSchema } from "./laying/laying";
import { tipSchema, tonesOf } from "./tip";

/** Sizes of brushes, px. */
export const LEAST_SIZE = 0.5;
export const MOST_SIZE = 2000;

/** What a stroke does with what is there. */
export type StrokeMode = "paint" | "lift" | "blend";

const still = { base: 0, drives: [] };

/** What a train of marks is: the part that a brush and its overtip share. */
const train = {
  tip: tipSchema,
  /** From mark to mark, as a fraction of the mark's smaller diameter. */
  spacing: parameter(0.01, 8),
  /** A factor on the chosen size. */
  diameter: parameter(0, 8),
  /** Longer axis ÷ shorter axis of a mark, the longer along its angle. */
  stretch: parameter(1, 32).default({ base: 1, drives: [] }),
  /** Turns, clockwise. Drive it by a direction to follow that. */
  angle: parameter(-8, 8).default(still),
  /** What one mark leaves. */
  flow: parameter(0, 1),
  /** How far a mark is thrown from the path, in diameters. */
  scatter: z
    .strictObject({ along: parameter(-8, 8), across: parameter(-8, 8) })
    .default({ along: still, across: still }),
  grain: z
    .strictObject({
      /** 0 paints over the tooth, 1 only what pressure reaches. */
      depth: z.number().min(0).max(1),
      /** Width of the change from bare to covered, in heights of the paper. */
      softness: z.number().min(0.01).max(1),
      /** How much slopes that face the travel catch. */
      slope: z.number().min(0).max(4),
      /** What counts as pressure on the tooth. */
      press: parameter(0, 1),
    })
    .nullable()
    .default(null),
};

/** How a mark's colour strays from the chosen one. */
export const colourSchema = z.strictObject({
  /** Turns of hue added. */
  hue: parameter(-1, 1).default(still),
  /** Factor on the chroma. */
  chroma: parameter(0, 4).default({ base: 1, drives: [] }),
  /** Lightness added (OKLab, 0…1). */
  value: parameter(-1, 1).default(still),
  /** Share 0…1 of the second colour. */
  second: parameter(0, 1).default(still),
});

export const overtipModes = ["multiply", "dodge", "subtract", "darken"] as const;

export const overtipSchema = z.strictObject({
  mode: z.enum(overtipModes),
  /** Whether it goes along with each mark; else it lies over the stroke as a train of its own. */
  travels: z.boolean().default(false),
  ...train,
});

/** A brush as data. Lengths in picture px unless said. */
export const brushSchema = z.strictObject({
  id: z
    .string()
    .regex(
      /^[a-z0-9][a-z0-9-]{0,63}$/,
      "an id is made of small letters, digits and hyphens, 64 at most",
    ),
  name: z.string().min(1).max(80),
  kit: z.string().min(1).max(80),
  author: z.string().max(80).default(""),
  /** Raised whenever a brush that ships draws differently from before. */
  revision: z.int().min(1).max(100_000).default(1),
  tags: z.array(z.string().min(1).max(40)).max(20).default([]),
  size: z.number().min(LEAST_SIZE).max(MOST_SIZE),
  strength: z.number().min(0).max(1),
  /** How its paint lies on what is there. */
  lays: laysSchema.default("normal"),
  /** What it alone does, whatever the hand's mode: an eraser lifts, a stump blends. Null: as the hand says. */
  does: z.enum(["lift", "blend"]).nullable().default(null),
  /** Share of what it lays that water takes up again; left out: it is fast. */
  dissolves: z.number().min(0).max(1).optional(),
  /** How marks follow the hand. */
  laying: layingSchema,
  ...train,
  colour: colourSchema.nullable().default(null),
  overtip: overtipSchema.nullable().default(null),
  /** Lengths over which the line swells at its start and thins at its end, px at size 10. */
  taper: z
    .strictObject({
      in: z.number().min(0).max(2000),
      out: z.number().min(0).max(2000),
      /** Whether the mark narrows there; if not, taper only drives parameters. */
      narrows: z.boolean().default(true),
    })
    .default({ in: 0, out: 0, narrows: true }),
});

export type Brush = z.infer<typeof brushSchema>;
export type BrushInput = z.input<typeof brushSchema>;
export type Train = Pick<Brush, keyof typeof train>;
export type Overtip = z.infer<typeof overtipSchema>;

/** Whether a brush's marks have colours of their own, so that coverage alone does not say them. */
export const hasColours = ({ colour, tip }: Brush): boolean =>
  colour !== null ||
  (tip.kind === "pictures" && tip.pictures.some((picture) => tonesOf(picture) !== "coverage"));

/** What a brush does when the hand is in a mode. */
export const modeOf = ({ does }: Pick<Brush, "does">, mode: StrokeMode): StrokeMode => does ?? mode;

/** Whether it is a tool for paint that is wet while it is worked: bristles, or a knife. */
export const isForWet = ({ laying }: Pick<Brush, "laying">): boolean =>
  laying.kind === "bristles" || laying.kind === "knife";

/** Whether it is a brush of water, whose paint goes on moving after it. */
export const isForWash = ({ laying }: Pick<Brush, "laying">): boolean => laying.kind === "wash";

/** Whether it goes on pouring, or strewing drops, where the pen rests. */
export function poursAtRest({ laying }: Pick<Brush, "laying">, mode: StrokeMode): boolean {
  if (mode !== "paint") return false;
  if (laying.kind === "wash") return laying.tooth === 0;
  return (laying.kind === "marks" || laying.kind === "spray") && laying.every !== null;
}

/** Whether a stroke of it leaves something on it to go on with. */
export const carries = (brush: Brush, mode: StrokeMode): boolean =>
  isForWet(brush) && modeOf(brush, mode) === "paint";

/** The material of a dry tip; null for a brush that is none. */
export function dryOf({ laying }: Pick<Brush, "laying">): Contact | null {
  if (laying.kind === "contact") return laying;
  return laying.kind === "weave" ? laying.dry : null;
}

/** Whether its marks lie down along the tilt. */
export const leans = ({ stretch }: Brush): boolean =>
  stretch.drives.some(({ by }) => by === "tilt");
