import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { MOST_SIDE } from "../picture/size";

const share = z.number().min(0).max(1);

/** Sets that a picture holds of its own are numbered from here. */
export const FIRST_OWN_SET = 256;
export const MOST_OWN_SETS = 64;
/** Pictures in a set of one's own, and their longest side, px. */
export const MOST_PICTURES = 24;
export const MOST_PICTURE_SIDE = 1024;

export const setNumber = z
  .int()
  .min(0)
  .max(FIRST_OWN_SET + MOST_OWN_SETS - 1);
export const ownNumber = z
  .int()
  .min(FIRST_OWN_SET)
  .max(FIRST_OWN_SET + MOST_OWN_SETS - 1);
export const horizonSchema = z
  .number()
  .min(-4 * MOST_SIDE)
  .max(4 * MOST_SIDE);

/** How pieces are strewn by a stroke. Lengths in the stroke's size, which is a piece's longest side. */
export const strewSchema = z.strictObject({
  set: setNumber,
  /** One picture of the set; null: any of them by chance. */
  only: z.int().min(0).max(63).nullable().default(null),
  /** From one piece to the next along the stroke. */
  gap: z.number().min(0.02).max(20),
  /** How far aside they fall. */
  spread: z.number().min(0).max(20),
  /** How far sizes differ by chance, and how far pressure decides. */
  sizes: share,
  press: share,
  /** Turned any way, along the stroke, or as the picture is; and how far chance turns it from there. */
  turn: z.enum(["any", "along", "upright"]),
  turns: share,
  /** Whether some are mirrored. */
  flips: z.boolean(),
  /** How far they take the stroke's colour or its second. */
  tint: share,
  /** How far lightness and warmth stray by chance. */
  strays: share,
  /** How far some are paler than the others, and how far some are out of focus. */
  fades: share,
  blurs: share,
  /** Smaller and paler towards a horizon (y, px), in a colour of the air; null: all alike. */
  depth: z
    .strictObject({ horizon: horizonSchema, amount: share, air: hexColour })
    .nullable()
    .default(null),
});
export type Strew = Readonly<z.infer<typeof strewSchema>>;

/** A set of one's own: its pictures lie under {@link setPlanes}. */
export const ownSetSchema = z.strictObject({
  number: ownNumber,
  name: z.string().min(1).max(120),
  /** Width and height of each picture, px. */
  pictures: z
    .array(z.tuple([z.int().min(1).max(MOST_PICTURE_SIDE), z.int().min(1).max(MOST_PICTURE_SIDE)]))
    .min(1)
    .max(MOST_PICTURES),
});
export type OwnSet = Readonly<z.infer<typeof ownSetSchema>>;

/** Where the pictures of a set of one's own lie: the plane of picture 0 is “0”. */
export const setPlanes = (number: number): string => `(pieces ${number})`;
