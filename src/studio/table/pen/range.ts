import { type Curve } from "../../../engine/stroke/curve";

/** What a hand presses between, 0…1. */
export type Range = { light: number; heavy: number };

/** Fewer presses than this say nothing. */
const ENOUGH = 40;
/** The lightest and heaviest that are left out, as a share: a pen that comes down or leaves presses hardly at all. */
const LEFT_OUT = 0.05;
/** A range that is narrower is no range. */
const NARROWEST = 0.1;

/** The range that a hand presses in while it draws; null where it has pressed too little, or always alike. */
export function rangeOf(pressures: readonly number[]): Range | null {
  if (pressures.length < ENOUGH) return null;
  const sorted = [...pressures].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.floor(share * (sorted.length - 1))] ?? 0;
  const range = { light: at(LEFT_OUT), heavy: at(1 - LEFT_OUT) };
  return range.heavy - range.light < NARROWEST ? null : range;
}

const rounded = (v: number): number => Math.round(v * 1000) / 1000;

/** The curve that makes the whole of a brush's range from what a hand presses between. */
export function curveFor({ light, heavy }: Range): Curve {
  const points: Curve = [
    [rounded(light), 0],
    [rounded(heavy), 1],
  ];
  if (light > 0) points.unshift([0, 0]);
  if (heavy < 1) points.push([1, 1]);
  return points;
}
