import { COLOUR, type Picture, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { Path } from "../stroke/path";
import { type Sample } from "../stroke/sample";
import { type Bench, Stroke, type StrokeStart, type StrokeTile } from "../stroke/stroke";
import { type Stroker } from "../stroke/stroker";
import { keptInside } from "./clear";
import { drawLines } from "./draw-lines";
import { whyNoLine } from "./drawable";
import { tilesOfLine } from "./ink";
import { chunksAfter, LINES, linesOf, nextId } from "./line-set";
import { madeLine } from "./made-line";

/** A stroke that becomes a line of a line layer. While it is drawn the brush itself is seen. */
export class LineStroke implements Stroker {
  readonly samples: Sample[] = [];
  readonly carried = null;
  #shown: Stroke;
  #path: Path;

  /** @throws Refusal where the brush draws no lines, or the layer may not be worked on */
  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly start: StrokeStart,
  ) {
    const layer = workableLayer(picture, start.layer, COLOUR, "lines");
    const why = whyNoLine(start.brush, start.mode, layer.name);
    if (why) throw new Refusal(why);
    this.#shown = new Stroke(bench, picture, { ...start, lays: "normal" }, "lines");
    this.#path = new Path(start.steady, start.scale);
  }

  extend(samples: readonly Sample[]): number[] {
    for (const sample of samples) {
      this.samples.push(sample);
      this.#path.add(sample);
    }
    return this.#shown.extend(samples);
  }

  end(): StrokeTile[] {
    this.#shown.abandon();
    const { bench, picture, start } = this;
    const points = [...this.#path.points, ...this.#path.tail()];
    const set = linesOf(bench.store, picture, start.layer);
    const z = set.lines.at(-1)?.z ?? 0;
    let next = nextId(set);
    const drawn = madeLine(start, points, { id: next++, z, mayClose: true });
    const lines = keptInside({ bench, picture }, drawn, () => next++);
    const keys = new Set(lines.flatMap((line) => [...tilesOfLine(bench, picture, line)]));
    const plane = picture.plane(start.layer, LINES);
    const chunks = chunksAfter(bench.store, picture, start.layer, { gone: [], put: lines });
    const kept: StrokeTile[] = [];
    for (const { key, after } of chunks)
      if (after) kept.push({ plane: LINES, key, before: plane.get(key) ?? null, after });
    return [...kept, ...drawLines(bench, picture, start.layer, keys, lines, "what is there")];
  }

  abandon(): number[] {
    return this.#shown.abandon();
  }
}
