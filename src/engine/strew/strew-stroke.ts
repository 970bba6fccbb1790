import { beyondCard } from "../select/card";
import { COLOUR, type Picture, SELECTION, STENCILS, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { isSelected } from "../select/inside";
import { Chance } from "../stroke/chance";
import { Path, type PathPoint } from "../stroke/path";
import { type Sample } from "../stroke/sample";
import { type Bench } from "../bench";
import { type Stroker, type StrokeStart, type StrokeTile } from "../stroke/stroker";
import { TILE_BYTES } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { type PieceChange, nextPiece, PIECES, piecesAfter, piecesOf } from "./heap-of-pieces";
import { boxOfPiece, layMore, layPieces, tilesChanged, tilesOfPiece } from "./lay";
import { type Piece } from "./piece";
import { Scatter } from "./scatter";
import { picturesIn } from "./sets";

const isWithin = (x: number, y: number, reach: number): boolean => x * x + y * y <= reach * reach;

type Touched = { before: Tile | null; after: Tile };

/** A stroke on a strewn layer: it strews pieces, or takes away those that it goes over. */
export class StrewStroke implements Stroker {
  readonly samples: Sample[] = [];
  readonly carried = null;
  #path: Path;
  #touched = new Map<number, Touched>();
  /** What is seen while it goes on; null where nobody looks. */
  #shown: Scatter | null;
  #shownTo = 0;
  /** Pieces that a lifting stroke has gone over so far. */
  #lifted = new Set<number>();

  /** @throws Refusal where the layer may not be worked on, or nothing was said of what is strewn */
  constructor(
    readonly bench: Bench,
    readonly picture: Picture,
    readonly start: StrokeStart,
    readonly isLive: boolean,
  ) {
    const { name } = workableLayer(picture, start.layer, COLOUR, "strewn");
    if (start.mode === "blend")
      throw new Refusal(
        `“${name}” holds strewn pieces, and pieces are not blended. Place them as paint (layer menu), or blend on a layer above.`,
      );
    if (start.mode === "paint" && !start.strew)
      throw new Refusal(
        `“${name}” holds strewn pieces, not paint. Strew more, work on another layer, or place them as paint (layer menu).`,
      );
    this.#path = new Path(start.steady, start.scale);
    this.#shown = isLive && start.mode === "paint" ? this.#scatter() : null;
  }

  #scatter(): Scatter {
    const { bench, picture, start } = this;
    const { strew, size, strength, colour, second, seed, layer } = start;
    if (!strew) throw new Refusal("nothing was said of what is strewn");
    const all = piecesOf(bench.store, picture, layer);
    const { selection, stencils } = picture.structure;
    const masks = [
      ...(selection ? [picture.plane(SELECTION)] : []),
      ...(stencils.some(({ on }) => on) ? [picture.plane(STENCILS)] : []),
    ];
    const { frame, card } = start;
    return new Scatter(
      {
        strew,
        size,
        strength,
        colour,
        second,
        seed,
        height: picture.height,
        pictures: picturesIn(picture, strew.set),
      },
      { id: nextPiece(all), z: all.pieces.at(-1)?.z ?? 0 },
      (x, y) =>
        masks.every((mask) => isSelected(bench.store, mask, x, y)) &&
        (!card || beyondCard(card, x, y) >= 0) &&
        (!frame || (x >= frame.left && y >= frame.top && x < frame.right && y < frame.bottom)),
    );
  }

  extend(samples: readonly Sample[]): number[] {
    for (const sample of samples) {
      this.samples.push(sample);
      this.#path.add(sample);
    }
    const { points } = this.#path;
    if (this.#shown) return this.#showMore(this.#shown, points);
    return this.isLive && this.start.mode === "lift" ? this.#showLifted(points) : [];
  }

  /** Lays what has come to the stroke's layer as it stands: at the end all is laid anew. */
  #showMore(shown: Scatter, points: readonly PathPoint[]): number[] {
    const from = shown.pieces.length;
    // The first lies where the pen comes down.
    shown.along(points.length > 0 ? points : this.#path.tail().slice(0, 1), false);
    const more = shown.pieces.slice(from);
    if (more.length === 0) return [];
    const keys = layMore(this.bench, this.picture, more, (key) => this.#touch(key).after);
    this.bench.store.trim();
    return keys;
  }

  #showLifted(points: readonly PathPoint[]): number[] {
    const { bench, picture, start } = this;
    const { pieces } = piecesOf(bench.store, picture, start.layer);
    const before = this.#lifted.size;
    const fresh = points.slice(Math.max(0, this.#shownTo - 1));
    this.#shownTo = points.length;
    this.#addLifted(fresh, pieces);
    if (this.#lifted.size === before) return [];
    const gone = [...this.#lifted];
    const keys = tilesChanged(bench, picture, start.layer, { gone, put: [] });
    const left = pieces.filter(({ id }) => !this.#lifted.has(id));
    for (const tile of layPieces(bench, picture, start.layer, keys, left, "nothing"))
      this.#replace(tile);
    return [...keys];
  }

  /** Pieces that come under the stroke: all, or of a weaker one by chance as many as it is strong. */
  #addLifted(points: readonly PathPoint[], pieces: readonly Piece[]): void {
    const { size, strength, seed } = this.start;
    const chance = new Chance(seed);
    const meant = pieces.filter(
      ({ id }) => !this.#lifted.has(id) && (strength >= 1 || chance.at(id) < strength),
    );
    for (const piece of meant) {
      const box = boxOfPiece(piece);
      const reach = size / 2 + Math.min(box.right - box.left, box.bottom - box.top) * 0.3;
      if (points.some(({ x, y }) => isWithin(x - piece.x, y - piece.y, reach)))
        this.#lifted.add(piece.id);
    }
  }

  /** A tile that is being worked on, seen in the layer's place. */
  #touch(key: number): Touched {
    const known = this.#touched.get(key);
    if (known) return known;
    const { store } = this.bench;
    const plane = this.picture.plane(this.start.layer);
    const before = plane.get(key) ?? null;
    const after = store.create();
    store.kernels.copyBytes(
      after.address,
      before ? store.address(before) : store.nothing,
      TILE_BYTES,
    );
    const touched = { before, after };
    this.#touched.set(key, touched);
    plane.set(key, after);
    return touched;
  }

  #replace({ key, after }: StrokeTile): void {
    const plane = this.picture.plane(this.start.layer);
    const known = this.#touched.get(key);
    if (known) this.bench.store.release(known.after);
    this.#touched.set(key, { before: known ? known.before : (plane.get(key) ?? null), after });
    plane.set(key, after);
  }

  end(): StrokeTile[] {
    this.abandon();
    this.#path.points.push(...this.#path.tail());
    const { bench, picture, start } = this;
    const { layer } = start;
    if (start.mode === "lift") {
      const { pieces } = piecesOf(bench.store, picture, layer);
      this.#lifted.clear();
      this.#addLifted(this.#path.points, pieces);
      const left = pieces.filter(({ id }) => !this.#lifted.has(id));
      return this.#changed({ gone: [...this.#lifted], put: [] }, left, "nothing");
    }
    const scatter = this.#scatter();
    scatter.along(this.#path.points, true);
    const { pieces } = scatter;
    return this.#changed({ gone: [], put: pieces }, pieces, "what is there");
  }

  #changed(
    change: PieceChange,
    laid: readonly Piece[],
    onto: "nothing" | "what is there",
  ): StrokeTile[] {
    if (change.gone.length + change.put.length === 0) return [];
    const { bench, picture, start } = this;
    const plane = picture.plane(start.layer, PIECES);
    const bytes = piecesAfter(bench.store, picture, start.layer, change).map(({ key, after }) => ({
      plane: PIECES,
      key,
      before: plane.get(key) ?? null,
      after: after ?? bench.store.plain([0, 0, 0, 0]),
    }));
    const keys =
      onto === "nothing"
        ? tilesChanged(bench, picture, start.layer, change)
        : new Set(laid.flatMap((piece) => tilesOfPiece(picture, piece)));
    return [...bytes, ...layPieces(bench, picture, start.layer, keys, laid, onto)];
  }

  abandon(): number[] {
    const plane = this.picture.plane(this.start.layer);
    for (const [key, { before, after }] of this.#touched) {
      if (before) plane.set(key, before);
      else plane.delete(key);
      this.bench.store.release(after);
    }
    const keys = [...this.#touched.keys()];
    this.#touched.clear();
    return keys;
  }
}
