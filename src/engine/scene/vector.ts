/** A place or a direction in a scene: metres to the right, up, and toward the painter. */
export type Vector = readonly [x: number, y: number, z: number];
/** A turn as a unit quaternion. */
export type Turn = readonly [x: number, y: number, z: number, w: number];

export const plus = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (a: Vector, by: number): Vector => [a[0] * by, a[1] * by, a[2] * by];
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const length = (a: Vector): number => Math.sqrt(dot(a, a));

/** The same direction, one long; `instead` where it has none. */
export function unit(a: Vector, instead: Vector = [0, 1, 0]): Vector {
  const long = length(a);
  return long > 1e-12 ? times(a, 1 / long) : instead;
}

const { PI, floor } = Math;

/**
 * Sine by + − × ÷ alone, so that it has the same bits wherever it is worked out: the series up to x¹⁵ on ±π/2,
 * within 1e-11.
 */
export function sine(angle: number): number {
  let x = angle - 2 * PI * floor(angle / (2 * PI) + 0.5);
  if (x > PI / 2) x = PI - x;
  if (x < -PI / 2) x = -PI - x;
  const s = x * x;
  let sum = 1;
  for (let n = 14; n >= 2; n -= 2) sum = 1 - (sum * s) / (n * (n + 1));
  return x * sum;
}

/** Cosine, as exact as {@link sine}. */
export const cosine = (angle: number): number => sine(angle + PI / 2);

/** A turn about an axis, radians, to the left as seen against the axis. */
export function turnAbout(axis: Vector, angle: number): Turn {
  const [x, y, z] = times(unit(axis), sine(angle / 2));
  return [x, y, z, cosine(angle / 2)];
}

/** One turn after another: `second` is done last. */
export function turnedBy([ax, ay, az, aw]: Turn, [bx, by, bz, bw]: Turn): Turn {
  return [
    bw * ax + bx * aw + by * az - bz * ay,
    bw * ay - bx * az + by * aw + bz * ax,
    bw * az + bx * ay - by * ax + bz * aw,
    bw * aw - bx * ax - by * ay - bz * az,
  ];
}

/** The rows of the matrix that turns a direction. The quaternion need not be quite one long. */
export function rowsOf([x, y, z, w]: Turn): readonly [Vector, Vector, Vector] {
  const n = 2 / (x * x + y * y + z * z + w * w);
  return [
    [1 - n * (y * y + z * z), n * (x * y - w * z), n * (x * z + w * y)],
    [n * (x * y + w * z), 1 - n * (x * x + z * z), n * (y * z - w * x)],
    [n * (x * z - w * y), n * (y * z + w * x), 1 - n * (x * x + y * y)],
  ];
}

export function turned(turn: Turn, v: Vector): Vector {
  const [a, b, c] = rowsOf(turn);
  return [dot(a, v), dot(b, v), dot(c, v)];
}
