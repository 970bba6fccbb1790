import { type Engine } from "../engine/engine";
import { type Point } from "../engine/lines/curve";
import { lineAt, linesIn, linesLike, type Likeness } from "../engine/lines/find";
import { type Line } from "../engine/lines/line";
import { linesOf } from "../engine/lines/line-set";
import { shapeOf } from "../engine/lines/shape";
import { type Picture } from "../engine/picture/picture";

/** A line as the table shows that it is chosen: its curve, how wide it is in the mean, and where it ends. */
export type LineLook = {
  id: number;
  /** x, y of the start, then handles and ends of its pieces. */
  points: number[];
  brush: string;
  size: number;
  colour: string;
  length: number;
  closed: boolean;
};

const lookOf = (line: Line): LineLook => ({
  id: line.id,
  points: line.curve.points,
  brush: line.brush,
  size: line.size,
  colour: line.colour,
  length: shapeOf(line).total,
  closed: line.closed,
});

type At = { engine: Engine; picture: Picture; layer: string };

const setOf = ({ engine, picture, layer }: At) => linesOf(engine.store, picture, layer);

/** The line at a place, and where on it that is. */
export function lookAtLine(at: At, x: number, y: number, within: number): LineLook | null {
  const found = lineAt(setOf(at), x, y, within);
  return found && lookOf(found.line);
}

/** Lines of these numbers that are there. */
export const lookAtLines = (at: At, ids: readonly number[]): LineLook[] => {
  const { byId } = setOf(at);
  return ids.flatMap((id) => {
    const line = byId.get(id);
    return line ? [lookOf(line)] : [];
  });
};

/** Which lines are meant: all, those in a loop, those touched by a way, or those like some. */
export type LineChoice =
  | { kind: "all" }
  | { kind: "loop"; loop: readonly Point[] }
  | { kind: "like"; of: readonly number[]; by: Likeness };

export function choiceOfLines(at: At, choice: LineChoice): number[] {
  const set = setOf(at);
  const ids = (lines: readonly Line[]): number[] => lines.map(({ id }) => id);
  if (choice.kind === "all") return ids(set.lines);
  if (choice.kind === "loop") return ids(linesIn(set, choice.loop));
  const of = choice.of.flatMap((id) => set.byId.get(id) ?? []);
  return ids(linesLike(set, of, choice.by));
}
