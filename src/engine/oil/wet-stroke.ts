import { type Picture, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { Path, type PathPoint } from "../stroke/path";
import { type Sample } from "../stroke/sample";
import { type Bench, type StrokeStart, type StrokeTile } from "../stroke/stroke";
import { type Stroker } from "../stroke/stroker";
import { type Carried } from "./carried";
import { WetTiles } from "./wet-tiles";

/** Beyond the sheet by so many widths a tool reaches nothing. */
const BEYOND = 3;

/**
 * A stroke in wet paint, whatever it is made with. It goes along the path as far as that is final, one sample
 * behind the pen, so nothing that moved paint is ever taken back.
 */
export abstract class WetStroke implements Stroker {
  readonly samples: Sample[] = [];
  readonly tiles: WetTiles;
  carried: Carried | null = null;
  #path: Path;
  #next = 0;
  /** Where the tool is; null before it has come down. */
  protected last: PathPoint | null = null;

  /** @throws Refusal where the layer may not be worked on */
  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly start: StrokeStart,
  ) {
    const layer = workableLayer(picture, start.layer, start.plane);
    if (layer.lockTransparency)
      throw new Refusal(
        `The transparency of “${layer.name}” is locked. Unlock it to work on it in oil.`,
      );
    this.#path = new Path(start.steady, start.scale);
    this.tiles = new WetTiles(bench, picture, start.layer, start.frame, start.thinner > 0);
  }

  /** The tool comes down, about to go in a direction of length 1. */
  protected abstract setDown(point: PathPoint, dirX: number, dirY: number): void;
  /** The tool goes on to a point, `way` px in a direction of length 1. */
  protected abstract goTo(point: PathPoint, way: number, dirX: number, dirY: number): void;
  /** The same where nothing can be painted. */
  protected abstract goBeyond(point: PathPoint, way: number, dirX: number, dirY: number): void;
  /** The tool is taken up. */
  protected abstract liftUp(): void;
  /** What is on the tool now. */
  protected abstract stock(): Carried;
  /** Gives its memory back. */
  protected abstract free(): void;

  extend(samples: readonly Sample[]): number[] {
    for (const sample of samples) {
      this.samples.push(sample);
      this.#path.add(sample);
    }
    this.#walk(false);
    return this.tiles.show();
  }

  end(): StrokeTile[] {
    this.#path.points.push(...this.#path.tail());
    this.#walk(true);
    this.liftUp();
    if (this.start.mode === "paint") this.carried = this.stock();
    const tiles = this.tiles.finish();
    this.free();
    this.bench.store.trim();
    return tiles;
  }

  abandon(): number[] {
    const keys = this.tiles.abandon();
    this.free();
    return keys;
  }

  /** Goes on along the path as far as it is known. */
  #walk(last: boolean): void {
    const { points } = this.#path;
    // Which way a tool is set down is known once it has moved; at the end it is a dab.
    if (!this.last && points.length < 2 && !last) return;
    for (; this.#next < points.length; this.#next++) this.#reach(points[this.#next] as PathPoint);
  }

  #reach(point: PathPoint): void {
    const from = this.last;
    if (!from) return this.#begin(point);
    const [wayX, wayY] = [point.x - from.x, point.y - from.y];
    const way = Math.sqrt(wayX * wayX + wayY * wayY);
    const [dirX, dirY] = way > 1e-6 ? [wayX / way, wayY / way] : [0, 0];
    if (this.#isBeyond(from) && this.#isBeyond(point)) this.goBeyond(point, way, dirX, dirY);
    else this.goTo(point, way, dirX, dirY);
    this.last = point;
  }

  #begin(point: PathPoint): void {
    const next = this.#path.points.find(({ x, y }) => x !== point.x || y !== point.y);
    const [wayX, wayY] = next ? [next.x - point.x, next.y - point.y] : [1, 0];
    const way = Math.sqrt(wayX * wayX + wayY * wayY);
    this.last = point;
    this.setDown(point, wayX / way, wayY / way);
  }

  /** Whether all of the tool is far off the sheet. */
  #isBeyond({ x, y }: PathPoint): boolean {
    const { width, height } = this.picture;
    const reach = BEYOND * this.start.size;
    return x < -reach || y < -reach || x > width + reach || y > height + reach;
  }
}
