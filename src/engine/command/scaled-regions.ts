import { MOST_BRIDGE, MOST_UNDER } from "../fill/region";
import { type Command } from "./commands";

type OfRegions = Extract<
  Command,
  { do: "fill" | "fill.loop" | "flats" | "select" | "select.change" }
>;

export const isOfRegions = (command: Command): command is OfRegions =>
  ["fill", "fill.loop", "flats", "select", "select.change"].includes(command.do);

type Place = [number, number];
const grown =
  (by: number) =>
  ([x, y]: Place): Place => [x * by, y * by];

const bridge = (px: number, by: number): number => Math.min(MOST_BRIDGE, px * by);
const under = (px: number, by: number): number => Math.min(MOST_UNDER, Math.round(px * by));

/** A fill or a selection on a sheet `by` times as large. */
export function scaledRegions(command: OfRegions, by: number): Command {
  switch (command.do) {
    case "fill":
      return {
        ...command,
        at: command.at.map(grown(by)),
        bridge: bridge(command.bridge, by),
        under: under(command.under, by),
      };
    case "fill.loop":
      return {
        ...command,
        loop: command.loop.map(grown(by)),
        bridge: bridge(command.bridge, by),
        under: under(command.under, by),
      };
    case "flats":
      return { ...command, bridge: bridge(command.bridge, by) };
    case "select":
      return { ...command, shape: scaledShape(command.shape, by) };
    case "select.change":
      return { ...command, change: scaledChange(command.change, by) };
  }
}

type Shape = Extract<Command, { do: "select" }>["shape"];

function scaledShape(shape: Shape, by: number): Shape {
  if (shape.kind === "polygon") return { ...shape, points: shape.points.map(grown(by)) };
  if (shape.kind === "region")
    return {
      ...shape,
      at: grown(by)(shape.at),
      bridge: bridge(shape.bridge, by),
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

type Change = Extract<Command, { do: "select.change" }>["change"];
const LEAST = 0.5;
const MOST = 128;

function scaledChange(change: Change, by: number): Change {
  if (change.kind === "invert") return change;
  if (change.kind === "move")
    return { ...change, x: Math.round(change.x * by), y: Math.round(change.y * by) };
  return { ...change, by: Math.min(MOST, Math.max(LEAST, change.by * by)) };
}
