import { type BlendMode, blendModes } from "../../compose/blend-modes";

/**
 * OpenRaster 0.0.6 (freedesktop.org): a zip whose first entry is the stored `mimetype`,
 * with stack.xml, a PNG a layer, mergedimage.png and a thumbnail.
 */
export const MIMETYPE = "image/openraster";

/** Modes that OpenRaster calls otherwise. */
const opNames: Partial<Record<BlendMode, string>> = {
  normal: "svg:src-over",
  add: "svg:plus",
  glaze: "pampas:glaze",
};

export const compositeOps: Record<BlendMode, string> = Object.fromEntries(
  blendModes.map((mode) => [mode, opNames[mode] ?? `svg:${mode}`]),
) as Record<BlendMode, string>;

export function blendOf(
  op: string,
  notes: string[],
  name: string,
): { blend: BlendMode; clip: boolean } {
  if (op === INSIDE) return { blend: "normal", clip: true };
  const found = blendModes.find((mode) => compositeOps[mode] === op);
  if (!found) notes.push(`“${name}” used the blend mode ${op}, which is shown as normal.`);
  return { blend: found ?? "normal", clip: false };
}

/** A layer inside of the alpha of what lies below it in its stack. */
export const INSIDE = "svg:src-atop";
/** What lies below in the stack, inside of the layer's alpha. */
export const KEPT_INSIDE = "svg:dst-in";

/** Whether other readers have no formula for a mode. */
export const isOurs = (mode: BlendMode): boolean => !compositeOps[mode].startsWith("svg:");
