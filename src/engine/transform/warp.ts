import { z } from "zod";
import { Refusal } from "../picture/refusal";
import { type Box } from "../tiles/layout";

/**
 * Where pixels go when they are moved, turned, bent: a matrix (moving, scaling, turning,
 * flipping, skewing, perspective) or a mesh. Places are picture px.
 */
const FARTHEST = 1e6;
const coordinate = z.number().min(-FARTHEST).max(FARTHEST);
export const MOST_MESH = 12;

export const boxSchema = z
  .strictObject({ left: coordinate, top: coordinate, right: coordinate, bottom: coordinate })
  .refine(({ left, top, right, bottom }) => right > left && bottom > top, {
    message: "a box needs a width and a height",
  });

/** Row by row, in homogeneous coordinates: x' = (m0·x + m1·y + m2) / (m6·x + m7·y + m8). */
export type Matrix = readonly [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
];

const matrixWarp = z.strictObject({
  kind: z.literal("matrix"),
  matrix: z.array(z.number().min(-1e9).max(1e9)).length(9),
});

const meshWarp = z
  .strictObject({
    kind: z.literal("mesh"),
    /** The part that the mesh was laid over. */
    from: boxSchema,
    columns: z.int().min(1).max(MOST_MESH),
    rows: z.int().min(1).max(MOST_MESH),
    /** Where the mesh's corners went, row by row. */
    points: z.array(z.tuple([coordinate, coordinate])),
  })
  .refine(({ columns, rows, points }) => points.length === (columns + 1) * (rows + 1), {
    message: "a mesh has (columns + 1) × (rows + 1) points",
    path: ["points"],
  });

export const warpSchema = z.discriminatedUnion("kind", [matrixWarp, meshWarp]);
export type Warp = z.infer<typeof warpSchema>;
export type MeshWarp = z.infer<typeof meshWarp>;
export type Point = readonly [x: number, y: number];

/** The sides of a mesh's cells are halved into so many when it is drawn. */
const FINE = 10;
/** How far past its edge a mesh is known, px of the target. */
const PAST_EDGE = 24;

/** a after b. */
export function times(a: Matrix, b: Matrix): Matrix {
  const out: number[] = [];
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 3; column++)
      out.push(
        (a[row * 3] as number) * (b[column] as number) +
          (a[row * 3 + 1] as number) * (b[column + 3] as number) +
          (a[row * 3 + 2] as number) * (b[column + 6] as number),
      );
  return out as unknown as Matrix;
}

/** @throws Refusal where everything would fall on one line */
export function inverse(m: Matrix): Matrix {
  const [a, b, c, d, e, f, g, h, i] = m;
  const minors = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
  const determinant =
    a * (minors[0] as number) + b * (minors[3] as number) + c * (minors[6] as number);
  const size = Math.max(...m.map(Math.abs));
  if (!(Math.abs(determinant) > size ** 3 * 1e-15))
    throw new Refusal("this would fold everything onto a line");
  return minors.map((v) => v / determinant) as unknown as Matrix;
}

/** Where a matrix puts a point; null where it is at or behind the eye. */
export function through(m: Matrix, x: number, y: number): Point | null {
  const w = m[6] * x + m[7] * y + m[8];
  if (w < 1e-9) return null;
  return [(m[0] * x + m[1] * y + m[2]) / w, (m[3] * x + m[4] * y + m[5]) / w];
}

/** The matrix that carries the corners of a box (from its upper left, clockwise) to four points. */
export function perspectiveTo(box: Box, corners: readonly [Point, Point, Point, Point]): Matrix {
  // Heckbert 1989: the unit square to a quadrilateral.
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = corners;
  const dx1 = x1 - x2;
  const dx2 = x3 - x2;
  const dy1 = y1 - y2;
  const dy2 = y3 - y2;
  const sx = x0 - x1 + x2 - x3;
  const sy = y0 - y1 + y2 - y3;
  const across = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / across;
  const h = (dx1 * sy - sx * dy1) / across;
  const unit: Matrix = [
    x1 - x0 + g * x1,
    x3 - x0 + h * x3,
    x0,
    y1 - y0 + g * y1,
    y3 - y0 + h * y3,
    y0,
    g,
    h,
    1,
  ];
  const width = box.right - box.left;
  const height = box.bottom - box.top;
  return times(unit, [1 / width, 0, -box.left / width, 0, 1 / height, -box.top / height, 0, 0, 1]);
}

/** Weights of a Catmull-Rom segment at t. */
function segment(t: number): [number, number, number, number] {
  const t2 = t * t;
  const t3 = t2 * t;
  return [
    (-t3 + 2 * t2 - t) / 2,
    (3 * t3 - 5 * t2 + 2) / 2,
    (-3 * t3 + 4 * t2 + t) / 2,
    (t3 - t2) / 2,
  ];
}

/** Where a mesh puts the place (u, v) of its box, in cells; past its edges it goes straight on. */
export function onMesh(mesh: MeshWarp, u: number, v: number): Point {
  const { columns, rows } = mesh;
  const inU = Math.min(columns, Math.max(0, u));
  const inV = Math.min(rows, Math.max(0, v));
  const at = within(mesh, inU, inV);
  if (inU === u && inV === v) return at;
  const step = 1e-3;
  const alongU = within(mesh, inU === 0 ? step : inU - step, inV);
  const alongV = within(mesh, inU, inV === 0 ? step : inV - step);
  const offU = (u - inU) / (inU === 0 ? step : -step);
  const offV = (v - inV) / (inV === 0 ? step : -step);
  return [
    at[0] + (alongU[0] - at[0]) * offU + (alongV[0] - at[0]) * offV,
    at[1] + (alongU[1] - at[1]) * offU + (alongV[1] - at[1]) * offV,
  ];
}

function within({ columns, rows, points }: MeshWarp, u: number, v: number): Point {
  const column = Math.min(columns - 1, Math.floor(u));
  const row = Math.min(rows - 1, Math.floor(v));
  const acrossWeights = segment(u - column);
  const downWeights = segment(v - row);
  let x = 0;
  let y = 0;
  for (let j = 0; j < 4; j++)
    for (let i = 0; i < 4; i++) {
      const weight = (acrossWeights[i] as number) * (downWeights[j] as number);
      if (weight === 0) continue;
      const [px, py] = corner(points, columns, rows, column + i - 1, row + j - 1);
      x += px * weight;
      y += py * weight;
    }
  return [x, y];
}

/** A corner of the mesh; one outside is its neighbour mirrored in the edge. */
function corner(
  points: MeshWarp["points"],
  columns: number,
  rows: number,
  i: number,
  j: number,
): Point {
  const at = (a: number, b: number): Point => points[b * (columns + 1) + a] as [number, number];
  const ci = Math.min(columns, Math.max(0, i));
  const cj = Math.min(rows, Math.max(0, j));
  if (ci === i && cj === j) return at(i, j);
  const edge = at(ci, cj);
  const inner = at(2 * ci - i, 2 * cj - j);
  return [2 * edge[0] - inner[0], 2 * edge[1] - inner[1]];
}

/** A mesh's corners where they are before anything is pulled. */
export function restingMesh(from: Box, columns: number, rows: number): MeshWarp["points"] {
  const points: [number, number][] = [];
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i <= columns; i++)
      points.push([
        from.left + ((from.right - from.left) * i) / columns,
        from.top + ((from.bottom - from.top) * j) / rows,
      ]);
  return points;
}

/** A mesh as small triangles: corners x y u v of the target and the source, twelve numbers each. */
export function triangles(mesh: MeshWarp, fine = FINE, past = PAST_EDGE): Float64Array {
  const { from, columns, rows } = mesh;
  const cellWidth = (from.right - from.left) / columns;
  const cellHeight = (from.bottom - from.top) / rows;
  const places = (cells: number, cell: number): number[] => {
    const inner = Array.from({ length: cells * fine + 1 }, (_, i) => i / fine);
    return past > 0 ? [-past / cell, ...inner, cells + past / cell] : inner;
  };
  const us = places(columns, cellWidth);
  const vs = places(rows, cellHeight);
  const corners = vs.map((v) =>
    us.map((u) => [...onMesh(mesh, u, v), from.left + u * cellWidth, from.top + v * cellHeight]),
  );
  const out: number[] = [];
  for (let j = 0; j + 1 < vs.length; j++)
    for (let i = 0; i + 1 < us.length; i++) {
      const [a, b] = [corners[j]?.[i] ?? [], corners[j]?.[i + 1] ?? []];
      const [c, d] = [corners[j + 1]?.[i] ?? [], corners[j + 1]?.[i + 1] ?? []];
      out.push(...a, ...b, ...c, ...b, ...d, ...c);
    }
  return Float64Array.from(out);
}

/** What a box covers once it is warped. @throws Refusal where part of it is behind the eye */
export function warpedBox(warp: Warp, box: Box): Box {
  const out = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  const take = ([x, y]: Point): void => {
    out.left = Math.min(out.left, x);
    out.right = Math.max(out.right, x);
    out.top = Math.min(out.top, y);
    out.bottom = Math.max(out.bottom, y);
  };
  if (warp.kind === "matrix") {
    const matrix = warp.matrix as unknown as Matrix;
    for (const x of [box.left, box.right])
      for (const y of [box.top, box.bottom]) {
        const at = through(matrix, x, y);
        if (!at) throw new Refusal("the perspective would turn part of it inside out");
        take(at);
      }
    return out;
  }
  const all = triangles(warp, FINE, 0);
  for (let i = 0; i < all.length; i += 4) take([all[i] as number, all[i + 1] as number]);
  return out;
}

/** The same on a sheet `by` times as large. */
export function scaledWarp(warp: Warp, by: number): Warp {
  if (warp.kind === "matrix") {
    const [a, b, c, d, e, f, g, h, i] = warp.matrix as unknown as Matrix;
    return { ...warp, matrix: [a, b, c * by, d, e, f * by, g / by, h / by, i] };
  }
  const from = scaledBox(warp.from, by);
  return { ...warp, from, points: warp.points.map(([x, y]) => [x * by, y * by]) };
}

export const scaledBox = (box: Box, by: number): Box => ({
  left: box.left * by,
  top: box.top * by,
  right: box.right * by,
  bottom: box.bottom * by,
});
