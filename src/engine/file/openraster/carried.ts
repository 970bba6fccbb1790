import { type Layer } from "../../picture/picture";

/** Attributes for what OpenRaster has no word for; other readers pass them over (named as the XML package has it). */
export const CARRIED = {
  /** A layer's properties as JSON. */
  layer: "@_pampas-layer",
  /** What an element is there for that is no layer of the picture. */
  role: "@_pampas-role",
  /** A layer's own pixels, where `src` shows them as they are seen. */
  source: "@_pampas-src",
  /** What a layer's mask lets through, as alpha. */
  mask: "@_pampas-mask",
  /** The sheet's colour, on the layer that stands for it. */
  ground: "@_pampas-ground",
} as const;

/**
 * Why an element is there that is no layer: `run` holds a layer and those clipped to it,
 * `under` what is merged in front of it, `inside` a group's layers, `outlined` a layer and its
 * outline. The others are pictures for other readers: what was merged, an outline, a mask.
 */
export const roles = ["run", "under", "inside", "outlined", "merged", "outline", "mask"] as const;
export type Role = (typeof roles)[number];

/** Whether an element shows to others what Pampas makes anew. */
export const isForOthers = (role: Role): boolean =>
  role === "merged" || role === "outline" || role === "mask";

/** A layer's properties as they are carried; its name is OpenRaster's own. */
export function carriedProperties({ id: _, group: _g, name: _n, ...properties }: Layer): string {
  return JSON.stringify(properties);
}
