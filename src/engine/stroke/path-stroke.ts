import { type Picture } from "../picture/picture";
import { type Carried } from "../oil/carried";
import { Path, type PathPoint } from "./path";
import { type Sample } from "./sample";
import { type Bench, type StrokeStart, type StrokeTile } from "./stroke";
import { type Stroker } from "./stroker";

/** Beyond the sheet by so many widths a tool reaches nothing. */
const BEYOND = 3;

/** What a stroke works tile by tile, whatever the medium. */
type Tiles = {
  /** Shows what has changed. Returns the keys of those tiles. */
  show(): number[];
  /** Puts everything back as it was. Returns the keys of the tiles that had changed. */
  abandon(): number[];
};

/**
 * A stroke in a medium that is moved, not laid. It goes along the path as far as that is final, one sample
 * behind the pen, so nothing is ever taken back.
 */
export abstract class PathStroke implements Stroker {
  readonly samples: Sample[] = [];
  abstract readonly tiles: Tiles;
  abstract readonly carried: Carried | null;
  #path: Path;
  #next = 0;
  /** Ms of the stroke's own time between two looks at it. */
  protected readonly shownEvery: number = 0;
  #shownAt = -Infinity;
  /** Where the tool is; null before it has come down. */
  protected last: PathPoint | null = null;

  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly start: StrokeStart,
  ) {
    this.#path = new Path(start.steady, start.scale);
  }

  /** The tool comes down, about to go in a direction of length 1. */
  protected abstract setDown(point: PathPoint, dirX: number, dirY: number): void;
  /** The tool goes on to a point, `way` px in a direction of length 1. */
  protected abstract goTo(point: PathPoint, way: number, dirX: number, dirY: number): void;
  /** The same where nothing can be painted. */
  protected abstract goBeyond(point: PathPoint, way: number, dirX: number, dirY: number): void;
  /** It has gone as far as is known. */
  protected abstract settle(): void;
  /** The tool is taken up. */
  protected abstract liftUp(): void;
  /** Packs what was worked. */
  protected abstract finish(): StrokeTile[];
  /** Gives its memory back. */
  protected abstract free(): void;

  extend(samples: readonly Sample[]): number[] {
    for (const sample of samples) {
      this.samples.push(sample);
      this.#path.add(sample);
    }
    this.#walk(false);
    this.settle();
    const now = this.samples.at(-1)?.[0] ?? 0;
    return now - this.#shownAt < this.shownEvery ? [] : this.show();
  }

  show(): number[] {
    this.#shownAt = this.samples.at(-1)?.[0] ?? 0;
    return this.tiles.show();
  }

  end(): StrokeTile[] {
    this.#path.points.push(...this.#path.tail());
    this.#walk(true);
    this.liftUp();
    const tiles = this.finish();
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
