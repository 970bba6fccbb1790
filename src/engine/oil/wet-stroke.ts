import { type Picture, workableLayer } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { PathStroke } from "../stroke/path-stroke";
import { type Bench } from "../bench";
import { type StrokeStart, type StrokeTile } from "../stroke/stroker";
import { type Carried } from "./carried";
import { WetTiles } from "./wet-tiles";

/**
 * From this width on, px, working out how the paint looks takes as long as moving it: it is shown less often, and
 * what a look has shown waits for the one after the next.
 */
const BROAD = 360;
/** Ms between two looks at a broad stroke. */
const BROAD_SHOWN_EVERY = 33;

/** A stroke in wet paint, whatever it is made with. */
export abstract class WetStroke extends PathStroke {
  readonly tiles: WetTiles;
  protected override readonly shownEvery: number;
  carried: Carried | null = null;

  /** @throws Refusal where the layer may not be worked on */
  constructor(bench: Bench, picture: Picture, start: StrokeStart) {
    const layer = workableLayer(picture, start.layer, start.plane);
    if (layer.lockTransparency)
      throw new Refusal(
        `The transparency of “${layer.name}” is locked. Unlock it to work on it in oil.`,
      );
    super(bench, picture, start);
    this.shownEvery = start.size < BROAD ? 0 : BROAD_SHOWN_EVERY;
    this.tiles = new WetTiles(bench, picture, start.layer, start, start.thinner > 0);
    this.tiles.inTurns = start.size >= BROAD;
  }

  /** What is on the tool now. */
  protected abstract stock(): Carried;

  protected settle(): void {
    // A step is carried out as soon as it is made.
  }

  protected finish(): StrokeTile[] {
    if (this.start.mode === "paint") this.carried = this.stock();
    return this.tiles.finish();
  }
}
