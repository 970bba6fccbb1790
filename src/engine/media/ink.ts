import { type Brush, brushSchema } from "../stroke/brush";

/**
 * Ink. The line is one shape: tapered segments joined, never darker where it crosses
 * itself, with an edge exact to the pixel down to half a pixel of width.
 */
const pen = (own: {
  id: string;
  name: string;
  size: number;
  /** Width at no pressure, as a share of the full one. */
  thin: number;
  taper: { in: number; out: number };
}): Brush =>
  brushSchema.parse({
    id: own.id,
    name: own.name,
    kit: "Inks",
    medium: "ink",
    size: own.size,
    strength: 1,
    spacing: 0.1,
    hardness: 1,
    diameter: {
      base: 1,
      drives: [
        {
          by: "pressure",
          curve: [
            [0, own.thin],
            [0.5, own.thin + (1 - own.thin) * 0.5],
            [1, 1],
          ],
        },
      ],
    },
    stretch: { base: 1 },
    flow: { base: 1 },
    grain: null,
    taper: own.taper,
  });

export const inks: readonly Brush[] = [
  pen({ id: "pen-fine", name: "Fine pen", size: 4, thin: 0.55, taper: { in: 4, out: 6 } }),
  pen({ id: "pen-sprung", name: "Sprung nib", size: 10, thin: 0.08, taper: { in: 22, out: 34 } }),
  pen({ id: "pen-even", name: "Even liner", size: 6, thin: 1, taper: { in: 0, out: 0 } }),
];
