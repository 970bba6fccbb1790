/** A closed shape's corners, picture px. */
export type Polygon = readonly (readonly [x: number, y: number])[];

/** Rows of samples a pixel row: coverage is exact across, and this fine down. */
export const ROWS = 4;

/** Stretches of a level line that lie inside a polygon (non-zero winding), from the left. */
export function stretchesAt(polygon: Polygon, y: number): [number, number][] {
  const met: { x: number; turn: number }[] = [];
  for (let i = 0; i < polygon.length; i++) {
    const [x0, y0] = polygon[i] as readonly [number, number];
    const [x1, y1] = polygon[(i + 1) % polygon.length] as readonly [number, number];
    if (y0 <= y === y1 <= y) continue;
    met.push({ x: x0 + ((y - y0) / (y1 - y0)) * (x1 - x0), turn: y1 > y0 ? 1 : -1 });
  }
  met.sort((a, b) => a.x - b.x);
  const spans: [number, number][] = [];
  let winding = 0;
  for (const [i, { x, turn }] of met.entries()) {
    winding += turn;
    const next = met[i + 1];
    if (winding !== 0 && next) spans.push([x, next.x]);
  }
  return spans;
}

/**
 * Adds a stretch's coverage of the pixels from `left` to `right` of a row, `weight` where it covers one wholly.
 * @param row its first number is the pixel at `left`
 */
export function addSpan(
  row: Float32Array,
  from: number,
  to: number,
  weight: number,
  left: number,
  right: number,
): void {
  const a = Math.max(left, from);
  const b = Math.min(right, to);
  if (b <= a) return;
  const first = Math.floor(a);
  const last = Math.min(right - 1, Math.floor(b));
  if (first === last) {
    row[first - left] = (row[first - left] as number) + (b - a) * weight;
    return;
  }
  row[first - left] = (row[first - left] as number) + (first + 1 - a) * weight;
  for (let x = first + 1; x < last; x++) row[x - left] = (row[x - left] as number) + weight;
  row[last - left] = (row[last - left] as number) + (b - last) * weight;
}

/** The rows that a polygon reaches. */
export function rowsOf(polygon: Polygon, height: number): { top: number; bottom: number } {
  let top = Infinity;
  let bottom = -Infinity;
  for (const [, y] of polygon) {
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return { top: Math.max(0, Math.floor(top)), bottom: Math.min(height, Math.ceil(bottom)) };
}

const CORNERS = 180;

/** An ellipse in a box, as a polygon whose sides leave the curve by less than 1/6000 of its size. */
export function ellipseIn(left: number, top: number, right: number, bottom: number): Polygon {
  const [cx, cy] = [(left + right) / 2, (top + bottom) / 2];
  const [rx, ry] = [(right - left) / 2, (bottom - top) / 2];
  return Array.from({ length: CORNERS }, (_, i) => {
    const a = (i / CORNERS) * 2 * Math.PI;
    return [cx + rx * Math.cos(a), cy + ry * Math.sin(a)] as const;
  });
}
