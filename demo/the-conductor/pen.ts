import { closed, type Point, type Shape } from "../kit/shape";
import { type Manner, type Sheet, swell, type Tool } from "../kit/sheet";

/** Ink is never quite black beside lamplight. */
export const INK = "#1b1726";

/** A raster pen in hand: outlines that swell, and fine lines inside them. */
export class Pen {
  constructor(readonly sheet: Sheet) {}

  /** A line that swells with the hand; `size` px at its broadest. */
  line(points: Shape, size = 9, manner: Manner = {}): void {
    this.sheet.draw(points, pen("pen-sprung", size), {
      press: swell(0.42, 0.95),
      ...still,
      ...manner,
    });
  }

  /** A fine line of one weight. */
  fine(points: Shape, size = 4, manner: Manner = {}): void {
    this.sheet.draw(points, pen("pen-fine", size), { press: () => 0.7, ...still, ...manner });
  }

  /** An outline in a firm even line that closes on itself. */
  ring(shape: Shape, size = 6): void {
    this.sheet.draw([...closed(shape), shape[1] as Point], pen("pen-even", size), {
      press: () => 0.8,
      ...still,
      soft: false,
    });
  }

  /** A patch of solid ink. */
  black(shape: Shape): void {
    this.sheet.lasso(INK, shape);
  }

  /**
   * A thing that stands before what is drawn already: what it hides is taken away, then its
   * sides are inked, each in one stroke.
   */
  form(sides: readonly Shape[], size = 9, manner: Manner = {}): void {
    this.sheet.clear(sides.flat());
    for (const side of sides) this.line(side, size, manner);
  }
}

const still: Manner = { wobble: 0.35, speed: 1.4 };

const pen = (brush: string, size: number): Tool => ({
  brush,
  size: Math.max(1.5, Math.round(size * 10) / 10),
  colour: INK,
});
