import { z } from "zod";
import { freeSchema } from "../transform/free";
import { boxSchema } from "../transform/warp";

export const MOST_STENCILS = 40;

/** Whether paint is held back by the shape, or goes only where the shape is open. */
export const stencilWays = ["holds", "lets through"] as const;

export const stencilName = z.string().min(1).max(120);

/** What can be set of a stencil. */
export const stencilProperties = z.strictObject({
  name: stencilName,
  way: z.enum(stencilWays),
  /** Whether it lies on the sheet; else it is put by, and holds nothing. */
  on: z.boolean(),
  place: freeSchema,
});

/** A shape that holds paint back or lets it through. Its pixels are planes of the picture. */
export const stencilSchema = stencilProperties
  .extend({
    id: z.string().min(1).max(64),
    /** The box around its shape before it was put anywhere, px. */
    from: boxSchema,
  })
  .strict();
export const stencilsSchema = z.array(stencilSchema).max(MOST_STENCILS);

export type Stencil = Readonly<z.infer<typeof stencilSchema>>;
