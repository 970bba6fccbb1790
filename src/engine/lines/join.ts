import { cutOut, directionAt, followedBy, lengthsOf, piecesOf, type Point } from "./curve";
import { turnedRound } from "./cut";
import { HAND_NUMBERS, type Line, settledLine } from "./line";
import { reader } from "./profile";
import { bridge, bridgeReach } from "./redraw";
import { pulled } from "./pull";
import { smoothSeam } from "./seam";

/** Ends that turn less than this, with the gap ahead of both, are bridged. */
const SMOOTH_TURN = Math.PI / 3;
const AHEAD = 0.3;
/** How far beside a joint the width is evened out: px, or so many half-widths. */
const EVENED = { px: 30, widths: 6 };
/** A meeting point of two tangents counts where it lies within so many gaps. */
const MEETS_WITHIN = 1.5;

const startOf = ({ curve: { points } }: Line): Point => [points[0] as number, points[1] as number];
const endOf = ({ curve: { points } }: Line): Point => [
  points.at(-2) as number,
  points.at(-1) as number,
];
const outOf = ({ curve }: Line): Point => directionAt(curve, { piece: piecesOf(curve) - 1, t: 1 });
const intoOf = ({ curve }: Line): Point => directionAt(curve, { piece: 0, t: 0 });
const apart = (a: Point, b: Point): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2);

/** Two lines turned so that the end of the first is the one nearest to the start of the second. */
export function facing(a: Line, b: Line): { first: Line; second: Line; gap: number } {
  const pairs = [
    { first: a, second: b, gap: apart(endOf(a), startOf(b)) },
    { first: b, second: a, gap: apart(endOf(b), startOf(a)) },
    { first: a, second: turnedRound(b), gap: apart(endOf(a), endOf(b)) },
    { first: turnedRound(a), second: b, gap: apart(startOf(a), startOf(b)) },
  ];
  return pairs.reduce((best, pair) => (pair.gap < best.gap ? pair : best));
}

/** Shifts a line's material. */
function shiftedBy(line: Line, by: number): Line {
  const { curve, width, hand } = line;
  return {
    ...line,
    curve: { ...curve, material: curve.material.map((m) => m + by) },
    width: width.map((v, i) => (i % 2 === 0 ? v + by : v)),
    hand: hand.map((v, i) => (i % HAND_NUMBERS === 0 ? v + by : v)),
  };
}

/** One line of two whose ends face each other: a smooth bridge, or a corner where they meet. */
export function joined(a: Line, b: Line): Line {
  const { first, second, gap } = facing(a, b);
  const [out, into] = [outOf(first), intoOf(second)];
  const turn = Math.abs(
    Math.atan2(out[0] * into[1] - out[1] * into[0], out[0] * into[0] + out[1] * into[1]),
  );
  const [from, to] = [endOf(first), startOf(second)];
  const ahead: Point = gap > 1e-6 ? [(to[0] - from[0]) / gap, (to[1] - from[1]) / gap] : out;
  const isAhead =
    ahead[0] * out[0] + ahead[1] * out[1] > AHEAD &&
    ahead[0] * into[0] + ahead[1] * into[1] > AHEAD;
  const met =
    turn < SMOOTH_TURN && (isAhead || gap < 0.5)
      ? bridged(first, second, gap, turn)
      : cornered(first, second, gap);
  return settledLine({ ...met, id: a.id, z: Math.max(a.z, b.z) });
}

const lengthOf = ({ curve }: Line): number => lengthsOf(curve).at(-1) as number;

function bridged(first: Line, second: Line, gap: number, turn: number): Line {
  const [whole, next] = [lengthOf(first), lengthOf(second)];
  const back = bridgeReach(gap, turn, whole);
  const forth = bridgeReach(gap, turn, next);
  const head = cutOut(first.curve, 0, whole - back);
  const tail = cutOut(second.curve, forth, next);
  const end: Point = [head.points.at(-2) as number, head.points.at(-1) as number];
  const start: Point = [tail.points[0] as number, tail.points[1] as number];
  const between = bridge(
    end,
    directionAt(head, { piece: piecesOf(head) - 1, t: 1 }),
    start,
    directionAt(tail, { piece: 0, t: 0 }),
    [0, 0],
  );
  const from = head.material.at(-1) as number;
  const span = lengthsOf(between).at(-1) as number;
  const by = from + span - (tail.material[0] as number);
  const shifted = shiftedBy(second, by);
  const curve = followedBy(followedBy(head, { ...between, material: [from, from + span] }), {
    ...tail,
    material: tail.material.map((m) => m + by),
  });
  return {
    ...first,
    ...together(first, shifted, from + span / 2),
    curve: smoothAt(curve, piecesOf(head)),
  };
}

/** Two knots that were ends are none. */
function smoothAt(curve: Line["curve"], knot: number): Line["curve"] {
  const corners = [...curve.corners];
  corners[knot] = false;
  corners[knot + 1] = false;
  return { ...curve, corners };
}

/** Both ends are drawn to where their directions meet, or to their middle. */
function cornered(first: Line, second: Line, gap: number): Line {
  const at = meeting(first, second, gap);
  const [whole, next] = [lengthOf(first), lengthOf(second)];
  const reach = Math.max(6 * gap, 8);
  const [from, to] = [endOf(first), startOf(second)];
  const head = pulled(first, {
    at: whole,
    by: [at[0] - from[0], at[1] - from[1]],
    reach: Math.min(reach, whole),
    ends: "free",
  });
  const tail = pulled(second, {
    at: 0,
    by: [at[0] - to[0], at[1] - to[1]],
    reach: Math.min(reach, next),
    ends: "free",
  });
  const joint = head.curve.material.at(-1) as number;
  const shifted = shiftedBy(tail, joint - (tail.curve.material[0] as number));
  const points = [...head.curve.points];
  points[points.length - 2] = at[0];
  points[points.length - 1] = at[1];
  const curve = followedBy({ ...head.curve, points }, shifted.curve);
  curve.corners[piecesOf(head.curve)] = true;
  return { ...first, ...together(head, shifted, joint), curve };
}

function meeting(first: Line, second: Line, gap: number): Point {
  const [a, b] = [endOf(first), startOf(second)];
  const [u, v] = [outOf(first), intoOf(second)];
  const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const det = u[0] * v[1] - u[1] * v[0];
  if (Math.abs(det) < 0.05) return middle;
  const t = ((b[0] - a[0]) * v[1] - (b[1] - a[1]) * v[0]) / det;
  const met: Point = [a[0] + u[0] * t, a[1] + u[1] * t];
  return apart(met, middle) <= MEETS_WITHIN * gap ? met : middle;
}

/** Widths and hand of two lines as of one; at the joint both widths meet, and the tapers there are gone. */
function together(
  first: Line,
  second: Line,
  joint: number,
): Pick<Line, "width" | "hand" | "taper"> {
  const [a, b] = [reader(first.width), reader(second.width)];
  const [r0, r1] = [a(joint - 2 * EVENED.px), b(joint + 2 * EVENED.px)];
  const mean = (r0 + r1) / 2;
  const beside = Math.max(EVENED.px, EVENED.widths * mean);
  const width: number[] = [];
  const keep = (line: Line, when: (m: number) => boolean): void => {
    for (let i = 0; i < line.width.length; i += 2)
      if (when(line.width[i] as number))
        width.push(line.width[i] as number, line.width[i + 1] as number);
  };
  keep(first, (m) => m < joint - beside);
  if (width.length === 0)
    width.push(
      (first.width[0] as number) < joint ? (first.width[0] as number) : joint - 1,
      a(joint - beside),
    );
  width.push(joint, mean);
  keep(second, (m) => m > joint + beside);
  if ((width.at(-2) as number) <= joint)
    width.push(Math.max(joint + 1, second.width.at(-2) as number), b(joint + beside));
  const hand = [...handWhile(first, (m) => m <= joint), ...handWhile(second, (m) => m > joint)];
  return { width, hand, taper: { in: first.taper.in, out: second.taper.out } };
}

function handWhile({ hand }: Line, when: (m: number) => boolean): number[] {
  const kept: number[] = [];
  for (let i = 0; i < hand.length; i += HAND_NUMBERS)
    if (when(hand[i] as number)) kept.push(...hand.slice(i, i + HAND_NUMBERS));
  return kept.length > 0 ? kept : hand.slice(0, HAND_NUMBERS);
}

/** A gap wider than this share of its line is bridged when it is closed: pulled ends would change its shape. */
const WIDE_GAP = 0.15;

/** A line that goes on from its end to its start. */
function bridgedClosed(line: Line): Line {
  const last = line.curve.material.at(-1) as number;
  const over = bridge(endOf(line), outOf(line), startOf(line), intoOf(line), [last, last]);
  const span = lengthsOf(over).at(-1) as number;
  const curve = followedBy(line.curve, { ...over, material: [last, last + span] });
  curve.corners[piecesOf(line.curve)] = false;
  curve.corners[piecesOf(curve)] = true;
  return smoothSeam({ ...line, curve });
}

/** The same line with its end at its start. */
export function closedLine(line: Line): Line {
  if (line.closed) return line;
  const [start, end] = [startOf(line), endOf(line)];
  const gap = apart(start, end);
  const middle: Point = [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2];
  const whole = lengthOf(line);
  if (gap > WIDE_GAP * whole) return bridgedClosed(line);
  const reach = Math.min(Math.max(6 * gap, 8), whole / 3);
  const open = { ...line, closed: false };
  const head = pulled(open, {
    at: 0,
    by: [middle[0] - start[0], middle[1] - start[1]],
    reach,
    ends: "free",
  });
  const both = pulled(head, {
    at: lengthOf(head),
    by: [middle[0] - end[0], middle[1] - end[1]],
    reach,
    ends: "free",
  });
  return smoothSeam(both);
}
