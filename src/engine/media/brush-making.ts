import { type Brush, type BrushInput, brushSchema } from "../stroke/brush";
import { type Drive } from "../stroke/drives";

/** Words in which the brushes that ship are written down. */
type Points = Drive["curve"];
type Written = NonNullable<BrushInput["diameter"]["drives"]>[number];

/** A driver whose curve multiplies. */
export const by = (driver: Drive["by"], ...curve: Points): Written => ({ by: driver, curve });

/** A driver whose curve is added. */
export const plus = (driver: Drive["by"], ...curve: Points): Written => ({
  by: driver,
  curve,
  how: "add",
});

/** After so many sizes of the brush. */
export const after = (over: number, ...curve: Points): Written => ({ by: "distance", curve, over });

export const from = (base: number, ...drives: Written[]): BrushInput["diameter"] => ({
  base,
  drives,
});

/** Chance from −amount to amount. */
export const stray = (amount: number): BrushInput["diameter"] =>
  from(0, plus("chance of a mark", [0, -amount], [1, amount]));

/** Chance around 1. */
export const uneven = (amount: number): Written =>
  by("chance of a mark", [0, 1 - amount], [1, 1 + amount]);

export const alongStroke = plus("stroke direction", [0, 0], [1, 1]);
export const alongTilt = plus("tilt direction", [0, 0], [1, 1]);
export const alongBarrel = plus("barrel turn", [0, 0], [1, 1]);

/** What it lays water takes up again, this share of it. */
export const soluble = (share: number): Pick<BrushInput, "dissolves" | "revision"> => ({
  dissolves: share,
  revision: 2,
});

/** Turned by chance, each mark anew. */
export const everyWay = from(0, plus("chance of a mark", [0, 0], [1, 1]));

export const round = (hardness: number): BrushInput["tip"] => ({ kind: "round", hardness });

type Made = Extract<
  Extract<BrushInput["tip"], { kind: "pictures" }>["pictures"][number],
  { made: string }
>["made"];

/** A tip of one or several made pictures. */
export const pictures = (
  names: Made[],
  more: Partial<Omit<Extract<BrushInput["tip"], { kind: "pictures" }>, "kind" | "pictures">> = {},
): BrushInput["tip"] => ({
  kind: "pictures",
  pictures: names.map((made) => ({ made })),
  choice: "by chance",
  ...more,
});

export const flipped = { across: 0.5, along: 0.5 };

/** A brush as it is written down: marks by length unless it says how else. */
export function brush(
  written: Omit<BrushInput, "laying" | "strength"> &
    Partial<Pick<BrushInput, "laying" | "strength">>,
): Brush {
  return brushSchema.parse({ laying: { kind: "marks" }, strength: 1, ...written });
}
