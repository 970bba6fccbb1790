import { type StrokeTile } from "../stroke/stroker";

/** What goes on in a layer by itself as time passes. What it works is kept unpacked from its first step to its end. */
export interface Running {
  readonly layer: string;
  /** Whether nothing goes on any more. */
  readonly isAtRest: boolean;
  /** Seconds until it is at rest, about; null where that cannot be told. */
  readonly secondsLeft: number | null;
  /** Lets 1/30 s pass. */
  step(): void;
  /** Shows what has changed, or as much of it as there is time for. Returns the keys of those tiles. */
  show(): number[];
  /** Packs everything. Returns all that has changed. */
  end(): StrokeTile[];
}
