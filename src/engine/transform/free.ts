import { z } from "zod";
import { type Box } from "../tiles/layout";
import { type Matrix, type Point } from "./warp";

const place = z.number().min(-100_000).max(100_000);
/** How many times larger; below 0 it is flipped. */
const scale = z
  .number()
  .min(-1000)
  .max(1000)
  .refine((by) => Math.abs(by) >= 1e-4, "expected a scale that leaves something to be seen");

/** Where a thing lies freely: moved, scaled, turned and leaning, about its own middle. */
export const freeSchema = z.strictObject({
  /** Where its middle goes, picture px. */
  x: place,
  y: place,
  scaleX: scale,
  scaleY: scale,
  /** Radians, clockwise. */
  angle: z.number().min(-100).max(100),
  /** Radians that upright sides lean. */
  skew: z.number().min(-1.5).max(1.5),
});
export type Free = z.infer<typeof freeSchema>;

export const middleOf = ({ left, top, right, bottom }: Box): Point => [
  (left + right) / 2,
  (top + bottom) / 2,
];

/** A thing that lies where it was. */
export function atRest(from: Box): Free {
  const [x, y] = middleOf(from);
  return { x, y, scaleX: 1, scaleY: 1, angle: 0, skew: 0 };
}

/** The map of a box's points to where they lie. */
export function freeMatrix(from: Box, { x, y, scaleX, scaleY, angle, skew }: Free): Matrix {
  const [mx, my] = middleOf(from);
  const cos = Math.cos(angle);
  const sin = Math.sin(angle);
  const lean = Math.tan(skew);
  const a = cos * scaleX;
  const b = (cos * lean - sin) * scaleY;
  const c = sin * scaleX;
  const d = (sin * lean + cos) * scaleY;
  return [a, b, x - a * mx - b * my, c, d, y - c * mx - d * my, 0, 0, 1];
}
