import { colouredPencil, graphite } from "../dry/materials";
import { type Brush } from "../stroke/brush";
import {
  alongBarrel,
  alongTilt,
  brush,
  by,
  from,
  round,
  soluble as dissolving,
} from "./brush-making";
import { dry, lead, stick } from "./dry-making";

const KIT = "Pencils";

/** Graphite in wood, of a softness 0 (9H) … 1 (9B). */
const pencil = (id: string, name: string, size: number, softness: number): Brush =>
  dry({ id, name, kit: KIT, size, tags: ["dry", "graphite"] }, graphite(softness), lead);

/** A thin lead that never lies down: one even width, darker as it presses. */
const clutch = dry(
  {
    id: "pencil-clutch",
    name: "Clutch pencil",
    kit: KIT,
    size: 4,
    tags: ["dry", "graphite", "fine"],
  },
  { ...graphite(0.55), leans: 0, shoulder: 0, flat: 0.3 },
  {
    diameter: from(1, by("pressure", [0, 0.86], [1, 1.06])),
    stretch: from(1),
    angle: from(0),
    flow: from(1, by("pressure", [0, 0.05], [1, 1])),
  },
);

/** Wax and pigment: layers glaze over one another and never quite close. */
const coloured = dry(
  { id: "pencil-coloured", name: "Coloured pencil", kit: KIT, size: 9, tags: ["dry", "colour"] },
  colouredPencil,
  lead,
);

/** Pigment that water will dissolve: softer than a coloured pencil, and hardly any wax. */
const soluble = dry(
  {
    id: "pencil-soluble",
    name: "Water-soluble pencil",
    kit: KIT,
    size: 9,
    tags: ["dry", "colour"],
    ...dissolving(0.85),
  },
  {
    ...colouredPencil,
    gives: 0.7,
    dust: 0.1,
    most: 1.1,
    covers: 2.4,
    wax: 0.1,
    clear: 0.4,
    loose: 0.15,
  },
  lead,
);

/** A broad flat lead: thin on its edge, wide across it; the barrel turns it. */
const flat = dry(
  { id: "pencil-flat", name: "Flat lead", kit: KIT, size: 20, tags: ["dry", "graphite", "broad"] },
  { ...graphite(0.7), leans: 0, shoulder: 0, flat: 0.8 },
  {
    diameter: from(0.3, by("pressure", [0, 0.8], [1, 1.1])),
    stretch: from(5),
    angle: from(
      -0.11,
      {
        ...alongTilt,
        curve: [
          [0, 0],
          [1, 0.25],
        ],
      },
      alongBarrel,
    ),
    flow: from(0.95, by("pressure", [0, 0], [1, 1])),
  },
);

/** A stick of graphite without wood: a point, a chisel and a side. */
const woodless = dry(
  {
    id: "graphite-stick",
    name: "Woodless graphite",
    kit: KIT,
    size: 22,
    tags: ["dry", "graphite", "broad"],
  },
  { ...graphite(0.85), shoulder: 0.2, leans: 0.4, face: 0.3, flat: 0.3 },
  stick,
);

/** The Weaver: a searching line that ties itself to what is near, so a sketch shades itself. */
const weaver = (id: string, name: string, size: number, reach: number, threads: number): Brush =>
  brush({
    id,
    name,
    kit: KIT,
    size,
    strength: 0.88,
    laying: {
      kind: "weave",
      reach,
      threads,
      thread: 0.34,
      faint: 0.4,
      dry: { ...graphite(0.8), wears: 0 },
    },
    tip: round(0.6),
    spacing: from(0.9),
    diameter: from(1, by("pressure", [0, 0.35], [1, 1.05])),
    flow: from(0.8, by("pressure", [0, 0.25], [1, 1])),
    taper: { in: 6, out: 10 },
    tags: ["line", "shading"],
  });

export const pencils: readonly Brush[] = [
  pencil("pencil-6h", "6H pencil", 4, 0.1),
  pencil("pencil-2h", "2H pencil", 4, 0.2),
  pencil("pencil-hb", "HB pencil", 5, 0.5),
  pencil("pencil-2b", "2B pencil", 6, 0.68),
  pencil("pencil-4b", "4B pencil", 8, 0.8),
  pencil("pencil-6b", "6B pencil", 11, 0.92),
  pencil("pencil-9b", "9B pencil", 14, 1),
  clutch,
  woodless,
  flat,
  coloured,
  soluble,
  weaver("weaver", "Weaver", 3, 26, 3),
  weaver("weaver-wide", "Wide weaver", 2.4, 60, 6),
];
