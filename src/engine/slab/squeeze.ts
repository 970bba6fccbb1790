import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { finishStroke } from "../command/stroke";
import { COLOUR } from "../picture/picture";
import { brush, from, round } from "../media/brush-making";
import { beginStroke } from "../stroke/begin";
import { type Brush } from "../stroke/brush";
import { type Sample } from "../stroke/sample";
import { SLAB, SLAB_HEIGHT, SLAB_WIDTH } from "./slab";

/** A worm of paint is so wide, and lies in a coil of so many turns, px. */
export const WORM = 36;
const COIL = { radius: 26, turns: 2, points: 56 };
/** The hand that squeezes: ms a point, and how hard it presses. */
const PACE = 14;
const PRESSURE = 0.75;

/** A tube is a tuft that gives nothing but its own paint, and does not run dry. */
const tube: Brush = brush({
  id: "tube",
  name: "Tube",
  kit: "Oil",
  size: WORM,
  tags: [],
  laying: {
    kind: "bristles",
    outline: "round",
    depth: 1,
    turns: false,
    cover: 1.7,
    soft: 1,
    stiff: 0,
    splay: 0,
    trails: 0,
    gives: 0.5,
    takes: 0.05,
    ploughs: 0,
    film: 4,
    run: 60,
    hair: 0.1,
    ridge: 0.1,
    thick: 6,
    dries: false,
  },
  tip: round(0.7),
  spacing: from(0.08),
  diameter: from(1),
  flow: from(1),
});

export const squeezeSchema = z.strictObject({
  do: z.literal("slab.squeeze"),
  colour: hexColour,
  /** The middle of the coil, px of the slab. */
  x: z.number().min(0).max(SLAB_WIDTH),
  y: z.number().min(0).max(SLAB_HEIGHT),
});

/** A coil from its rim to its middle, in one turn after the other. */
function coil(x: number, y: number): Sample[] {
  return Array.from({ length: COIL.points }, (_, i) => {
    const t = i / (COIL.points - 1);
    const angle = t * COIL.turns * 2 * Math.PI;
    const away = COIL.radius * (1 - t);
    return [
      i * PACE,
      x + away * Math.cos(angle),
      y + away * Math.sin(angle),
      PRESSURE,
      Math.PI / 2,
      0,
      0,
    ];
  });
}

/** Squeezes paint out onto the slab. */
function squeeze(applying: Applying, { colour, x, y }: z.infer<typeof squeezeSchema>): string {
  const stroke = beginStroke(
    applying.bench,
    applying.picture,
    {
      layer: SLAB,
      plane: COLOUR,
      brush: tube,
      mode: "paint",
      size: WORM,
      strength: 1,
      colour,
      second: colour,
      seed: 1,
      steady: 0,
      scale: 1,
      takes: "layer",
      lays: "normal",
      frame: null,
      card: null,
      carried: null,
      thinner: 0,
      strew: null,
      water: 1,
    },
    false,
  );
  stroke.extend(coil(x, y));
  finishStroke(applying, stroke);
  return "squeeze out";
}

export const squeezeCommand = defineCommand({ schema: squeezeSchema, apply: squeeze });
