import { z } from "zod";
import { contactSchema } from "../../dry/material";
import { bristlesSchema } from "../../oil/bristles";
import { knifeSchema } from "../../oil/knife";
import { washBrushSchema } from "../../water/wash";
import { everySchema } from "./every";
import { hairsSchema } from "./hairs";
import { spraySchema } from "./spray";
import { strandsSchema } from "./strands";
import { weaveSchema } from "./weave";

/**
 * How marks follow the hand: a train of tips; one clean line; a cloud of specks; tufts of
 * hair; strands that run along; a line that ties itself to what is near; one long tip
 * stretched over the whole stroke; a dry tip rubbed over the paper; bristles, or a knife,
 * in wet paint; a brush of water.
 */
export const layingSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("marks"),
    /** Ms between marks; null: by length alone. */
    every: everySchema,
  }),
  z.strictObject({ kind: z.literal("line") }),
  contactSchema,
  bristlesSchema,
  knifeSchema,
  washBrushSchema,
  spraySchema,
  hairsSchema,
  strandsSchema,
  weaveSchema,
  z.strictObject({
    kind: z.literal("ribbon"),
    /** Which end of the tip's picture lies where the stroke began. */
    from: z.enum(["root", "end"]),
  }),
]);

export type Laying = z.infer<typeof layingSchema>;
