import { z } from "zod";
import { sizings } from "../engine/file/print/resized-rows";
import { tones } from "../engine/file/print/tones";

/** What is chosen in the export dialog, for all formats at once: going back to one finds it as it was. */
export const exportFormSchema = z.strictObject({
  format: z.enum(["png", "jpeg", "webp", "tiff", "pdf", "ora", "svg", "log"]),
  tones: z.enum(tones),
  depth: z.literal([8, 16]),
  ground: z.boolean(),
  dots: z.boolean(),
  quality: z.number().min(0.01).max(1),
  /** Painted anew from the log, so many times as large; 1: as it is. */
  repaint: z.int().min(1).max(4),
  /** Whether it goes out at another size than its own. */
  resized: z.boolean(),
  width: z.number().positive().max(1e6),
  unit: z.enum(["px", "mm", "cm", "in"]),
  ppi: z.number().min(1).max(9600),
  sizing: z.enum(sizings),
  pages: z.boolean(),
  page: z.strictObject({
    bleed: z.number().min(0).max(50),
    marks: z.boolean(),
    curves: z.boolean(),
  }),
  merges: z.boolean(),
});
export type ExportForm = z.infer<typeof exportFormSchema>;

export const MOST_KEPT_EXPORTS = 24;
/** Longest name of a kept export. */
export const MOST_EXPORT_NAME = 60;

/** An export under a name of its own, and whether it runs with the others. */
export const keptExportSchema = z.strictObject({
  name: z.string().trim().min(1).max(MOST_EXPORT_NAME),
  form: exportFormSchema,
  runs: z.boolean(),
});
export type KeptExport = z.infer<typeof keptExportSchema>;
