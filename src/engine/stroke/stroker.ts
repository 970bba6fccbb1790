import { type Lays } from "../compose/blend-modes";
import { type Carried } from "../oil/carried";
import { type Layer, type PlaneName } from "../picture/picture";
import { type Card } from "../select/card";
import { type Strew } from "../strew/strew";
import { type Box } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { type Brush, type StrokeMode } from "./brush";
import { type Sample } from "./sample";

/** What a stroke is before the pen moves. */
export type StrokeStart = {
  layer: string;
  /** What of the layer is painted on: its colour, or its mask. */
  plane: PlaneName;
  brush: Brush;
  mode: StrokeMode;
  size: number;
  /** 0…1: the ceiling of the whole stroke. */
  strength: number;
  colour: string;
  second: string;
  seed: number;
  steady: number;
  scale: number;
  /** What Blend takes up: this layer's paint, or all that is seen down to the ground. */
  takes: "layer" | "below";
  /** How paint lies on what was there before the stroke. */
  lays: Lays;
  /** What it may not leave; null: the sheet. */
  frame: Box | null;
  /** A card that holds it back, its direction of length 1; null: none. */
  card: Card | null;
  /** What is on the brush; null: it is loaded afresh, as its strength says. */
  carried: Carried | null;
  /** The share of thinner in oil that it lays, 0…1. */
  thinner: number;
  /** How much water a brush for washes holds, beside what is usual for it. */
  water: number;
  /** How pieces are strewn by it; null: it strews none. */
  strew: Strew | null;
};

/** Pixels of one tile that a stroke has changed. */
export type StrokeTile = { plane: PlaneName; key: number; before: Tile | null; after: Tile };

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
