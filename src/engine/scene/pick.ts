import { type Place } from "../guides/guide";
import { projectionOf, rayThrough } from "./camera";
import { type Scene } from "./scene";
import { type Solid } from "./solid";
import { cross, dot, minus, plus, times, unit, type Vector } from "./vector";
import { type World, worldOf } from "./world";

/** Where a look into the scene ends. */
export type Hit = {
  /** null: on the ground. */
  solid: Solid | null;
  at: Vector;
  /** Where the surface faces there. */
  facing: Vector;
};

/** How finely solids are looked at, px. */
const ERROR = 1;

const corner = ({ corners }: World, i: number): Vector => [
  corners[i * 3] as number,
  corners[i * 3 + 1] as number,
  corners[i * 3 + 2] as number,
];

/**
 * What is seen at a place of the sheet; null where nothing is.
 * @param without ids of solids that are looked through
 */
export function seenInScene(
  scene: Scene,
  place: Place,
  without: ReadonlySet<string> = new Set(),
): Hit | null {
  const projection = projectionOf(scene.camera);
  const way = rayThrough(projection, place);
  const { eye } = projection;
  const world = worldOf(
    scene.solids.filter(({ id }) => !without.has(id)),
    projection,
    ERROR,
  );
  let nearest = Infinity;
  let found: Hit | null = null;
  for (let i = 0; i < world.owners.length; i++) {
    const [a, b, c] = [0, 1, 2].map((k) => corner(world, world.faces[i * 3 + k] as number)) as [
      Vector,
      Vector,
      Vector,
    ];
    const far = hitAt(eye, way, a, minus(b, a), minus(c, a));
    if (far === null || far >= nearest) continue;
    nearest = far;
    const out = unit(cross(minus(b, a), minus(c, a)));
    found = {
      solid: world.solids[world.owners[i] as number] as Solid,
      at: plus(eye, times(way, far)),
      facing: dot(out, way) > 0 ? times(out, -1) : out,
    };
  }
  const ground = onLevel(eye, way, 0);
  if (scene.ground !== null && ground && dot(minus(ground, eye), way) < nearest * dot(way, way))
    return { solid: null, at: ground, facing: [0, 1, 0] };
  return found;
}

/** How far along a way a triangle is hit, in parts of the way; null where it is not (Möller and Trumbore 1997). */
function hitAt(from: Vector, way: Vector, a: Vector, u: Vector, v: Vector): number | null {
  const p = cross(way, v);
  const det = dot(u, p);
  if (det === 0) return null;
  const f = minus(from, a);
  const s = dot(f, p) / det;
  if (s < 0 || s > 1) return null;
  const q = cross(f, u);
  const t = dot(way, q) / det;
  if (t < 0 || s + t > 1) return null;
  const far = dot(v, q) / det;
  return far > 1e-6 ? far : null;
}

/** Where a way meets the level at a height; null where it never does. */
export function onLevel(from: Vector, way: Vector, height: number): Vector | null {
  const far = (height - from[1]) / way[1];
  return Number.isFinite(far) && far > 1e-6 ? plus(from, times(way, far)) : null;
}

/** The place on the upright through `at` that is nearest to what is seen at a place. */
export function onUpright(scene: Scene, place: Place, at: Vector): Vector {
  const projection = projectionOf(scene.camera);
  const way = rayThrough(projection, place);
  // The level way that looks at the upright as squarely as it can.
  const level = unit([way[0], 0, way[2]], [0, 0, -1]);
  const far = dot(level, minus(at, projection.eye)) / Math.max(1e-6, dot(level, way));
  return [at[0], projection.eye[1] + way[1] * far, at[2]];
}

/** Least and largest corner of a solid as it stands, without the rest of its row. */
export function boundsOf(solid: Solid, scene: Scene): { least: Vector; most: Vector } {
  const world = worldOf([{ ...solid, row: null }], projectionOf(scene.camera), ERROR);
  const least = [Infinity, Infinity, Infinity];
  const most = [-Infinity, -Infinity, -Infinity];
  world.corners.forEach((v, i) => {
    least[i % 3] = Math.min(least[i % 3] as number, v);
    most[i % 3] = Math.max(most[i % 3] as number, v);
  });
  return { least: least as unknown as Vector, most: most as unknown as Vector };
}

/**
 * A place for a solid's foot, moved a little so that a side of it meets a side, or the middle the middle, of another
 * solid near it.
 * @param within how far it is moved at most, m
 */
export function snapped(solid: Solid, at: Vector, scene: Scene, within: number): Vector {
  const own = boundsOf({ ...solid, at: [...at] }, scene);
  const others = scene.solids
    .filter(({ id }) => id !== solid.id)
    .map((one) => boundsOf(one, scene));
  const shift = (axis: 0 | 2): number => {
    const across = axis === 0 ? 2 : 0;
    let best = within;
    let by: number | null = null;
    for (const { least, most } of others) {
      const apart = Math.max(least[across] - own.most[across], own.least[across] - most[across]);
      if (apart > 3 * within || least[1] > own.most[1] || most[1] < own.least[1] - within) continue;
      const middle = (own.least[axis] + own.most[axis]) / 2;
      const theirs = (least[axis] + most[axis]) / 2;
      for (const d of [
        least[axis] - own.least[axis],
        most[axis] - own.most[axis],
        least[axis] - own.most[axis],
        most[axis] - own.least[axis],
        theirs - middle,
      ])
        if (Math.abs(d) < best) {
          best = Math.abs(d);
          by = d;
        }
    }
    return by ?? 0;
  };
  return [at[0] + shift(0), at[1], at[2] + shift(2)];
}
