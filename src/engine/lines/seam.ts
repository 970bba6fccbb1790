import { copyOf, directionAt, between, followedBy, piecesOf, splitAt } from "./curve";
import { HAND_NUMBERS, type Line, settledLine } from "./line";
import { reader } from "./profile";

/** Ends that turn less than this are one smooth place when they are closed, radians. */
const SMOOTH = 0.9;

/** A closed line that begins and ends somewhere else, px along it. Its material runs on from where it ended. */
export function seamAt(line: Line, s: number): Line {
  const curve = copyOf(line.curve);
  const knot = splitAt(curve, s);
  const n = piecesOf(curve);
  if (knot <= 0 || knot >= n) return line;
  const [first, last] = [curve.material[0] as number, curve.material[n] as number];
  const by = last - first;
  const head = between(curve, 0, knot);
  const tail = between(curve, knot, n);
  const isCorner = turnAtSeam(line) > SMOOTH;
  const whole = followedBy(tail, { ...head, material: head.material.map((m) => m + by) });
  whole.corners = whole.corners.map((corner, k) => (k === n - knot ? isCorner : corner));
  whole.corners[0] = whole.corners[n] = true;
  const seam = curve.material[knot] as number;
  return settledLine({
    ...line,
    curve: whole,
    width: turnedOn(line.width, 2, seam, by),
    hand: turnedOn(line.hand, HAND_NUMBERS, seam, by),
  });
}

/** A list of numbers by material that begins at a seam; what came before it comes after. */
function turnedOn(list: readonly number[], numbers: number, seam: number, by: number): number[] {
  const rows: number[][] = [];
  for (let i = 0; i < list.length; i += numbers) rows.push([...list.slice(i, i + numbers)]);
  const at = (row: readonly number[]): number => row[0] as number;
  const after = rows.filter((row) => at(row) >= seam);
  const before = rows.filter((row) => at(row) < seam).map((row) => [at(row) + by, ...row.slice(1)]);
  const turned = [...after, ...before].filter(
    (row, i, all) => i === 0 || at(row) > at(all[i - 1] as number[]),
  );
  if (numbers !== 2) return turned.flat();
  const here = reader(list)(seam);
  const inner = turned.flat().filter((_, i, flat) => {
    const m = flat[i - (i % 2)] as number;
    return m > seam + 1e-3 && m < seam + by - 1e-3;
  });
  return [seam, here, ...inner, seam + by, here];
}

/** By how much a closed line turns where it begins, radians. */
function turnAtSeam({ curve }: Line): number {
  const [ax, ay] = directionAt(curve, { piece: piecesOf(curve) - 1, t: 1 });
  const [bx, by] = directionAt(curve, { piece: 0, t: 0 });
  return Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by));
}

/**
 * A line that was just closed: where it turns little at its seam it goes on smoothly, and as wide as it began.
 */
export function smoothSeam(line: Line): Line {
  const { curve } = line;
  const n = curve.points.length;
  const points = [...curve.points];
  const at = (i: number): number => points[i] as number;
  points[n - 2] = at(0);
  points[n - 1] = at(1);
  const turn = turnAtSeam(line);
  if (turn < SMOOTH) {
    const [ax, ay] = directionAt(curve, { piece: piecesOf(curve) - 1, t: 1 });
    const [bx, by] = directionAt(curve, { piece: 0, t: 0 });
    const d = Math.sqrt((ax + bx) ** 2 + (ay + by) ** 2) || 1;
    const [dx, dy] = [(ax + bx) / d, (ay + by) / d];
    const out = Math.sqrt((at(2) - at(0)) ** 2 + (at(3) - at(1)) ** 2);
    const into = Math.sqrt((at(n - 4) - at(n - 2)) ** 2 + (at(n - 3) - at(n - 1)) ** 2);
    points[2] = at(0) + dx * out;
    points[3] = at(1) + dy * out;
    points[n - 4] = at(n - 2) - dx * into;
    points[n - 3] = at(n - 1) - dy * into;
  }
  const width = [...line.width];
  const mean = ((width[1] as number) + (width.at(-1) as number)) / 2;
  width[1] = width[width.length - 1] = mean;
  return settledLine({
    ...line,
    curve: { ...curve, points },
    width,
    closed: true,
    taper: { in: 0, out: 0 },
  });
}
