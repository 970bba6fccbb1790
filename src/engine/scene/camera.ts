import { type Place } from "../guides/guide";
import { type Camera, FILM } from "./scene";
import { cosine, cross, dot, minus, plus, sine, times, unit, type Vector } from "./vector";

/** How a scene falls on a plane of pixels: for a place p, (x, y, 1) is in proportion to the three rows times (p, 1). */
export type Projection = {
  eye: Vector;
  /** Right, up and back in the frame, each one long. */
  right: Vector;
  up: Vector;
  back: Vector;
  /** Rows for x, y and depth: a direction each, to be taken from the eye. */
  x: Vector;
  y: Vector;
  depth: Vector;
  /** The ray through pixel (0, 0), and how it changes with x and y; its depth is one. */
  ray: Vector;
  rayX: Vector;
  rayY: Vector;
};

/** A way from the sheet to other pixels: x′ = a x + c y + e, y′ = b x + d y + f. */
export type Onto = readonly [a: number, b: number, c: number, d: number, e: number, f: number];
export const ON_SHEET: Onto = [1, 0, 0, 1, 0, 0];

/** A camera that looks straight up or down has the far side of the ground above. */
const UPRIGHT: Vector = [0, 1, 0];
const AWAY: Vector = [0, 0, -1];

/** The camera as a projection onto the sheet, or onto pixels that the sheet is shown on. */
export function projectionOf(camera: Camera, onto: Onto = ON_SHEET): Projection {
  const { at: eye, to, lens, roll, frame } = camera;
  const back = unit(minus(eye, to), [0, 0, 1]);
  const level = unit(cross(UPRIGHT, back), unit(cross(times(AWAY, Math.sign(back[1]) || 1), back)));
  const raised = cross(back, level);
  const [cos, sin] = [cosine(roll), sine(roll)];
  // The frame is turned clockwise with what is seen in it.
  const right = plus(times(level, cos), times(raised, sin));
  const up = minus(times(raised, cos), times(level, sin));
  const focal = (lens / FILM) * frame.width;
  const [a, b, c, d, e, f] = onto;
  const depth = times(back, -1);
  const sheetX = plus(times(right, focal), times(depth, frame.x));
  const sheetY = plus(times(up, -focal), times(depth, frame.y));
  const det = a * d - b * c;
  // Pixels back to the sheet.
  const backX = [d / det, -c / det, (c * f - d * e) / det] as const;
  const backY = [-b / det, a / det, (b * e - a * f) / det] as const;
  const ofSheet = ([x, y, one]: readonly [number, number, number], at: number): Vector =>
    plus(
      times(right, (x - at * frame.x) / focal),
      plus(times(up, -(y - at * frame.y) / focal), times(depth, one)),
    );
  return {
    ...{ eye, right, up, back, depth },
    x: plus(plus(times(sheetX, a), times(sheetY, c)), times(depth, e)),
    y: plus(plus(times(sheetX, b), times(sheetY, d)), times(depth, f)),
    ray: ofSheet([backX[2], backY[2], 1], 1),
    rayX: ofSheet([backX[0], backY[0], 0], 0),
    rayY: ofSheet([backX[1], backY[1], 0], 0),
  };
}

/** Nearest that anything is drawn, m. */
export const NEAR = 0.02;

/** Where a place is seen, px; null where it lies behind the eye. */
export function seenAt({ eye, x, y, depth }: Projection, at: Vector): Place | null {
  const from = minus(at, eye);
  const far = dot(depth, from);
  return far < NEAR ? null : { x: dot(x, from) / far, y: dot(y, from) / far };
}

/** Direction from the eye through a pixel; its depth is one. */
export const rayThrough = ({ ray, rayX, rayY }: Projection, { x, y }: Place): Vector =>
  plus(ray, plus(times(rayX, x), times(rayY, y)));

/** Where a direction vanishes, px; null where it lies in the plane of the picture. */
export function vanishingPoint({ x, y, depth }: Projection, way: Vector): Place | null {
  const far = dot(depth, way);
  return Math.abs(far) < 1e-9 ? null : { x: dot(x, way) / far, y: dot(y, way) / far };
}

/**
 * The vanishing points of the scene's own three ways: across and away, which lie on the horizon, and up where both of
 * those are there. Points farther than `most` px from the frame's middle count as none.
 */
export function vanishingPoints(camera: Camera, most: number): Place[] {
  const projection = projectionOf(camera);
  const { x: middle, y: centre } = camera.frame;
  const near = (way: Vector): Place[] => {
    const at = vanishingPoint(projection, way);
    return at && Math.abs(at.x - middle) < most && Math.abs(at.y - centre) < most ? [at] : [];
  };
  const level = [...near([1, 0, 0]), ...near([0, 0, -1])];
  return level.length < 2 ? level : [...level, ...near([0, 1, 0])];
}

/**
 * The camera whose scene vanishes in two points of the horizon: lens, heading, pitch and roll follow from them, and
 * the eye stays where it is. The points stand for the ways across and away.
 * @returns null where no lens does that: seen from the frame's middle the points lie on one side, or too near
 */
export function cameraFrom(camera: Camera, [one, other]: readonly [Place, Place]): Camera | null {
  const { frame } = camera;
  const [ax, ay] = [one.x - frame.x, one.y - frame.y];
  const [bx, by] = [other.x - frame.x, other.y - frame.y];
  // Two ways at right angles: a · b + f² = 0 in the frame.
  const focal = Math.sqrt(-(ax * bx + ay * by));
  const lens = (focal / frame.width) * FILM;
  if (!(lens >= 8 && lens <= 800)) return null;
  const first = unit([ax, -ay, -focal]);
  const second = unit([bx, -by, -focal]);
  // In the frame's own ways: which direction is up in the world, on the side that is up in the frame.
  const normal = unit(cross(first, second));
  const up = normal[1] < 0 ? times(normal, -1) : normal;
  // Of the two ways the left one goes away and the right one across, or the other way round: the camera keeps its side.
  const [across, away] = ax > bx ? [first, second] : [second, first];
  const world = (v: Vector): Vector => [dot(v, across), dot(v, up), -dot(v, away)];
  const back = world([0, 0, 1]);
  const level = unit(cross(UPRIGHT, back));
  const raised = cross(back, level);
  const right = world([1, 0, 0]);
  const roll = Math.atan2(dot(right, raised), dot(right, level));
  const far = Math.max(1, Math.sqrt(dot(minus(camera.at, camera.to), minus(camera.at, camera.to))));
  return { ...camera, lens, roll, to: [...minus(camera.at, times(back, far))] };
}
