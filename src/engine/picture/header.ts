import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { paperSchema } from "../paper/paper";
import { ENGINE_REVISION } from "../revision";
import { MOST_PIXELS, MOST_SIDE } from "./size";

/** What a picture is before anything is drawn: the first line of a work log. */
export const headerSchema = z
  .strictObject({
    pampas: z.literal(1),
    /** Revision of the engine that the log is for (`engine/revision.ts`); 0: before it was counted. */
    engine: z.int().min(0).max(1_000_000).default(0),
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

/** The header of a picture that begins here, for this engine. @throws ZodError where it cannot be */
export const newHeader = (header: Omit<z.input<typeof headerSchema>, "pampas">): Header =>
  headerSchema.parse({ pampas: 1, engine: ENGINE_REVISION, ...header });
