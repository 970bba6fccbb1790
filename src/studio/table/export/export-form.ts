import { type Rendering, type Tones } from "../../../engine/file/print/tones";
import { MOST_PIXELS, MOST_SIDE } from "../../../engine/picture/size";
import { type ExportForm } from "../../../storage/kept-exports";
import { type ExportChoice } from "../../../worker/protocol";
import { fileName } from "../../../worker/file-name";
import { fromPixels, toPixels, type Unit } from "../../files/lengths";

export type Format = Exclude<ExportChoice["format"], "whole">;

export type { ExportForm };

export const firstForm = (ppi: number, width: number): ExportForm => ({
  format: "png",
  tones: "colour",
  depth: 8,
  ground: true,
  dots: true,
  quality: 0.9,
  repaint: 1,
  resized: false,
  width,
  unit: "px",
  ppi,
  sizing: "crisp",
  pages: false,
  page: { bleed: 0, marks: false, curves: true },
  merges: true,
});

type Sheet = { width: number; height: number };

/** Formats made of pixels. */
export const isPixels = (format: Format): boolean =>
  format !== "ora" && format !== "svg" && format !== "log";

/** What of its colours a format can keep: browsers write no JPEG or WebP of one bit. */
export const tonesOf = (format: Format): readonly Tones[] =>
  format === "jpeg" || format === "webp"
    ? ["colour", "grey"]
    : ["colour", "grey", "black-and-white"];

const tonesNow = ({ format, tones }: ExportForm): Tones =>
  tonesOf(format).includes(tones) ? tones : "colour";

export const canBeDeep = ({ format, tones }: ExportForm): boolean =>
  (format === "png" || format === "tiff") && tones !== "black-and-white";
export const canBeClear = ({ format, tones, pages }: ExportForm): boolean =>
  format === "png"
    ? tones !== "black-and-white"
    : format === "tiff" && tones !== "black-and-white" && !pages;
/** Black and white keeps its own size, so that no dot is made anew; a PDF is as large as the sheet. */
export const canBeResized = (form: ExportForm): boolean =>
  isPixels(form.format) && form.format !== "pdf" && tonesNow(form) !== "black-and-white";
export const canBeRepainted = ({ format }: ExportForm): boolean =>
  format === "png" || format === "ora";

/** Whether the server paints it larger from its log. */
export const isPaintedAnew = (form: ExportForm): boolean =>
  canBeRepainted(form) && form.repaint > 1 && !form.resized;

/** A file's name with that of the kept export that it comes from, so that several of a kind can lie side by side. */
export function namedAfter(file: string, kept: string): string {
  const dot = file.lastIndexOf(".");
  return fileName(`${file.slice(0, dot)} - ${kept}`, file.slice(dot + 1));
}

/** The size that it is to have, px; null where it keeps its own. @returns a sentence where that cannot be */
export function sizeOf(
  form: ExportForm,
  sheet: Sheet,
): { width: number; height: number } | string | null {
  if (!form.resized || !canBeResized(form)) return null;
  if (!(form.width > 0)) return "Give a width.";
  const width = toPixels(form.width, form.unit, form.ppi);
  const height = Math.max(1, Math.round((width * sheet.height) / sheet.width));
  if (Math.max(width, height) > MOST_SIDE)
    return `A side has at most ${MOST_SIDE.toLocaleString("en")} px.`;
  if (width * height > MOST_PIXELS) return `A picture has at most ${MOST_PIXELS / 1e6} million px.`;
  return { width, height };
}

/** The width in another unit: the same size. */
export function inUnit(form: ExportForm, unit: Unit): Pick<ExportForm, "unit" | "width"> {
  const px = toPixels(form.width, form.unit, form.ppi);
  return { unit, width: fromPixels(px, unit, form.ppi) };
}

/** What the worker is asked for. */
export function choiceOf(form: ExportForm, sheet: Sheet): ExportChoice {
  const { format } = form;
  if (format === "ora") return { format, merges: form.merges };
  if (format === "svg" || format === "log") return { format };
  const size = sizeOf(form, sheet);
  const rendering: Rendering = {
    tones: tonesNow(form),
    depth: canBeDeep(form) ? form.depth : 8,
    ground: canBeClear(form) ? form.ground : true,
    dots: form.dots,
    size:
      size && typeof size !== "string"
        ? { ...size, sizing: form.sizing, ppi: form.unit === "px" ? undefined : form.ppi }
        : undefined,
  };
  switch (format) {
    case "png":
      return { format, rendering };
    case "tiff":
      return { format, rendering, pages: form.pages };
    case "pdf":
      return { format, rendering, page: form.page };
    case "jpeg":
    case "webp":
      return { format, rendering, quality: form.quality };
  }
}

/** The same as a PNG of eight bits, to be looked at: what is seen of formats that no browser shows. */
export function lookOf(choice: ExportChoice): ExportChoice | null {
  if (!("rendering" in choice)) return null;
  if (choice.format !== "tiff" && choice.format !== "pdf") return choice;
  return { format: "png", rendering: { ...choice.rendering, depth: 8 } };
}
