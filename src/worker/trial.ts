import { type Engine } from "../engine/engine";
import { type Brush } from "../engine/stroke/brush";
import { type Paper } from "../engine/paper/paper";
import { type Sample } from "../engine/stroke/sample";
import { type Painted, paintTrial, shadedWith, type TrialSheet, type TrialStroke } from "./cards";

/** Strokes that a brush is tried with: by rule, or by the hand on the strip. */
export const cannedStrokes = {
  "light to heavy": (u: number) => ({ pressure: 0.02 + 0.98 * u, altitude: 1.25, pace: 1 }),
  "flat to upright": (u: number) => ({ pressure: 0.55, altitude: 0.15 + 1.4 * u, pace: 1 }),
  "slow to fast": (u: number) => ({ pressure: 0.6, altitude: 1.2, pace: 3.2 - 3 * u }),
} as const;

export type TrialChoice = {
  sheet: TrialSheet;
  /** Strokes that were drawn on the strip; none: the canned ones. */
  drawn: Sample[][];
  size: number;
  mode: "paint" | "lift" | "blend";
};

export type Trial = Painted & {
  /** Ms that 100 px of stroke cost at this size. */
  msPer100: number;
};

const POINTS = 70;
const STEP_MS = 9;
/** Room for the names of the strokes, and for brushes that reach far, px. */
const MARGIN = { left: 140, right: 60 };

/** A wave across the strip; one above the other. */
function canned(
  name: keyof typeof cannedStrokes,
  row: number,
  { width, height }: TrialSheet,
): Sample[] {
  const rows = Object.keys(cannedStrokes).length;
  const middle = ((row + 0.5) / rows) * height;
  const swing = height / rows / 5;
  let t = 0;
  return Array.from({ length: POINTS + 1 }, (_, i) => {
    const u = i / POINTS;
    const { pressure, altitude, pace } = cannedStrokes[name](u);
    t += STEP_MS * pace;
    const x = MARGIN.left + u * (width - MARGIN.left - MARGIN.right);
    return [t, x, middle - Math.sin(u * 2 * Math.PI) * swing, pressure, altitude, 0.6 + u, 0];
  });
}

const lengthOf = (samples: readonly Sample[]): number => {
  let length = 0;
  for (let i = 1; i < samples.length; i++) {
    const [, x0, y0] = samples[i - 1] as Sample;
    const [, x1, y1] = samples[i] as Sample;
    length += Math.hypot(x1 - x0, y1 - y0);
  }
  return length;
};

/** Stripes for Lift, Blend and brushes that blend to work on. */
function underpainting(sheet: TrialSheet): Sample[][] {
  const stripes = 5;
  return Array.from({ length: stripes }, (_, i) => {
    const x = ((i + 0.5) / stripes) * sheet.width;
    return [
      [0, x, -20, 1, 1.5, 0, 0],
      [400, x, sheet.height + 20, 1, 1.5, 0, 0],
    ];
  });
}

/** Tries a brush, as it stands, on a strip of paper. */
export function tryBrush(engine: Engine, brush: Brush, choice: TrialChoice, paper: Paper): Trial {
  const { sheet, drawn, size, mode } = choice;
  const names = Object.keys(cannedStrokes) as (keyof typeof cannedStrokes)[];
  const samples = drawn.length > 0 ? drawn : names.map((name, row) => canned(name, row, sheet));
  const strokes: TrialStroke[] = samples.map((one) => ({ size, samples: one, mode }));
  const isBare = mode === "paint" && brush.lays === "normal" && !brush.does;
  const under: TrialStroke[] = isBare
    ? []
    : underpainting(sheet).map((one) => ({
        size: Math.max(24, size),
        samples: one,
        mode: "paint",
        ...(brush.does ? { brush: shadedWith(brush) } : {}),
      }));
  const painted = paintTrial(engine, brush, sheet, [...under, ...strokes], paper);
  const length = [...under, ...strokes].reduce((sum, one) => sum + lengthOf(one.samples), 0);
  return { ...painted, msPer100: (painted.ms / Math.max(1, length)) * 100 };
}
