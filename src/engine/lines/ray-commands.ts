import { z } from "zod";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { brushOf } from "../media";
import { COLOUR, layerId, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { LEAST_SIZE, MOST_SIZE } from "../stroke/brush";
import { type Box } from "../tiles/layout";
import { boxSchema, scaledBox } from "../transform/warp";
import { changeLines } from "./draw-lines";
import { drawsLines } from "./drawable";
import { type Line, lineStyleSchema, type Taper } from "./line";
import { linesOf, nextId } from "./line-set";
import { focusRays, type Ray, speedRays } from "./rays";
import { pointedLine } from "./ruled";

const coordinate = z.number().min(-65_536).max(65_536);
const place = z.tuple([coordinate, coordinate]);
/** Vanishing points lie far outside of a sheet. */
const far = z.number().min(-262_144).max(262_144);
const share = z.number().min(0).max(1);
const chance = z.strictObject({ width: share, length: share, gap: share });
const gap = z.number().min(1).max(4000);
const reach = z.number().min(0).max(32_768);

export const speedSchema = z.strictObject({
  do: z.literal("line.speed"),
  layer: layerId,
  style: lineStyleSchema,
  /** The way of the bundle's middle. */
  from: place,
  to: place,
  /** How broad it is, and how far its lines lie apart, px. */
  across: reach,
  gap,
  /** The vanishing point that all run to; null: they are parallel. */
  toward: z.tuple([far, far]).nullable().default(null),
  chance,
  /** Which ends are drawn out to a point. */
  pointed: z.enum(["end", "both"]).default("end"),
  /** Where they may lie, px; null: on the whole sheet. */
  within: boxSchema.nullable().default(null),
});

export const focusSchema = z.strictObject({
  do: z.literal("line.focus"),
  layer: layerId,
  style: lineStyleSchema,
  at: place,
  /** Half of how broad and how high what stays clear is, px. */
  clear: z.tuple([reach, reach]),
  gap,
  chance,
  within: boxSchema.nullable().default(null),
});

/** Where rays may lie: they begin beyond the edge by their own width, so that no blunt end is seen. */
function room({ picture }: Applying, within: Box | null, size: number): Box {
  const box = within ?? { left: 0, top: 0, right: picture.width, bottom: picture.height };
  return {
    left: box.left - size,
    top: box.top - size,
    right: box.right + size,
    bottom: box.bottom + size,
  };
}

type RayCommand = z.infer<typeof speedSchema> | z.infer<typeof focusSchema>;

/** Lays rays as lines of a line layer, over what it holds. */
function lay(
  applying: Applying,
  { layer, style }: RayCommand,
  rays: readonly Ray[],
  taperOf: (length: number) => Taper,
): void {
  const { bench, picture } = applying;
  workableLayer(picture, layer, COLOUR, "lines");
  const brush = brushOf(picture, style.brush);
  if (!brush) throw new Refusal(`there is no brush "${style.brush}"`);
  if (!drawsLines(brush))
    throw new Refusal(
      `“${brush.name}” cannot draw lines that stay editable. Choose a pen, a pencil or another dry brush.`,
    );
  if (rays.length === 0) throw new Refusal("No line would lie in there. Drag farther.");
  const set = linesOf(bench.store, picture, layer);
  const first = nextId(set);
  const z = (set.lines.at(-1)?.z ?? 0) + 1;
  const put = rays.map(({ from, to, width }, i): Line => {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const taper = taperOf(Math.sqrt(dx * dx + dy * dy));
    const own = { ...style, seed: (style.seed + i) >>> 0 };
    return pointedLine(from, to, style.size * width, taper, own, { id: first + i, z });
  });
  changeLines(applying, layer, { gone: [], put });
}

function speed(applying: Applying, command: z.infer<typeof speedSchema>): string {
  const { from, to, across, style, within, pointed } = command;
  if (from[0] === to[0] && from[1] === to[1])
    throw new Refusal("Drag the way that the lines are to go.");
  const box = room(applying, within, style.size);
  const rays = speedRays({ ...command, across, seed: style.seed, within: box });
  lay(applying, command, rays, (length) =>
    pointed === "both"
      ? { in: length * 0.4, out: length * 0.6 }
      : { in: 0, out: Math.min(20_000, length) },
  );
  return "speed lines";
}

function focus(applying: Applying, command: z.infer<typeof focusSchema>): string {
  const { style, within } = command;
  const box = room(applying, within, style.size);
  const rays = focusRays({ ...command, seed: style.seed, within: box });
  lay(applying, command, rays, (length) => ({ in: 0, out: Math.min(20_000, length) }));
  return "focus lines";
}

const held = (v: number, least: number, most: number): number => Math.min(most, Math.max(least, v));
const grown = ([x, y]: readonly [number, number], by: number): [number, number] => [x * by, y * by];

function scaledRays<T extends RayCommand>(command: T, by: number): T {
  const { style, within } = command;
  return {
    ...command,
    style: { ...style, size: held(style.size * by, LEAST_SIZE, MOST_SIZE) },
    gap: held(command.gap * by, 1, 4000),
    within: within && scaledBox(within, by),
  };
}

export const rayCommands = [
  defineCommand({
    schema: speedSchema,
    apply: speed,
    scaled: (command, by) => ({
      ...scaledRays(command, by),
      from: grown(command.from, by),
      to: grown(command.to, by),
      across: held(command.across * by, 0, 32_768),
      toward: command.toward && grown(command.toward, by),
    }),
  }),
  defineCommand({
    schema: focusSchema,
    apply: focus,
    scaled: (command, by) => ({
      ...scaledRays(command, by),
      at: grown(command.at, by),
      clear: grown(command.clear, by),
    }),
  }),
] as const;
