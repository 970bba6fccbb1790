import { type Work } from "../engine/command/work";
import { type Compositor } from "../engine/compose/compositor";
import { type Engine } from "../engine/engine";
import { type Filter } from "../engine/transform/filters";
import { letGo, lift, type Lifted } from "../engine/transform/lift";
import { type Warp } from "../engine/transform/warp";
import { type Box } from "../engine/tiles/layout";
import { type Plane, SELECTION } from "../engine/picture/picture";
import { liftedPicture, type LiftedPicture } from "./lifted-picture";

/**
 * A transform in the making. While the piece is dragged the page draws it, and the table shows
 * the layers without it; when the hand rests the command is applied, and when the piece is
 * taken up again it is undone and applied anew. So what is seen at rest is the very result,
 * all of it is one step of the history, and a lost page loses nothing.
 */
export class Transforming {
  /** The log's place after our command; null while none is applied. */
  #appliedAt: number | null = null;
  #parted = new Map<string, Lifted>();

  constructor(
    readonly engine: Engine,
    readonly work: Work,
    readonly compositor: Compositor,
    readonly repaint: (layer: string, keys: number[]) => void,
    readonly layers: readonly string[],
    readonly box: Box | null,
  ) {}

  picture(): LiftedPicture {
    return liftedPicture(
      this.work.picture,
      this.engine.store,
      this.layers,
      this.box,
      this.#selection,
    );
  }

  /** What is selected is what is moved, unless a box says otherwise. */
  get #selection(): Plane | null {
    const { picture } = this.work;
    return !this.box && picture.structure.selection ? picture.plane(SELECTION) : null;
  }

  /** The piece is taken up: it is drawn by the page from now on. */
  takeUp(): void {
    this.#undo();
    if (this.#parted.size > 0) return;
    for (const id of this.layers) {
      const plane = this.work.picture.plane(id);
      const parts = lift(this.engine.store, plane, this.box, this.#selection);
      this.#parted.set(id, parts);
      this.compositor.standIn(id, parts.rest);
      this.repaint(id, [...plane.keys()]);
    }
  }

  /** The piece is put down. @throws Refusal where it cannot lie so; it then lies as before it was taken up */
  putDown(warp: Warp | null, filter: Filter): void {
    this.#undo();
    this.#whole();
    if (!warp) return;
    const box = this.box && { ...this.box };
    this.work.apply({ do: "transform", layers: [...this.layers], box, warp, filter });
    this.#appliedAt = this.work.place;
  }

  end(keep: boolean): void {
    if (!keep) this.#undo();
    this.#whole();
    this.#appliedAt = null;
  }

  #undo(): void {
    // Something else was done since: ours is kept.
    if (this.#appliedAt !== null && this.#appliedAt === this.work.place) this.work.undo();
    this.#appliedAt = null;
  }

  #whole(): void {
    for (const [id, parts] of this.#parted) {
      this.compositor.standIn(id, null);
      this.repaint(id, [...parts.lifted.keys(), ...parts.rest.keys()]);
      letGo(this.engine.store, parts);
    }
    this.#parted.clear();
  }
}
