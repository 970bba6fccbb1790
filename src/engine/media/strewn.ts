import { type Brush, type BrushInput } from "../stroke/brush";
import { alongStroke, brush, by, from, pictures, stray, uneven, everyWay } from "./brush-making";

const KIT = "Leaf and ribbon";

const wavering: NonNullable<BrushInput["colour"]> = {
  hue: stray(0.02),
  value: stray(0.07),
  chroma: from(1, uneven(0.15)),
};

/** Pictures set along the stroke, turned, turned over and sized by chance. */
const strewn = (
  id: string,
  name: string,
  size: number,
  names: Parameters<typeof pictures>[0],
  more: Partial<BrushInput> = {},
): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    tip: pictures(names, { flip: { across: 0, along: 0.5 } }),
    spacing: from(0.55, uneven(0.3)),
    diameter: from(1, by("pressure", [0, 0.5], [1, 1.15]), uneven(0.3)),
    angle: everyWay,
    flow: from(1),
    scatter: { along: stray(0.2), across: stray(0.45) },
    colour: wavering,
    tags: ["two tones", "nature"],
    ...more,
  });

/** One long tip from root to end of the stroke. */
const long = (
  id: string,
  name: string,
  size: number,
  made: Parameters<typeof pictures>[0][number],
): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    laying: { kind: "ribbon", from: "root" },
    tip: pictures([made]),
    spacing: from(0.1),
    diameter: from(1, by("pressure", [0, 0.5], [0.5, 0.9], [1, 1.1])),
    flow: from(1),
    tags: ["two tones", "stretched"],
  });

export const strewnBrushes: readonly Brush[] = [
  strewn("leaf-plain", "Leaves", 46, ["leaf", "lobed leaf"]),
  strewn("leaf-narrow", "Willow leaves", 44, ["narrow leaf"], {
    angle: from(0, alongStroke, {
      by: "chance of a mark",
      curve: [
        [0, -0.14],
        [1, 0.14],
      ],
      how: "add",
    }),
  }),
  strewn("leaf-sprig", "Sprigs", 70, ["sprig"], { spacing: from(0.6) }),
  strewn("grass", "Grass", 64, ["blades"], {
    tip: pictures(["blades"], { flip: { across: 0.5, along: 0 } }),
    angle: from(0, {
      by: "chance of a mark",
      curve: [
        [0, -0.05],
        [1, 0.05],
      ],
      how: "add",
    }),
    spacing: from(0.3),
    scatter: { along: stray(0.15), across: stray(0.16) },
  }),
  strewn("flake", "Flakes", 22, ["flake"], { scatter: { along: stray(0.6), across: stray(1.3) } }),
  long("ribbon", "Ribbon", 30, "ribbon"),
  long("rope", "Rope", 26, "rope"),
];
