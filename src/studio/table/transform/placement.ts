import { atRest, type Free, freeMatrix, middleOf } from "../../../engine/transform/free";
import {
  type Matrix,
  type MeshWarp,
  onMesh,
  perspectiveTo,
  type Point,
  restingMesh,
  through,
  triangles,
  type Warp,
} from "../../../engine/transform/warp";
import { type Box } from "../../../engine/tiles/layout";

/** Where a piece of the picture is put: freely, by its four corners, or by a mesh. */
export type Corners = readonly [Point, Point, Point, Point];
export type Placement =
  | { kind: "free"; free: Free }
  | { kind: "perspective"; corners: Corners }
  | { kind: "mesh"; cells: number; points: MeshWarp["points"] };

export const cornersOf = ({ left, top, right, bottom }: Box): Corners => [
  [left, top],
  [right, top],
  [right, bottom],
  [left, bottom],
];

/** What the engine is asked for. */
export function warpOf(from: Box, placement: Placement): Warp {
  if (placement.kind === "free")
    return { kind: "matrix", matrix: [...freeMatrix(from, placement.free)] };
  if (placement.kind === "perspective")
    return { kind: "matrix", matrix: [...perspectiveTo(from, placement.corners)] };
  return meshOf(from, placement.cells, placement.points);
}

const meshOf = (from: Box, cells: number, points: MeshWarp["points"]): MeshWarp => ({
  kind: "mesh",
  from,
  columns: cells,
  rows: cells,
  points,
});

/** Whether the piece lies as it lay. */
export function isAtRest(from: Box, placement: Placement): boolean {
  const near = (a: Point, b: Point): boolean => Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-3;
  if (placement.kind === "mesh")
    return restingMesh(from, placement.cells, placement.cells).every((point, i) =>
      near(point, placement.points[i] as [number, number]),
    );
  return cornersOf(from).every((corner) => near(corner, placed(from, placement, corner)));
}

/** Where a point of the piece goes. */
export function placed(from: Box, placement: Placement, [x, y]: Point): Point {
  if (placement.kind === "mesh") {
    const u = ((x - from.left) / (from.right - from.left)) * placement.cells;
    const v = ((y - from.top) / (from.bottom - from.top)) * placement.cells;
    return onMesh(meshOf(from, placement.cells, placement.points), u, v);
  }
  const warp = warpOf(from, placement);
  const matrix = warp.kind === "matrix" ? (warp.matrix as unknown as Matrix) : null;
  return (matrix && through(matrix, x, y)) ?? [x, y];
}

/** The same placement taken hold of in another way. */
export function heldAs(
  from: Box,
  placement: Placement,
  kind: Placement["kind"],
  cells = 3,
): Placement {
  if (kind === "perspective") {
    const [a, b, c, d] = cornersOf(from).map((corner) => placed(from, placement, corner));
    return { kind, corners: [a, b, c, d] as Corners };
  }
  if (kind === "mesh")
    return {
      kind,
      cells,
      points: restingMesh(from, cells, cells).map((point) => [
        ...placed(from, placement, point),
      ]) as MeshWarp["points"],
    };
  return { kind, free: placement.kind === "free" ? placement.free : atRest(from) };
}

/** The piece's outline on the sheet. */
export function outline(from: Box, placement: Placement): Point[] {
  const steps = placement.kind === "mesh" ? placement.cells * 8 : 1;
  const [a, b, c, d] = cornersOf(from);
  const side = (p: Point, q: Point): Point[] =>
    Array.from({ length: steps }, (_, i) => {
      const t = i / steps;
      return placed(from, placement, [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]);
    });
  return [...side(a, b), ...side(b, c), ...side(c, d), ...side(d, a)];
}

/** Sides of the squares that a bent picture is drawn in while it is dragged. */
const SQUARES = 10;

/** The piece as small triangles of the sheet and of itself, for the picture that is seen while it is dragged. */
export function piecewise(from: Box, placement: Placement): Float64Array {
  if (placement.kind === "mesh")
    return triangles(meshOf(from, placement.cells, placement.points), 6, 0);
  const points = restingMesh(from, SQUARES, SQUARES).map((point) => [
    ...placed(from, placement, point),
  ]) as MeshWarp["points"];
  return triangles({ kind: "mesh", from, columns: SQUARES, rows: SQUARES, points }, 1, 0);
}

/** Turns a flip into a placement: about its own middle, as it is seen on the sheet. */
export function flipped(from: Box, placement: Placement, across: boolean): Placement {
  const [mx, my] = placed(from, placement, middleOf(from));
  const mirror: Matrix = across
    ? [-1, 0, 2 * mx, 0, 1, 0, 0, 0, 1]
    : [1, 0, 0, 0, -1, 2 * my, 0, 0, 1];
  const point = (p: Point): [number, number] =>
    [...(through(mirror, ...p) ?? p)] as [number, number];
  if (placement.kind === "free") {
    const { angle, skew, scaleX, scaleY } = placement.free;
    const free = across
      ? { ...placement.free, angle: -angle, skew: -skew, scaleX: -scaleX }
      : { ...placement.free, angle: -angle, skew: -skew, scaleY: -scaleY };
    return { kind: "free", free };
  }
  if (placement.kind === "perspective") {
    const [a, b, c, d] = placement.corners.map(point);
    return { kind: "perspective", corners: [a, b, c, d] as unknown as Corners };
  }
  return { ...placement, points: placement.points.map(point) };
}

/** A point of the piece's own frame (−1…1 across and down its box) for a point of the sheet. */
export function inFrame(from: Box, free: Free, [x, y]: Point): Point {
  const cos = Math.cos(free.angle);
  const sin = Math.sin(free.angle);
  const dx = x - free.x;
  const dy = y - free.y;
  const v = -sin * dx + cos * dy;
  const u = cos * dx + sin * dy - Math.tan(free.skew) * v;
  return [(2 * u) / (from.right - from.left), (2 * v) / (from.bottom - from.top)];
}

/** The most that a side may lean: beyond it the piece would be a line. */
export const MOST_LEAN = (80 * Math.PI) / 180;

/**
 * The piece's lower side slid along itself by (dx, dy) of the sheet, while its upper side stays
 * where it is: how far the upright sides lean follows.
 */
export function leaned(from: Box, free: Free, [dx, dy]: Point): Free {
  const along = Math.cos(free.angle) * dx + Math.sin(free.angle) * dy;
  const tall = free.scaleY * (from.bottom - from.top);
  const skew = Math.atan(Math.tan(free.skew) + along / tall);
  const held = Math.min(MOST_LEAN, Math.max(-MOST_LEAN, skew));
  const [mx] = middleOf(from);
  const before = placed(from, { kind: "free", free }, [mx, from.top]);
  const after = placed(from, { kind: "free", free: { ...free, skew: held } }, [mx, from.top]);
  return {
    ...free,
    skew: held,
    x: free.x + before[0] - after[0],
    y: free.y + before[1] - after[1],
  };
}
