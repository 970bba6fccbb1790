import { type Brush } from "../stroke/brush";
import {
  alongStroke,
  brush,
  by,
  flipped,
  from,
  lyingDown,
  pictures,
  round,
  stray,
  uneven,
  everyWay,
} from "./brush-making";

const KIT = "Charcoal and chalk";

const press = (light: number, heavy: number) =>
  from(1, by("pressure", [0, light], [0.55, (light + heavy) / 2], [1, heavy]));

/** A burnt twig: faint, dusty, takes only the peaks and wipes off as soon as it is looked at. */
const vine = brush({
  id: "charcoal-vine",
  name: "Vine charcoal",
  kit: KIT,
  size: 22,
  strength: 0.82,
  tip: pictures(["vine face", "charcoal face"], { flip: flipped }),
  spacing: from(0.14),
  diameter: from(1, by("pressure", [0, 0.7], [1, 1.1]), by("tilt", [0, 1], [1, 2.4]), uneven(0.15)),
  stretch: from(1, by("tilt", [0, 1], [1, 2.4])),
  angle: everyWay,
  flow: from(0.2, by("pressure", [0, 0.05], [0.5, 0.5], [1, 1]), by("tilt", [0, 1], [1, 0.4])),
  scatter: { along: from(0), across: stray(0.09) },
  grain: { depth: 0.86, softness: 0.42, slope: 1, press: press(0.1, 0.8) },
  tags: ["dry", "soft", "broad"],
});

/** Pressed charcoal: black, with a broken edge. */
const stick = brush({
  id: "charcoal-stick",
  name: "Charcoal stick",
  kit: KIT,
  size: 26,
  strength: 0.97,
  tip: pictures(["charcoal face"], { flip: flipped }),
  spacing: from(0.12),
  diameter: from(1, by("pressure", [0, 0.6], [1, 1.1]), uneven(0.1)),
  angle: everyWay,
  flow: from(0.42, by("pressure", [0, 0.06], [0.5, 0.5], [1, 1])),
  scatter: { along: from(0), across: stray(0.05) },
  grain: { depth: 0.78, softness: 0.34, slope: 0.8, press: press(0.08, 1) },
  tags: ["dry", "dark"],
});

/** The whole length of the stick, laid flat and dragged: it lies across the travel. */
const block = brush({
  id: "charcoal-side",
  name: "Charcoal on its side",
  kit: KIT,
  size: 120,
  strength: 0.9,
  tip: pictures(["charcoal stick"], { flip: flipped }),
  spacing: from(0.08),
  diameter: from(1, by("pressure", [0, 0.92], [1, 1.04])),
  angle: from(0.25, alongStroke),
  flow: from(0.3, by("pressure", [0, 0.12], [1, 1]), uneven(0.25)),
  grain: { depth: 0.88, softness: 0.3, slope: 1.4, press: press(0.1, 0.86) },
  tags: ["dry", "broad"],
});

const charcoalPencil = brush({
  id: "charcoal-pencil",
  name: "Charcoal pencil",
  kit: KIT,
  size: 8,
  strength: 0.96,
  tip: round(0.55),
  spacing: from(0.11),
  diameter: from(
    1,
    by("pressure", [0, 0.35], [0.5, 0.7], [1, 1.25]),
    by("tilt", [0, 1], [1, 2]),
    uneven(0.22),
  ),
  ...lyingDown(5),
  flow: from(0.5, by("pressure", [0, 0.03], [0.4, 0.4], [1, 1]), by("tilt", [0, 1], [1, 0.25])),
  scatter: { along: from(0), across: stray(0.1) },
  grain: { depth: 0.74, softness: 0.5, slope: 0.7, press: press(0.06, 1) },
  tags: ["dry", "dark"],
});

const chalk = brush({
  id: "chalk",
  name: "Chalk",
  kit: KIT,
  size: 20,
  strength: 0.95,
  tip: pictures(["chalk face"], { flip: flipped }),
  spacing: from(0.13),
  diameter: from(1, by("pressure", [0, 0.72], [1, 1.06]), uneven(0.06)),
  angle: everyWay,
  flow: from(0.36, by("pressure", [0, 0.1], [0.5, 0.55], [1, 1])),
  grain: { depth: 0.92, softness: 0.26, slope: 0.9, press: press(0.16, 0.86) },
  tags: ["dry", "opaque"],
});

const chalkSide = brush({
  id: "chalk-square",
  name: "Square chalk",
  kit: KIT,
  size: 56,
  strength: 0.95,
  tip: pictures(["chalk stick"], { flip: flipped }),
  spacing: from(0.1),
  diameter: from(1, by("pressure", [0, 0.9], [1, 1.04])),
  angle: from(-0.08),
  flow: from(0.22, by("pressure", [0, 0.12], [1, 1]), uneven(0.2)),
  grain: { depth: 0.94, softness: 0.24, slope: 1.2, press: press(0.14, 0.84) },
  tags: ["dry", "broad", "opaque"],
});

export const charcoals: readonly Brush[] = [vine, stick, charcoalPencil, block, chalk, chalkSide];
