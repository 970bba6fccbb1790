import { type GradientPaint, MOST_PATH } from "../../../engine/gradient/gradient";

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

/** The gradient's path with one point more in the middle of a piece, after the point `index`. */
export function withPoint(paint: GradientPaint, index: number): GradientPaint {
  const [from, to] = [paint.path[index], paint.path[index + 1]];
  if (paint.shape !== "path" || !from || !to || paint.path.length >= MOST_PATH) return paint;
  const middle: [number, number] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  return {
    ...paint,
    path: [...paint.path.slice(0, index + 1), middle, ...paint.path.slice(index + 1)],
  };
}

/** The gradient's path without one of its points; two always stay. */
export function withoutPoint(paint: GradientPaint, index: number): GradientPaint {
  if (paint.shape !== "path" || paint.path.length <= 2) return paint;
  return { ...paint, path: paint.path.filter((_, i) => i !== index) };
}
