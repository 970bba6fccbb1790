export type Point = readonly [x: number, y: number];

/** How far something is turned, radians clockwise, and how many times as large it is made. */
export type Turn = { angle: number; times: number };

/** Turns about a place and makes so many times as large, as the nine numbers of a map. */
export function turnMatrix(
  [x, y]: Point,
  { angle, times }: Turn,
): [number, number, number, number, number, number, number, number, number] {
  const [cos, sin] = [Math.cos(angle) * times, Math.sin(angle) * times];
  return [cos, -sin, x - cos * x + sin * y, sin, cos, y - sin * x - cos * y, 0, 0, 1];
}

export type Pull = { about: Point; from: Point; to: Point };

/** By how much a pull turns and stretches. */
export function turnOf({ about: [x, y], from, to }: Pull): Turn {
  const [ax, ay] = [from[0] - x, from[1] - y];
  const [bx, by] = [to[0] - x, to[1] - y];
  const before = Math.max(1e-6, Math.hypot(ax, ay));
  return {
    angle: Math.atan2(ax * by - ay * bx, ax * bx + ay * by),
    times: Math.min(50, Math.max(0.02, Math.hypot(bx, by) / before)),
  };
}

/** The same as an SVG transform. */
export const turnTransform = ([x, y]: Point, { angle, times }: Turn): string =>
  `translate(${x} ${y}) rotate(${(angle * 180) / Math.PI}) scale(${times}) translate(${-x} ${-y})`;
