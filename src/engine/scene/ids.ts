import { ONE } from "../tiles/layout";

const PHASE = 0.618_033_988_749_895;

/**
 * The colour that stands for a solid in the picture of ids, by its place in the scene: Q15, no two of five hundred
 * alike, neighbours far apart.
 */
export function idColour(place: number): [r: number, g: number, b: number] {
  const hue = ((place * PHASE) % 1) * 6;
  const step = Math.floor(hue);
  const rest = hue - step;
  const high = 255 - (Math.floor(place / 7) % 4) * 36;
  const low = 24 + (place % 3) * 24;
  const up = Math.round(low + (high - low) * rest);
  const down = Math.round(high - (high - low) * rest);
  const ways = [
    [high, up, low],
    [down, high, low],
    [low, high, up],
    [low, down, high],
    [up, low, high],
    [high, low, down],
  ] as const;
  const [r, g, b] = ways[step % 6] as readonly [number, number, number];
  const q15 = (byte: number): number => Math.round((byte * ONE) / 255);
  return [q15(r), q15(g), q15(b)];
}
