import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { paperSchema } from "../paper/paper";
import { MOST_PIXELS, MOST_SIDE } from "./size";

/** What a picture is before anything is drawn: the first line of a work log. */
export const headerSchema = z
  .strictObject({
    pampas: z.literal(1),
    title: z.string().max(200).optional(),
    width: z.int().min(1).max(MOST_SIDE),
    height: z.int().min(1).max(MOST_SIDE),
    ppi: z.number().min(1).max(9600).default(300),
    mode: z.enum(["colour", "grey", "black-and-white"]).default("colour"),
    ground: hexColour.default("#ffffff"),
    paper: paperSchema.default({ kind: "hot-pressed", scale: 1 }),
  })
  .refine(({ width, height }) => width * height <= MOST_PIXELS, {
    message: `a picture has at most ${MOST_PIXELS / 1e6} million pixels`,
    path: ["width"],
  });

export type Header = z.infer<typeof headerSchema>;
