import { type Curve, lengthsOf, materialAt, placeAt, type Point, pointOn } from "./curve";
import { cornersOf, type Fineness, fit, trackOf } from "./fit";
import { smoothed } from "./profile";

/** Places of a curve: where, how far along, and their material. */
export type Sampled = { points: Point[]; s: number[]; material: number[] };

/** Px from place to place. */
const APART = 1.5;

/** Places along a curve between two lengths, a corner of it never passed over. */
export function sampled(curve: Curve, from: number, to: number): Sampled {
  const lengths = lengthsOf(curve);
  const count = Math.max(1, Math.ceil((to - from) / APART));
  const s = Array.from({ length: count + 1 }, (_, i) => from + ((to - from) * i) / count);
  curve.corners.forEach((corner, k) => {
    const here = lengths[k] as number;
    if (corner && here > from + 0.1 && here < to - 0.1) s.push(here);
  });
  s.sort((a, b) => a - b);
  const places = s.map((length) => placeAt(curve, lengths, length));
  return {
    points: places.map((place) => pointOn(curve, place)),
    s,
    material: places.map((place) => materialAt(curve, place)),
  };
}

/** Reads a rising list of values at rising places. */
function readAt(places: readonly number[], values: readonly number[], at: number): number {
  let i = 0;
  while (i + 2 < places.length && (places[i + 1] as number) < at) i++;
  const [a, b] = [places[i] as number, places[i + 1] as number];
  const t = b > a ? Math.min(1, Math.max(0, (at - a) / (b - a))) : 0;
  return (values[i] as number) + ((values[i + 1] as number) - (values[i] as number)) * t;
}

/** A curve fitted through places, with their material. */
export function fitted({ points, material }: Sampled, fineness: Fineness): Curve {
  const curve = fit(points, fineness);
  let length = 0;
  const along = points.map(([x, y], i) => {
    const before = points[i - 1];
    if (before) length += Math.sqrt((x - before[0]) ** 2 + (y - before[1]) ** 2);
    return length;
  });
  if (points.length < 2)
    return { ...curve, material: curve.material.map((m) => m + (material[0] as number)) };
  const read = curve.material.map((m) => readAt(along, material, m));
  // Where it begins and ends nothing is rounded.
  read[0] = material[0] as number;
  read[read.length - 1] = material.at(-1) as number;
  return { ...curve, material: read };
}

/** Lengths of the corners of a curve, its ends among them. */
export function cornerLengths(curve: Curve): number[] {
  const lengths = lengthsOf(curve);
  const n = lengths.length - 1;
  return lengths.filter((_, k) => k === 0 || k === n || curve.corners[k] === true);
}

/** Joins curves end to start and marks where they meet as corners. */
export function chained(parts: readonly Curve[]): Curve {
  const [first, ...rest] = parts;
  if (!first) throw new RangeError("a curve needs at least one part");
  const whole: Curve = {
    points: [...first.points],
    material: [...first.material],
    corners: [...first.corners],
  };
  for (const part of rest) {
    whole.corners[whole.corners.length - 1] = true;
    whole.points.push(...part.points.slice(2));
    whole.material.push(...part.material.slice(1));
    whole.corners.push(...part.corners.slice(1));
  }
  return whole;
}

/** No corner but those at the ends. */
const rounded = (curve: Curve): Curve => ({
  ...curve,
  corners: curve.corners.map((_, k) => k === 0 || k === curve.corners.length - 1),
});

/** Fits no corners into what was one stretch. */
const NO_CORNERS = 1e6;

/** Lengths of the corners that are still corners seen over ±reach px, the ends among them. */
export function cornersSeenFrom(curve: Curve, reach: number): number[] {
  const lengths = lengthsOf(curve);
  const { points, s } = sampled(curve, 0, lengths.at(-1) as number);
  const track = trackOf(points);
  if (track.s.length < 2) return cornerLengths(curve);
  const [total, length] = [s.at(-1) as number, track.s.at(-1) as number];
  return cornersOf(track, reach, CORNER_OF_SHAPE).map(
    (i) => ((track.s[i] as number) / length) * total,
  );
}

/** From which turn on a corner belongs to the shape rather than to a tremor, radians. */
const CORNER_OF_SHAPE = Math.PI / 3;

/** Fits each stretch between two corners anew. */
export function refitted(
  curve: Curve,
  error: number,
  change: (places: Sampled) => Sampled = (p) => p,
  at: readonly number[] = cornerLengths(curve),
): Curve {
  const parts: Curve[] = [];
  for (let i = 0; i + 1 < at.length; i++) {
    const places = change(sampled(rounded(curve), at[i] as number, at[i + 1] as number));
    parts.push(rounded(fitted(places, { error, corner: NO_CORNERS })));
  }
  return chained(parts);
}

/** Places drawn smooth over ±`over` px; twice less once, so that coils shrink little. Ends stay. */
export function smoothedPlaces({ points, s, material }: Sampled, over: number): Sampled {
  const reach = Math.min(over, ((s.at(-1) as number) - (s[0] as number)) / 3);
  if (reach < APART) return { points, s, material };
  const axis = (k: 0 | 1): number[] => {
    const values = points.map((point) => point[k]);
    const once = heldSmooth(s, values, reach);
    const twice = heldSmooth(s, once, reach);
    return once.map((v, i) => 2 * v - (twice[i] as number));
  };
  const [x, y] = [axis(0), axis(1)];
  return { points: x.map((v, i): Point => [v, y[i] as number]), s, material };
}

/** Smooths with a window that ends at the nearer end of the stretch. */
function heldSmooth(s: readonly number[], values: readonly number[], over: number): number[] {
  const wide = smoothed(s, smoothed(s, values, over), over);
  const [first, last] = [s[0] as number, s.at(-1) as number];
  return values.map((value, i) => {
    const room = Math.min(
      1,
      Math.min((s[i] as number) - first, last - (s[i] as number)) / (2 * over),
    );
    return value + ((wide[i] as number) - value) * room * (2 - room);
  });
}
