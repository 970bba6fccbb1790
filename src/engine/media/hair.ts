import { type Brush, type BrushInput } from "../stroke/brush";
import { brush, by, from, round, stray } from "./brush-making";

const KIT = "Hair and fur";

type Hairs = Extract<BrushInput["laying"], { kind: "hairs" }>;
type Strands = Extract<BrushInput["laying"], { kind: "strands" }>;

const shades: NonNullable<BrushInput["colour"]> = {
  value: stray(0.06),
  second: from(0, {
    by: "chance of a mark",
    curve: [
      [0, 0],
      [0.6, 0.05],
      [1, 0.5],
    ],
    how: "add",
  }),
};

/** A spray of hairs. */
const fur = (
  id: string,
  name: string,
  size: number,
  laying: Omit<Hairs, "kind">,
  more: Partial<BrushInput> = {},
): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    strength: 0.95,
    laying: { kind: "hairs", ...laying },
    tip: round(1),
    spacing: from(0.32),
    diameter: from(1, by("pressure", [0, 0.45], [1, 1.15])),
    flow: from(0.9, by("pressure", [0, 0.4], [1, 1])),
    colour: shades,
    tags: ["hair"],
    ...more,
  });

/** Strands that run with the stroke. */
const lock = (
  id: string,
  name: string,
  size: number,
  laying: Omit<Strands, "kind">,
  more: Partial<BrushInput> = {},
): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    strength: 0.95,
    laying: { kind: "strands", ...laying },
    tip: round(1),
    spacing: from(0.1),
    diameter: from(1, by("pressure", [0, 0.4], [0.5, 0.8], [1, 1.1])),
    flow: from(0.92),
    colour: shades,
    taper: { in: 16, out: 40 },
    tags: ["hair", "strands"],
    ...more,
  });

const straight = { curl: 0, wave: 0, waves: 0 };

export const hair: readonly Brush[] = [
  fur("fur-short", "Short fur", 40, {
    hairs: 14,
    spread: 1,
    length: 0.62,
    width: 0.045,
    lean: "tilt",
    fan: 0.07,
    clump: 0.1,
    ...straight,
    curl: 0.04,
  }),
  fur("fur-long", "Long fur", 46, {
    hairs: 9,
    spread: 0.9,
    length: 1.7,
    width: 0.04,
    lean: "tilt",
    fan: 0.06,
    clump: 0.35,
    curl: 0.09,
    wave: 0.12,
    waves: 0.7,
  }),
  fur("fur-curly", "Curly fleece", 44, {
    hairs: 8,
    spread: 0.9,
    length: 1.15,
    width: 0.042,
    lean: "tilt",
    fan: 0.18,
    clump: 0.2,
    curl: 0.95,
    wave: 0,
    waves: 0,
  }),
  fur("fur-wavy", "Wavy coat", 46, {
    hairs: 10,
    spread: 0.8,
    length: 1.8,
    width: 0.038,
    lean: "stroke",
    fan: 0.04,
    clump: 0.55,
    curl: 0.03,
    wave: 0.7,
    waves: 2.2,
  }),
  fur("fur-locks", "Wet locks", 48, {
    hairs: 18,
    spread: 0.8,
    length: 1.3,
    width: 0.036,
    lean: "tilt",
    fan: 0.11,
    clump: 0.92,
    ...straight,
    curl: 0.06,
  }),
  fur(
    "fur-fan",
    "Fanned tuft",
    44,
    {
      hairs: 22,
      spread: 0.25,
      length: 1.1,
      width: 0.04,
      lean: "stroke",
      fan: 0.2,
      clump: 0.1,
      ...straight,
      curl: 0.03,
    },
    { spacing: from(0.8) },
  ),
  fur(
    "fur-burst",
    "Seed head",
    40,
    {
      hairs: 34,
      spread: 0.12,
      length: 0.55,
      width: 0.028,
      lean: "outward",
      fan: 0.02,
      clump: 0,
      ...straight,
    },
    { spacing: from(1.6) },
  ),
  lock("hair-straight", "Straight hair", 34, {
    strands: 26,
    width: 0.05,
    opens: 0.5,
    wave: 0,
    waves: 0,
    clump: 0.2,
    breaks: 0.12,
  }),
  lock("hair-loose", "Loose hair", 30, {
    strands: 16,
    width: 0.052,
    opens: 2.6,
    wave: 0.06,
    waves: 2,
    clump: 0.1,
    breaks: 0.14,
  }),
  lock("hair-wavy", "Wavy hair", 36, {
    strands: 22,
    width: 0.05,
    opens: 0.7,
    wave: 0.34,
    waves: 3.4,
    clump: 0.55,
    breaks: 0.1,
  }),
  lock("hair-plait", "Crossing strands", 30, {
    strands: 14,
    width: 0.085,
    opens: 0,
    wave: 0.62,
    waves: 5,
    clump: 0.35,
    breaks: 0,
  }),
  fur(
    "fur-blender",
    "Fur blender",
    44,
    {
      hairs: 16,
      spread: 1,
      length: 0.9,
      width: 0.06,
      lean: "tilt",
      fan: 0.08,
      clump: 0.2,
      ...straight,
      curl: 0.05,
    },
    { tags: ["hair", "blending"], colour: null, strength: 0.8 },
  ),
  lock(
    "hair-blender",
    "Strand blender",
    40,
    {
      strands: 30,
      width: 0.06,
      opens: 0.4,
      wave: 0,
      waves: 0,
      clump: 0.25,
      breaks: 0.2,
    },
    { tags: ["hair", "blending"], strength: 0.8 },
  ),
];
