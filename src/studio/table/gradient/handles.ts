import { type GradientPaint } from "../../../engine/gradient/gradient";

/** The same gradient in another shape; a path begins between its ends, a little bent. */
export function withShape(paint: GradientPaint, shape: string): GradientPaint {
  if (shape !== "path" && shape !== "linear" && shape !== "radial") return paint;
  if (shape !== "path" || paint.path.length >= 2) return { ...paint, shape };
  const [x0, y0] = paint.from;
  const [x1, y1] = paint.to;
  const middle: [number, number] = [
    (x0 + x1) / 2 + (y1 - y0) * 0.2,
    (y0 + y1) / 2 - (x1 - x0) * 0.2,
  ];
  return { ...paint, shape, path: [paint.from, middle, paint.to] };
}

export type Handle = { name: string; at: readonly [number, number] };

/** The points of a gradient that can be dragged. */
export function handlesOf({ shape, from, to, path }: GradientPaint): Handle[] {
  if (shape === "path") return path.map((at, i) => ({ name: `point ${i + 1}`, at }));
  return [
    { name: "begin", at: from },
    { name: "end", at: to },
  ];
}

/** The gradient with one of its points elsewhere. */
export function withHandle(
  paint: GradientPaint,
  index: number,
  at: [number, number],
): GradientPaint {
  if (paint.shape === "path")
    return { ...paint, path: paint.path.map((point, i) => (i === index ? at : point)) };
  return index === 0 ? { ...paint, from: at } : { ...paint, to: at };
}

/** The gradient with one colour more before its last, evenly between its neighbours. */
export function withMoreStops(paint: GradientPaint, colour: string): GradientPaint {
  const last = paint.stops.at(-1);
  const before = paint.stops.at(-2);
  if (!last || !before) return paint;
  const between = { at: (before.at + last.at) / 2, colour, alpha: 1 };
  return { ...paint, stops: [...paint.stops.slice(0, -1), between, last] };
}
