import { type z } from "zod";
import { MOST_BRIDGE, MOST_UNDER } from "../fill/region";
import { type fillLoopSchema, type fillSchema } from "./fill";
import { type changeSelectionSchema, type selectSchema } from "./select";

type Place = [number, number];
const grown =
  (by: number) =>
  ([x, y]: Place): Place => [x * by, y * by];

/** A gap on a sheet `by` times as large, px. */
export const scaledBridge = (px: number, by: number): number => Math.min(MOST_BRIDGE, px * by);
const under = (px: number, by: number): number => Math.min(MOST_UNDER, Math.round(px * by));

type Fill = z.infer<typeof fillSchema>;
type Loop = z.infer<typeof fillLoopSchema>;

export const scaledFill = (command: Fill, by: number): Fill => ({
  ...command,
  at: command.at.map(grown(by)),
  bridge: scaledBridge(command.bridge, by),
  under: under(command.under, by),
});

export const scaledLoop = (command: Loop, by: number): Loop => ({
  ...command,
  loop: command.loop.map(grown(by)),
  bridge: scaledBridge(command.bridge, by),
  under: under(command.under, by),
});

type Shape = z.infer<typeof selectSchema>["shape"];

export function scaledShape(shape: Shape, by: number): Shape {
  if (shape.kind === "polygon") return { ...shape, points: shape.points.map(grown(by)) };
  if (shape.kind === "region")
    return {
      ...shape,
      at: grown(by)(shape.at),
      bridge: scaledBridge(shape.bridge, by),
      under: under(shape.under, by),
    };
  if (shape.kind === "colour") return { ...shape, at: grown(by)(shape.at) };
  if (shape.kind !== "box" && shape.kind !== "ellipse") return shape;
  const { left, top, right, bottom } = shape.box;
  return {
    ...shape,
    box: { left: left * by, top: top * by, right: right * by, bottom: bottom * by },
  };
}

type Change = z.infer<typeof changeSelectionSchema>["change"];
const LEAST = 0.5;
const MOST = 128;

export function scaledChange(change: Change, by: number): Change {
  if (change.kind === "invert") return change;
  if (change.kind === "move")
    return { ...change, x: Math.round(change.x * by), y: Math.round(change.y * by) };
  return { ...change, by: Math.min(MOST, Math.max(LEAST, change.by * by)) };
}
