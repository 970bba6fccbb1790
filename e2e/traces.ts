import { type PenPoint } from "./pen";

/**
 * Pen traces: `[ms, x, y, pressure, tiltX, tiltY, twist]`, x and y in CSS px from where the
 * trace begins, tilt and twist in degrees. Short ones of three ways to hold a pen.
 */
export type Trace = readonly (readonly [number, number, number, number, number, number, number])[];

/** A quick contour: light down, firm in the bend, flicked away. */
const contour: Trace = [
  [0, 0, 0, 0.08, 22, -14, 0],
  [9, 3, -4, 0.21, 22, -14, 0],
  [17, 9, -11, 0.34, 23, -14, 0],
  [25, 18, -19, 0.46, 23, -15, 1],
  [34, 30, -26, 0.57, 24, -15, 1],
  [42, 44, -30, 0.66, 24, -16, 2],
  [50, 59, -31, 0.71, 25, -16, 2],
  [59, 74, -28, 0.72, 25, -17, 3],
  [67, 88, -21, 0.7, 26, -17, 3],
  [75, 100, -11, 0.64, 26, -18, 4],
  [84, 110, 2, 0.55, 27, -18, 4],
  [92, 117, 17, 0.43, 27, -19, 5],
  [100, 122, 33, 0.3, 28, -19, 5],
  [109, 125, 50, 0.17, 28, -20, 6],
  [117, 127, 66, 0.06, 28, -20, 6],
];

/** Shading with the side of the lead: to and fro, the pen lying low. */
const shading: Trace = [
  [0, 0, 0, 0.3, 58, 20, 0],
  [10, 14, -3, 0.38, 58, 20, 0],
  [20, 32, -7, 0.42, 58, 21, 0],
  [30, 52, -11, 0.44, 59, 21, 0],
  [40, 70, -14, 0.4, 59, 21, 0],
  [50, 80, -12, 0.34, 59, 22, 0],
  [60, 70, -4, 0.37, 60, 22, 0],
  [70, 51, 2, 0.43, 60, 22, 0],
  [80, 30, 7, 0.45, 60, 23, 0],
  [90, 11, 11, 0.42, 61, 23, 0],
  [100, 2, 15, 0.36, 61, 23, 0],
  [110, 13, 16, 0.39, 61, 24, 0],
  [120, 33, 13, 0.44, 62, 24, 0],
  [130, 54, 9, 0.46, 62, 24, 0],
  [140, 74, 7, 0.35, 62, 25, 0],
  [150, 83, 9, 0.2, 62, 25, 0],
];

/** Lettering with a turning barrel: slow, upright, even. */
const lettering: Trace = [
  [0, 0, 0, 0.5, 4, 2, 10],
  [16, 2, 10, 0.56, 4, 2, 14],
  [32, 4, 21, 0.58, 4, 2, 19],
  [48, 5, 32, 0.59, 5, 2, 25],
  [64, 7, 42, 0.58, 5, 3, 31],
  [80, 12, 48, 0.55, 5, 3, 38],
  [96, 20, 47, 0.53, 6, 3, 46],
  [112, 26, 40, 0.54, 6, 3, 54],
  [128, 28, 30, 0.56, 6, 4, 61],
  [144, 24, 22, 0.55, 7, 4, 68],
  [160, 15, 20, 0.5, 7, 4, 74],
  [176, 8, 25, 0.42, 7, 4, 79],
];

export const traces: Readonly<Record<"contour" | "shading" | "lettering", Trace>> = {
  contour,
  shading,
  lettering,
};

/** A trace as points for the pen, begun at (x, y). */
export const traceAt = (trace: Trace, x: number, y: number): PenPoint[] =>
  trace.map(([ms, dx, dy, pressure, tiltX, tiltY, twist]) => ({
    ms,
    x: x + dx,
    y: y + dy,
    pressure,
    tiltX,
    tiltY,
    twist,
  }));
