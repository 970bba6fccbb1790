import { type Brush, type BrushInput } from "../stroke/brush";
import { alongTilt, brush, by, from, lyingDown, round, stray, uneven } from "./brush-making";

const KIT = "Pencils";

/** How hard a lead presses on the tooth: less where it lies on its side. */
const press = (light: number): BrushInput["diameter"] =>
  from(1, by("pressure", [0, light], [0.5, 0.48 + light], [1, 1]), by("tilt", [0, 1], [1, 0.9]));

/**
 * Graphite. Light pressure leaves pigment on the paper's peaks, heavy pressure fills the
 * valleys. A tilted lead lies on its side: the mark grows long along the tilt and, since
 * the same force is spread over more paper, presses less.
 * @param softness 0 hard … 1 soft: a soft lead gives more and fills more of the tooth
 */
const lead = (id: string, name: string, size: number, softness: number): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    strength: 0.72 + 0.26 * softness,
    tip: round(0.35),
    spacing: from(0.12),
    diameter: from(
      1,
      by("pressure", [0, 0.5], [0.5, 0.8], [1, 1.15]),
      by("tilt", [0, 1], [0.35, 1.15], [1, 2.2]),
      uneven(0.15),
    ),
    ...lyingDown(6.5),
    flow: from(
      0.24 + 0.2 * softness,
      by("pressure", [0, 0], [0.25, 0.2], [0.6, 0.62], [1, 1]),
      by("tilt", [0, 1], [0.4, 0.55], [1, 0.16]),
      by("chance of a mark", [0, 0.75], [1, 1]),
    ),
    scatter: { along: from(0), across: stray(0.06) },
    grain: { depth: 0.86 - 0.1 * softness, softness: 1, slope: 0.5, press: press(0.04) },
    tags: ["dry", "graphite"],
  });

/** A thin lead that never lies down: one even width, darker as it presses. */
const mechanical = brush({
  id: "pencil-clutch",
  name: "Clutch pencil",
  kit: KIT,
  size: 2.6,
  strength: 0.82,
  tip: round(0.7),
  spacing: from(0.14),
  diameter: from(1, by("pressure", [0, 0.86], [1, 1.06]), uneven(0.06)),
  flow: from(0.44, by("pressure", [0, 0.04], [0.3, 0.35], [1, 1]), uneven(0.12)),
  grain: { depth: 0.7, softness: 1, slope: 0.3, press: press(0.08) },
  tags: ["dry", "graphite", "fine"],
});

/** Wax and pigment: it lies on the tooth, its colour wavers, and layers never quite close. */
const coloured = brush({
  id: "pencil-coloured",
  name: "Coloured pencil",
  kit: KIT,
  size: 9,
  strength: 0.86,
  tip: round(0.5),
  spacing: from(0.13),
  diameter: from(1, by("pressure", [0, 0.55], [1, 1.1]), by("tilt", [0, 1], [1, 1.9]), uneven(0.1)),
  ...lyingDown(4),
  flow: from(
    0.3,
    by("pressure", [0, 0.03], [0.4, 0.4], [1, 1]),
    by("tilt", [0, 1], [1, 0.25]),
    uneven(0.2),
  ),
  scatter: { along: from(0), across: stray(0.08) },
  grain: { depth: 0.82, softness: 0.55, slope: 0.7, press: press(0.02) },
  colour: { hue: stray(0.012), value: stray(0.035), chroma: from(1, uneven(0.08)) },
  tags: ["dry", "colour"],
});

/** A broad flat lead: thin on its edge, wide across it. */
const flat = brush({
  id: "pencil-flat",
  name: "Flat lead",
  kit: KIT,
  size: 20,
  strength: 0.9,
  tip: round(0.75),
  spacing: from(0.1),
  diameter: from(0.3, by("pressure", [0, 0.7], [1, 1.1])),
  stretch: from(5),
  angle: from(-0.11, {
    ...alongTilt,
    curve: [
      [0, 0],
      [1, 0.25],
    ],
  }),
  flow: from(0.32, by("pressure", [0, 0.02], [0.5, 0.45], [1, 1]), uneven(0.15)),
  grain: { depth: 0.84, softness: 0.8, slope: 0.9, press: press(0.03) },
  tags: ["dry", "graphite", "broad"],
});

/** The Weaver: a searching line that ties itself to what is near, so a sketch shades itself. */
const weaver = (id: string, name: string, size: number, reach: number, threads: number): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    strength: 0.88,
    laying: { kind: "weave", reach, threads, thread: 0.34, faint: 0.26 },
    tip: round(0.6),
    spacing: from(0.9),
    diameter: from(1, by("pressure", [0, 0.35], [1, 1.05])),
    flow: from(0.8, by("pressure", [0, 0.25], [1, 1])),
    taper: { in: 6, out: 10 },
    tags: ["line", "shading"],
  });

export const pencils: readonly Brush[] = [
  lead("pencil-2h", "2H pencil", 4, 0),
  lead("pencil-2b", "2B pencil", 6, 0.55),
  lead("pencil-6b", "6B pencil", 11, 1),
  mechanical,
  coloured,
  flat,
  weaver("weaver", "Weaver", 3, 26, 3),
  weaver("weaver-wide", "Wide weaver", 2.4, 60, 6),
];
