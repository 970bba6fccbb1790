import { z } from "zod";
import { Refusal } from "../picture/refusal";

/**
 * A card in the other hand: its straight edge goes through a place of the sheet, and holds back what comes over it.
 * `nx`, `ny`: from the edge to the side where the sheet is open, of any length.
 */
export const cardSchema = z.strictObject({
  x: z.number().min(-1e6).max(1e6),
  y: z.number().min(-1e6).max(1e6),
  nx: z.number().min(-1).max(1),
  ny: z.number().min(-1).max(1),
});
export type Card = z.infer<typeof cardSchema>;

/** A shorter direction than this is none. */
const LEAST = 1e-3;

/**
 * A card whose direction is of length 1.
 * @throws Refusal where it has none
 */
export function laidCard({ x, y, nx, ny }: Card): Card {
  const length = Math.sqrt(nx * nx + ny * ny);
  if (length < LEAST) throw new Refusal("the edge of a card needs a direction");
  return { x, y, nx: nx / length, ny: ny / length };
}

/** How far, px, a place lies on the open side of a card of direction 1. */
export const beyondCard = ({ x, y, nx, ny }: Card, px: number, py: number): number =>
  (px - x) * nx + (py - y) * ny;
