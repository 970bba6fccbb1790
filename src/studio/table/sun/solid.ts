import { type SunPin, towardLight } from "../../../engine/sun/sun-pin";

/** How the pin is drawn: lengths in CSS px, seen a little from above. */
export const REACH = 92;
const TILT = 0.42;
const SHAFT = 5;
const HEAD = 12;
const HEAD_LENGTH = 26;
export const DISC = 30;

type Point = { x: number; y: number };
type Solid = {
  /** Where the light is, from the pin's foot. */
  sun: Point;
  shaft: string;
  shaftLit: string;
  head: string;
  headLit: string;
  /** The shaft and head dropped straight to the ground. */
  shadow: string;
};

/** A place in space on the screen: right, up, toward the painter. */
const seen = (right: number, up: number, front: number): Point => ({
  x: right,
  y: -up * Math.cos(TILT) + front * Math.sin(TILT),
});

const path = (points: readonly Point[]): string =>
  points.map(({ x, y }) => `${x.toFixed(2)},${y.toFixed(2)}`).join(" ");

/** A point `along` of the way from the foot to the sun, `side` px to one side of it. */
function beside(sun: Point, along: number, side: number): Point {
  const d = Math.hypot(sun.x, sun.y) || 1;
  return { x: sun.x * along - (sun.y / d) * side, y: sun.y * along + (sun.x / d) * side };
}

/** The arrow from the light to the pin's foot as polygons: its body, and its lit half. */
export function solidArrow(pin: Pick<SunPin, "azimuth" | "height">): Solid {
  const [right, up, front] = towardLight(pin);
  const sun = seen(right * REACH, up * REACH, front * REACH);
  const ground = seen(right * REACH, 0, front * REACH);
  // What comes toward the painter is nearer, and larger.
  const near = 1 + 0.22 * front;
  const neck = HEAD_LENGTH / REACH;
  const body = (half: number): Point[] => [
    beside(sun, 1, -SHAFT * near),
    beside(sun, neck, -SHAFT),
    beside(sun, neck, half * SHAFT),
    beside(sun, 1, half * SHAFT * near),
  ];
  const head = (half: number): Point[] => [
    { x: 0, y: 0 },
    beside(sun, neck, -HEAD),
    beside(sun, neck, half * HEAD),
  ];
  const dropped = [
    beside(ground, 1, -SHAFT * 0.6),
    beside(ground, neck, -SHAFT * 0.6),
    beside(ground, neck, -HEAD * 0.7),
    { x: 0, y: 0 },
    beside(ground, neck, HEAD * 0.7),
    beside(ground, neck, SHAFT * 0.6),
    beside(ground, 1, SHAFT * 0.6),
  ];
  return {
    sun,
    shaft: path(body(1)),
    shaftLit: path(body(0)),
    head: path(head(1)),
    headLit: path(head(0)),
    shadow: path(dropped),
  };
}
