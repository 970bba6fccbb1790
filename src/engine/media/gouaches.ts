import { type Bristles } from "../oil/bristles";
import { type Brush, type BrushInput } from "../stroke/brush";
import { brush, from, round, soluble } from "./brush-making";
import { hog } from "./oils";

const KIT = "Gouache and acrylic";

/** Opaque paint that is dry by the next stroke. In Blend it is stirred, in Lift taken off, as any colour is. */
const quick = (
  written: Pick<BrushInput, "id" | "name" | "size" | "tags"> &
    Partial<Pick<BrushInput, "dissolves" | "revision">>,
  style: Partial<Bristles>,
): Brush =>
  brush({
    ...written,
    kit: KIT,
    laying: { ...hog, dries: true, ...style },
    tip: round(0.7),
    spacing: from(0.08),
    diameter: from(1),
    flow: from(1),
  });

/** Lean and fluid: it lies flat and even. */
const gouache: Partial<Bristles> = {
  film: 1.1,
  soft: 0.7,
  ploughs: 0.15,
  hair: 0.4,
  ridge: 0.25,
  thick: 1.2,
  cover: 1.6,
  run: 18,
  splay: 0.06,
};

export const gouaches: readonly Brush[] = [
  quick(
    {
      id: "gouache-flat",
      name: "Gouache flat",
      size: 56,
      tags: ["opaque", "flat"],
      ...soluble(0.35),
    },
    { ...gouache, outline: "square", depth: 0.25, turns: true },
  ),
  quick(
    {
      id: "gouache-round",
      name: "Gouache round",
      size: 24,
      tags: ["opaque", "smooth"],
      ...soluble(0.35),
    },
    gouache,
  ),
  // A point that keeps its edge: windows, twigs, eyes.
  quick(
    {
      id: "gouache-liner",
      name: "Gouache liner",
      size: 6,
      tags: ["opaque", "line"],
      ...soluble(0.35),
    },
    { ...gouache, soft: 0.8, trails: 1.6, run: 90, cover: 1.7, splay: 0.02 },
  ),
  // Nearly no paint on spread hairs: the tooth shows through.
  quick(
    {
      id: "gouache-dry",
      name: "Gouache, dry brush",
      size: 48,
      tags: ["dry", "broken"],
      ...soluble(0.35),
    },
    {
      outline: "square",
      depth: 0.2,
      turns: true,
      film: 0.7,
      run: 7,
      hair: 0.9,
      ridge: 0.8,
      cover: 1.1,
      splay: 0.3,
    },
  ),
  // Acrylic has body: it stands up, and is laid over itself at once.
  quick(
    { id: "acrylic-flat", name: "Acrylic flat", size: 64, tags: ["opaque", "body"] },
    { outline: "square", depth: 0.3, turns: true, film: 1.9, run: 14, ridge: 0.6, soft: 0.25 },
  ),
  quick(
    { id: "acrylic-filbert", name: "Acrylic filbert", size: 40, tags: ["opaque", "body"] },
    { depth: 0.36, turns: true, film: 1.8, run: 14, ridge: 0.5, soft: 0.3 },
  ),
];
