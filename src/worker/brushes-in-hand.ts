import { hexToRgb } from "../engine/colour/oklch";
import { type Carried, dipped, loadOf, rinsed, wiped } from "../engine/oil/carried";
import { paintOf } from "../engine/pigment/pigment";

/** What is done to a brush between strokes. */
export type Care = "dip" | "wipe" | "rinse";

/** A paint that a brush is dipped into: its colour, and how full the brush gets, 0…1. */
export type Dip = { colour: string; strength: number };

type InHand = { carried: Carried; colour: string };

/**
 * What is on each brush of a table, for those who keep it from stroke to stroke. A brush is dipped when another
 * colour is chosen for it, as a painter would; what was on it stains the load.
 */
export class BrushesInHand {
  #brushes = new Map<string, InHand>();

  /** What a brush carries; null where it was never used. */
  of(brush: string): Carried | null {
    return this.#brushes.get(brush)?.carried ?? null;
  }

  /** What a stroke begins with. */
  begin(brush: string, dip: Dip): Carried {
    const known = this.#brushes.get(brush);
    if (known?.colour === dip.colour) return known.carried;
    return this.care(brush, "dip", dip);
  }

  /** What a stroke has left on its brush, which had this colour. */
  left(brush: string, carried: Carried, colour: string): void {
    this.#brushes.set(brush, { carried, colour });
  }

  /** Returns what the brush carries afterwards. */
  care(brush: string, care: Care, { colour, strength }: Dip): Carried {
    const before = this.of(brush) ?? rinsed();
    const carried =
      care === "rinse"
        ? rinsed()
        : care === "wipe"
          ? wiped(before)
          : dipped(before, paintOf(hexToRgb(colour)), strength);
    // A brush that was rinsed or wiped is not dipped again before it is told to, or another colour is chosen.
    this.#brushes.set(brush, { carried, colour });
    return carried;
  }

  /** All that a brush carries, in full loads. */
  loadOf(brush: string): number {
    return loadOf(this.of(brush) ?? rinsed());
  }
}
