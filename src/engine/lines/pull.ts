import {
  copyOf,
  type Curve,
  lengthsOf,
  nearestOnPiece,
  piecesOf,
  placeAt,
  type Point,
  pointOn,
  split,
  splitAt,
} from "./curve";
import { type Line, settledLine } from "./line";
import { seamAt } from "./seam";

export type Pull = {
  /** Where along the line it is held, px. */
  at: number;
  by: Point;
  /** How far along the line the pull is felt, px; never less than twice the pull, so that nothing folds. */
  reach: number;
  /** Whether the line's ends stay, or go along where they are near. */
  ends: "held" | "free";
};

/** Farther off than this from what was pulled exactly, a piece is halved, px. */
const OFF = 0.25;
const MOST_HALVINGS = 4;
/** The reach at which a knot is put on the slope, a share. */
const SLOPE = 0.55;

/** Who takes hold of a line so near to its end has hold of the end: px, or this share of the reach. */
const GRIP = { most: 14, share: 0.15 };

/** How strongly a place is pulled, and how that changes along the line. */
type Felt = { share: number; slope: number };

function felt(
  s: number,
  { at, reach }: { at: number; reach: readonly [before: number, after: number] },
): Felt {
  const side = s < at ? reach[0] : reach[1];
  const u = side > 0 ? (s - at) / side : s === at ? 0 : 2;
  if (u <= -1 || u >= 1) return { share: 0, slope: 0 };
  const fall = 1 - u * u;
  return { share: fall * fall, slope: side > 0 ? (-4 * u * fall) / side : 0 };
}

/**
 * Pulls a piece of a line, less and less to both sides: φ = (1 − u²)². Directions turn with it, so that what was
 * smooth stays so; the line's material stays with its places.
 */
export function pulled(line: Line, pull: Pull): Line {
  const whole = lengthsOf(line.curve).at(-1) as number;
  // A closed line has its seam opposite of where it is pulled.
  if (line.closed)
    return pulledOpen(seamAt(line, (pull.at + whole / 2) % whole), {
      ...pull,
      at: whole / 2,
      reach: Math.min(pull.reach, whole / 2),
    });
  return pulledOpen(line, pull);
}

function pulledOpen(line: Line, pull: Pull): Line {
  const whole = lengthsOf(line.curve).at(-1) as number;
  const size = Math.sqrt(pull.by[0] ** 2 + pull.by[1] ** 2);
  const far = Math.max(pull.reach, 2 * size);
  const held = Math.min(whole, Math.max(0, pull.at));
  const isHeld = pull.ends === "held" || line.closed;
  // An end that is itself taken hold of goes along, held or not.
  const grip = line.closed ? 0 : Math.min(GRIP.most, GRIP.share * far, whole / 4);
  const at = held < grip ? 0 : whole - held < grip ? whole : held;
  const goes = (room: number): number => (isHeld && room > 0 ? Math.min(far, room) : far);
  const reach: [number, number] = [goes(at), goes(whole - at)];
  const curve = copyOf(line.curve);
  const spots = [-1, -SLOPE, 0, SLOPE, 1].map((u) => at + u * (u < 0 ? reach[0] : reach[1]));
  for (const s of spots) if (s > 0.01 && s < whole - 0.01) splitAt(curve, s);
  const moved = movedBy(curve, (s) => felt(s, { at, reach }), pull.by);
  return settledLine({ ...line, curve: moved });
}

function movedBy(curve: Curve, feel: (s: number) => Felt, by: Point, depth = 0): Curve {
  const lengths = lengthsOf(curve);
  const points = [...curve.points];
  const put = (i: number, x: number, y: number): void => {
    points[i] = x;
    points[i + 1] = y;
  };
  const shares = lengths.map(feel);
  for (let k = 0; k < lengths.length; k++) {
    const { share, slope } = shares[k] as Felt;
    if (share === 0) continue;
    const i = 6 * k;
    const [x, y] = [curve.points[i] as number, curve.points[i + 1] as number];
    put(i, x + by[0] * share, y + by[1] * share);
    for (const side of [-2, 2]) {
      const j = i + side;
      if (j < 0 || j >= points.length) continue;
      const gx = (curve.points[j] as number) - x;
      const gy = (curve.points[j + 1] as number) - y;
      const long = Math.sqrt(gx * gx + gy * gy) * Math.sign(side);
      put(
        j,
        x + by[0] * share + gx + by[0] * slope * long,
        y + by[1] * share + gy + by[1] * slope * long,
      );
    }
  }
  const moved = { ...curve, points };
  if (depth >= MOST_HALVINGS) return moved;
  const halved = copyOf(curve);
  let any = false;
  for (let piece = piecesOf(curve) - 1; piece >= 0; piece--) {
    if (!isOff(curve, moved, lengths, piece, feel, by)) continue;
    any = true;
    const s = ((lengths[piece] as number) + (lengths[piece + 1] as number)) / 2;
    split(halved, placeAt(curve, lengths, s));
  }
  return any ? movedBy(halved, feel, by, depth + 1) : moved;
}

/** Whether a moved piece is farther off than it may be from its places, each moved by itself. */
function isOff(
  curve: Curve,
  moved: Curve,
  lengths: readonly number[],
  piece: number,
  feel: (s: number) => Felt,
  by: Point,
): boolean {
  const [from, to] = [lengths[piece] as number, lengths[piece + 1] as number];
  if (
    to - from < 2 ||
    (feel(from).share === 0 && feel(to).share === 0 && feel((from + to) / 2).share === 0)
  )
    return false;
  for (const t of [0.25, 0.5, 0.75]) {
    const s = from + (to - from) * t;
    const { share } = feel(s);
    const [x, y] = pointOn(curve, placeAt(curve, lengths, s));
    if (nearestOnPiece(moved.points, piece, x + by[0] * share, y + by[1] * share).distance > OFF)
      return true;
  }
  return false;
}
