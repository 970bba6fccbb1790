import { type Brush } from "../stroke/brush";
import { brush, by, flipped, from, pictures, round, stray, uneven, everyWay } from "./brush-making";

const KIT = "Rounds and sprays";

const press = by("pressure", [0, 0], [0.5, 0.45], [1, 1]);

/** A round brush of even paint: flow is what a mark leaves, strength what the stroke may reach. */
const even = (
  id: string,
  name: string,
  size: number,
  hardness: number,
  flow: number,
  spacing: number,
  swells: boolean,
): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    tip: round(hardness),
    spacing: from(spacing),
    diameter: from(1, ...(swells ? [by("pressure", [0, 0.15], [0.5, 0.65], [1, 1])] : [])),
    flow: from(flow, press),
    tags: ["paint"],
  });

/** Paint in the air: it goes on falling while the hand rests. */
const airbrush = brush({
  id: "spray-air",
  name: "Airbrush",
  kit: KIT,
  size: 110,
  laying: { kind: "marks", every: 8 },
  tip: round(0),
  spacing: from(0.1),
  diameter: from(1, by("tilt", [0, 1], [1, 1.5])),
  stretch: from(1, by("tilt", [0, 1], [1, 2])),
  angle: from(0, {
    by: "tilt direction",
    curve: [
      [0, 0],
      [1, 1],
    ],
    how: "add",
  }),
  flow: from(0.1, press, by("tilt", [0, 1], [1, 0.5])),
  tags: ["spray", "soft"],
});

const speckle = brush({
  id: "spray-speckle",
  name: "Speckle",
  kit: KIT,
  size: 90,
  laying: {
    kind: "spray",
    specks: 16,
    spread: 1,
    speck: 0.024,
    uneven: 0.7,
    cloud: "middle",
    every: 14,
  },
  tip: round(0.85),
  spacing: from(0.2),
  diameter: from(1),
  flow: from(0.8, press),
  tags: ["spray", "texture"],
});

const spatter = brush({
  id: "spray-spatter",
  name: "Spatter",
  kit: KIT,
  size: 130,
  laying: { kind: "spray", specks: 5, spread: 1.2, speck: 0.055, uneven: 1, cloud: "even" },
  tip: pictures(["chalk face", "charcoal face"], { flip: flipped }),
  spacing: from(0.55, uneven(0.5)),
  diameter: from(1, by("pressure", [0, 0.6], [1, 1.2])),
  angle: everyWay,
  flow: from(1),
  colour: { value: stray(0.04) },
  tags: ["spray", "texture"],
});

const sponge = brush({
  id: "sponge",
  name: "Sponge",
  kit: KIT,
  size: 90,
  strength: 0.9,
  tip: pictures(["sponge"], { flip: flipped }),
  spacing: from(0.5),
  diameter: from(1, uneven(0.18)),
  angle: everyWay,
  flow: from(0.6, by("pressure", [0, 0.2], [1, 1])),
  scatter: { along: from(0), across: stray(0.18) },
  tags: ["texture"],
});

const bristle = brush({
  id: "round-bristle",
  name: "Bristle",
  kit: KIT,
  size: 46,
  strength: 0.95,
  tip: pictures(["bristles"], { choice: "one a stroke" }),
  spacing: from(0.04),
  diameter: from(1, by("pressure", [0, 0.6], [1, 1.05])),
  angle: from(0.25, {
    by: "stroke direction",
    curve: [
      [0, 0],
      [1, 1],
    ],
    how: "add",
  }),
  flow: from(0.3, by("pressure", [0, 0.15], [1, 1])),
  tags: ["paint", "streaky"],
});

export const rounds: readonly Brush[] = [
  even("round-soft", "Soft round", 60, 0, 0.24, 0.06, false),
  even("round-firm", "Firm round", 28, 0.82, 0.7, 0.06, true),
  even("round-veil", "Veil", 160, 0, 0.05, 0.05, false),
  bristle,
  airbrush,
  speckle,
  spatter,
  sponge,
];
