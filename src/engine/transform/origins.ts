import { type Box, TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { inverse, type Matrix, triangles, type Warp } from "./warp";

/**
 * For every eighth pixel of the target, the place of the source that comes there: 9 × 9 nodes
 * a tile, as `kernels/warp.ts` reads them.
 */
export const NODE = 8;
export const NODES = 9;
/** What nodes say that nothing comes to. */
export const NOWHERE = -2e9;

/** Fills `nodes` (162 numbers, x and y by turns) for one tile, in px of the source. */
export type Origins = (key: number, nodes: Float32Array) => void;

/** How a warp is looked up backwards, for tiles that meet `target`. */
export const originsOf = (warp: Warp, target: Box): Origins =>
  warp.kind === "matrix"
    ? fromMatrix(warp.matrix as unknown as Matrix)
    : fromTriangles(triangles(warp), target);

function fromMatrix(matrix: Matrix): Origins {
  const back = inverse(matrix);
  return (key, nodes) => {
    const px = tileColumn(key) * TILE_SIDE;
    const py = tileRow(key) * TILE_SIDE;
    for (let j = 0, at = 0; j < NODES; j++)
      for (let i = 0; i < NODES; i++, at += 2) {
        const x = px + i * NODE;
        const y = py + j * NODE;
        const w = back[6] * x + back[7] * y + back[8];
        // Behind the eye, or so near the horizon that no number holds it.
        const known = w > 1e-9;
        nodes[at] = known ? (back[0] * x + back[1] * y + back[2]) / w : NOWHERE;
        nodes[at + 1] = known ? (back[3] * x + back[4] * y + back[5]) / w : NOWHERE;
      }
  };
}

/** All nodes of the target's tiles at once: each triangle says where the nodes in it come from. */
function fromTriangles(all: Float64Array, target: Box): Origins {
  const tiles = (from: number, to: number): [number, number] => [
    Math.floor(from / TILE_SIDE) - 1,
    Math.ceil(to / TILE_SIDE) + 1,
  ];
  const [left, right] = tiles(target.left, target.right);
  const [top, bottom] = tiles(target.top, target.bottom);
  const columns = (right - left) * NODE + 1;
  const rows = (bottom - top) * NODE + 1;
  const field = new Float32Array(columns * rows * 2).fill(NOWHERE);
  for (let t = 0; t < all.length; t += 12)
    fillTriangle(all.subarray(t, t + 12), { field, columns, rows, x: left * 64, y: top * 64 });
  return (key, nodes) => {
    const first = (tileRow(key) - top) * NODE * columns + (tileColumn(key) - left) * NODE;
    for (let j = 0; j < NODES; j++) {
      const from = (first + j * columns) * 2;
      nodes.set(field.subarray(from, from + NODES * 2), j * NODES * 2);
    }
  };
}

type Field = { field: Float32Array; columns: number; rows: number; x: number; y: number };

/** How little outside a triangle a node still counts as on its edge. */
const ON_EDGE = 1e-6;

function fillTriangle(t: Float64Array, { field, columns, rows, x, y }: Field): void {
  const [ax, ay, au, av] = cornerAt(t, 0);
  const [bx, by, bu, bv] = cornerAt(t, 4);
  const [cx, cy, cu, cv] = cornerAt(t, 8);
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  if (Math.abs(area) < 1e-9) return;
  const span = (values: number[], from: number, most: number): [number, number] => [
    Math.max(0, Math.ceil((Math.min(...values) - from) / NODE - ON_EDGE)),
    Math.min(most - 1, Math.floor((Math.max(...values) - from) / NODE + ON_EDGE)),
  ];
  const [i0, i1] = span([ax, bx, cx], x, columns);
  const [j0, j1] = span([ay, by, cy], y, rows);
  for (let j = j0; j <= j1; j++)
    for (let i = i0; i <= i1; i++) {
      const px = x + i * NODE - ax;
      const py = y + j * NODE - ay;
      const b = (px * (cy - ay) - (cx - ax) * py) / area;
      const c = ((bx - ax) * py - px * (by - ay)) / area;
      if (b < -ON_EDGE || c < -ON_EDGE || b + c > 1 + ON_EDGE) continue;
      const at = (j * columns + i) * 2;
      field[at] = au + (bu - au) * b + (cu - au) * c;
      field[at + 1] = av + (bv - av) * b + (cv - av) * c;
    }
}

const cornerAt = (t: Float64Array, i: number): [number, number, number, number] => [
  t[i] as number,
  t[i + 1] as number,
  t[i + 2] as number,
  t[i + 3] as number,
];
