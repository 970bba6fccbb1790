import { type Solid } from "./solid";
import { dot, minus, plus, times, turned, unit, type Vector } from "./vector";

/** What a ray meets, by closed forms alone: how far along it, and where the surface faces. */
export type Meeting = { id: string; far: number; facing: Vector };

type Found = { far: number; facing: Vector } | null;

const nearer = (a: Found, b: Found): Found => (!a ? b : !b || a.far <= b.far ? a : b);

/** In a solid's own box, a unit one standing on 0. */
function unitHit(kind: Solid["kind"], from: Vector, way: Vector): Found {
  const at = (far: number): Vector => plus(from, times(way, far));
  const slab = (
    axis: 0 | 1 | 2,
    where: number,
    sign: number,
    inside: (p: Vector) => boolean,
  ): Found => {
    const far = (where - from[axis]) / way[axis];
    if (!(far > 1e-9) || !inside(at(far))) return null;
    const facing: [number, number, number] = [0, 0, 0];
    facing[axis] = sign;
    return { far, facing };
  };
  const roots = (a: number, b: number, c: number): number[] => {
    const under = b * b - a * c;
    if (under < 0 || a === 0) return [];
    const root = Math.sqrt(under);
    return [(-b - root) / a, (-b + root) / a].toSorted((p, q) => p - q).filter((far) => far > 1e-9);
  };
  if (kind === "ball") {
    const middle = minus(from, [0, 0.5, 0]);
    const [far] = roots(dot(way, way), dot(way, middle), dot(middle, middle) - 0.25);
    if (far === undefined) return null;
    return { far, facing: times(minus(at(far), [0, 0.5, 0]), 2) };
  }
  if (kind === "box") {
    const within = (p: Vector, skip: number): boolean =>
      [0.5, 0.5, 0.5].every((half, i) => {
        const v = i === 1 ? (p[1] as number) - 0.5 : (p[i] as number);
        return i === skip || Math.abs(v) <= half;
      });
    let found: Found = null;
    for (const axis of [0, 1, 2] as const)
      for (const sign of [-1, 1]) {
        const where = axis === 1 ? 0.5 + sign / 2 : sign / 2;
        found = nearer(
          found,
          slab(axis, where, sign, (p) => within(p, axis)),
        );
      }
    return found;
  }
  // Round about the upright, as wide as 0.5 at its foot and `head` of that at its top.
  const head = kind === "cone" ? 0 : 1;
  const slope = (head - 1) / 2;
  const radius = 0.5 + slope * from[1];
  const grows = slope * way[1];
  const a = way[0] * way[0] + way[2] * way[2] - grows * grows;
  const b = from[0] * way[0] + from[2] * way[2] - radius * grows;
  const c = from[0] * from[0] + from[2] * from[2] - radius * radius;
  let found: Found = null;
  for (const far of roots(a, b, c)) {
    const p = at(far);
    if (p[1] < 0 || p[1] > 1) continue;
    const out = Math.hypot(p[0], p[2]);
    found = nearer(found, { far, facing: unit([p[0] / out, -slope, p[2] / out]) });
  }
  const disc =
    (reach: number) =>
    (p: Vector): boolean =>
      Math.hypot(p[0], p[2]) <= reach;
  found = nearer(found, slab(1, 0, -1, disc(0.5)));
  return head > 0 ? nearer(found, slab(1, 1, 1, disc(0.5 * head))) : found;
}

/** The first thing that a ray meets among balls, boxes, cylinders and cones, and the ground at 0 (id “”). */
export function met(
  solids: readonly Solid[],
  from: Vector,
  way: Vector,
  ground: boolean,
): Meeting | null {
  let found: Meeting | null = null;
  const take = (id: string, hit: Found): void => {
    if (hit && (!found || hit.far < found.far)) found = { id, ...hit };
  };
  for (const { id, kind, at, turn, size } of solids) {
    const [x, y, z, w] = turn;
    const back = (v: Vector): Vector => {
      const own = turned([-x, -y, -z, w], v);
      return [own[0] / size[0], own[1] / size[1], own[2] / size[2]];
    };
    const hit = unitHit(kind, back(minus(from, at)), back(way));
    if (!hit) continue;
    const [a, b, c] = hit.facing;
    const facing = unit(turned(turn, [a / size[0], b / size[1], c / size[2]]));
    take(id, { far: hit.far, facing });
  }
  if (ground && way[1] < 0) take("", { far: -from[1] / way[1], facing: [0, 1, 0] });
  return found;
}
