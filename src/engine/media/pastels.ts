import { type Brush } from "../stroke/brush";
import {
  alongStroke,
  brush,
  by,
  flipped,
  from,
  pictures,
  round,
  stray,
  uneven,
  everyWay,
} from "./brush-making";

const KIT = "Pastel and wax";

const press = (light: number, heavy: number) =>
  from(1, by("pressure", [0, light], [0.5, light + (heavy - light) * 0.6], [1, heavy]));

/** Almost pure pigment: it crumbles, its colour wavers, and pressure fills every valley. */
const soft = brush({
  id: "pastel-soft",
  name: "Soft pastel",
  kit: KIT,
  size: 34,
  strength: 1,
  tip: pictures(["chalk face", "charcoal face"], { flip: flipped }),
  spacing: from(0.12),
  diameter: from(1, by("pressure", [0, 0.75], [1, 1.1]), uneven(0.08)),
  angle: everyWay,
  flow: from(0.5, by("pressure", [0, 0.1], [0.5, 0.6], [1, 1])),
  scatter: { along: from(0), across: stray(0.06) },
  grain: { depth: 0.8, softness: 0.36, slope: 0.8, press: press(0.14, 1) },
  colour: { hue: stray(0.014), value: stray(0.03), chroma: from(1, uneven(0.12)) },
  tags: ["dry", "opaque", "colour"],
});

const hard = brush({
  id: "pastel-hard",
  name: "Hard pastel",
  kit: KIT,
  size: 12,
  strength: 0.95,
  tip: pictures(["chalk stick"], { flip: flipped }),
  spacing: from(0.12),
  diameter: from(1, by("pressure", [0, 0.7], [1, 1.05])),
  angle: from(0.25, alongStroke),
  flow: from(0.4, by("pressure", [0, 0.08], [1, 1]), uneven(0.2)),
  grain: { depth: 0.86, softness: 0.3, slope: 1, press: press(0.1, 0.92) },
  colour: { value: stray(0.025) },
  tags: ["dry", "opaque"],
});

/** Oil and wax: it smears over the tooth in ridges, greasy, with an edge. */
const oil = brush({
  id: "pastel-oil",
  name: "Oil pastel",
  kit: KIT,
  size: 30,
  strength: 0.98,
  tip: pictures(["crayon face"], { flip: flipped }),
  spacing: from(0.09),
  diameter: from(1, by("pressure", [0, 0.8], [1, 1.12])),
  angle: from(0, alongStroke, {
    by: "chance of a mark",
    curve: [
      [0, -0.04],
      [1, 0.04],
    ],
    how: "add",
  }),
  flow: from(0.34, by("pressure", [0, 0.15], [0.5, 0.6], [1, 1])),
  grain: { depth: 0.6, softness: 0.5, slope: 1.6, press: press(0.2, 1) },
  colour: { value: stray(0.022), hue: stray(0.006) },
  overtip: {
    mode: "subtract",
    tip: pictures(["thin bristles"]),
    spacing: from(0.16),
    diameter: from(1.05),
    angle: from(0.25, alongStroke),
    flow: from(0.05, by("pressure", [0, 1.6], [1, 0.6])),
  },
  tags: ["wax", "opaque", "colour"],
});

/** Wax: waxy light skin over the peaks that more pressure hardly closes. */
const wax = brush({
  id: "crayon-wax",
  name: "Wax crayon",
  kit: KIT,
  size: 18,
  strength: 0.85,
  tip: pictures(["crayon face"], { flip: flipped }),
  spacing: from(0.11),
  diameter: from(1, by("pressure", [0, 0.78], [1, 1.08])),
  angle: everyWay,
  flow: from(0.28, by("pressure", [0, 0.12], [1, 1])),
  grain: { depth: 0.93, softness: 0.22, slope: 1.3, press: press(0.18, 0.74) },
  colour: { value: stray(0.02) },
  tags: ["wax"],
});

/** A hard-pressed square stick, earth colours: a firm line on its corner, a tone on its face. */
const hardCrayon = brush({
  id: "crayon-hard",
  name: "Hard crayon",
  kit: KIT,
  size: 9,
  strength: 0.95,
  tip: round(0.85),
  spacing: from(0.1),
  diameter: from(
    1,
    by("pressure", [0, 0.45], [1, 1.1]),
    by("tilt", [0, 1], [1, 2.6]),
    uneven(0.12),
  ),
  stretch: from(1.3, by("tilt", [0, 1], [1, 3.4])),
  angle: from(0, {
    by: "tilt direction",
    curve: [
      [0, 0],
      [1, 1],
    ],
    how: "add",
  }),
  flow: from(0.5, by("pressure", [0, 0.05], [0.5, 0.55], [1, 1]), by("tilt", [0, 1], [1, 0.3])),
  grain: { depth: 0.84, softness: 0.3, slope: 0.8, press: press(0.1, 0.95) },
  tags: ["dry", "line"],
});

export const pastels: readonly Brush[] = [soft, hard, oil, wax, hardCrayon];
