/** Geometry of the drawing kit: points, curves and closed shapes, in px. */
export type Point = readonly [x: number, y: number];
export type Shape = readonly Point[];

export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
export const between = (a: Point, b: Point, t: number): Point => [
  mix(a[0], b[0], t),
  mix(a[1], b[1], t),
];
export const distance = (a: Point, b: Point): number => Math.hypot(b[0] - a[0], b[1] - a[1]);

export const box = (x: number, y: number, w: number, h: number): Shape => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

/** An ellipse, or the part of it between two angles (radians). */
export function arc(
  centre: Point,
  rx: number,
  ry: number,
  from = 0,
  to = Math.PI * 2,
  steps = 28,
): Shape {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const a = mix(from, to, i / steps);
    return [centre[0] + Math.cos(a) * rx, centre[1] + Math.sin(a) * ry] as const;
  });
}

/** A box with rounded upper corners. */
export function arched(x: number, y: number, w: number, h: number, r: number): Shape {
  return [
    [x, y + h],
    ...arc([x + r, y + r], r, r, Math.PI, Math.PI * 1.5, 6),
    ...arc([x + w - r, y + r], r, r, Math.PI * 1.5, Math.PI * 2, 6),
    [x + w, y + h],
  ];
}

export const closed = (shape: Shape): Shape => [...shape, shape[0] as Point];

/** Points along a polyline, `step` px apart, corners kept soft by the engine's own curve. */
export function along(line: Shape, step: number): Point[] {
  const points: Point[] = [];
  for (let i = 0; i < line.length - 1; i++) {
    const a = line[i] as Point;
    const b = line[i + 1] as Point;
    const n = Math.max(1, Math.round(distance(a, b) / step));
    for (let k = 0; k < n; k++) points.push(between(a, b, k / n));
  }
  points.push(line.at(-1) as Point);
  return points;
}

/** The stretches of a level line at height `y` that lie inside a shape. */
function spansAt(shape: Shape, y: number): [number, number][] {
  const xs: number[] = [];
  shape.forEach((a, i) => {
    const b = shape[(i + 1) % shape.length] as Point;
    if (a[1] <= y === b[1] <= y) return;
    xs.push(a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0]));
  });
  xs.sort((a, b) => a - b);
  return Array.from({ length: Math.floor(xs.length / 2) }, (_, i) => [
    xs[i * 2] as number,
    xs[i * 2 + 1] as number,
  ]);
}

const turned = ([x, y]: Point, cos: number, sin: number): Point => [
  x * cos - y * sin,
  x * sin + y * cos,
];

/** Parallel lines at `angle` (radians), `gap` apart, cut to a shape. */
export function parallels(shape: Shape, angle: number, gap: number, shift = 0.5): [Point, Point][] {
  const cos = Math.cos(-angle);
  const sin = Math.sin(-angle);
  const level = shape.map((p) => turned(p, cos, sin));
  const ys = level.map(([, y]) => y);
  const lines: [Point, Point][] = [];
  for (let y = Math.min(...ys) + gap * shift; y < Math.max(...ys); y += gap)
    for (const [x0, x1] of spansAt(level, y))
      lines.push([turned([x0, y], cos, -sin), turned([x1, y], cos, -sin)]);
  return lines;
}

/** Lines whose pieces are this short on average, px, are curves already. */
const FINE = 24;

/** A place between the second and the third of four points, on a uniform Catmull-Rom curve. */
export function onCurve(p0: Point, p1: Point, p2: Point, p3: Point, t: number): Point {
  const axis = (c: 0 | 1): number =>
    0.5 *
    (2 * p1[c] +
      (p2[c] - p0[c]) * t +
      (2 * p0[c] - 5 * p1[c] + 4 * p2[c] - p3[c]) * t * t +
      (3 * p1[c] - p0[c] - 3 * p2[c] + p3[c]) * t * t * t);
  return [axis(0), axis(1)];
}

/** A smooth curve through the points of a line (uniform Catmull-Rom), as a finer line. */
export function smooth(line: Shape): Shape {
  const length = line.slice(1).reduce((sum, p, i) => sum + distance(line[i] as Point, p), 0);
  if (line.length < 3 || length / (line.length - 1) < FINE) return line;
  const at = (i: number): Point => line[Math.min(line.length - 1, Math.max(0, i))] as Point;
  const fine: Point[] = [];
  for (let i = 0; i < line.length - 1; i++) {
    const [p0, p1, p2, p3] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
    for (let k = 0; k < 6; k++) fine.push(onCurve(p0, p1, p2, p3, k / 6));
  }
  fine.push(at(line.length - 1));
  return fine;
}
