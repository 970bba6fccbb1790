import { z } from "zod";
import { curveSchema } from "../engine/stroke/curve";

/** What a button on the barrel may do while it is held. */
export const barrelActs = ["pick", "pan", "lift", "blend", "undo", "nothing"] as const;
export type BarrelAct = (typeof barrelActs)[number];

/** What one finger does: “auto” draws until a pen has been seen, and moves the sheet from then on. */
export const fingerActs = ["auto", "draws", "moves", "rests"] as const;
export type FingerAct = (typeof fingerActs)[number];

/** As short and as long as a hold may be, ms. */
export const HOLD = { least: 120, usual: 280, most: 900 } as const;

const pressed = curveSchema.refine((points) => points.every(([, y]) => y >= 0 && y <= 1), {
  message: "pressure goes from 0 to 1",
});

/** How a person's pen and hands are felt. What cannot be read is as it was at first. */
export const penSettings = z.object({
  /** Pressure that the pen reports → pressure that is felt, both 0…1. */
  curve: pressed.catch([
    [0, 0],
    [1, 1],
  ]),
  /** Whether the pen's lean is felt; without, every pen is upright. */
  leans: z.boolean().catch(true),
  /** The button that is nearer to the tip, and the one above it. */
  lower: z.enum(barrelActs).catch("pick"),
  upper: z.enum(barrelActs).catch("pan"),
  /** What the pen's other end does. */
  otherEnd: z.enum(["lift", "blend"]).catch("lift"),
  finger: z.enum(fingerActs).catch("auto"),
  /** Keys that are held longer than this are only borrowed, ms. */
  hold: z.int().min(HOLD.least).max(HOLD.most).catch(HOLD.usual),
  /** Which hand draws: the table is laid so that the other one reaches the layers. */
  hand: z.enum(["right", "left"]).catch("right"),
});
export type PenSettings = z.infer<typeof penSettings>;
export const firstPen: PenSettings = penSettings.parse({});
