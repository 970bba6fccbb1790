import { type Place } from "../../../engine/guides/guide";
import { projectionOf, rayThrough } from "../../../engine/scene/camera";
import { onLevel, onUpright, seenInScene, snapped } from "../../../engine/scene/pick";
import { type Camera, FILM, type Scene } from "../../../engine/scene/scene";
import { type Solid } from "../../../engine/scene/solid";
import {
  dot,
  length,
  minus,
  plus,
  times,
  turnAbout,
  turned,
  turnedBy,
  type Vector,
} from "../../../engine/scene/vector";

/** What of a solid is pulled. */
export const handleKinds = ["width", "height", "depth", "turn", "lift"] as const;
export type HandleKind = (typeof handleKinds)[number];

const LEAST = 0.02;
const AXES = { width: [1, 0, 0], height: [0, 1, 0], depth: [0, 0, 1] } as const;
const INDEX = { width: 0, height: 1, depth: 2 } as const;

/** A place of a solid's own box, where it stands. */
const inWorld = (solid: Solid, v: Vector): Vector => plus(solid.at, turned(solid.turn, v));

/** Where a handle is in the scene. */
export function handleAt(solid: Solid, handle: HandleKind): Vector {
  const [w, h, d] = solid.size;
  switch (handle) {
    case "width":
      return inWorld(solid, [w / 2, h / 2, 0]);
    case "height":
      return inWorld(solid, [0, h, 0]);
    case "depth":
      return inWorld(solid, [0, h / 2, d / 2]);
    case "turn":
      return inWorld(solid, [w / 2 + 0.3, 0, d / 2 + 0.3]);
    case "lift":
      return plus(inWorld(solid, [0, h, 0]), [0, 0.35 + h * 0.1, 0]);
  }
}

/** How far along an axis through a place the pointer is nearest to it, m. */
function alongAxis(scene: Scene, place: Place, from: Vector, axis: Vector): number {
  const projection = projectionOf(scene.camera);
  const way = rayThrough(projection, place);
  const between = minus(projection.eye, from);
  const [aa, ab, bb] = [dot(axis, axis), dot(axis, way), dot(way, way)];
  const det = aa * bb - ab * ab;
  if (Math.abs(det) < 1e-9) return 0;
  return (dot(axis, between) * bb - dot(way, between) * ab) / det;
}

/** Rounded to a centimetre: nobody measures a block-out finer. */
const neat = (v: number): number => Math.round(v * 100) / 100;

/** The solid with a handle pulled to a place of the sheet; `from` is where it was taken. */
export function pulledTo(
  scene: Scene,
  solid: Solid,
  handle: HandleKind,
  from: Place,
  to: Place,
): Solid {
  if (handle === "lift") {
    const start = onUpright(scene, from, solid.at)[1];
    const height = solid.at[1] + onUpright(scene, to, solid.at)[1] - start;
    return { ...solid, at: [solid.at[0], neat(height), solid.at[2]] };
  }
  if (handle === "turn") {
    const angle = (place: Place): number | null => {
      const projection = projectionOf(scene.camera);
      const on = onLevel(projection.eye, rayThrough(projection, place), solid.at[1]);
      return on && Math.atan2(on[0] - solid.at[0], on[2] - solid.at[2]);
    };
    const [a, b] = [angle(from), angle(to)];
    if (a === null || b === null) return solid;
    return turnedUpright(solid, b - a);
  }
  const axis = turned(solid.turn, AXES[handle]);
  const middle = handle === "height" ? solid.at : inWorld(solid, [0, solid.size[1] / 2, 0]);
  const gone = alongAxis(scene, to, middle, axis) - alongAxis(scene, from, middle, axis);
  const size: [number, number, number] = [...solid.size];
  const i = INDEX[handle];
  size[i] = Math.max(LEAST, neat(size[i] + gone * (handle === "height" ? 1 : 2)));
  return { ...solid, size };
}

export function turnedUpright(solid: Solid, angle: number): Solid {
  return { ...solid, turn: [...turnedBy(solid.turn, turnAbout([0, 1, 0], angle))] };
}

/** How near sides must come to meet, px. */
const SNAP_PX = 10;

/**
 * Solids carried to where the pointer sees the ground or another solid's upper side: the first one goes there, the
 * others with it.
 * @param grip from the first one's foot to where it was taken, m
 * @param free not drawn to other solids
 */
export function carriedTo(
  scene: Scene,
  solids: readonly Solid[],
  grip: Vector,
  to: Place,
  free: boolean,
): readonly Solid[] {
  const [first] = solids;
  if (!first) return solids;
  const own = new Set(solids.map(({ id }) => id));
  const rest = { ...scene, solids: scene.solids.filter(({ id }) => !own.has(id)) };
  const hit = seenInScene(rest, to);
  const projection = projectionOf(scene.camera);
  const stands = hit && hit.facing[1] > 0.5 && !free;
  const level = stands ? hit.at[1] : first.at[1];
  const on = stands ? hit.at : onLevel(projection.eye, rayThrough(projection, to), level);
  if (!on) return solids;
  const wished: Vector = [neat(on[0] - grip[0]), neat(level), neat(on[2] - grip[2])];
  const near = (SNAP_PX * length(minus(on, projection.eye))) / length(projection.x);
  const at = free ? wished : snapped(first, wished, rest, near);
  const by = minus(at, first.at);
  return solids.map((solid) => ({ ...solid, at: [...plus(solid.at, by)] }));
}

/** A tube with a place of its path pulled, in the plane of the picture. */
export function pathPulled(scene: Scene, solid: Solid, index: number, to: Place): Solid {
  const { path } = solid;
  const own = path?.[index];
  if (!path || !own) return solid;
  const projection = projectionOf(scene.camera);
  const at = inWorld(solid, own);
  const way = rayThrough(projection, to);
  const next = plus(projection.eye, times(way, dot(projection.depth, minus(at, projection.eye))));
  const [x, y, z, w] = solid.turn;
  const back = turned([-x, -y, -z, w], minus(next, solid.at));
  const moved = path.map((one, i): [number, number, number] =>
    i === index ? [neat(back[0]), neat(back[1]), neat(back[2])] : one,
  );
  return { ...solid, path: moved };
}

const STEEPEST = 1.5;
/** Lowest that the eye is taken by going round, m: under the ground there is nothing to see. */
const LOWEST = 0.15;

/** The camera gone round what it looks at, radians to the right and up. */
export function goneRound(camera: Camera, right: number, up: number): Camera {
  const [x, y, z] = minus(camera.at, camera.to);
  const far = Math.hypot(x, y, z);
  const heading = Math.atan2(x, z) - right;
  const least = Math.max(
    -STEEPEST,
    Math.asin(Math.max(-1, Math.min(1, (LOWEST - camera.to[1]) / far))),
  );
  const pitch = Math.min(STEEPEST, Math.max(least, Math.asin(y / far) + up));
  const level = far * Math.cos(pitch);
  const off: Vector = [level * Math.sin(heading), far * Math.sin(pitch), level * Math.cos(heading)];
  return { ...camera, at: [...plus(camera.to, off)] };
}

/** The camera moved across what it sees, px of the sheet. */
export function slid(camera: Camera, dx: number, dy: number): Camera {
  const { right, up } = projectionOf(camera);
  const far = length(minus(camera.at, camera.to));
  const perPx = (far * FILM) / (camera.lens * camera.frame.width);
  const by = plus(times(right, -dx * perPx), times(up, dy * perPx));
  return { ...camera, at: [...plus(camera.at, by)], to: [...plus(camera.to, by)] };
}

/** The camera at another distance from what it looks at, m. */
export function atDistance(camera: Camera, far: number): Camera {
  const off = minus(camera.at, camera.to);
  return { ...camera, at: [...plus(camera.to, times(off, far / length(off)))] };
}

/** The camera lifted with what it looks at, so that the horizon stays. */
export function atHeight(camera: Camera, height: number): Camera {
  const by = height - camera.at[1];
  return {
    ...camera,
    at: [camera.at[0], height, camera.at[2]],
    to: [camera.to[0], camera.to[1] + by, camera.to[2]],
  };
}

/** Degrees that a solid is turned about the upright, as far as that tells it. */
export function turnOf({ turn }: Solid): number {
  const ahead = turned(turn, [0, 0, 1]);
  return Math.atan2(ahead[0], ahead[2]);
}
