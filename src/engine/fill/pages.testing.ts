import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { pixelAt } from "../engine.testing";

type Ink = (x: number, y: number) => number;

/** A ring around (110, 100), of a width, with a gap at its right, soft-edged or not. */
export function ringPage({
  radius,
  width,
  gap,
  soft = false,
}: {
  radius: number;
  width: number;
  gap: number;
  soft?: boolean;
}): { isInk: Ink } {
  return {
    isInk: (x, y) => {
      const [dx, dy] = [x + 0.5 - 110, y + 0.5 - 100];
      if (dx > 0 && Math.abs(dy) < gap / 2) return 0;
      const off = Math.abs(Math.hypot(dx, dy) - radius);
      const cover = width / 2 + 0.5 - off;
      return soft ? Math.min(1, Math.max(0, cover)) : Number(cover > 0.5);
    },
  };
}

export type Room = {
  middle: readonly [number, number];
  corners: (readonly [number, number])[];
  /** Middles of the rooms beside and below it. */
  right: readonly [number, number] | null;
  below: readonly [number, number] | null;
};

/**
 * A plan of square rooms, walls 3 px thick, from (20, 20). `gaps`: widths of the openings in
 * the walls between neighbours, in order, as far as they go.
 */
export function roomsPage({
  columns,
  rows,
  side,
  gaps,
}: {
  columns: number;
  rows: number;
  side: number;
  gaps: readonly number[];
}): { isInk: Ink; rooms: Room[] } {
  const openings: { x: number; y: number; half: number; upright: boolean }[] = [];
  let n = 0;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [x, y] = [20 + column * side, 20 + row * side];
      if (column > 0 && n < gaps.length)
        openings.push({ x, y: y + side / 2, half: (gaps[n++] as number) / 2, upright: true });
      if (row > 0 && n < gaps.length)
        openings.push({ x: x + side / 2, y, half: (gaps[n++] as number) / 2, upright: false });
    }
  const isWall = (v: number, cells: number): boolean => {
    const k = Math.round((v - 20) / side);
    return k >= 0 && k <= cells && Math.abs(v - (20 + k * side)) <= 1.5;
  };
  const isInk: Ink = (px, py) => {
    const [x, y] = [px + 0.5, py + 0.5];
    if (x < 18 || y < 18 || x > 22 + columns * side || y > 22 + rows * side) return 0;
    if (!isWall(x, columns) && !isWall(y, rows)) return 0;
    const isOpen = openings.some((gap) =>
      gap.upright
        ? Math.abs(x - gap.x) < 3 && Math.abs(y - gap.y) < gap.half
        : Math.abs(y - gap.y) < 3 && Math.abs(x - gap.x) < gap.half,
    );
    return isOpen ? 0 : 1;
  };
  const middleOf = (column: number, row: number) =>
    [20 + (column + 0.5) * side, 20 + (row + 0.5) * side] as const;
  const rooms: Room[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [x, y] = middleOf(column, row);
      const off = side / 2 - 4;
      rooms.push({
        middle: [x, y],
        corners: [
          [x - off, y - off],
          [x + off, y - off],
          [x - off, y + off],
          [x + off, y + off],
        ],
        right: column + 1 < columns ? middleOf(column + 1, row) : null,
        below: row + 1 < rows ? middleOf(column, row + 1) : null,
      });
    }
  return { isInk, rooms };
}

/** How often each colour is met on a layer. */
export function paletteOf(engine: Engine, work: Work, layer: string): Map<string, number> {
  const met = new Map<string, number>();
  for (let y = 0; y < work.picture.height; y++)
    for (let x = 0; x < work.picture.width; x++) {
      const name = pixelAt(engine, work, layer, x, y).join(" ");
      met.set(name, (met.get(name) ?? 0) + 1);
    }
  return met;
}

/** Lays flats of the line source on a new layer “flats”, under all others. */
export const layFlats = (work: Work, bridge: number, hues = 6): void =>
  void work.apply({
    do: "flats",
    id: "flats",
    name: "Flats",
    above: null,
    borders: "lines",
    bridge,
    hues,
  });
