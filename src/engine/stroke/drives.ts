import { z } from "zod";
import { type Chance } from "./chance";
import { curveSchema, monotoneCubic } from "./curve";
import { type PathPoint } from "./path";

/** What may drive a parameter. All give 0…1. */
export const drivers = {
  pressure: "how hard the pen presses",
  tilt: "0 upright, 1 flat",
  "tilt direction": "where the pen leans to, as a share of a turn from the right",
  "barrel turn": "how far the pen is turned about itself, as a share of a turn",
  speed: "0 at rest, 1 at 3000 px a second on the screen",
  "stroke direction": "where the stroke goes, as a share of a turn from the right",
  distance: "how far the stroke has come, 1 after so many sizes",
  taper: "0 at the ends of the stroke, 1 between them",
  "chance of a mark": "new for each mark",
  "chance of a stroke": "one for the whole stroke",
} as const;

export type Driver = keyof typeof drivers;

/** The three ways in which a driver joins what came before it. */
export const ways = ["multiply", "add", "larger"] as const;

const driveSchema = z.strictObject({
  by: z.enum(Object.keys(drivers) as [Driver, ...Driver[]]),
  curve: curveSchema,
  how: z.enum(ways).default("multiply"),
  /** For distance: after how many sizes of the brush it is 1. */
  over: z.number().min(0.1).max(10_000).default(20),
});

export type Drive = z.infer<typeof driveSchema>;

export const MOST_DRIVES = 8;

/** base, then each drive in turn: multiplied, added, or the larger taken. */
export const parameter = (least: number, most: number) =>
  z.strictObject({
    base: z.number().min(least).max(most),
    drives: z.array(driveSchema).max(MOST_DRIVES).default([]),
  });

export type Parameter = z.infer<ReturnType<typeof parameter>>;

/** Pen speed that counts as full, screen px a second. */
const FULL_SPEED = 3000;
const TURN = 2 * Math.PI;
/** Numbers that may be drawn for one mark. */
export const DRAWS = 64;
const OF_THE_STROKE = 0xffff0000;

/** What the drivers read at one mark. */
export type Reading = {
  pressure: number;
  tilt: number;
  tiltDirection: number;
  barrelTurn: number;
  speed: number;
  strokeDirection: number;
  /** Length of the stroke so far, in sizes. */
  sizes: number;
  taper: number;
  mark: number;
  chance: Chance;
};

export const firstReading = (chance: Chance): Reading => ({
  pressure: 0,
  tilt: 0,
  tiltDirection: 0,
  barrelTurn: 0,
  speed: 0,
  strokeDirection: 0,
  sizes: 0,
  taper: 1,
  mark: 0,
  chance,
});

/** Share 0…1 of a turn. */
const shareOfTurn = (angle: number): number => (((angle / TURN) % 1) + 1) % 1;

/** Fills `into` with what the pen says at a point. */
export function readPen(
  point: PathPoint,
  scale: number,
  heading: { x: number; y: number },
  into: Reading,
): void {
  into.pressure = point.pressure;
  into.tilt = Math.min(1, Math.max(0, 1 - point.altitude / (Math.PI / 2)));
  into.tiltDirection = shareOfTurn(point.azimuth);
  into.barrelTurn = shareOfTurn(point.twist);
  into.speed = Math.min(1, point.speed / scale / FULL_SPEED);
  into.strokeDirection = shareOfTurn(Math.atan2(heading.y, heading.x));
}

/** Reads one driver. `salt` keeps the chances of different parameters apart. */
function reader({ by, over }: Drive, salt: number): (r: Reading) => number {
  switch (by) {
    case "pressure":
      return (r) => r.pressure;
    case "tilt":
      return (r) => r.tilt;
    case "tilt direction":
      return (r) => r.tiltDirection;
    case "barrel turn":
      return (r) => r.barrelTurn;
    case "speed":
      return (r) => r.speed;
    case "stroke direction":
      return (r) => r.strokeDirection;
    case "distance":
      return (r) => Math.min(1, r.sizes / over);
    case "taper":
      return (r) => r.taper;
    case "chance of a mark":
      return (r) => r.chance.at(r.mark * DRAWS + salt);
    case "chance of a stroke":
      return (r) => r.chance.at(OF_THE_STROKE + salt);
  }
}

export type Evaluate = (reading: Reading) => number;

/** v = base ⊕ curveᵢ(driverᵢ), in the order the drives are listed. */
export function evaluator(parameter: Parameter, salt = 0): Evaluate {
  const { base } = parameter;
  if (parameter.drives.length === 0) return () => base;
  const drives = parameter.drives.map((drive) => ({
    how: drive.how,
    read: reader(drive, salt),
    at: monotoneCubic(drive.curve),
  }));
  return (reading) => {
    let v = base;
    for (const { how, read, at } of drives) {
      const driven = at(read(reading));
      if (how === "multiply") v *= driven;
      else if (how === "add") v += driven;
      else v = Math.max(v, driven);
    }
    return v;
  };
}

const isByChance = ({ by }: Drive): boolean =>
  by === "chance of a mark" || by === "chance of a stroke";

/** What of a parameter is not left to chance, and does not hang on how near the ends are. */
export const withoutChance = ({ base, drives }: Parameter): Parameter => ({
  base,
  drives: drives.filter((drive) => !isByChance(drive) && drive.by !== "taper"),
});

/** A factor that holds only what of a parameter is left to chance. */
export const chanceOf = ({ drives }: Parameter): Parameter => ({
  base: 1,
  drives: drives.filter((drive) => isByChance(drive) && drive.how === "multiply"),
});
