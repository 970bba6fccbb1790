import { type Brush, type BrushInput } from "../stroke/brush";
import { alongStroke, brush, by, from, pictures, round } from "./brush-making";

const KIT = "Markers";

/** Fibres part where the pen is set down and where it leaves. */
const streaks: NonNullable<BrushInput["overtip"]> = {
  mode: "subtract",
  tip: pictures(["thin bristles"], { choice: "one a stroke" }),
  spacing: from(0.06),
  diameter: from(1.1),
  angle: from(0.25, alongStroke),
  flow: from(0.3, by("taper", [0, 2.2], [0.6, 0.9], [0.97, 0])),
};

/** Transparent dye: one even tone inside a stroke, however often it crosses itself. */
const fibre = (
  id: string,
  name: string,
  size: number,
  more: Pick<BrushInput, "diameter"> & Partial<BrushInput>,
): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    strength: 0.62,
    tip: round(0.93),
    spacing: from(0.06),
    flow: from(1),
    taper: { in: 26, out: 34, narrows: false },
    overtip: streaks,
    tags: ["transparent", "even"],
    ...more,
  });

export const markers: readonly Brush[] = [
  fibre("marker-round", "Fibre marker", 22, {
    diameter: from(1, by("pressure", [0, 0.88], [1, 1.06])),
  }),
  fibre("marker-chisel", "Chisel marker", 46, {
    diameter: from(0.34, by("pressure", [0, 0.95], [1, 1.05])),
    stretch: from(3),
    angle: from(-0.1),
  }),
  fibre("marker-brush", "Brush marker", 34, {
    diameter: from(1, by("pressure", [0, 0.16], [0.5, 0.6], [1, 1.05])),
  }),
  fibre("marker-fine", "Fine marker", 6, {
    diameter: from(1, by("pressure", [0, 0.9], [1, 1.1])),
    strength: 0.85,
    overtip: null,
  }),
];
