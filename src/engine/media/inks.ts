import { type Brush } from "../stroke/brush";
import { after, brush, by, from, pictures, round, stray, uneven, everyWay } from "./brush-making";

const KIT = "Inks";

/**
 * Ink. The line is one shape: tapered pieces joined, never darker where it crosses itself,
 * with an edge exact to the pixel down to half a pixel of width.
 * @param thin width at no pressure, as a share of the full one
 */
const pen = (
  id: string,
  name: string,
  size: number,
  thin: number,
  taper: { in: number; out: number },
  tags: string[],
): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    laying: { kind: "line" },
    tip: round(1),
    spacing: from(0.1),
    diameter: from(1, by("pressure", [0, thin], [0.5, thin + (1 - thin) * 0.5], [1, 1])),
    flow: from(1),
    taper,
    tags: ["ink", "line", ...tags],
  });

/** Ink for writing, which is not waterproof: a wet brush draws tone out of its lines. */
const writing: Brush = {
  ...pen("pen-soluble", "Soluble ink pen", 5, 0.6, { in: 4, out: 8 }, ["soluble"]),
  dissolves: 0.85,
};

/** A ball in oily ink: faint where it is light, a blot now and then, never wide. */
const ballpoint = brush({
  id: "pen-ball",
  name: "Ballpoint",
  kit: KIT,
  size: 3.2,
  strength: 0.9,
  tip: round(0.75),
  spacing: from(0.16),
  diameter: from(
    1,
    by("pressure", [0, 0.75], [1, 1.1]),
    by("chance of a mark", [0, 1], [0.985, 1], [1, 1.9]),
  ),
  flow: from(0.42, by("pressure", [0, 0.05], [0.3, 0.3], [1, 1]), uneven(0.25)),
  grain: { depth: 0.45, softness: 1, slope: 0, press: from(1, by("pressure", [0, 0.2], [1, 1])) },
  tags: ["ink", "fine"],
});

/** A pointed brush: a hair's line to a broad swell, drawn out to nothing. */
const brushPen = brush({
  id: "pen-brush",
  name: "Brush pen",
  kit: KIT,
  size: 22,
  laying: { kind: "line" },
  tip: round(1),
  spacing: from(0.1),
  diameter: from(
    1,
    by("pressure", [0, 0.03], [0.3, 0.2], [0.7, 0.66], [1, 1]),
    by("speed", [0, 1], [1, 0.8]),
  ),
  flow: from(1),
  taper: { in: 16, out: 44 },
  tags: ["ink", "line", "swelling"],
});

/** The same brush with little ink: its hairs part as it goes and where it is light. */
const dryBrush = brush({
  id: "ink-dry",
  name: "Dry ink brush",
  kit: KIT,
  size: 36,
  laying: {
    kind: "strands",
    strands: 44,
    width: 0.062,
    opens: 0.25,
    wave: 0,
    waves: 0,
    clump: 0.45,
    breaks: 0.44,
  },
  tip: round(1),
  spacing: from(0.1),
  diameter: from(1, by("pressure", [0, 0.3], [0.5, 0.75], [1, 1.1])),
  flow: from(1),
  taper: { in: 8, out: 26 },
  tags: ["ink", "dry", "textured"],
});

/** One sweep from wet to dry, however long it is. */
const sweep = brush({
  id: "ink-sweep",
  name: "Running dry",
  kit: KIT,
  size: 42,
  laying: { kind: "ribbon", from: "root" },
  tip: pictures(["dry sweep"]),
  spacing: from(0.1),
  diameter: from(1, by("pressure", [0, 0.35], [1, 1.1])),
  flow: from(1),
  tags: ["ink", "textured"],
});

/** A line drawn wet on another sheet and pressed off: broken, with blots at its joints. */
const blotted = brush({
  id: "pen-blotted",
  name: "Blotted pen",
  kit: KIT,
  size: 7,
  tip: round(0.96),
  spacing: from(0.5, uneven(0.7)),
  diameter: from(
    0.74,
    by("chance of a mark", [0, 0.3], [0.55, 0.85], [0.93, 1.1], [1, 2.1]),
    by("pressure", [0, 0.75], [1, 1.15]),
  ),
  stretch: from(1, by("chance of a mark", [0, 1], [0.6, 1.5], [1, 2.2])),
  angle: from(0, {
    by: "stroke direction",
    curve: [
      [0, 0],
      [1, 1],
    ],
    how: "add",
  }),
  flow: from(0.95),
  scatter: { along: from(0), across: stray(0.12) },
  tags: ["ink", "broken"],
});

/** A cut reed: broad across its slant, thin along it, a broken edge where it runs quick. */
const reed = brush({
  id: "pen-reed",
  name: "Reed pen",
  kit: KIT,
  size: 18,
  tip: round(0.97),
  spacing: from(0.05),
  diameter: from(0.24, by("pressure", [0, 0.8], [1, 1.15])),
  stretch: from(4.2),
  angle: from(-0.11),
  flow: from(0.9, after(60, [0, 1], [1, 0.7])),
  grain: {
    depth: 0.5,
    softness: 0.3,
    slope: 0.2,
    press: from(1, by("speed", [0, 1], [0.3, 0.8], [1, 0.35])),
  },
  tags: ["ink", "broad"],
});

/** Old ink on rough paper: a line whose edge breaks up. */
const broken = brush({
  id: "pen-broken",
  name: "Scratchy nib",
  kit: KIT,
  size: 9,
  tip: pictures(["charcoal face"], { flip: { across: 0.5, along: 0.5 } }),
  spacing: from(0.07),
  diameter: from(1, by("pressure", [0, 0.18], [0.5, 0.55], [1, 1.1]), uneven(0.14)),
  angle: everyWay,
  flow: from(0.9),
  taper: { in: 10, out: 16 },
  tags: ["ink", "line", "textured"],
});

export const inks: readonly Brush[] = [
  pen("pen-fine", "Fine pen", 4, 0.55, { in: 4, out: 6 }, ["fine"]),
  pen("pen-sprung", "Sprung nib", 10, 0.08, { in: 22, out: 34 }, ["dip pen", "swelling"]),
  pen("pen-even", "Even liner", 6, 1, { in: 0, out: 0 }, ["technical"]),
  writing,
  brushPen,
  ballpoint,
  broken,
  dryBrush,
  sweep,
  blotted,
  reed,
];
