import { z } from "zod";
import { madeTips, madeTip, type MadeTip } from "./made-tips";
import { tipTones, type TipTones } from "./tip-tones";

/** Longest side of a tip's picture, px. */
export const MOST_TIP_SIDE = 1024;
/** Longest base64 of one tip. */
const MOST_BASE64 = 6_000_000;

export const tipPicture = z.union([
  z.strictObject({ made: z.enum(Object.keys(madeTips) as [MadeTip, ...MadeTip[]]) }),
  z.strictObject({
    tones: z.enum(tipTones),
    /** The pixels: a PNG of at most 1024 px a side, base64. */
    png: z.base64().max(MOST_BASE64),
  }),
]);
export type TipPicture = z.infer<typeof tipPicture>;

export const tipSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("round"),
    /** 0 falls off from the middle, 1 a clean edge. */
    hardness: z.number().min(0).max(1),
  }),
  z.strictObject({
    kind: z.literal("pictures"),
    pictures: z.array(tipPicture).min(1).max(16),
    /** Which one when there are several. */
    choice: z.enum(["in turn", "by chance", "one a stroke"]).default("in turn"),
    /** Chances 0…1 of a mark being turned over, left to right and top to bottom. */
    flip: z
      .strictObject({ across: z.number().min(0).max(1), along: z.number().min(0).max(1) })
      .default({ across: 0, along: 0 }),
  }),
]);
export type Tip = z.infer<typeof tipSchema>;

export const tonesOf = (picture: TipPicture): TipTones =>
  "made" in picture ? madeTip(picture.made).tones : picture.tones;
