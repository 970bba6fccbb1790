import { type Brush, brushSchema } from "../stroke/brush";

/**
 * Graphite. Light pressure leaves pigment on the paper's peaks, heavy pressure fills the
 * valleys. A tilted lead lies on its side: the mark grows long along the tilt and, since
 * the same force is spread over more paper, presses less.
 */
const lead = (own: {
  id: string;
  name: string;
  size: number;
  /** 0 hard … 1 soft: a soft lead gives more and fills more of the tooth. */
  softness: number;
}): Brush =>
  brushSchema.parse({
    id: own.id,
    name: own.name,
    kit: "Pencils",
    medium: "pencil",
    size: own.size,
    strength: 0.72 + 0.26 * own.softness,
    spacing: 0.12,
    hardness: 0.35,
    diameter: {
      base: 1,
      drives: [
        {
          by: "pressure",
          curve: [
            [0, 0.5],
            [0.5, 0.8],
            [1, 1.15],
          ],
        },
        {
          by: "tilt",
          curve: [
            [0, 1],
            [0.35, 1.15],
            [1, 2.2],
          ],
        },
        {
          by: "chance of a mark",
          curve: [
            [0, 0.85],
            [1, 1.15],
          ],
        },
      ],
    },
    stretch: {
      base: 1,
      drives: [
        {
          by: "tilt",
          curve: [
            [0, 1],
            [0.25, 1.2],
            [0.6, 4],
            [1, 6.5],
          ],
        },
      ],
    },
    flow: {
      base: 0.24 + 0.2 * own.softness,
      drives: [
        {
          by: "pressure",
          curve: [
            [0, 0],
            [0.25, 0.2],
            [0.6, 0.62],
            [1, 1],
          ],
        },
        {
          by: "tilt",
          curve: [
            [0, 1],
            [0.4, 0.55],
            [1, 0.16],
          ],
        },
        {
          by: "chance of a mark",
          curve: [
            [0, 0.75],
            [1, 1],
          ],
        },
      ],
    },
    jitter: 0.06,
    grain: {
      depth: 0.86 - 0.1 * own.softness,
      softness: 1,
      slope: 0.5,
      press: {
        base: 1,
        drives: [
          {
            by: "pressure",
            curve: [
              [0, 0.04],
              [0.5, 0.52],
              [1, 1],
            ],
          },
          {
            by: "tilt",
            curve: [
              [0, 1],
              [1, 0.9],
            ],
          },
        ],
      },
    },
    taper: { in: 0, out: 0 },
  });

export const pencils: readonly Brush[] = [
  lead({ id: "pencil-2h", name: "2H pencil", size: 4, softness: 0 }),
  lead({ id: "pencil-2b", name: "2B pencil", size: 6, softness: 0.55 }),
  lead({ id: "pencil-6b", name: "6B pencil", size: 11, softness: 1 }),
];
