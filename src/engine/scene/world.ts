import { type Mesh, meshOf } from "./mesh";
import { type Projection } from "./camera";
import { isConvex, type Solid } from "./solid";
import { cosine, dot, length, minus, plus, rowsOf, sine, times, type Vector } from "./vector";

/** All corners and triangles of a scene where they stand. */
export type World = {
  /** Three numbers a corner: where it is, and where it faces. */
  corners: Float64Array;
  facing: Float32Array;
  /** Three corners a triangle. */
  faces: Int32Array;
  /** Which solid a triangle belongs to, as a place in `solids`. */
  owners: Int32Array;
  solids: readonly Solid[];
  /** How far a solid's corners may lie off its round surface, m. */
  off: Float64Array;
};

type Flat = { corners: Float64Array; normals: Float64Array; faces: Int32Array };

const flat = ({ corners, normals, faces }: Mesh): Flat => ({
  corners: Float64Array.from(corners.flat()),
  normals: Float64Array.from(normals.flat()),
  faces: Int32Array.from(faces.flat()),
});

/** Meshes by their shape, so that what only moves is not shaped anew; those unused longest go first. */
const shapes = new Map<string, Flat>();
const MOST_BYTES = 128 * 2 ** 20;
let held = 0;

const bytesOf = ({ corners, normals, faces }: Flat): number =>
  corners.byteLength + normals.byteLength + faces.byteLength;

function shapeOf(solid: Solid, around: number): Flat {
  const { kind, size, taper, bend, twist, cut, path, mesh, flip } = solid;
  const name = JSON.stringify([around, kind, size, taper, bend, twist, cut, path, mesh, flip]);
  const known = shapes.get(name);
  if (known) {
    shapes.delete(name);
    shapes.set(name, known);
    return known;
  }
  const made = flat(meshOf(solid, around));
  shapes.set(name, made);
  held += bytesOf(made);
  for (const [oldest, shape] of shapes) {
    if (held <= MOST_BYTES || shape === made) break;
    shapes.delete(oldest);
    held -= bytesOf(shape);
  }
  return made;
}

/** How far from its foot a solid reaches at most, m. */
export function reachOf({ kind, size, taper, path }: Solid): number {
  if (kind === "tube")
    return Math.max(...(path ?? []).map((at) => length(at))) * 1.3 + size[0] * Math.max(1, taper);
  const wide = Math.max(1, taper);
  return length([(size[0] * wide) / 2, size[1], (size[2] * wide) / 2]);
}

/** The largest radius that a solid is round with, m; 0: it has no round edge. */
function roundOf({ kind, size, taper, bend, twist }: Solid): number {
  const wide = Math.max(1, taper);
  const across = Math.max(size[0], size[2]);
  const turns = bend !== 0 || twist !== 0 ? Math.max(across * wide, size[1]) : 0;
  switch (kind) {
    case "ball":
      return Math.max(across * wide, size[1], turns) / 2;
    case "cylinder":
    case "cone":
      return Math.max(across * wide, turns) / 2;
    case "tube":
      return (size[0] * wide) / 2;
    default:
      return turns / 2;
  }
}

/** Where the solids of a row stand: how a place is turned, and moved. */
export function standsOf({ row, at, turn }: Solid): { rows: readonly Vector[]; at: Vector }[] {
  const own = rowsOf(turn);
  const stands: { rows: readonly Vector[]; at: Vector }[] = [{ rows: own, at }];
  if (!row) return stands;
  for (let i = 1; i < row.count; i++) {
    const [cos, sin] = [cosine(row.turn * i), sine(row.turn * i)];
    const about: readonly Vector[] = [
      [cos, 0, sin],
      [0, 1, 0],
      [-sin, 0, cos],
    ];
    const through = (v: Vector): Vector => [
      dot(about[0] as Vector, v),
      v[1],
      dot(about[2] as Vector, v),
    ];
    const columns = ([0, 1, 2] as const).map((k) => through([own[0][k], own[1][k], own[2][k]]));
    stands.push({
      rows: ([0, 1, 2] as const).map((k): Vector => [
        columns[0]![k],
        columns[1]![k],
        columns[2]![k],
      ]),
      at: plus(plus(through(minus(at, row.about)), row.about), times(row.step, i)),
    });
  }
  return stands;
}

const FEWEST = 12;
const MOST_AROUND = 256;

/** Corners to a full turn for a circle to stay within `error` px of round. */
export function aroundFor(radius: number, error: number): number {
  const needed = Math.PI / Math.sqrt((2 * error) / Math.max(radius, 1e-6));
  return Math.min(MOST_AROUND, Math.max(FEWEST, Math.ceil(needed / 4) * 4));
}

/** Triangles of a whole scene at most: beyond them round edges lie farther off. */
const MOST_TRIANGLES = 500_000;

/** About how many triangles a solid has. */
function countOf({ kind, bend, twist, path, mesh }: Solid, around: number): number {
  const slices = bend !== 0 || twist !== 0 ? Math.max(8, around / 4) : 0;
  const across = twist === 0 ? 1 : 4;
  switch (kind) {
    case "ball":
      return around * around * (slices > 0 ? 2 : 1) * Math.sqrt(across);
    case "cylinder":
    case "cone":
      return around * (4 + 2 * slices) * Math.sqrt(across);
    case "tube":
      return around * 12 * (path?.length ?? 2);
    case "mesh":
      return ((mesh?.faces.length ?? 0) / 16) * (1 + slices / 4) * across;
    default:
      return 12 + 8 * slices * across;
  }
}

/** How many corners to a full turn each solid gets: as many as it is seen with, or as there is room for. */
function finenessOf(
  solids: readonly Solid[],
  { eye, rayX }: Projection,
  error: number,
): readonly number[] {
  const radii = solids.map((solid) => {
    const reach = reachOf(solid);
    const stands = standsOf(solid);
    const nearest = Math.min(...stands.map(({ at }) => length(minus(at, eye)) - reach));
    const px = roundOf(solid) / length(rayX) / Math.max(nearest, reach * 0.2);
    return { px, count: stands.length };
  });
  for (let allowed = error; ;) {
    const around = radii.map(({ px }) => aroundFor(px, allowed));
    const total = solids.reduce(
      (sum, solid, i) => sum + countOf(solid, around[i] as number) * (radii[i]?.count ?? 1),
      0,
    );
    if (total <= MOST_TRIANGLES || around.every((n) => n === FEWEST)) return around;
    allowed *= Math.min(4, Math.max(1.3, total / MOST_TRIANGLES));
  }
}

/**
 * A scene's solids as triangles, as finely as they are seen.
 * @param error how far a round edge may lie off, px; more where there are very many solids
 */
export function worldOf(solids: readonly Solid[], projection: Projection, error: number): World {
  const fineness = finenessOf(solids, projection, error);
  const parts = solids.flatMap((solid, owner) => {
    const around = fineness[owner] as number;
    const shape = shapeOf(solid, around);
    const radius = roundOf(solid);
    return standsOf(solid).map((stand) => ({ owner, stand, shape, around, radius }));
  });
  const corners = parts.reduce((sum, { shape }) => sum + shape.corners.length, 0);
  const faces = parts.reduce((sum, { shape }) => sum + shape.faces.length, 0);
  const world: World = {
    corners: new Float64Array(corners),
    facing: new Float32Array(corners),
    faces: new Int32Array(faces),
    owners: new Int32Array(faces / 3),
    solids,
    off: new Float64Array(solids.length),
  };
  let corner = 0;
  let face = 0;
  for (const { owner, stand, shape, around, radius } of parts) {
    // A chord lies so far inside its arc.
    const hollow = radius * (1 - cosine(Math.PI / around));
    world.off[owner] = isConvex(solids[owner] as Solid)
      ? 0
      : hollow * 3 + reachOf(solids[owner] as Solid) * 2e-3;
    standUp(world, shape, stand, corner);
    for (let i = 0; i < shape.faces.length; i++)
      world.faces[face + i] = shape.faces[i]! + corner / 3;
    world.owners.fill(owner, face / 3, (face + shape.faces.length) / 3);
    corner += shape.corners.length;
    face += shape.faces.length;
  }
  return world;
}

function standUp(
  { corners, facing }: World,
  shape: Flat,
  { rows, at }: { rows: readonly Vector[]; at: Vector },
  to: number,
): void {
  const [[a, b, c], [d, e, f], [g, h, k]] = rows as readonly [Vector, Vector, Vector];
  const [ox, oy, oz] = at;
  for (let i = 0; i < shape.corners.length; i += 3) {
    const x = shape.corners[i]!;
    const y = shape.corners[i + 1]!;
    const z = shape.corners[i + 2]!;
    corners[to + i] = a * x + b * y + c * z + ox;
    corners[to + i + 1] = d * x + e * y + f * z + oy;
    corners[to + i + 2] = g * x + h * y + k * z + oz;
    const u = shape.normals[i]!;
    const v = shape.normals[i + 1]!;
    const w = shape.normals[i + 2]!;
    facing[to + i] = a * u + b * v + c * w;
    facing[to + i + 1] = d * u + e * v + f * w;
    facing[to + i + 2] = g * u + h * v + k * w;
  }
}
