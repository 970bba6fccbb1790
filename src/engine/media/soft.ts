import { type Brush, brushSchema } from "../stroke/brush";

/** A round brush of even paint: flow is what a mark leaves, strength what the stroke may reach. */
const round = (own: {
  id: string;
  name: string;
  size: number;
  hardness: number;
  flow: number;
  spacing: number;
  /** Whether pressure changes the size as well as the flow. */
  swells: boolean;
}): Brush =>
  brushSchema.parse({
    id: own.id,
    name: own.name,
    kit: "Rounds",
    medium: "soft",
    size: own.size,
    strength: 1,
    spacing: own.spacing,
    hardness: own.hardness,
    diameter: {
      base: 1,
      drives: own.swells
        ? [
            {
              by: "pressure",
              curve: [
                [0, 0.15],
                [0.5, 0.65],
                [1, 1],
              ],
            },
          ]
        : [],
    },
    stretch: { base: 1 },
    flow: {
      base: own.flow,
      drives: [
        {
          by: "pressure",
          curve: [
            [0, 0],
            [0.5, 0.45],
            [1, 1],
          ],
        },
      ],
    },
    grain: null,
    taper: { in: 0, out: 0 },
  });

export const rounds: readonly Brush[] = [
  round({
    id: "round-soft",
    name: "Soft round",
    size: 60,
    hardness: 0,
    flow: 0.24,
    spacing: 0.06,
    swells: false,
  }),
  round({
    id: "round-firm",
    name: "Firm round",
    size: 28,
    hardness: 0.82,
    flow: 0.7,
    spacing: 0.06,
    swells: true,
  }),
  round({
    id: "round-veil",
    name: "Veil",
    size: 160,
    hardness: 0,
    flow: 0.05,
    spacing: 0.05,
    swells: false,
  }),
];
