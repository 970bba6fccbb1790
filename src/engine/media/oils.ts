import { type Bristles } from "../oil/bristles";
import { type Knife } from "../oil/knife";
import { type Brush, type BrushInput } from "../stroke/brush";
import { brush, from, round } from "./brush-making";

const KIT = "Oil";

/** A hog bristle round: what the others are told apart from. */
export const hog: Bristles = {
  kind: "bristles",
  outline: "round",
  depth: 1,
  turns: false,
  cover: 1.4,
  soft: 0,
  stiff: 0,
  splay: 0.22,
  trails: 1,
  gives: 0.26,
  takes: 0.3,
  ploughs: 0.6,
  film: 2.1,
  run: 12,
  hair: 0.8,
  ridge: 0.8,
  thick: 2.6,
  dries: false,
};

type Written = Pick<BrushInput, "id" | "name" | "size" | "tags">;

const tool = (written: Written, laying: Bristles | Knife): Brush =>
  brush({
    ...written,
    kit: KIT,
    laying,
    // What a mask is painted with.
    tip: round(0.7),
    spacing: from(0.08),
    diameter: from(1),
    flow: from(1),
  });

const oil = (written: Written, style: Partial<Bristles>): Brush =>
  tool(written, { ...hog, ...style });

export const oils: readonly Brush[] = [
  // A load of body colour, broken at its end.
  oil(
    { id: "oil-flat", name: "Hog flat", size: 60, tags: ["wet", "broad"] },
    { outline: "square", depth: 0.3, turns: true },
  ),
  oil({ id: "oil-round", name: "Hog round", size: 40, tags: ["wet", "opaque"] }, {}),
  // Between the two: a flat with rounded corners.
  oil(
    { id: "oil-filbert", name: "Hog filbert", size: 48, tags: ["wet", "opaque"] },
    { depth: 0.36, turns: true, soft: 0.15, stiff: 0.4 },
  ),
  // A sable lays thin and melts edges together.
  oil(
    { id: "oil-sable", name: "Sable round", size: 24, tags: ["wet", "smooth"] },
    { soft: 1, cover: 1.6, splay: 0.05, film: 1.3, ploughs: 0.2, hair: 0.5, ridge: 0.3, run: 14 },
  ),
  oil(
    { id: "oil-blender", name: "Soft flat", size: 80, tags: ["wet", "smooth", "broad"] },
    {
      outline: "square",
      depth: 0.25,
      turns: true,
      soft: 1,
      cover: 1.6,
      splay: 0.06,
      film: 1.1,
      ploughs: 0.2,
      hair: 0.5,
      ridge: 0.3,
      takes: 0.4,
    },
  ),
  // Spread hairs with gaps: grass, bark, strands of light.
  oil(
    { id: "oil-fan", name: "Fan", size: 70, tags: ["wet", "hair"] },
    { depth: 0.12, turns: true, cover: 1, splay: 0.5, film: 1.2, hair: 0.9, ridge: 1, run: 8 },
  ),
  // Long hairs that hold much: wires, masts, twigs.
  oil(
    { id: "oil-rigger", name: "Rigger", size: 7, tags: ["wet", "line"] },
    {
      soft: 0.8,
      trails: 2.5,
      run: 90,
      film: 1.6,
      splay: 0.03,
      cover: 1.7,
      ridge: 0.2,
      hair: 0.5,
      ploughs: 0.3,
    },
  ),
  // A stiff broad brush for grounds; pressed hard it scratches through.
  oil(
    { id: "oil-house", name: "House brush", size: 160, tags: ["wet", "broad"] },
    {
      outline: "square",
      depth: 0.25,
      turns: true,
      stiff: 1,
      run: 16,
      film: 2.4,
      ploughs: 1.8,
      hair: 0.9,
    },
  ),
  // A cloth round the finger: it only takes paint away, thinner and all.
  {
    ...oil(
      { id: "oil-rag", name: "Rag", size: 90, tags: ["wet", "soft", "broad"] },
      {
        depth: 0.6,
        soft: 1,
        cover: 1.7,
        splay: 0,
        takes: 0.5,
        hair: 0.3,
        ridge: 0.15,
        trails: 0.4,
      },
    ),
    does: "lift",
  },
  // A springy blade spreads and marbles; a stiff one lays slabs.
  tool(
    { id: "knife-trowel", name: "Trowel knife", size: 70, tags: ["wet", "knife"] },
    { kind: "knife", marbles: 0.6, run: 6, leaves: 1 },
  ),
  tool(
    { id: "knife-flat", name: "Flat knife", size: 130, tags: ["wet", "knife", "broad"] },
    { kind: "knife", marbles: 0.35, run: 4, leaves: 0.6 },
  ),
];
