import { lightnesses } from "./masses";

/** Steps over which slopes are taken, px: an edge within the first is hard. */
const NEAR = 1;
const FAR = 4;
/** Least difference of lightness that is an edge. */
const LEAST = 6;
/** Share of an edge's whole step that lies within its middle two px, from which on it is hard. */
const HARD = 0.72;

/**
 * Turns RGBA pixels to their edges, in place: hard ones dark red, soft ones blue, on nearly white. An edge is a step of
 * lightness over eight px; it is hard where most of the step is made within two.
 * @returns which share of the edges is hard, 0…1; null where there are none
 */
export function toEdges(pixels: Uint8ClampedArray, width: number, height: number): number | null {
  const light = lightnesses(pixels);
  const at = (x: number, y: number): number =>
    light[
      Math.max(0, Math.min(height - 1, y)) * width + Math.max(0, Math.min(width - 1, x))
    ] as number;
  const slope = (x: number, y: number, reach: number): number =>
    Math.hypot(at(x + reach, y) - at(x - reach, y), at(x, y + reach) - at(x, y - reach));
  const steep = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) steep[y * width + x] = slope(x, y, NEAR);
  const isSteepest = (x: number, y: number): boolean => {
    const own = (steep[y * width + x] as number) * (1 + 1e-6);
    return (
      (x === 0 || own >= (steep[y * width + x - 1] as number)) &&
      (x === width - 1 || own >= (steep[y * width + x + 1] as number)) &&
      (y === 0 || own >= (steep[(y - 1) * width + x] as number)) &&
      (y === height - 1 || own >= (steep[(y + 1) * width + x] as number))
    );
  };
  let [hard, soft] = [0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const whole = slope(x, y, FAR);
      const middle = steep[y * width + x] as number;
      // Only the middle of an edge is drawn: there it is steepest.
      const isEdge = whole > LEAST && middle * FAR > whole * 0.9 && isSteepest(x, y);
      const isHard = middle > whole * HARD;
      if (isEdge) {
        if (isHard) hard++;
        else soft++;
      }
      const share = isEdge ? Math.min(1, 0.5 + whole / 40) : 0;
      const [r, g, b] = isHard ? [150, 30, 20] : [70, 110, 190];
      const to = (y * width + x) * 4;
      pixels[to] = 244 + ((r as number) - 244) * share;
      pixels[to + 1] = 242 + ((g as number) - 242) * share;
      pixels[to + 2] = 238 + ((b as number) - 238) * share;
    }
  return hard + soft === 0 ? null : hard / (hard + soft);
}
