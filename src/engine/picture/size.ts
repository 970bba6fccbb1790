import { Refusal } from "./refusal";

/** How large a picture may be. */
export const MOST_SIDE = 16384;
export const MOST_PIXELS = 200_000_000;

/** @throws Refusal where a picture may not have this many px */
export function refuseSize(width: number, height: number): void {
  const isGood = width >= 1 && height >= 1 && width <= MOST_SIDE && height <= MOST_SIDE;
  if (isGood && width * height <= MOST_PIXELS) return;
  throw new Refusal(
    `a picture may have ${MOST_SIDE} px a side and ${MOST_PIXELS / 1e6} million in all; this one says ${width} × ${height}`,
  );
}
