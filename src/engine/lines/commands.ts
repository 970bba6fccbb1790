import { z } from "zod";
import { hexColour } from "../colour/srgb";
import { type Applying } from "../command/command";
import { defineCommand } from "../command/define";
import { changeLayer } from "../command/stroke";
import { brushOf } from "../media";
import { layerId, workableLayer, COLOUR, type Picture } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { LEAST_SIZE, MOST_SIZE } from "../stroke/brush";
import { Path } from "../stroke/path";
import { type Sample, sampleSchema } from "../stroke/sample";
import { inverse, type Matrix, scaledWarp, warpSchema } from "../transform/warp";
import { fromBase64, toBase64 } from "../file/base64";
import { decodeLines, encodeLines } from "./chunk";
import { nearestOn, lengthsOf, lengthTo, type Point } from "./curve";
import { cutsOf } from "./crossings";
import { changeOf, erased, stretchAt, turnedRound, without } from "./cut";
import { changeLines } from "./draw-lines";
import { drawsLines } from "./drawable";
import { brushOfLine, pathOf } from "./ink";
import { closedLine, facing, joined } from "./join";
import { type Line, settledLine, taperSchema } from "./line";
import { LINES, lineOf, linesOf, nextId } from "./line-set";
import { radiiAlong, taperOf } from "./made-line";
import { profileThrough } from "./profile";
import { pulled } from "./pull";
import { redrawn, whereRedrawn } from "./redraw";
import { cornersSeenFrom, refitted, smoothedPlaces } from "./refit";
import { shapeOf } from "./shape";
import { shadeLine } from "./shade";
import { isAffine, mapOf, movedLine, shiftedLine } from "./moved";
import { weighed, widened } from "./weigh";

const MOST_PLACES = 20_000;
const coordinate = z.number().min(-65_536).max(65_536);
const place = z.tuple([coordinate, coordinate]);
/** A stroke over lines: where, and how hard. */
const over = z
  .array(z.tuple([coordinate, coordinate, z.number().min(0).max(1)]))
  .min(1)
  .max(MOST_PLACES);
const number = z.int().min(1);
const numbers = z.array(number).min(1).max(20_000);
const radius = z.number().min(0.5).max(2000);

export const pullSchema = z.strictObject({
  do: z.literal("line.pull"),
  layer: layerId,
  line: number,
  /** Where it is taken hold of, and where it goes. */
  at: place,
  to: place,
  /** How far along the line the pull is felt, px. */
  reach: z.number().min(1).max(20_000),
  ends: z.enum(["held", "free"]),
});
export const weighSchema = z.strictObject({
  do: z.literal("line.weigh"),
  layer: layerId,
  over,
  radius,
  how: z.enum(["thicken", "thin", "even"]),
  /** Only these; null: all that are touched. */
  lines: numbers.nullable().default(null),
});
export const smoothSchema = z.strictObject({
  do: z.literal("line.smooth"),
  layer: layerId,
  lines: numbers,
  /** 1 takes a tremor out, 3 lays a long swing. */
  strength: z.int().min(1).max(3),
});
export const simplifySchema = z.strictObject({
  do: z.literal("line.simplify"),
  layer: layerId,
  lines: numbers,
  /** How far a line may come to lie off, px. */
  error: z.number().min(0.05).max(16),
});
export const redrawSchema = z.strictObject({
  do: z.literal("line.redraw"),
  layer: layerId,
  /** Null: the line that the stroke belongs to best. */
  line: number.nullable().default(null),
  samples: z.array(sampleSchema).min(2).max(MOST_PLACES),
  steady: z.number().min(0).max(1).default(0),
  /** Picture px a screen px. */
  scale: z.number().min(0.001).max(1000).default(1),
});
export const joinSchema = z.strictObject({
  do: z.literal("line.join"),
  layer: layerId,
  /** Two lines are joined; one is closed. */
  lines: z.array(number).min(1).max(2),
  /** The widest gap, px. */
  within: z.number().min(0).max(2000),
});
export const cutSchema = z.strictObject({
  do: z.literal("line.cut"),
  layer: layerId,
  line: number,
  at: place,
  /** What goes: the stretch to the next crossings, or nothing: the line is parted there. */
  how: z.enum(["to crossings", "part"]),
});
export const eraseSchema = z.strictObject({
  do: z.literal("line.erase"),
  layer: layerId,
  over,
  radius,
  how: z.enum(["touched", "to crossings", "whole"]),
});
/** Base64 of lines as bytes, about 48 MiB. */
const MOST_TEXT = 64 * 2 ** 20;

export const addLinesSchema = z.strictObject({
  do: z.literal("line.add"),
  layer: layerId,
  /** Lines as bytes (see `chunk.ts`), base64. */
  lines: z.string().max(MOST_TEXT),
});
export const removeLinesSchema = z.strictObject({
  do: z.literal("line.remove"),
  layer: layerId,
  lines: numbers,
});
export const setLinesSchema = z.strictObject({
  do: z.literal("line.set"),
  layer: layerId,
  lines: numbers,
  colour: hexColour.optional(),
  second: hexColour.optional(),
  strength: z.number().min(0).max(1).optional(),
  /** Another brush: widths follow its pressure and size. */
  brush: z.string().min(1).max(64).optional(),
  size: z.number().min(LEAST_SIZE).max(MOST_SIZE).optional(),
  taper: taperSchema.optional(),
  /** One width all along, px. */
  width: z.number().min(0.2).max(2000).optional(),
  /** Times as wide. */
  times: z.number().min(0.05).max(20).optional(),
});
export const fitWidthSchema = z.strictObject({
  do: z.literal("line.fit-width"),
  layer: layerId,
  lines: numbers,
});
export const turnRoundSchema = z.strictObject({
  do: z.literal("line.turn-round"),
  layer: layerId,
  lines: numbers,
});
export const orderSchema = z.strictObject({
  do: z.literal("line.order"),
  layer: layerId,
  lines: numbers,
  to: z.enum(["front", "back"]),
});
export const moveLinesSchema = z.strictObject({
  do: z.literal("line.move"),
  layer: layerId,
  lines: numbers,
  warp: warpSchema,
});
export const duplicateSchema = z.strictObject({
  do: z.literal("line.duplicate"),
  layer: layerId,
  lines: numbers,
  by: place,
  copies: z.int().min(1).max(200),
});
export const shadeSchema = z.strictObject({
  do: z.literal("line.shade"),
  layer: layerId,
  lines: numbers,
  /** Where the light comes from on the sheet: radians clockwise from the right. */
  light: z.number().min(-7).max(7),
  /** How many times as wide in full shadow. */
  times: z.number().min(1).max(5),
});
export const toPaintSchema = z.strictObject({ do: z.literal("line.to-paint"), layer: layerId });

const lineLayer = (picture: Picture, layer: string): void => {
  workableLayer(picture, layer, COLOUR, "lines");
};

/** Lines by their numbers, each once. */
function chosen({ bench, picture }: Applying, layer: string, ids: readonly number[]): Line[] {
  lineLayer(picture, layer);
  const set = linesOf(bench.store, picture, layer);
  return [...new Set(ids)].map((id) => lineOf(set, id));
}

/** Puts lines in place of what they were; those that are the same are left alone. */
function put(
  applying: Applying,
  layer: string,
  lines: readonly Line[],
  before: readonly Line[],
): void {
  const changed = lines.filter((line) => !before.includes(line));
  if (changed.length > 0) changeLines(applying, layer, { gone: [], put: changed });
}

function each(
  applying: Applying,
  layer: string,
  ids: readonly number[],
  change: (line: Line) => Line,
): void {
  const before = chosen(applying, layer, ids);
  put(applying, layer, before.map(change), before);
}

/** Gives numbers to new lines of a layer. */
function numbering({ bench, picture }: Applying, layer: string): () => number {
  let next = nextId(linesOf(bench.store, picture, layer));
  return () => next++;
}

/** How far along a line the place nearest to a point is, px. */
export function lengthNear(line: Line, [x, y]: Point): number {
  const near = nearestOn(line.curve, x, y);
  return near ? lengthTo(line.curve, shapeOf(line).lengths, near) : 0;
}

function pull(applying: Applying, command: z.infer<typeof pullSchema>): string {
  const { at, to, reach, ends } = command;
  each(applying, command.layer, [command.line], (line) =>
    pulled(line, { at: lengthNear(line, at), by: [to[0] - at[0], to[1] - at[1]], reach, ends }),
  );
  return "pull a line";
}

const WEIGHED = { thicken: "thicken lines", thin: "thin lines", even: "even lines out" } as const;

function weigh(applying: Applying, command: z.infer<typeof weighSchema>): string {
  const { bench, picture } = applying;
  lineLayer(picture, command.layer);
  const before = command.lines
    ? chosen(applying, command.layer, command.lines)
    : [...linesOf(bench.store, picture, command.layer).lines];
  const after = before.map((line) => weighed(line, command.over, command.radius, command.how));
  put(applying, command.layer, after, before);
  return WEIGHED[command.how];
}

/** How far places are drawn together at each strength, px; over what corners are seen; how far off the curve may lie. */
const SMOOTHING = [
  { over: 0, corners: 8, error: 1 },
  { over: 12, corners: 16, error: 0.5 },
  { over: 30, corners: 28, error: 0.5 },
] as const;

function smooth(applying: Applying, command: z.infer<typeof smoothSchema>): string {
  const { over, corners, error } = SMOOTHING[command.strength - 1] as (typeof SMOOTHING)[number];
  each(applying, command.layer, command.lines, (line) =>
    settledLine({
      ...line,
      curve: refitted(
        line.curve,
        error,
        (places) => (over > 0 ? smoothedPlaces(places, over) : places),
        cornersSeenFrom(line.curve, corners),
      ),
    }),
  );
  return "smooth lines";
}

function simplify(applying: Applying, command: z.infer<typeof simplifySchema>): string {
  each(applying, command.layer, command.lines, (line) =>
    settledLine({ ...line, curve: refitted(line.curve, command.error) }),
  );
  return "simplify lines";
}

/** The steadied way of a stroke. */
function wayOf({ samples, steady, scale }: z.infer<typeof redrawSchema>): Point[] {
  const path = new Path(steady, scale);
  for (const sample of samples) path.add(sample);
  return [...path.points, ...path.tail()].map(({ x, y }): Point => [x, y]);
}

/** The line that a stroke redraws best; null where it belongs to none. */
export function redrawnBy(
  lines: readonly Line[],
  points: readonly Point[],
  scale: number,
): Line | null {
  let best: Line | null = null;
  let least = Infinity;
  const [first, last] = [points[0] as Point, points.at(-1) as Point];
  for (const line of lines) {
    const { box } = shapeOf(line);
    const isNear = ([x, y]: Point): boolean =>
      x > box.left - 32 && x < box.right + 32 && y > box.top - 32 && y < box.bottom + 32;
    if (!isNear(first) && !isNear(last)) continue;
    const where = whereRedrawn(line, points, scale);
    // A stroke with both ends on a line belongs to it rather than to one that it only leaves.
    const cost = where
      ? where.cost + (where.from === null || where.to === null ? 1000 : 0)
      : Infinity;
    if (cost >= least) continue;
    least = cost;
    best = line;
  }
  return best;
}

function redraw(applying: Applying, command: z.infer<typeof redrawSchema>): string {
  const { bench, picture } = applying;
  lineLayer(picture, command.layer);
  const set = linesOf(bench.store, picture, command.layer);
  const points = wayOf(command);
  const line = command.line
    ? lineOf(set, command.line)
    : redrawnBy(set.lines, points, command.scale);
  const made = line && redrawn(line, points, command.scale);
  if (!line || !made) throw new Refusal("Begin or end on a line to draw it anew.");
  put(applying, command.layer, [made], [line]);
  return "redraw a line";
}

function join(applying: Applying, command: z.infer<typeof joinSchema>): string {
  const [a, b] = chosen(applying, command.layer, command.lines);
  if (a && !b) {
    put(applying, command.layer, [closedLine(a)], [a]);
    return "close a line";
  }
  if (!a || !b) throw new Refusal("two lines are joined");
  if (a.closed || b.closed) throw new Refusal("A closed line has no end to join.");
  const { gap } = facing(a, b);
  if (gap > command.within)
    throw new Refusal(
      `The ends are ${Math.round(gap)} px apart; at most ${Math.round(command.within)} px are joined.`,
    );
  changeLines(applying, command.layer, { gone: [b.id], put: [joined(a, b)] });
  return "join lines";
}

function cut(applying: Applying, command: z.infer<typeof cutSchema>): string {
  const [line] = chosen(applying, command.layer, [command.line]) as [Line];
  const { bench, picture } = applying;
  const { lines } = linesOf(bench.store, picture, command.layer);
  const s = lengthNear(line, command.at);
  const next = numbering(applying, command.layer);
  if (command.how === "part") {
    const whole = lengthsOf(line.curve).at(-1) as number;
    const at = Math.min(whole - 1, Math.max(1, s));
    changeLines(
      applying,
      command.layer,
      changeOf(line, without(line, [[at - 1e-3, at + 1e-3]], next)),
    );
    return "part a line";
  }
  if (cutsOf(line, lines).length === 0)
    throw new Refusal("Nothing crosses this line. Erase it whole, or only what you touch.");
  changeLines(
    applying,
    command.layer,
    changeOf(line, without(line, [stretchAt(line, lines, s)], next)),
  );
  return "cut at a crossing";
}

function erase(applying: Applying, command: z.infer<typeof eraseSchema>): string {
  const { bench, picture } = applying;
  lineLayer(picture, command.layer);
  const { lines } = linesOf(bench.store, picture, command.layer);
  const next = numbering(applying, command.layer);
  const change = erased(lines, command, next);
  if (change.gone.length + change.put.length > 0) changeLines(applying, command.layer, change);
  return "erase lines";
}

/** Puts lines on top of what is there; they get new numbers, in their order. */
function addLines(applying: Applying, command: z.infer<typeof addLinesSchema>): string {
  const { bench, picture } = applying;
  lineLayer(picture, command.layer);
  const lines = decodeLines(fromBase64(command.lines));
  for (const line of lines) brushOfLine(picture, line);
  const set = linesOf(bench.store, picture, command.layer);
  const next = numbering(applying, command.layer);
  const z = (set.lines.at(-1)?.z ?? 0) + 1;
  changeLines(applying, command.layer, {
    gone: [],
    put: lines.map((line) => ({ ...line, id: next(), z })),
  });
  return "add lines";
}

/** Lines as bytes, `by` times as large. */
function scaledLines(text: string, by: number): string {
  const grow = (x: number, y: number): Point => [x * by, y * by];
  const lines = decodeLines(fromBase64(text)).flatMap((line) => movedLine(line, grow, true) ?? []);
  return toBase64(encodeLines(lines));
}

function removeLines(applying: Applying, command: z.infer<typeof removeLinesSchema>): string {
  const lines = chosen(applying, command.layer, command.lines);
  changeLines(applying, command.layer, { gone: lines.map(({ id }) => id), put: [] });
  return "remove lines";
}

/** Widths as a line's brush makes them from its pressure. */
function fittedWidth(picture: Picture, line: Line): Line {
  const brush = brushOfLine(picture, line);
  const points = pathOf(line);
  const from = line.curve.material[0] as number;
  const places = points.map(({ s }) => s + from);
  const rising = places.flatMap((s, i) =>
    i === 0 || s > (places[i - 1] as number) + 1e-4 ? [i] : [],
  );
  const radii = radiiAlong(brush, line.size, 1, points);
  return settledLine({
    ...line,
    width: profileThrough(
      rising.map((i) => places[i] as number),
      rising.map((i) => radii[i] as number),
    ),
  });
}

function setLines(applying: Applying, command: z.infer<typeof setLinesSchema>): string {
  const { do: _do, layer, lines, width, times, brush, ...style } = command;
  const { picture } = applying;
  if (brush !== undefined) {
    const found = brushOf(picture, brush);
    if (!found) throw new Refusal(`there is no brush "${brush}"`);
    if (!drawsLines(found))
      throw new Refusal(
        `“${found.name}” cannot draw lines that stay editable. Choose a pen, a pencil or another dry brush.`,
      );
  }
  const given = Object.fromEntries(
    Object.entries(style).filter(([, value]) => value !== undefined),
  );
  each(applying, layer, lines, (line) => {
    let made: Line = { ...line, ...given };
    if (brush !== undefined) {
      const found = brushOf(picture, brush);
      made = { ...made, brush, size: style.size ?? found?.size ?? line.size };
      if (found && !made.closed && !style.taper)
        made = { ...made, taper: taperOf(found, made.size) };
      made = fittedWidth(picture, made);
    } else if (style.size !== undefined) {
      const by = style.size / line.size;
      made = widened(made, (r) => r * by);
    }
    if (width !== undefined) made = widened(made, () => width / 2);
    if (times !== undefined) made = widened(made, (r) => r * times);
    return settledLine(made);
  });
  return "change lines";
}

function fitWidth(applying: Applying, command: z.infer<typeof fitWidthSchema>): string {
  each(applying, command.layer, command.lines, (line) => fittedWidth(applying.picture, line));
  return "fit widths to pressure";
}

function turnRound(applying: Applying, command: z.infer<typeof turnRoundSchema>): string {
  each(applying, command.layer, command.lines, turnedRound);
  return "turn lines round";
}

function order(applying: Applying, command: z.infer<typeof orderSchema>): string {
  const lines = chosen(applying, command.layer, command.lines);
  const all = linesOf(applying.bench.store, applying.picture, command.layer).lines;
  const [lowest, highest] = [all[0]?.z ?? 0, all.at(-1)?.z ?? 0];
  // Among themselves they stay as they lie.
  const ordered = [...lines].sort((a, b) => a.z - b.z || a.id - b.id);
  const n = ordered.length;
  const made = ordered.map((line, i): Line => ({
    ...line,
    z: command.to === "front" ? highest + 1 + i : lowest - n + i,
  }));
  put(applying, command.layer, made, lines);
  return command.to === "front" ? "bring lines forward" : "send lines back";
}

function duplicate(applying: Applying, command: z.infer<typeof duplicateSchema>): string {
  const lines = chosen(applying, command.layer, command.lines);
  const next = numbering(applying, command.layer);
  const made: Line[] = [];
  for (let copy = 1; copy <= command.copies; copy++)
    for (const line of lines)
      made.push({ ...shiftedLine(line, command.by[0] * copy, command.by[1] * copy), id: next() });
  changeLines(applying, command.layer, { gone: [], put: made });
  return "duplicate lines";
}

function moveLines(applying: Applying, command: z.infer<typeof moveLinesSchema>): string {
  const { warp } = command;
  if (warp.kind === "matrix") inverse(warp.matrix as unknown as Matrix);
  const map = mapOf(warp);
  const affine = isAffine(warp);
  each(applying, command.layer, command.lines, (line) => movedLine(line, map, affine) ?? line);
  return "move lines";
}

function shade(applying: Applying, command: z.infer<typeof shadeSchema>): string {
  each(applying, command.layer, command.lines, (line) =>
    shadeLine(line, command.light, command.times),
  );
  return "thicken lines in shadow";
}

function toPaint(applying: Applying, { layer }: z.infer<typeof toPaintSchema>): string {
  const { picture } = applying;
  lineLayer(picture, layer);
  for (const key of [...picture.plane(layer, LINES).keys()]) applying.swap(layer, key, null, LINES);
  changeLayer(applying, layer, { kind: "paint" });
  return "turn lines into paint";
}

const grown = ([x, y]: readonly [number, number], by: number): [number, number] => [x * by, y * by];
const grownOver = (path: z.infer<typeof over>, by: number): z.infer<typeof over> =>
  path.map(([x, y, p]) => [x * by, y * by, p]);
const heldTo = (v: number, least: number, most: number): number =>
  Math.min(most, Math.max(least, v));

export const lineCommands = [
  defineCommand({
    schema: pullSchema,
    apply: pull,
    scaled: (command, by) => ({
      ...command,
      at: grown(command.at, by),
      to: grown(command.to, by),
      reach: heldTo(command.reach * by, 1, 20_000),
    }),
  }),
  defineCommand({
    schema: weighSchema,
    apply: weigh,
    scaled: (command, by) => ({
      ...command,
      over: grownOver(command.over, by),
      radius: heldTo(command.radius * by, 0.5, 2000),
    }),
  }),
  defineCommand({ schema: smoothSchema, apply: smooth }),
  defineCommand({
    schema: simplifySchema,
    apply: simplify,
    scaled: (command, by) => ({ ...command, error: heldTo(command.error * by, 0.05, 16) }),
  }),
  defineCommand({
    schema: redrawSchema,
    apply: redraw,
    scaled: (command, by) => ({
      ...command,
      scale: heldTo(command.scale * by, 0.001, 1000),
      samples: command.samples.map(([t, x, y, ...rest]): Sample => [t, x * by, y * by, ...rest]),
    }),
  }),
  defineCommand({
    schema: joinSchema,
    apply: join,
    scaled: (command, by) => ({ ...command, within: heldTo(command.within * by, 0, 2000) }),
  }),
  defineCommand({
    schema: cutSchema,
    apply: cut,
    scaled: (command, by) => ({ ...command, at: grown(command.at, by) }),
  }),
  defineCommand({
    schema: eraseSchema,
    apply: erase,
    scaled: (command, by) => ({
      ...command,
      over: grownOver(command.over, by),
      radius: heldTo(command.radius * by, 0.5, 2000),
    }),
  }),
  defineCommand({
    schema: addLinesSchema,
    apply: addLines,
    scaled: (command, by) => ({ ...command, lines: scaledLines(command.lines, by) }),
  }),
  defineCommand({ schema: removeLinesSchema, apply: removeLines }),
  defineCommand({
    schema: setLinesSchema,
    apply: setLines,
    scaled: ({ size, width, taper, ...command }, by) => ({
      ...command,
      ...(size !== undefined && { size: heldTo(size * by, LEAST_SIZE, MOST_SIZE) }),
      ...(width !== undefined && { width: heldTo(width * by, 0.2, 2000) }),
      ...(taper && {
        taper: { in: heldTo(taper.in * by, 0, 20_000), out: heldTo(taper.out * by, 0, 20_000) },
      }),
    }),
  }),
  defineCommand({ schema: fitWidthSchema, apply: fitWidth }),
  defineCommand({ schema: turnRoundSchema, apply: turnRound }),
  defineCommand({ schema: orderSchema, apply: order }),
  defineCommand({
    schema: moveLinesSchema,
    apply: moveLines,
    scaled: (command, by) => ({ ...command, warp: scaledWarp(command.warp, by) }),
  }),
  defineCommand({
    schema: duplicateSchema,
    apply: duplicate,
    scaled: (command, by) => ({ ...command, by: grown(command.by, by) }),
  }),
  defineCommand({ schema: shadeSchema, apply: shade }),
  defineCommand({ schema: toPaintSchema, apply: toPaint }),
] as const;
