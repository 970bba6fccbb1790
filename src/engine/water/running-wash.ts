import { type Picture } from "../picture/picture";
import { type Bench } from "../bench";
import { type StrokeTile } from "../stroke/stroker";
import { type Running } from "../time/running";
import { USUAL_WASH } from "./wash-state";
import { WATER } from "./wash-planes";
import { WashTiles } from "./wash-tiles";

/** Steps of water in one of time. */
export const STEPS_OF_WATER = 2;
/** Tiles that are shown at once, so that the pen never waits long. */
const MOST_SHOWN = 96;

/** What is wet of a layer's washes, while time passes. */
export class RunningWash implements Running {
  #tiles: WashTiles;
  isAtRest = false;

  /** `pace`: how soon it dries, where that is not the layer’s own. */
  constructor(
    bench: Bench,
    picture: Picture,
    readonly layer: string,
    pace?: number,
  ) {
    const { wash = USUAL_WASH } = picture.layer(layer);
    this.#tiles = new WashTiles(bench, picture, layer, wash, WATER, pace);
    this.#tiles.wake([...picture.plane(layer, WATER).keys()].sort((a, b) => a - b));
    this.#tiles.takeUp();
  }

  get secondsLeft(): number {
    return this.isAtRest ? 0 : this.#tiles.secondsLeft;
  }

  step(): void {
    for (let i = 0; i < STEPS_OF_WATER && !this.isAtRest; i++) this.isAtRest = !this.#tiles.step();
  }

  show(): number[] {
    return this.#tiles.show(MOST_SHOWN);
  }

  end(): StrokeTile[] {
    return this.#tiles.finish(this.isAtRest);
  }
}
