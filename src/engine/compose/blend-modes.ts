import { z } from "zod";

/** The blend modes of W3C Compositing and Blending Level 1, add (its plus-lighter), and glaze (a film of pigment); a mode's place is its number in the kernels. */
export const blendModes = [
  "normal",
  "multiply",
  "screen",
  "overlay",
  "darken",
  "lighten",
  "color-dodge",
  "color-burn",
  "hard-light",
  "soft-light",
  "difference",
  "exclusion",
  "hue",
  "saturation",
  "color",
  "luminosity",
  "add",
  "glaze",
] as const;

export type BlendMode = (typeof blendModes)[number];

export const blendSchema = z.enum(blendModes);

/** How a brush's paint lies on what is there: blended with it, or behind it. */
export const laysSchema = z.enum([...blendModes, "behind"]);

export type Lays = z.infer<typeof laysSchema>;

export const blendNumber = (mode: BlendMode): number => blendModes.indexOf(mode);
