import { z } from "zod";
import { hexToRgb, linearToRgb, oklabToLinear, rgbToOklab } from "../colour/oklch";
import { hexColour } from "../colour/srgb";

/** Entries of a table over 0…1: `kernels/adjust.ts` knows the same. */
export const TABLE_STEPS = 1024;
export const MOST_STOPS = 32;
export const MOST_PATH = 128;

export const stopsSchema = z
  .array(
    z.strictObject({
      at: z.number().min(0).max(1),
      colour: hexColour,
      alpha: z.number().min(0).max(1).default(1),
    }),
  )
  .min(2)
  .max(MOST_STOPS)
  .refine((stops) => stops.every(({ at }, i) => i === 0 || at >= (stops[i - 1]?.at ?? 0)), {
    message: "the stops of a gradient must go from first to last",
  });

export type Stops = z.infer<typeof stopsSchema>;

const point = z.tuple([z.number().min(-1e5).max(1e5), z.number().min(-1e5).max(1e5)]);

/** One colour, or a gradient: from one point to another, around one, or along a path. Picture px. */
export const paintSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("colour"), colour: hexColour }),
  z.strictObject({
    kind: z.literal("gradient"),
    shape: z.enum(["linear", "radial", "path"]),
    from: point,
    to: point,
    /** For a gradient along a path. */
    path: z.array(point).max(MOST_PATH).default([]),
    stops: stopsSchema,
  }),
]);

export type Paint = z.infer<typeof paintSchema>;
export type GradientPaint = Extract<Paint, { kind: "gradient" }>;

/** The colour of stops at a place: between them in OKLab, alpha multiplied in. r g b a, 0…1. */
export function stopsAt(stops: Stops, at: number): [number, number, number, number] {
  const after = stops.findIndex((stop) => stop.at >= at);
  const high = stops[after < 0 ? stops.length - 1 : after] as Stops[number];
  const low = stops[after <= 0 ? Math.max(after, 0) : after - 1] ?? high;
  const from = after < 0 ? high : low;
  const span = high.at - from.at;
  const t = span > 0 ? (at - from.at) / span : 1;
  const [a, b] = [rgbToOklab(hexToRgb(from.colour)), rgbToOklab(hexToRgb(high.colour))];
  const alpha = from.alpha + (high.alpha - from.alpha) * t;
  // Colour goes by how much of each end there is, so a clear end lends no tint.
  const share = alpha > 0 ? (high.alpha * t) / alpha : t;
  const mixed = a.map((v, i) => v + ((b[i] as number) - v) * share) as [number, number, number];
  const [r, g, blue] = linearToRgb(oklabToLinear(mixed));
  return [r * alpha, g * alpha, blue * alpha, alpha];
}

/** 1025 colours, premultiplied r g b a. */
export function stopsTable(stops: Stops): Float32Array {
  const table = new Float32Array((TABLE_STEPS + 1) * 4);
  for (let i = 0; i <= TABLE_STEPS; i++) table.set(stopsAt(stops, i / TABLE_STEPS), i * 4);
  return table;
}

const SHAPES = { linear: 0, radial: 1, path: 2 } as const;

/** Number of a gradient's shape in the kernels, and what it is told of the place. */
export function shapeTable({ shape, from, to, path }: GradientPaint): {
  kind: number;
  numbers: Float32Array;
} {
  const numbers = new Float32Array(5 + path.length * 3);
  numbers.set([...from, ...to]);
  new Int32Array(numbers.buffer)[4] = path.length;
  let length = 0;
  const lengths = path.map(([x, y], i) => {
    const before = path[i - 1];
    if (before) length += Math.hypot(x - before[0], y - before[1]);
    return length;
  });
  path.forEach(([x, y], i) =>
    numbers.set([x, y, length > 0 ? (lengths[i] as number) / length : 0], 5 + i * 3),
  );
  return { kind: SHAPES[shape], numbers };
}

/** The same paint on a sheet `by` times as large. */
export function scaledPaint(paint: Paint, by: number): Paint {
  if (paint.kind === "colour") return paint;
  const grown = ([x, y]: readonly [number, number]): [number, number] => [x * by, y * by];
  const { from, to, path } = paint;
  return { ...paint, from: grown(from), to: grown(to), path: path.map(grown) };
}
