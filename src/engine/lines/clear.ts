import { type Applying } from "../command/command";
import { type Box, emptyBox, growBox, TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { isSelected } from "../select/inside";
import { SELECTION, STENCILS } from "../picture/picture";
import { type Stretch, without } from "./cut";
import { changeLines } from "./draw-lines";
import { linesNear } from "./find";
import { type Line } from "./line";
import { linesOf, nextId } from "./line-set";
import { CHORD_NUMBERS, shapeOf } from "./shape";

/** The box around some tiles, px. */
function boxOf(keys: Iterable<number>): Box {
  const box = emptyBox();
  for (const key of keys) {
    const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    growBox(box, { left, top, right: left + TILE_SIDE, bottom: top + TILE_SIDE });
  }
  return box;
}

/** Takes away what of a layer's lines lies in the selection. */
export function clearLines(applying: Applying, layer: string): void {
  const { bench, picture } = applying;
  const set = linesOf(bench.store, picture, layer);
  const selection = picture.plane(SELECTION);
  let next = nextId(set);
  const gone: number[] = [];
  const put: Line[] = [];
  for (const line of linesNear(set, boxOf(selection.keys()))) {
    const stretches = selectedOf(line, (x, y) => isSelected(bench.store, selection, x, y));
    if (stretches.length === 0) continue;
    const parts = without(line, stretches, () => next++);
    if (!parts.some(({ id }) => id === line.id)) gone.push(line.id);
    put.push(...parts);
  }
  if (gone.length + put.length > 0) changeLines(applying, layer, { gone, put });
}

/** Stretches of a line whose places are meant. */
function selectedOf(line: Line, isIn: (x: number, y: number) => boolean): Stretch[] {
  const { ends, total } = shapeOf(line);
  const found: [number, number][] = [];
  let s = 0;
  for (let i = 0; i + CHORD_NUMBERS < ends.length; i += CHORD_NUMBERS) {
    const [x, y] = [ends[i] as number, ends[i + 1] as number];
    const [dx, dy] = [(ends[i + 4] as number) - x, (ends[i + 5] as number) - y];
    const length = Math.sqrt(dx * dx + dy * dy);
    const count = Math.max(1, Math.ceil(length));
    for (let k = 0; k < count; k++) {
      const t = (k + 0.5) / count;
      if (isIn(x + dx * t, y + dy * t))
        found.push([s + (length * k) / count, s + (length * (k + 1)) / count]);
    }
    s += length;
  }
  const by = s > 0 ? total / s : 1;
  return found.map(([from, to]) => [from * by, to * by + 1e-6]);
}

/** What of a line lies where a change may go: inside the selection, and where the stencils leave it open. */
export function keptInside(
  { bench, picture }: Pick<Applying, "bench" | "picture">,
  line: Line,
  next: () => number,
): Line[] {
  const { selection, stencils } = picture.structure;
  const masks = [
    ...(selection ? [picture.plane(SELECTION)] : []),
    ...(stencils.some(({ on }) => on) ? [picture.plane(STENCILS)] : []),
  ];
  if (masks.length === 0) return [line];
  const isOut = (x: number, y: number): boolean =>
    masks.some((mask) => !isSelected(bench.store, mask, x, y));
  const outside = selectedOf(line, isOut);
  return outside.length > 0 ? without(line, outside, next) : [line];
}
