/**
 * A number along a line by its material: knots (material, value) in turn, between them a monotone cubic (Fritsch &
 * Carlson 1980), beyond them the value of the end.
 */
export type Profile = readonly number[];

const at = (list: ArrayLike<number>, i: number): number => list[i] as number;

/** Slopes at the knots. */
function slopesOf(profile: Profile): number[] {
  const n = profile.length >> 1;
  const rise = (i: number): number =>
    (at(profile, 2 * i + 3) - at(profile, 2 * i + 1)) /
    Math.max(1e-9, at(profile, 2 * i + 2) - at(profile, 2 * i));
  const slopes = new Array<number>(n).fill(0);
  if (n < 2) return slopes;
  slopes[0] = rise(0);
  slopes[n - 1] = rise(n - 2);
  for (let i = 1; i < n - 1; i++) {
    const a = rise(i - 1);
    const b = rise(i);
    slopes[i] = a * b <= 0 ? 0 : (2 * a * b) / (a + b);
  }
  return slopes;
}

/** Reads a profile at any material; quick where it is asked in rising order. */
export function reader(profile: Profile): (m: number) => number {
  const n = profile.length >> 1;
  if (n === 1) return () => at(profile, 1);
  const slopes = slopesOf(profile);
  let i = 0;
  return (m) => {
    if (m <= at(profile, 0)) return at(profile, 1);
    if (m >= at(profile, 2 * n - 2)) return at(profile, 2 * n - 1);
    if (m < at(profile, 2 * i)) i = 0;
    while (m > at(profile, 2 * i + 2)) i++;
    const h = at(profile, 2 * i + 2) - at(profile, 2 * i);
    const t = (m - at(profile, 2 * i)) / h;
    const u = 1 - t;
    return (
      at(profile, 2 * i + 1) * u * u * (1 + 2 * t) +
      (slopes[i] as number) * h * t * u * u +
      at(profile, 2 * i + 3) * t * t * (3 - 2 * t) -
      (slopes[i + 1] as number) * h * t * t * u
    );
  };
}

/** Width is read smoothed over so many px. */
const SMOOTHED = 3;
/** How far a profile may be off: px, or this share, whichever is more. */
export const WIDTH_ERROR = { px: 0.05, share: 0.03 };

/** Values at places, each the mean of its neighbourhood under a triangle of half-width `over`. */
export function smoothed(
  places: readonly number[],
  values: readonly number[],
  over: number,
): number[] {
  let low = 0;
  return values.map((_, i) => {
    const here = at(places, i);
    while (at(places, low) < here - over) low++;
    let sum = 0;
    let weights = 0;
    for (let j = low; j < places.length && at(places, j) <= here + over; j++) {
      const weight = 1 - Math.abs(at(places, j) - here) / over + 1e-3;
      sum += weight * at(values, j);
      weights += weight;
    }
    return sum / weights;
  });
}

/**
 * The profile of fewest knots through measured values that keeps within an error: the worst place becomes a knot,
 * again and again.
 * @param places rising
 */
export function profileThrough(
  places: readonly number[],
  measured: readonly number[],
  error: { px: number; share: number } = WIDTH_ERROR,
): number[] {
  const n = places.length;
  if (n === 0) throw new RangeError("a profile needs at least one value");
  if (n === 1) return [at(places, 0), at(measured, 0)];
  const values = smoothed(places, measured, SMOOTHED);
  values[0] = at(measured, 0);
  values[n - 1] = at(measured, n - 1);
  const knots = new Set([0, n - 1]);
  for (;;) {
    const order = [...knots].sort((a, b) => a - b);
    const profile = order.flatMap((i) => [Math.fround(at(places, i)), Math.fround(at(values, i))]);
    const read = reader(profile);
    let added = false;
    for (let k = 0; k + 1 < order.length; k++) {
      let worst = 0;
      let where = -1;
      for (let i = at(order, k) + 1; i < at(order, k + 1); i++) {
        const value = at(values, i);
        const off = Math.abs(read(at(places, i)) - value) / Math.max(error.px, error.share * value);
        if (off <= worst) continue;
        worst = off;
        where = i;
      }
      if (worst <= 1) continue;
      knots.add(where);
      added = true;
    }
    if (!added) return profile;
  }
}

/** The same profile with its values changed. */
export const mappedProfile = (
  profile: Profile,
  map: (m: number, value: number) => number,
): number[] => profile.map((v, i) => (i % 2 === 0 ? v : Math.fround(map(at(profile, i - 1), v))));

/** A profile over part of its material, with knots at the ends. */
export function profileBetween(profile: Profile, from: number, to: number): number[] {
  const read = reader(profile);
  const part = [Math.fround(from), Math.fround(read(from))];
  for (let i = 0; i < profile.length; i += 2)
    if (at(profile, i) > from + 1e-3 && at(profile, i) < to - 1e-3)
      part.push(at(profile, i), at(profile, i + 1));
  if (to - from > 1e-3) part.push(Math.fround(to), Math.fround(read(to)));
  return part;
}
