import { COARSEST, FINEST, type Halftone } from "../../../engine/halftone/halftone";
import { directionOf, dotSide } from "../../../engine/halftone/write";
import { type Point } from "../../../engine/transform/warp";

/** The middle of the dot of a screen that lies nearest to a place, px of the picture. */
export function nearestDot(halftone: Halftone, ppi: number, [x, y]: Point): Point {
  const side = dotSide(halftone, ppi);
  const [cos, sin] = directionOf(halftone.angle);
  const [dx, dy] = [x - halftone.x, y - halftone.y];
  const u = Math.round((dx * cos + dy * sin) / side) * side;
  const v = Math.round((dy * cos - dx * sin) / side) * side;
  return [halftone.x + u * cos - v * sin, halftone.y + u * sin + v * cos];
}

const rounded = (v: number, to: number): number => Math.round(v / to) * to;
const held = (v: number, least: number, most: number): number => Math.min(most, Math.max(least, v));

/** The pattern with one of its dots at a place. */
export const movedTo = (halftone: Halftone, [x, y]: Point): Halftone => ({
  ...halftone,
  x: rounded(held(x, -65_536, 65_536), 0.01),
  y: rounded(held(y, -65_536, 65_536), 0.01),
});

/**
 * The pattern turned and scaled about one of its dots, so that what lay at `from` lies at `to`.
 * @param isStepped whether the angle keeps to steps of 15 degrees
 */
export function turnedAbout(
  halftone: Halftone,
  dot: Point,
  from: Point,
  to: Point,
  isStepped: boolean,
): Halftone {
  const [ax, ay] = [from[0] - dot[0], from[1] - dot[1]];
  const [bx, by] = [to[0] - dot[0], to[1] - dot[1]];
  const before = Math.hypot(ax, ay);
  const after = Math.hypot(bx, by);
  if (before === 0 || after === 0) return halftone;
  const turn = ((Math.atan2(by, bx) - Math.atan2(ay, ax)) * 180) / Math.PI;
  const angle = rounded(halftone.angle + turn, isStepped ? 15 : 0.5);
  const lpi = rounded((halftone.lpi * before) / after, 0.5);
  return {
    ...movedTo(halftone, dot),
    angle: angle - 360 * Math.round(angle / 360),
    lpi: held(lpi, COARSEST, FINEST),
  };
}
