import { z } from "zod";

const share = z.number().min(0).max(1);

/**
 * A tuft of bristles swept through wet paint. Each lays what it is loaded with, takes up what lies there, and
 * ploughs some of it aside, until it has run dry. The brush's size is the tuft's width, its strength how much
 * paint it is loaded with.
 */
export const bristlesSchema = z.strictObject({
  kind: z.literal("bristles"),
  /** What a cut through the tuft looks like, and how deep it is to its width. */
  outline: z.enum(["round", "square"]),
  depth: z.number().min(0.06).max(1),
  /** Whether it keeps its width across the travel; a round one is not turned. */
  turns: z.boolean(),
  /** How closely bristles stand: their area over the tuft's. */
  cover: z.number().min(1).max(1.8),
  /** 0 hog, which touches a bristle at a time … 1 sable, whose whole tuft comes down at once. */
  soft: share,
  /** How far a hard press scratches through to what lies below. */
  stiff: share,
  /** How far bristles part as they are pressed. */
  splay: z.number().min(0).max(0.6),
  /** How far tips trail behind the hand: 1 as far as a hog's. */
  trails: z.number().min(0).max(4),
  /** What it lays, takes up, and ploughs aside at a touch. */
  gives: z.number().min(0.05).max(0.5),
  takes: z.number().min(0.05).max(0.6),
  ploughs: z.number().min(0).max(2.5),
  /** Paint on a bristle's tip, px thick, and how long the load lasts, in widths. */
  film: z.number().min(0.4).max(4),
  run: z.number().min(2).max(120),
  /** How uneven the hairs of a bristle are, and how far its track breaks into lanes. */
  hair: z.number().min(0).max(0.9),
  ridge: share,
  /** From this thickness on paint takes less, px. */
  thick: z.number().min(0.5).max(6),
  /** Dry as soon as the stroke ends, as gouache and acrylic are; oil stays wet. */
  dries: z.boolean().default(false),
});

export type Bristles = z.infer<typeof bristlesSchema>;
