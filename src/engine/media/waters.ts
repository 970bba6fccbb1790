import { type Brush, type BrushInput } from "../stroke/brush";
import { type WashBrush } from "../water/wash";
import { brush, from, round } from "./brush-making";

const KIT = "Water";

/** A sable round, well loaded: what the others are told apart from. */
export const sable: WashBrush = {
  kind: "wash",
  outline: "round",
  depth: 1,
  turns: false,
  soft: 0.08,
  narrows: 1,
  water: 0.9,
  load: 1,
  run: 30,
  tooth: 0,
  drops: null,
};

type Written = Pick<BrushInput, "id" | "name" | "size" | "tags" | "does" | "revision">;

const water = (written: Written, style: Partial<WashBrush>): Brush =>
  brush({
    ...written,
    kit: KIT,
    laying: { ...sable, ...style },
    // What a mask is painted with.
    tip: round(0.7),
    spacing: from(0.08),
    diameter: from(1),
    flow: from(1),
  });

export const waters: readonly Brush[] = [
  water({ id: "wash-round", name: "Wash round", size: 60, tags: ["water"] }, {}),
  water(
    { id: "wash-flat", name: "Wash flat", size: 110, tags: ["water", "broad"] },
    { outline: "square", depth: 0.22, turns: true, narrows: 0.15 },
  ),
  // Holds most, and lets it go at a touch.
  water(
    { id: "wash-mop", name: "Mop", size: 200, tags: ["water", "broad", "soft"] },
    { soft: 0.12, narrows: 0.7, water: 1.2, run: 60 },
  ),
  // Long hairs: lines that do not run out.
  water(
    { id: "wash-rigger", name: "Water rigger", size: 9, tags: ["water", "line"] },
    { narrows: 0.9, water: 0.55, load: 1.3, run: 160 },
  ),
  water(
    { id: "wash-hake", name: "Hake", size: 260, tags: ["water", "broad"] },
    { outline: "square", depth: 0.12, turns: true, soft: 0.1, narrows: 0.2, water: 1.1, run: 40 },
  ),
  // More paint than the wash it goes into, and less water.
  water(
    { id: "wash-charge", name: "Charging brush", size: 46, tags: ["water", "strong"] },
    { water: 0.5, load: 2.6, soft: 0.4, run: 20 },
  ),
  // Loaded once with ink, it goes from dark to light along one stroke.
  water(
    { id: "wash-ink", name: "Ink wash", size: 48, tags: ["water", "ink"] },
    { water: 1, load: 2.2, run: 7, soft: 0.12, narrows: 0.85 },
  ),
  // Dragged over the tooth it leaves the hollows bare.
  water(
    { id: "wash-dry", name: "Dry round", size: 56, tags: ["water", "dry", "texture"] },
    { water: 0.1, load: 1.1, tooth: 0.78, run: 14, soft: 0.3, narrows: 0.5 },
  ),
  water(
    { id: "wash-clear", name: "Clear water", size: 80, tags: ["water", "soft"] },
    { water: 0.8, load: 0, soft: 0.25 },
  ),
  // Wrung out: it drinks what is wet, and lifts what is dry.
  water(
    { id: "wash-thirsty", name: "Thirsty brush", size: 44, tags: ["water", "soft"], does: "lift" },
    { soft: 0.5, narrows: 0.6 },
  ),
  // Much water and little in it: it pushes a drying wash aside.
  water(
    { id: "wash-bloom", name: "Bloom drop", size: 26, tags: ["water", "texture"], revision: 2 },
    { water: 3.8, load: 0.06, soft: 0.3, run: 200 },
  ),
  water(
    { id: "wash-spatter", name: "Wet spatter", size: 200, tags: ["water", "texture"] },
    { water: 0.9, load: 1.3, run: 60, drops: { count: 1.2, least: 1.5, most: 16, salt: 0 } },
  ),
  // An airbrush: held farther off it is larger and paler; held still its mist gathers, stands and runs.
  water(
    { id: "wash-mist", name: "Fine mist", size: 160, tags: ["water", "soft", "ink"] },
    {
      ...{ water: 0.07, load: 0.12, run: 200, narrows: 0.3 },
      drops: { count: 160, least: 1.4, most: 2.8, salt: 0, gathers: true },
    },
  ),
  // Pressed on it leaves its pores; dragged it closes.
  water(
    { id: "wash-sponge", name: "Wet sponge", size: 130, tags: ["water", "texture"] },
    { water: 0.6, load: 0.8, run: 40, drops: { count: 130, least: 2, most: 10, salt: 0 } },
  ),
  water(
    { id: "wash-spray", name: "Water spray", size: 220, tags: ["water", "texture"] },
    { water: 2.2, load: 0, run: 200, drops: { count: 4, least: 1.2, most: 7, salt: 0 } },
  ),
  water(
    { id: "wash-salt", name: "Salt", size: 180, tags: ["water", "texture"] },
    { water: 0, load: 0, run: 200, drops: { count: 0.9, least: 2, most: 4.5, salt: 6 } },
  ),
];
