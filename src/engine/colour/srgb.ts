import { z } from "zod";
import { ONE } from "../tiles/layout";
import { type Q15Colour } from "../tiles/tile-store";

/** A colour as written in commands: `#rrggbb`. */
export const hexColour = z
  .string()
  .regex(/^#[0-9a-fA-F]{6}$/, "a colour is written #rrggbb, such as #2b2b33");

/** Red, green and blue 0…255 of `#rrggbb`. */
export function hexToBytes(hex: string): [number, number, number] {
  const value = parseInt(hex.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}

const toQ15 = (byte: number): number => Math.round((byte * ONE) / 255);

/** An opaque Q15 colour from `#rrggbb`. */
export function hexToQ15(hex: string): Q15Colour {
  const [r, g, b] = hexToBytes(hex);
  return [toQ15(r), toQ15(g), toQ15(b), ONE];
}
