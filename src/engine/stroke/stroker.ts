import { type Carried } from "../oil/carried";
import { type Layer } from "../picture/picture";
import { type Sample } from "./sample";
import { type StrokeStart, type StrokeTile } from "./stroke";

/** A stroke in the making, whatever the medium. */
export interface Stroker {
  readonly start: StrokeStart;
  /** All that the pen has reported so far. */
  readonly samples: Sample[];
  /** Takes samples and draws. Returns the keys of the tiles that changed. */
  extend(samples: readonly Sample[]): number[];
  /**
   * Shows what it has drawn and not shown yet. Left out where `extend` always shows all. Returns the keys of the
   * tiles that changed.
   */
  show?(): number[];
  /** Settles the stroke's end. Returns all that it has changed. */
  end(): StrokeTile[];
  /** What is on the brush after the end; null where it carries nothing from stroke to stroke. */
  readonly carried: Carried | null;
  /** What its layer becomes besides; left out: nothing else. */
  readonly changes?: Partial<Layer>;
  /** Puts everything back as it was. Returns the keys of the tiles that had changed. */
  abandon(): number[];
}
