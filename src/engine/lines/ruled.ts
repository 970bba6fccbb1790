import { type Curve, type Point, straight } from "./curve";
import { type Line, type LineStyle, settledLine, type Taper } from "./line";

/** How a ruled line's hand is taken to have held the pen: upright, pressed as usual. */
const HAND = [0, 0.7, 1.5707963267948966, 0, 0, 0] as const;

const UNTAPERED: Taper = { in: 0, out: 0 };

/** A curve of straight pieces through corners; its material is its length, px. */
function through(corners: readonly Point[]): Curve {
  const first = corners[0] as Point;
  const curve: Curve = { points: [...first], material: [0], corners: [true] };
  let length = 0;
  for (let i = 1; i < corners.length; i++) {
    const [from, to] = [corners[i - 1] as Point, corners[i] as Point];
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    length += Math.sqrt(dx * dx + dy * dy);
    curve.points.push(...straight(from, to, [0, 1]).points.slice(2));
    curve.material.push(length);
    curve.corners.push(true);
  }
  return curve;
}

/** The frame around a shape: a closed line of one width through its corners. */
export function frameLine(
  corners: readonly Point[],
  width: number,
  style: LineStyle,
  { id, z }: { id: number; z: number },
): Line {
  return settledLine({
    id,
    z,
    ...style,
    curve: through([...corners, corners[0] as Point]),
    width: [0, width / 2],
    hand: HAND,
    taper: UNTAPERED,
    closed: true,
  });
}

/** A straight line that thins from its start to a point at its end. */
export function pointedLine(
  from: Point,
  to: Point,
  width: number,
  taper: Taper,
  style: LineStyle,
  { id, z }: { id: number; z: number },
): Line {
  const curve = through([from, to]);
  return settledLine({
    id,
    z,
    ...style,
    curve,
    width: [0, width / 2],
    hand: HAND,
    taper,
    closed: false,
  });
}
