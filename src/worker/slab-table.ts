import { type Work } from "../engine/command/work";
import { Compositor } from "../engine/compose/compositor";
import { type Engine } from "../engine/engine";
import { COLOUR, type Picture } from "../engine/picture/picture";
import { Refusal } from "../engine/picture/refusal";
import { SLAB, SLAB_WIDTH, slabOf } from "../engine/slab/slab";
import { Display } from "./display";
import { pickedColour } from "./picking";
import { type View } from "./view";

/** Where paint is squeezed out: along the upper rim first, px of the slab. */
const RIM = { x: 66, y: 66, apart: 92, rows: 2 };
/** A place is free where nothing lies within so many px. */
const FREE = 36;

/** The slab of the picture on the table, on a canvas of its own. */
export class SlabTable {
  readonly slab: Picture;
  #compositor: Compositor;
  #display: Display;

  constructor(
    canvas: OffscreenCanvas,
    readonly engine: Engine,
    work: Work,
    surround: string,
  ) {
    this.slab = slabOf(work.picture);
    this.#compositor = new Compositor(this.slab, engine.store, engine.workforce);
    this.#display = new Display(canvas, this.slab, this.#compositor, engine.store.heap);
    this.#display.setSurround(surround);
  }

  setView(view: View): void {
    this.#display.setView(view);
  }

  setSurround(surround: string): void {
    this.#display.setSurround(surround);
  }

  resize(width: number, height: number): void {
    this.#display.resize(width, height);
  }

  /** Tiles of the slab have changed. */
  changed(keys: readonly number[]): void {
    const reached = this.#compositor.reach(SLAB, keys);
    this.#compositor.forget(SLAB, reached);
    this.#display.paint(reached);
  }

  get isSettled(): boolean {
    return this.#display.isSettled;
  }

  stop(): void {
    this.#display.stop();
    this.#compositor.free();
  }
}

/** The colour of the paint on a picture's slab: the mean of a disc, as it lies there without its light; null where it is bare. */
export function slabColourAt(
  { store }: Engine,
  picture: Picture,
  [x, y]: readonly [number, number],
  radius: number,
): string | null {
  const slab = slabOf(picture);
  return pickedColour(store.heap, slab, [x, y], radius, (keys, take) => {
    for (const key of keys) {
      const tile = slab.plane(SLAB, COLOUR).get(key);
      if (tile) take(key, store.address(tile));
    }
  });
}

/** The first free place along the slab's upper rim. @throws Refusal where paint lies everywhere there */
export function placeToSqueeze(engine: Engine, picture: Picture): { x: number; y: number } {
  for (let row = 0; row < RIM.rows; row++)
    for (let x = RIM.x; x <= SLAB_WIDTH - RIM.x; x += RIM.apart) {
      const y = RIM.y + row * RIM.apart;
      if (slabColourAt(engine, picture, [x, y], FREE) === null) return { x, y };
    }
  throw new Refusal("There is no room left along the rim. Wipe some of the slab, or clean it.");
}
