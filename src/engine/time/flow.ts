import { isThinned, Thinned } from "../oil/thinned";
import { type Picture } from "../picture/picture";
import { SLAB } from "../slab/slab";
import { type Bench } from "../bench";
import { type StrokeTile } from "../stroke/stroker";
import { isWashRunning } from "../water/wash-planes";
import { RunningWash } from "../water/running-wash";
import { type Running } from "./running";

/** Tiles of a layer that were changed, and which layer. */
export type Flowed = { layer: string; keys: number[] };

/** Whose paint may run: all layers, and the slab. */
const ownersOf = (picture: Picture): string[] => [
  ...picture.structure.layers.map(({ id }) => id),
  SLAB,
];

/**
 * All that goes on in a picture as time passes. So many steps give the same whether they are taken at once or one
 * by one.
 */
export class Flow {
  #running: Running[];

  constructor(bench: Bench, picture: Picture) {
    this.#running = ownersOf(picture).flatMap((id) => [
      ...(isThinned(picture, id) ? [new Thinned(bench, picture, id)] : []),
      ...(isWashRunning(picture, id) ? [new RunningWash(bench, picture, id)] : []),
    ]);
  }

  /** Whether nothing goes on any more. */
  get isAtRest(): boolean {
    return this.#running.every(({ isAtRest }) => isAtRest);
  }

  /** Lets `steps` steps of time pass, or fewer where all has come to rest. Returns what is seen to change. */
  step(steps: number): Flowed[] {
    for (let i = 0; i < steps && !this.isAtRest; i++)
      for (const running of this.#running) if (!running.isAtRest) running.step();
    return this.#running.map((running) => ({ layer: running.layer, keys: running.show() }));
  }

  /** Seconds until layers are dry, about. */
  get secondsLeft(): Record<string, number> {
    const known: Record<string, number> = {};
    for (const { layer, secondsLeft } of this.#running)
      if (secondsLeft !== null) known[layer] = secondsLeft;
    return known;
  }

  /** Packs everything. Returns what has changed, layer by layer. */
  end(): { layer: string; tiles: StrokeTile[] }[] {
    return this.#running.map((running) => ({ layer: running.layer, tiles: running.end() }));
  }
}

/** Whether anything may go on in a picture. */
export const mayFlow = (picture: Picture): boolean =>
  ownersOf(picture).some((id) => isThinned(picture, id) || isWashRunning(picture, id));
