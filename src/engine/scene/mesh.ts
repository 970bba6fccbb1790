import { fromBase64 } from "../file/base64";
import { Refusal } from "../picture/refusal";
import { MOST_FACES, type Solid } from "./solid";
import { cosine, cross, dot, minus, plus, sine, times, unit, type Vector } from "./vector";

/** Corners, the directions they face, and triangles, whose corners go to the left as seen from outside. */
export type Mesh = {
  readonly corners: Vector[];
  readonly normals: Vector[];
  readonly faces: (readonly [a: number, b: number, c: number])[];
};

const FULL = 2 * Math.PI;
const empty = (): Mesh => ({ corners: [], normals: [], faces: [] });

function addCorner({ corners, normals }: Mesh, at: Vector, facing: Vector): number {
  normals.push(facing);
  return corners.push(at) - 1;
}

/** A flat face of any number of corners, to the left as seen from outside. */
function addFlat(mesh: Mesh, ring: readonly Vector[]): void {
  const [a, b, c] = ring as [Vector, Vector, Vector];
  const facing = unit(cross(minus(b, a), minus(c, a)));
  const first = ring.map((at) => addCorner(mesh, at, facing))[0] as number;
  for (let i = 2; i < ring.length; i++) mesh.faces.push([first, first + i - 1, first + i]);
}

function flatFaces(corners: readonly Vector[], rings: readonly (readonly number[])[]): Mesh {
  const mesh = empty();
  for (const ring of rings)
    addFlat(
      mesh,
      ring.map((i) => corners[i] as Vector),
    );
  return mesh;
}

const box = (): Mesh =>
  flatFaces(
    [0, 1].flatMap((y) =>
      (
        [
          [-0.5, 0.5],
          [0.5, 0.5],
          [0.5, -0.5],
          [-0.5, -0.5],
        ] as const
      ).map(([x, z]): Vector => [x, y, z]),
    ),
    [
      [3, 2, 1, 0],
      [4, 5, 6, 7],
      [0, 1, 5, 4],
      [1, 2, 6, 5],
      [2, 3, 7, 6],
      [3, 0, 4, 7],
    ],
  );

/** High at the back, level with the ground in front. */
const wedge = (): Mesh =>
  flatFaces(
    [
      [-0.5, 0, 0.5],
      [0.5, 0, 0.5],
      [0.5, 0, -0.5],
      [-0.5, 0, -0.5],
      [0.5, 1, -0.5],
      [-0.5, 1, -0.5],
    ],
    [
      [3, 2, 1, 0],
      [0, 1, 4, 5],
      [2, 3, 5, 4],
      [1, 2, 4],
      [3, 0, 5],
    ],
  );

const plane = (): Mesh =>
  flatFaces(
    [
      [-0.5, 0, 0.5],
      [0.5, 0, 0.5],
      [0.5, 0, -0.5],
      [-0.5, 0, -0.5],
    ],
    [[0, 1, 2, 3]],
  );

/** Directions round the upright, from the right over the front. */
const round = (around: number): Vector[] =>
  Array.from({ length: around }, (_, i) => {
    const angle = (FULL * i) / around;
    return [cosine(angle), 0, sine(angle)];
  });

/** Joins two rings of as many corners; the second lies above the first. */
function addBand(mesh: Mesh, below: number, above: number, around: number): void {
  for (let i = 0; i < around; i++) {
    const next = (i + 1) % around;
    mesh.faces.push([below + i, above + i, below + next]);
    mesh.faces.push([below + next, above + i, above + next]);
  }
}

/** A disc in the plane of its ring, which goes from the right over the front. */
function addDisc(mesh: Mesh, ring: readonly Vector[], up: boolean): void {
  addFlat(mesh, up ? ring.toReversed() : ring);
}

function cylinder(around: number, head: number): Mesh {
  const mesh = empty();
  const ways = round(around);
  // The side of a cone leans back by half its height.
  const lean = (1 - head) / 2;
  const facing = ways.map((way) => unit([way[0], lean, way[2]]));
  const foot = ways.map((way) => times(way, 0.5));
  const crown = ways.map((way): Vector => [way[0] * 0.5 * head, 1, way[2] * 0.5 * head]);
  foot.forEach((at, i) => addCorner(mesh, at, facing[i] as Vector));
  crown.forEach((at, i) => addCorner(mesh, at, facing[i] as Vector));
  addBand(mesh, 0, around, around);
  addDisc(mesh, foot, false);
  if (head > 0) addDisc(mesh, crown, true);
  return mesh;
}

function ball(around: number): Mesh {
  const mesh = empty();
  const ways = round(around);
  const rows = around / 2;
  const middle: Vector = [0, 0.5, 0];
  const add = (facing: Vector): number => addCorner(mesh, plus(middle, times(facing, 0.5)), facing);
  const lowest = add([0, -1, 0]);
  for (let row = 1; row < rows; row++) {
    const angle = (Math.PI * row) / rows;
    const [out, up] = [sine(angle), -cosine(angle)];
    for (const way of ways) add([way[0] * out, up, way[2] * out]);
  }
  const highest = add([0, 1, 0]);
  for (let row = 1; row < rows - 1; row++)
    addBand(mesh, 1 + (row - 1) * around, 1 + row * around, around);
  const last = 1 + (rows - 2) * around;
  for (let i = 0; i < around; i++) {
    const next = (i + 1) % around;
    mesh.faces.push([lowest, 1 + i, 1 + next]);
    mesh.faces.push([highest, last + next, last + i]);
  }
  return mesh;
}

/** Points of a smooth curve through the places of a path, so many a piece (Catmull and Rom's). */
export function smoothPath(path: readonly Vector[], each: number): Vector[] {
  const at = (i: number): Vector => path[Math.max(0, Math.min(path.length - 1, i))] as Vector;
  const out: Vector[] = [];
  for (let i = 0; i + 1 < path.length; i++)
    for (let k = 0; k < each; k++) {
      const t = k / each;
      const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
      const along = times(minus(c, a), 0.5 * t);
      const square = plus(plus(a, times(b, -2.5)), plus(times(c, 2), times(d, -0.5)));
      const cube = plus(times(minus(b, c), 1.5), times(minus(d, a), 0.5));
      out.push(plus(plus(b, along), plus(times(square, t * t), times(cube, t * t * t))));
    }
  out.push(path.at(-1) as Vector);
  return out;
}

/** A round tube along a path, in metres; its frames are carried along without turning. */
function tube(path: readonly Vector[], thick: number, taper: number, around: number): Mesh {
  const mesh = empty();
  const spine = smoothPath(path, path.length > 2 ? 12 : 1);
  const ways = round(around);
  let side: Vector = [1, 0, 0];
  const rings = spine.map((at, i) => {
    const way = unit(
      minus(
        spine[Math.min(i + 1, spine.length - 1)] as Vector,
        spine[Math.max(0, i - 1)] as Vector,
      ),
    );
    const rest = minus(side, times(way, dot(side, way)));
    // A path that starts along the side has to take another one.
    side = unit(dot(rest, rest) > 1e-6 ? rest : cross(way, [0, 0, 1]), [1, 0, 0]);
    const front = cross(side, way);
    const radius = (thick / 2) * (1 + ((taper - 1) * i) / (spine.length - 1));
    return ways.map((a): { at: Vector; facing: Vector } => {
      const facing = plus(times(side, a[0]), times(front, a[2]));
      return { at: plus(at, times(facing, radius)), facing };
    });
  });
  for (const ring of rings) for (const { at, facing } of ring) addCorner(mesh, at, facing);
  for (let i = 0; i + 1 < rings.length; i++) addBand(mesh, i * around, (i + 1) * around, around);
  const edge = (ring: (typeof rings)[number]): Vector[] => ring.map(({ at }) => at);
  addDisc(mesh, edge(rings[0] as (typeof rings)[number]), false);
  if (taper > 0) addDisc(mesh, edge(rings.at(-1) as (typeof rings)[number]), true);
  return mesh;
}

/**
 * A mesh that was brought in, flat faced.
 * @throws Refusal where its numbers make none
 */
export function broughtMesh(name: string, coded: NonNullable<Solid["mesh"]>): Mesh {
  const bytes = fromBase64(coded.corners);
  const indices = fromBase64(coded.faces);
  if (bytes.length % 12 !== 0 || indices.length % 12 !== 0)
    throw new Refusal(`“${name}”: corners and faces come in threes`);
  const points = new Float32Array(bytes.slice().buffer);
  const corners = new Uint32Array(indices.slice().buffer);
  if (corners.length / 3 > MOST_FACES)
    throw new Refusal(`“${name}” has ${corners.length / 3} faces, and ${MOST_FACES} are the most`);
  if (points.some((v) => !Number.isFinite(v) || Math.abs(v) > 2))
    throw new Refusal(`“${name}” has corners outside its box`);
  const at = (i: number): Vector => {
    if (i * 3 + 2 >= points.length) throw new Refusal(`“${name}” has no corner ${i}`);
    return [points[i * 3] as number, points[i * 3 + 1] as number, points[i * 3 + 2] as number];
  };
  const mesh = empty();
  for (let i = 0; i < corners.length; i += 3)
    addFlat(mesh, [at(corners[i]!), at(corners[i + 1]!), at(corners[i + 2]!)]);
  return mesh;
}

/** What is left of a mesh below a plane (n · p ≤ d), each triangle cut. `onto` gathers where it was cut. */
function below(mesh: Mesh, n: Vector, d: number, onto?: Vector[]): Mesh {
  const out: Mesh = { corners: [...mesh.corners], normals: [...mesh.normals], faces: [] };
  const over = mesh.corners.map((at) => dot(n, at) - d);
  const made = new Map<string, number>();
  const crossing = (a: number, b: number): number => {
    // Worked out from the lower number on, so that both triangles of an edge get the same place.
    const [i, j] = a < b ? [a, b] : [b, a];
    const name = `${i} ${j}`;
    const known = made.get(name);
    if (known !== undefined) return known;
    const t = over[i]! / (over[i]! - over[j]!);
    const mix = (list: readonly Vector[]): Vector =>
      plus(list[i] as Vector, times(minus(list[j] as Vector, list[i] as Vector), t));
    const at = mix(mesh.corners);
    onto?.push(at);
    const corner = addCorner(out, at, unit(mix(mesh.normals)));
    made.set(name, corner);
    return corner;
  };
  for (const face of mesh.faces) {
    const ring: number[] = [];
    for (let k = 0; k < 3; k++) {
      const [a, b] = [face[k] as number, face[(k + 1) % 3] as number];
      if (over[a]! <= 0) ring.push(a);
      if (over[a]! < 0 !== over[b]! < 0 && over[a] !== 0 && over[b] !== 0)
        ring.push(crossing(a, b));
      else if (over[a] === 0) onto?.push(mesh.corners[a] as Vector);
    }
    for (let k = 2; k < ring.length; k++)
      out.faces.push([ring[0] as number, ring[k - 1] as number, ring[k] as number]);
  }
  return out;
}

/** The lid over a cut: its edge, which has no hollow, in order round its middle. */
function addLid(mesh: Mesh, edge: readonly Vector[], facing: Vector): void {
  if (edge.length < 3) return;
  const middle = times(
    edge.reduce((sum, at) => plus(sum, at), [0, 0, 0] as Vector),
    1 / edge.length,
  );
  const across = unit(cross(facing, Math.abs(facing[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]));
  const along = cross(facing, across);
  const angle = (at: Vector): number =>
    Math.atan2(dot(minus(at, middle), along), dot(minus(at, middle), across));
  const ring = edge.toSorted((a, b) => angle(a) - angle(b));
  const apart = ring.filter((at, i) => {
    const before = minus(at, ring[(i + ring.length - 1) % ring.length] as Vector);
    return dot(before, before) > 1e-14;
  });
  const first = addCorner(mesh, middle, facing);
  apart.forEach((at) => addCorner(mesh, at, facing));
  for (let i = 0; i < apart.length; i++)
    mesh.faces.push([first, first + 1 + i, first + 1 + ((i + 1) % apart.length)]);
}

function cut(mesh: Mesh, { cut: how, kind }: Solid): Mesh {
  if (!how || kind === "tube") return mesh;
  const out = sine(how.slope);
  const facing: Vector = [out * cosine(how.toward), cosine(how.slope), out * sine(how.toward)];
  const edge: Vector[] = [];
  const left = below(mesh, facing, how.at * facing[1], edge);
  // A brought-in mesh may be hollow: it is left open.
  if (kind !== "mesh") addLid(left, edge, facing);
  return left;
}

/** What is used of a mesh, added to another. */
function addUsed(out: Mesh, { corners, normals, faces }: Mesh): void {
  const known = new Map<number, number>();
  const own = (i: number): number => {
    const there = known.get(i);
    if (there !== undefined) return there;
    const made = addCorner(out, corners[i] as Vector, normals[i] as Vector);
    known.set(i, made);
    return made;
  };
  for (const [a, b, c] of faces) out.faces.push([own(a), own(b), own(c)]);
}

/** Cut by level planes across an axis, so that it can be shaped: every edge is cut at the same places from both sides. */
function sliced(mesh: Mesh, axis: 0 | 1 | 2, places: readonly number[]): Mesh {
  const way: Vector = [axis === 0 ? 1 : 0, axis === 1 ? 1 : 0, axis === 2 ? 1 : 0];
  let rest = mesh;
  const out = empty();
  for (const at of places) {
    addUsed(out, below(rest, way, at));
    const above = below(rest, times(way, -1), -at);
    rest = empty();
    addUsed(rest, above);
  }
  addUsed(out, rest);
  return out;
}

const between = (from: number, to: number, parts: number): number[] =>
  Array.from({ length: parts - 1 }, (_, i) => from + ((to - from) * (i + 1)) / parts);

/** Cut finely enough to be bent or twisted. */
function pliable(mesh: Mesh, { twist }: Solid, around: number): Mesh {
  const high = sliced(mesh, 1, between(0, 1, Math.max(8, around / 4)));
  if (twist === 0) return high;
  // A twisted face is hollow across, too.
  const across = between(-0.5, 0.5, 4);
  return sliced(sliced(high, 0, across), 2, across);
}

/** Where a place of the unit shape comes to lie, sized, tapered, twisted and bent. */
function shaped({ size, taper, twist, bend }: Solid, [px, py, pz]: Vector): Vector {
  const wide = 1 + (taper - 1) * py;
  let x = px * size[0] * wide;
  let y = py * size[1];
  let z = pz * size[2] * wide;
  if (twist !== 0) {
    const [cos, sin] = [cosine(twist * py), sine(twist * py)];
    [x, z] = [x * cos + z * sin, z * cos - x * sin];
  }
  if (bend !== 0) {
    const radius = size[1] / bend;
    const angle = bend * py;
    // Its middle keeps its length; what lies to the right of it is on the inner side.
    [x, y] = [radius - (radius - x) * cosine(angle), (radius - x) * sine(angle)];
  }
  return [x, y, z];
}

/** Small enough for the slope of a shape, large enough for its digits. */
const STEP = 1e-4;

/** Which way a face looks after shaping: the cofactors of the shaping's slopes. */
function facingAfter(solid: Solid, at: Vector, facing: Vector): Vector {
  const slope = (axis: 0 | 1 | 2): Vector => {
    const by: Vector = [axis === 0 ? STEP : 0, axis === 1 ? STEP : 0, axis === 2 ? STEP : 0];
    return times(minus(shaped(solid, plus(at, by)), shaped(solid, minus(at, by))), 1 / (2 * STEP));
  };
  const [x, y, z] = [slope(0), slope(1), slope(2)];
  const out = plus(
    plus(times(cross(y, z), facing[0]), times(cross(z, x), facing[1])),
    times(cross(x, y), facing[2]),
  );
  return unit(out, facing);
}

/** A solid's own mesh, `around` corners to a full turn (a multiple of four), in metres about its foot, unturned. */
export function meshOf(solid: Solid, around: number): Mesh {
  const { kind, size, taper, bend, twist } = solid;
  if (kind === "tube")
    return flipped(solid, tube(solid.path ?? [], size[0], taper, Math.max(8, around / 2)));
  const plain = cut(unitMesh(solid, around), solid);
  const mesh = bend !== 0 || twist !== 0 ? pliable(plain, solid, around) : plain;
  return flipped(solid, {
    corners: mesh.corners.map((at) => shaped(solid, at)),
    normals: mesh.normals.map((facing, i) => facingAfter(solid, mesh.corners[i] as Vector, facing)),
    faces: mesh.faces,
  });
}

function unitMesh({ kind, mesh, name }: Solid, around: number): Mesh {
  switch (kind) {
    case "ball":
      return ball(around);
    case "cylinder":
      return cylinder(around, 1);
    case "cone":
      return cylinder(around, 0);
    case "wedge":
      return wedge();
    case "plane":
      return plane();
    case "mesh":
      return mesh ? broughtMesh(name, mesh) : empty();
    default:
      return box();
  }
}

function flipped({ flip }: Solid, mesh: Mesh): Mesh {
  if (!flip) return mesh;
  const over = ([x, y, z]: Vector): Vector => [-x, y, z];
  return {
    corners: mesh.corners.map(over),
    normals: mesh.normals.map(over),
    faces: mesh.faces.map(([a, b, c]) => [a, c, b] as const),
  };
}
