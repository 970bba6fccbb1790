import { z } from "zod";

/** Points of a curve, x rising from 0 to 1; y is what a driver at x gives. */
export const curveSchema = z
  .array(z.tuple([z.number().min(0).max(1), z.number().min(-32).max(32)]))
  .min(2)
  .max(16)
  .refine((points) => points.every((p, i) => i === 0 || p[0] > (points[i - 1]?.[0] ?? 0)), {
    message: "the points of a curve must go from left to right",
  });

export type Curve = z.infer<typeof curveSchema>;

/**
 * A monotone cubic through points (Fritsch & Carlson 1980): it never overshoots, so a
 * pressure curve that rises keeps rising. Constant beyond the ends.
 */
export function monotoneCubic(points: Curve): (x: number) => number {
  const n = points.length;
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const slopes = new Array<number>(n - 1);
  for (let i = 0; i < n - 1; i++) {
    const rise = (ys[i + 1] as number) - (ys[i] as number);
    slopes[i] = rise / ((xs[i + 1] as number) - (xs[i] as number));
  }
  const tangents = new Array<number>(n).fill(0);
  tangents[0] = slopes[0] as number;
  tangents[n - 1] = slopes[n - 2] as number;
  for (let i = 1; i < n - 1; i++) {
    const a = slopes[i - 1] as number;
    const b = slopes[i] as number;
    // The harmonic mean keeps both neighbouring pieces monotone.
    tangents[i] = a * b <= 0 ? 0 : (2 * a * b) / (a + b);
  }
  limitEnds(tangents, slopes);
  return (x) => {
    if (x <= (xs[0] as number)) return ys[0] as number;
    if (x >= (xs[n - 1] as number)) return ys[n - 1] as number;
    let i = 0;
    while (x > (xs[i + 1] as number)) i++;
    const h = (xs[i + 1] as number) - (xs[i] as number);
    const t = (x - (xs[i] as number)) / h;
    const u = 1 - t;
    return (
      (ys[i] as number) * u * u * (1 + 2 * t) +
      (tangents[i] as number) * h * t * u * u +
      (ys[i + 1] as number) * t * t * (3 - 2 * t) -
      (tangents[i + 1] as number) * h * t * t * u
    );
  };
}

function limitEnds(tangents: number[], slopes: number[]): void {
  const ends: [number, number][] = [
    [0, 0],
    [tangents.length - 1, slopes.length - 1],
  ];
  for (const [at, piece] of ends) {
    const limit = 3 * (slopes[piece] as number);
    const tangent = tangents[at] as number;
    if (Math.abs(tangent) > Math.abs(limit)) tangents[at] = limit;
  }
}
