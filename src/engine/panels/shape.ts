import { type Box } from "../tiles/layout";

/**
 * The shapes of a page's panels: convex, corners clockwise as they are seen, px. A sheet cut by straight lines falls
 * into nothing else, and a convex shape is where its sides' half-planes meet, so that a side can be moved or left
 * out by itself.
 */
export type Corner = readonly [x: number, y: number];
export type Shape = readonly Corner[];

/** All places with `nx · x + ny · y ≤ reach`; (nx, ny) has length 1 and points outward. */
type HalfPlane = { nx: number; ny: number; reach: number };

/** A part smaller than this is no panel, px². */
const LEAST_AREA = 64;
/** Corners nearer to each other than this are one, px. */
const SAME = 1e-6;
/** Sides whose directions differ by less than this are parallel: the sine of a fifth of a degree. */
const PARALLEL = 0.0035;

const at = (shape: Shape, i: number): Corner => shape[i % shape.length] as Corner;

/** The area of a shape, px². */
export function areaOf(shape: Shape): number {
  let twice = 0;
  for (let i = 0; i < shape.length; i++) {
    const [ax, ay] = at(shape, i);
    const [bx, by] = at(shape, i + 1);
    twice += ax * by - bx * ay;
  }
  return Math.abs(twice) / 2;
}

export const middleOf = (shape: Shape): Corner => {
  let [x, y] = [0, 0];
  for (const [cx, cy] of shape) {
    x += cx / shape.length;
    y += cy / shape.length;
  }
  return [x, y];
};

/** The box around a shape. */
export function boxAround(shape: Shape): Box {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (const [x, y] of shape) {
    box.left = Math.min(box.left, x);
    box.top = Math.min(box.top, y);
    box.right = Math.max(box.right, x);
    box.bottom = Math.max(box.bottom, y);
  }
  return box;
}

/** The shape of a box. */
export const shapeOfBox = ({ left, top, right, bottom }: Box): Shape => [
  [left, top],
  [right, top],
  [right, bottom],
  [left, bottom],
];

/** Whether a place lies in a shape. */
export const holds = (shape: Shape, [x, y]: Corner): boolean =>
  shape.every((_, i) => off(sideOf(shape, i), [x, y]) <= 0);

/** The half-plane that a side bounds: the side goes from corner `i` to the next. */
function sideOf(shape: Shape, i: number): HalfPlane {
  const [ax, ay] = at(shape, i);
  const [bx, by] = at(shape, i + 1);
  const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
  const [nx, ny] = [(by - ay) / length, (ax - bx) / length];
  return { nx, ny, reach: nx * ax + ny * ay };
}

/** How far a place lies outside of a half-plane, px; below 0 inside. */
const off = ({ nx, ny, reach }: HalfPlane, [x, y]: Corner): number => nx * x + ny * y - reach;

/** What of a shape lies in a half-plane; empty where nothing does. */
function clipped(shape: Shape, plane: HalfPlane): Shape {
  const kept: Corner[] = [];
  const add = (corner: Corner): void => {
    const last = kept.at(-1);
    if (last && Math.abs(last[0] - corner[0]) < SAME && Math.abs(last[1] - corner[1]) < SAME)
      return;
    kept.push(corner);
  };
  for (let i = 0; i < shape.length; i++) {
    const [a, b] = [at(shape, i), at(shape, i + 1)];
    const [offA, offB] = [off(plane, a), off(plane, b)];
    if (offA <= 0) add(a);
    if (offA < 0 !== offB < 0 && offA !== 0 && offB !== 0) {
      const t = offA / (offA - offB);
      add([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]);
    }
  }
  const [first, last] = [kept[0], kept.at(-1)];
  if (kept.length > 1 && first && last)
    if (Math.abs(first[0] - last[0]) < SAME && Math.abs(first[1] - last[1]) < SAME) kept.pop();
  return kept.length < 3 ? [] : kept;
}

const isPanel = (shape: Shape): boolean => shape.length >= 3 && areaOf(shape) >= LEAST_AREA;

/** The line from one place through another, as the half-plane at its left, which is above or left on the sheet. */
function planeAlong([ax, ay]: Corner, [bx, by]: Corner): HalfPlane | null {
  const length = Math.sqrt((bx - ax) * (bx - ax) + (by - ay) * (by - ay));
  if (length === 0) return null;
  let [nx, ny] = [(ay - by) / length, (bx - ax) / length];
  // A level cut parts what is above from what is below, an upright one left from right.
  const turns = Math.abs(ny) >= Math.abs(nx) ? ny < 0 : nx < 0;
  if (turns) [nx, ny] = [-nx, -ny];
  return { nx, ny, reach: nx * ax + ny * ay };
}

/** How much of the way through a shape must be drawn for the shape to be cut. */
const CUTS_FROM = 0.5;

/** Whether a way from one place to another goes through most of a shape. */
function isCrossed(shape: Shape, from: Corner, to: Corner): boolean {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  let [enters, leaves] = [-Infinity, Infinity];
  for (let i = 0; i < shape.length; i++) {
    const side = sideOf(shape, i);
    const speed = side.nx * dx + side.ny * dy;
    const here = off(side, from);
    if (speed === 0 && here >= 0) return false;
    if (speed < 0) enters = Math.max(enters, -here / speed);
    if (speed > 0) leaves = Math.min(leaves, -here / speed);
  }
  const drawn = Math.min(1, leaves) - Math.max(0, enters);
  return leaves > enters && drawn >= CUTS_FROM * (leaves - enters);
}

/**
 * A shape cut along a line, with a gutter between its parts.
 * @param gutter px
 * @returns what is above or left, and what is below or right; null where the way does not cut it, or leaves a part
 * too small
 */
export function cutShape(
  shape: Shape,
  from: Corner,
  to: Corner,
  gutter: number,
): [first: Shape, second: Shape] | null {
  const plane = planeAlong(from, to);
  if (!plane || !isCrossed(shape, from, to)) return null;
  const { nx, ny, reach } = plane;
  const first = clipped(shape, { nx, ny, reach: reach - gutter / 2 });
  const second = clipped(shape, { nx: -nx, ny: -ny, reach: -reach - gutter / 2 });
  return isPanel(first) && isPanel(second) ? [first, second] : null;
}

/** The shape that half-planes leave of another; null where it is too small. */
function meeting(of: Shape, planes: readonly HalfPlane[]): Shape | null {
  const shape = planes.reduce(clipped, of);
  return isPanel(shape) ? shape : null;
}

const grownBox = ({ left, top, right, bottom }: Box, by: number): Box => ({
  left: left - by,
  top: top - by,
  right: right + by,
  bottom: bottom + by,
});

/**
 * A shape whose one side bleeds: it goes on until its other sides end it, or the sheet does.
 * @param beyond how far beyond the sheet's edge its side comes to lie, px
 */
export function bledShape(shape: Shape, side: number, sheet: Box, beyond: number): Shape | null {
  const planes = shape.flatMap((_, i) => (i === side ? [] : [sideOf(shape, i)]));
  return meeting(shapeOfBox(grownBox(sheet, beyond)), planes);
}

/** A side of one of several shapes. */
export type Side = { of: number; side: number };

/** The side of a shape that is nearest to a place. */
export function nearestSide(shape: Shape, place: Corner): number {
  let best = 0;
  let least = Infinity;
  for (let i = 0; i < shape.length; i++) {
    const far = Math.abs(off(sideOf(shape, i), place));
    if (far >= least) continue;
    least = far;
    best = i;
  }
  return best;
}

/** Whether a side lies across a gutter from another, beside it. */
function isAcross(a: Shape, i: number, b: Shape, k: number, widest: number): boolean {
  const [one, other] = [sideOf(a, i), sideOf(b, k)];
  const sine = one.nx * other.ny - one.ny * other.nx;
  if (one.nx * other.nx + one.ny * other.ny > 0 || Math.abs(sine) > PARALLEL) return false;
  const gap = off(one, at(b, k));
  if (gap < 0 || gap > widest) return false;
  const along = ([x, y]: Corner): number => -one.ny * x + one.nx * y;
  const [a0, a1] = [along(at(a, i)), along(at(a, i + 1))];
  const [b0, b1] = [along(at(b, k)), along(at(b, k + 1))];
  return (
    Math.min(Math.max(a0, a1), Math.max(b0, b1)) > Math.max(Math.min(a0, a1), Math.min(b0, b1))
  );
}

/** A side and all that lie along the same gutter. */
export function alongGutter(shapes: readonly Shape[], from: Side, widest: number): Side[] {
  const found: Side[] = [from];
  for (let n = 0; n < found.length; n++) {
    const { of, side } = found[n] as Side;
    const own = shapes[of] as Shape;
    shapes.forEach((shape, other) => {
      if (other === of) return;
      for (let k = 0; k < shape.length; k++) {
        if (found.some((one) => one.of === other && one.side === k)) continue;
        if (isAcross(own, side, shape, k, widest)) found.push({ of: other, side: k });
      }
    });
  }
  return found;
}

/** Far more than any sheet: what a shape without one of its sides is cut from. */
const FAR = 1 << 20;

/** A shape with one side moved by (x, y); null where nothing is left. */
export function withSideMoved(shape: Shape, side: number, [x, y]: Corner): Shape | null {
  const planes = shape.map((_, i): HalfPlane => {
    const plane = sideOf(shape, i);
    const by = i === side ? plane.nx * x + plane.ny * y : 0;
    return { ...plane, reach: plane.reach + by };
  });
  return meeting(shapeOfBox(grownBox({ left: 0, top: 0, right: 0, bottom: 0 }, FAR)), planes);
}

/** How much of two shapes lies over each other, px². */
export function overlapOf(a: Shape, b: Shape): number {
  const both = b.map((_, i) => sideOf(b, i)).reduce(clipped, a);
  return both.length < 3 ? 0 : areaOf(both);
}

/** The smallest convex shape around two (Andrew's monotone chain). */
export function around(a: Shape, b: Shape): Shape {
  const corners = [...a, ...b].sort(([ax, ay], [bx, by]) => ax - bx || ay - by);
  const half = (list: readonly Corner[]): Corner[] => {
    const chain: Corner[] = [];
    for (const corner of list) {
      while (chain.length > 1 && !turnsRight(chain.at(-2), chain.at(-1), corner)) chain.pop();
      chain.push(corner);
    }
    return chain.slice(0, -1);
  };
  return [...half(corners), ...half([...corners].reverse())];
}

const turnsRight = (a: Corner | undefined, b: Corner | undefined, c: Corner): boolean =>
  a !== undefined &&
  b !== undefined &&
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]) > SAME;

/** Places of shapes in the order in which a page is read: tier by tier, from the left. */
export function readingOrder(shapes: readonly Shape[]): number[] {
  const boxes = shapes.map(boxAround);
  const left = new Set(shapes.keys());
  const order: number[] = [];
  while (left.size > 0) {
    const [first] = [...left].sort((a, b) => (boxes[a] as Box).top - (boxes[b] as Box).top);
    const { top, bottom } = boxes[first as number] as Box;
    const tier = [...left].filter((i) => {
      const box = boxes[i] as Box;
      const middle = (box.top + box.bottom) / 2;
      return i === first || (middle > top && middle < bottom && box.top < (top + bottom) / 2);
    });
    tier.sort((a, b) => middleOf(shapes[a] as Shape)[0] - middleOf(shapes[b] as Shape)[0]);
    for (const i of tier) left.delete(i);
    order.push(...tier);
  }
  return order;
}
