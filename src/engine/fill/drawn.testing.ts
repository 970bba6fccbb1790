import { type CommandInput } from "../command/commands";
import { type Sample } from "../stroke/sample";
import { stroke } from "../engine.testing";

/** A hand that is never quite steady: a small wave with a way of its own for each line, px. */
const wavering = (seed: number, u: number): number =>
  0.9 * Math.sin(u * 9 + seed * 1.7) + 0.5 * Math.sin(u * 23 + seed * 4.1);

/** A stroke drawn by hand from one point to another, pressing a little more in its middle. */
export function drawnLine(
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
  seed: number,
  changes: Parameters<typeof stroke>[1],
): CommandInput {
  const length = Math.hypot(x1 - x0, y1 - y0);
  const [nx, ny] = [-(y1 - y0) / length, (x1 - x0) / length];
  const steps = Math.max(6, Math.round(length / 5));
  const samples = Array.from({ length: steps + 1 }, (_, i): Sample => {
    const u = i / steps;
    // The ends are where they are meant to be: the gap is as wide as it says.
    const off = wavering(seed, u) * Math.sin(u * Math.PI);
    const x = x0 + (x1 - x0) * u + nx * off;
    const y = y0 + (y1 - y0) * u + ny * off;
    return [i * 8, x, y, 0.6 + 0.15 * Math.sin(u * Math.PI), 1.2, 0.4, 0];
  });
  return stroke(samples, { seed, ...changes });
}

/** A ring around a point, drawn in four strokes that overlap, so that no pen runs dry on it. */
export function drawnRing(
  [cx, cy]: readonly [number, number],
  radius: number,
  changes: Parameters<typeof stroke>[1],
): CommandInput[] {
  const steps = 50;
  return [0, 1, 2, 3].map((quarter) => {
    const samples = Array.from({ length: steps + 1 }, (_, i): Sample => {
      const turn = (quarter / 4 + (i / steps) * 0.34) * 2 * Math.PI;
      const [x, y] = [cx + Math.cos(turn) * radius, cy + Math.sin(turn) * radius];
      return [i * 8, x, y, 0.7 + 0.2 * Math.sin(turn * 2), 1.2, 0.4, 0];
    });
    return stroke(samples, { seed: quarter + 1, ...changes });
  });
}

export type Gap = { middle: readonly [number, number]; width: number };
export type Room = { column: number; row: number; middle: readonly [number, number] };

export type DrawnPage = { strokes: CommandInput[]; rooms: Room[]; gaps: Gap[] };

/**
 * A plan of rooms whose walls were drawn one by one with a pen. The walls between rooms have
 * gaps of these widths, in order, as far as they go: bare paper between two ends of the pen.
 */
export function drawnPage({
  columns,
  rows,
  side,
  pen,
  gaps: widths,
}: {
  columns: number;
  rows: number;
  side: number;
  pen: { brush: string; size: number };
  gaps: readonly number[];
}): DrawnPage {
  const strokes: CommandInput[] = [];
  const gaps: Gap[] = [];
  const at = (column: number, row: number) => [20 + column * side, 20 + row * side] as const;
  const wall = (
    a: readonly [number, number],
    b: readonly [number, number],
    inner: boolean,
  ): void => {
    const seed = strokes.length + 1;
    const changes = { layer: "ink", ...pen };
    const width = inner ? widths[gaps.length] : undefined;
    if (width === undefined) {
      strokes.push(drawnLine(a, b, seed, changes));
      return;
    }
    // Each end of the pen reaches half its size beyond where it stops.
    const off = (width + pen.size) / 2;
    const [ux, uy] = [(b[0] - a[0]) / side, (b[1] - a[1]) / side];
    const middle = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] as const;
    const [before, after] = [-off, off].map(
      (d) => [middle[0] + ux * d, middle[1] + uy * d] as const,
    );
    strokes.push(drawnLine(a, before as [number, number], seed, changes));
    strokes.push(drawnLine(after as [number, number], b, seed + 1, changes));
    gaps.push({ middle, width });
  };
  for (let row = 0; row <= rows; row++)
    for (let column = 0; column < columns; column++)
      wall(at(column, row), at(column + 1, row), row > 0 && row < rows);
  for (let column = 0; column <= columns; column++)
    for (let row = 0; row < rows; row++)
      wall(at(column, row), at(column, row + 1), column > 0 && column < columns);
  const rooms: Room[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [x, y] = at(column, row);
      rooms.push({ column, row, middle: [x + side / 2, y + side / 2] });
    }
  return { strokes, rooms, gaps };
}
