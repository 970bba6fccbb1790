import { type Chance } from "../chance";
import { type PathPoint } from "../path";

/** Unit vector along the travel; 0, 0 before the pen has moved. */
export type Heading = { x: number; y: number };

/** What a brush is at one place of the path: everything that its marks there need. */
export type Station = {
  point: PathPoint;
  /** Before scatter. */
  x: number;
  y: number;
  heading: Heading;
  radius: number;
  /** The radius that it would have without the taper. */
  full: number;
  stretch: number;
  /** Radians, clockwise. */
  angle: number;
  flow: number;
  /** Speed of the pen, 0…1. */
  speed: number;
  chance: Chance;
  /** First of a thousand counters of this station's own, to be used with `chance`. */
  draw: number;
};

/** A place on a line: where, how wide, and where the line goes (unit vector). */
export type LinePoint = { x: number; y: number; r: number; tx: number; ty: number };

/** How a laying sets its marks. Flow is a factor on the station's. */
export interface Setter {
  /** A speck of paint; `draw` is a counter for what is left to chance about it. */
  speck(x: number, y: number, radius: number, draw: number): void;
  /** A piece of a clean line. Pieces of one line meet without a gap. */
  piece(from: LinePoint, to: LinePoint, flow: number): void;
  /** A fine thread that builds up with others. */
  thread(x0: number, y0: number, x1: number, y1: number, radius: number, flow: number): void;
  /** From here on marks take this colour; null: the station's. */
  dip(colour: Seen | null): void;
  /** From here on marks stray in colour as one mark of their own would. */
  shade(draw: number): void;
  /** As `shade`, for a counter that comes again at every station. */
  shadeAgain(draw: number): void;
}

/** Straight colour 0…1: r, g, b, and alpha. */
export type Seen = readonly [r: number, g: number, b: number, a: number];

/** What lay on the layer before the stroke, at a place. */
export type Before = (x: number, y: number) => Seen;
