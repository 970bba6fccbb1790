import { type Box } from "../../../engine/tiles/layout";
import { type Point } from "../../../engine/transform/warp";

/** The new sheet as it lies on the old one: whole px, turned about its middle. */
export type Frame = { left: number; top: number; width: number; height: number; angle: number };

/** A side or corner of a frame: −1, 0 or 1 across and down. */
export type Grip = readonly [x: -1 | 0 | 1, y: -1 | 0 | 1];

export const grips: readonly Grip[] = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
];

const LONGEST = 16_384;

export const wholeFrame = ({ width, height }: { width: number; height: number }): Frame => ({
  left: 0,
  top: 0,
  width,
  height,
  angle: 0,
});

export const frameOf = ({ left, top, right, bottom }: Box): Frame => ({
  left,
  top,
  width: right - left,
  height: bottom - top,
  angle: 0,
});

const middleOf = ({ left, top, width, height }: Frame): Point => [
  left + width / 2,
  top + height / 2,
];

/** Where a place of the frame lies, −1…1 across and down: its corners and the middles of its sides. */
export function placeOf(frame: Frame, [x, y]: readonly [number, number]): Point {
  const [mx, my] = middleOf(frame);
  const [cos, sin] = [Math.cos(frame.angle), Math.sin(frame.angle)];
  const [dx, dy] = [(x * frame.width) / 2, (y * frame.height) / 2];
  return [mx + dx * cos - dy * sin, my + dx * sin + dy * cos];
}

const held = (v: number): number => Math.max(1, Math.min(LONGEST, Math.round(v)));

/** The frame of a size with a middle. */
const around = ([x, y]: Point, width: number, height: number, angle: number): Frame => ({
  left: Math.round(x - width / 2),
  top: Math.round(y - height / 2),
  width,
  height,
  angle,
});

/**
 * A side or corner pulled to a place: the opposite one stays.
 * @param proportion width to height that it keeps; null: none
 */
export function pulled(start: Frame, grip: Grip, to: Point, proportion: number | null): Frame {
  const far = placeOf(start, [-grip[0], -grip[1]]);
  const [cos, sin] = [Math.cos(start.angle), Math.sin(start.angle)];
  const [dx, dy] = [to[0] - far[0], to[1] - far[1]];
  const along = (dx * cos + dy * sin) * grip[0];
  const down = (dy * cos - dx * sin) * grip[1];
  let width = grip[0] === 0 ? start.width : held(along);
  let height = grip[1] === 0 ? start.height : held(down);
  if (proportion !== null) {
    const byWidth = grip[1] === 0 || (grip[0] !== 0 && width / height > proportion);
    if (byWidth) height = held(width / proportion);
    else width = held(height * proportion);
  }
  const [hx, hy] = [(grip[0] * width) / 2, (grip[1] * height) / 2];
  const middle: Point = [far[0] + hx * cos - hy * sin, far[1] + hx * sin + hy * cos];
  return around(middle, width, height, start.angle);
}

export const moved = (start: Frame, dx: number, dy: number): Frame => ({
  ...start,
  left: Math.round(start.left + dx),
  top: Math.round(start.top + dy),
});

/** The largest frame of a proportion in the middle of another. */
export function withProportion(frame: Frame, proportion: number): Frame {
  const { width, height, angle } = frame;
  const isWide = width / height > proportion;
  return around(
    middleOf(frame),
    isWide ? held(height * proportion) : width,
    isWide ? height : held(width / proportion),
    angle,
  );
}

/** The largest frame of the same shape, turned, that leaves no bare corner of a sheet. */
export function turnedInside(
  sheet: { width: number; height: number },
  frame: Frame,
  angle: number,
): Frame {
  const [cos, sin] = [Math.abs(Math.cos(angle)), Math.abs(Math.sin(angle))];
  const shape = frame.width / frame.height;
  // Its box, w · cos + h · sin by w · sin + h · cos, must lie in the sheet.
  const height = Math.min(
    sheet.width / (shape * cos + sin),
    sheet.height / (shape * sin + cos),
    frame.angle === 0 ? frame.height : LONGEST,
  );
  const size = [Math.floor(height * shape), Math.floor(height)].map(held) as [number, number];
  return around([sheet.width / 2, sheet.height / 2], ...size, angle);
}
