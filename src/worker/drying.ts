import { type Picture } from "../engine/picture/picture";
import { isWet } from "../engine/oil/drying";

const MINUTE = 60_000;

/** Which wet layers dry by themselves: those that were left alone for as long as they are told to take. */
export class DryingByItself {
  #touched = new Map<string, number>();

  /** @param opened when the picture was laid on the table, ms */
  constructor(readonly opened: number) {}

  /** Something on a layer has changed. */
  touched(layer: string, now: number): void {
    this.#touched.set(layer, now);
  }

  /** Layers that are dry now. Those that may not be worked on wait until they may. */
  due(picture: Picture, now: number): string[] {
    return picture.structure.layers
      .filter(({ id, dryAfter, locked, visible }) => {
        if (dryAfter === null || locked || !visible || !isWet(picture, id)) return false;
        return now - (this.#touched.get(id) ?? this.opened) >= dryAfter * MINUTE;
      })
      .map(({ id }) => id);
  }
}
