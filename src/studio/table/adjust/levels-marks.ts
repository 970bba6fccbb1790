import { type Tone } from "../../../engine/adjust/adjustment";

export type Levels = Extract<Tone, { kind: "levels" }>;

/** What can be dragged under the histogram. */
export const levelMarks = ["black", "middle", "white"] as const;
export type LevelMark = (typeof levelMarks)[number];

/** Black and white stay so far apart, of all values. */
const APART = 0.01;
/** How far the middle may be bent. */
const MOST_BEND = 10;

/** Which value becomes black, white, or the middle between lowest and highest. 0…1. */
export function placeOfMark({ black, white, middle }: Levels, mark: LevelMark): number {
  if (mark !== "middle") return mark === "black" ? black : white;
  return black + (white - black) * 0.5 ** middle;
}

const clamp = (v: number, least: number, most: number): number =>
  Math.min(most, Math.max(least, v));

/** The levels with a mark moved to another value; the marks never pass each other. */
export function withMark(levels: Levels, mark: LevelMark, at: number): Levels {
  const { black, white } = levels;
  if (mark === "black") return { ...levels, black: clamp(at, 0, white - APART) };
  if (mark === "white") return { ...levels, white: clamp(at, black + APART, 1) };
  const share = clamp((at - black) / Math.max(APART, white - black), 1e-3, 1 - 1e-3);
  return { ...levels, middle: clamp(Math.log(share) / Math.log(0.5), 1 / MOST_BEND, MOST_BEND) };
}
