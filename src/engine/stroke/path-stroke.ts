import { type Picture } from "../picture/picture";
import { type Carried } from "../oil/carried";
import { Path, type PathPoint } from "./path";
import { type Sample } from "./sample";
import { type Bench } from "../bench";
import { type Stroker, type StrokeStart, type StrokeTile } from "./stroker";

/** Beyond the sheet by so many widths a tool reaches nothing. */
const BEYOND = 3;

/** A pen rests where it stays within so much of the tool's width, px at least and at most, for longer than so many ms. */
const RESTS = { widths: 0.06, least: 1.5, most: 4, after: 150 };

/** A while that the pen rested: after how many points of the path, where, and ms. */
type Rest = { after: number; at: PathPoint; ms: number };

/** What a stroke works tile by tile, whatever the medium. */
type Tiles = {
  /** Shows what has changed. Returns the keys of those tiles. */
  show(): number[];
  /** The same while the hand goes on: it may leave out what is soon to change again. */
  showInPassing?(): number[];
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
  /** Where the pen has come to rest, and until when that is told, ms. */
  #restsAt: { x: number; y: number; until: number } | null = null;
  #rests: Rest[] = [];
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
      this.#noteRest(sample[0]);
    }
    this.#walk(false);
    this.settle();
    const now = this.samples.at(-1)?.[0] ?? 0;
    if (now - this.#shownAt < this.shownEvery) return [];
    this.#shownAt = now;
    return this.tiles.showInPassing?.() ?? this.tiles.show();
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

  /** The pen has stayed at a place for a while; the same in whatever pieces the samples come. */
  protected rests(_at: PathPoint, _ms: number): void {
    // Most tools do nothing then.
  }

  #noteRest(t: number): void {
    const { tip } = this.#path;
    if (!tip) return;
    const rest = this.#restsAt;
    const stray = Math.min(RESTS.most, Math.max(RESTS.least, RESTS.widths * this.start.size));
    const [x, y] = rest ? [tip.x - rest.x, tip.y - rest.y] : [0, 0];
    if (!rest || x * x + y * y > stray * stray) {
      this.#restsAt = { x: tip.x, y: tip.y, until: t + RESTS.after };
      return;
    }
    if (t <= rest.until) return;
    this.#rests.push({ after: this.#path.points.length, at: { ...tip }, ms: t - rest.until });
    rest.until = t;
  }

  /** Goes on along the path as far as it is known. */
  #walk(last: boolean): void {
    const { points } = this.#path;
    // Which way a tool is set down is known once it has moved; at the end it is a dab.
    const isKnown = this.last || points.length >= 2 || last;
    const until = isKnown ? points.length : 0;
    for (; this.#next < until; this.#next++) {
      this.#rest();
      this.#reach(points[this.#next] as PathPoint);
    }
    this.#rest();
  }

  /** What is due where the tool rested on its way so far. */
  #rest(): void {
    for (let rest = this.#rests[0]; rest && rest.after <= this.#next; rest = this.#rests[0]) {
      this.rests(rest.at, rest.ms);
      this.#rests.shift();
    }
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
