import { COLOUR, type Picture, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { Path, type PathPoint } from "../stroke/path";
import { type Sample } from "../stroke/sample";
import { type Bench } from "../bench";
import { type Stroker, type StrokeStart, type StrokeTile } from "../stroke/stroker";
import { Stroke } from "../stroke/stroke";
import { keptInside } from "./clear";
import { erased } from "./cut";
import { changedTiles, drawLines } from "./draw-lines";
import { whyNoLine } from "./drawable";
import { tilesOfLine } from "./ink";
import { chunksAfter, inOrder, type LineChange, LINES, linesOf, nextId } from "./line-set";
import { madeLine } from "./made-line";

/**
 * A stroke on a line layer: it becomes a line, or takes away of lines what it goes over. While it is drawn the
 * brush itself is seen.
 */
export class LineStroke implements Stroker {
  readonly samples: Sample[] = [];
  readonly carried = null;
  /** What is seen while it is drawn; null where nobody looks. */
  #shown: Stroke | null;
  #path: Path;

  /** @throws Refusal where the brush draws no lines, or the layer may not be worked on */
  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly start: StrokeStart,
    isLive: boolean,
  ) {
    const layer = workableLayer(picture, start.layer, COLOUR, "lines");
    const why = whyNoLine(start.brush, start.mode, layer.name);
    if (why) throw new Refusal(why);
    this.#shown = isLive ? new Stroke(bench, picture, { ...start, lays: "normal" }, "lines") : null;
    this.#path = new Path(start.steady, start.scale);
  }

  extend(samples: readonly Sample[]): number[] {
    for (const sample of samples) {
      this.samples.push(sample);
      this.#path.add(sample);
    }
    return this.#shown?.extend(samples) ?? [];
  }

  end(): StrokeTile[] {
    this.#shown?.abandon();
    const points = [...this.#path.points, ...this.#path.tail()];
    return this.start.mode === "lift" ? this.#lift(points) : this.#draw(points);
  }

  #draw(points: readonly PathPoint[]): StrokeTile[] {
    const { bench, picture, start } = this;
    const set = linesOf(bench.store, picture, start.layer);
    const z = set.lines.at(-1)?.z ?? 0;
    let next = nextId(set);
    const drawn = madeLine(start, points, { id: next++, z, mayClose: true });
    const put = keptInside({ bench, picture }, drawn, () => next++);
    const keys = new Set(put.flatMap((line) => [...tilesOfLine(bench, picture, line)]));
    return [
      ...this.#chunks({ gone: [], put }),
      ...drawLines(bench, picture, start.layer, keys, put, "what is there"),
    ];
  }

  /** Lifts lines where it goes over them, as wide as it is. */
  #lift(points: readonly PathPoint[]): StrokeTile[] {
    const { bench, picture, start } = this;
    const { layer, size } = start;
    const set = linesOf(bench.store, picture, layer);
    let next = nextId(set);
    const over = points.map(({ x, y }) => [x, y] as const);
    const change = erased(set.lines, { over, radius: size / 2, how: "touched" }, () => next++);
    if (change.gone.length + change.put.length === 0) return [];
    const keys = changedTiles(bench, picture, layer, change);
    const left = new Map(set.byId);
    for (const id of change.gone) left.delete(id);
    for (const line of change.put) left.set(line.id, line);
    const after = [...left.values()].sort(inOrder);
    return [...this.#chunks(change), ...drawLines(bench, picture, layer, keys, after, "nothing")];
  }

  /** The layer's lines as bytes, where they have changed. */
  #chunks(change: LineChange): StrokeTile[] {
    const { bench, picture, start } = this;
    const plane = picture.plane(start.layer, LINES);
    return chunksAfter(bench.store, picture, start.layer, change).map(({ key, after }) => ({
      plane: LINES,
      key,
      before: plane.get(key) ?? null,
      after: after ?? bench.store.plain([0, 0, 0, 0]),
    }));
  }

  abandon(): number[] {
    return this.#shown?.abandon() ?? [];
  }
}
