import { finderFor, type Reading } from "../engine/command/fill";
import { type Work } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { type Found, type Leak, leakOf, type RegionFinder } from "../engine/fill/region";
import { Regions } from "../engine/region/regions";
import { type Source, sourceOf } from "../engine/region/source";
import { type Box } from "../engine/tiles/layout";

/** What is looked at before it is filled or selected: how borders are read, on which layer. */
export type RegionChoice = Reading & { layer: string };

/** A region as it would be filled: a small picture of it (255 inside), where it lies, where it leaks. */
export type RegionLook = {
  box: Box;
  width: number;
  height: number;
  data: Uint8Array<ArrayBuffer>;
  leak: Leak | null;
};

/** Longest side of the small picture, px. */
const LONGEST = 720;

/**
 * Looks at regions under the pointer. What was read of the borders is kept until the picture
 * or the choice changes, so that moving the pointer costs one flood.
 */
export class RegionLooker {
  #regions: Regions | null = null;
  #source: Source | null = null;
  #finder: RegionFinder | null = null;
  #known = "";
  #last: { found: Found; x: number; y: number; look: RegionLook } | null = null;

  constructor(
    readonly engine: Engine,
    readonly work: Work,
  ) {}

  /** @returns null beside the sheet and on borders. @throws Refusal where there is no line source */
  at(x: number, y: number, choice: RegionChoice, leaks: boolean): RegionLook | null {
    const px = Math.floor(x);
    const py = Math.floor(y);
    const { width, height } = this.work.picture;
    if (px < 0 || py < 0 || px >= width || py >= height) return null;
    const { regions, finder } = this.#read(px, py, choice);
    let last = this.#last;
    if (!last || !regions.has(last.found.bits, px, py)) {
      this.#forgetLast();
      const found = finder.at(px, py, choice.bridge);
      if (!found) return null;
      const look = smallPicture(regions, found);
      this.#last = last = { found, x: px, y: py, look };
    }
    if (leaks && !last.look.leak) {
      const leak = leakOf(finder, px, py, choice.bridge, last.found);
      last.look = { ...last.look, leak };
    }
    return last.look;
  }

  #read(
    x: number,
    y: number,
    { layer, borders, tolerance, bridge }: RegionChoice,
  ): { regions: Regions; finder: RegionFinder } {
    const { picture, place } = this.work;
    const read = `${place} ${borders} ${layer}`;
    if (!this.#known.startsWith(`${read}|`)) {
      this.free();
      const regions = new Regions(this.engine.bench, picture.width, picture.height);
      this.#regions = regions;
      this.#source = sourceOf(regions, picture, borders, layer);
    }
    const regions = this.#regions as Regions;
    const source = this.#source as Source;
    const seed = source.colourAt(x, y);
    const known = `${read}|${tolerance} ${bridge} ${seed.join(" ")}`;
    if (known !== this.#known || !this.#finder) {
      this.#last = null;
      this.#finder?.free();
      this.#finder = finderFor(regions, source, seed, tolerance);
      this.#known = known;
    }
    return { regions, finder: this.#finder };
  }

  #forgetLast(): void {
    if (this.#last) this.#regions?.release(this.#last.found.bits);
    this.#last = null;
  }

  free(): void {
    this.#source?.free();
    this.#regions?.free();
    this.#regions = this.#source = this.#finder = this.#last = null;
    this.#known = "";
  }
}

function smallPicture(regions: Regions, { bits, patch }: Found): RegionLook {
  const top = (patch[0]?.row ?? 0) * 64;
  const bottom = Math.min(regions.height, ((patch.at(-1)?.row ?? 0) + 1) * 64);
  const across = regions.width;
  const down = Math.max(1, bottom - top);
  const step = Math.max(1, Math.max(across, down) / LONGEST);
  const width = Math.max(1, Math.round(across / step));
  const height = Math.max(1, Math.round(down / step));
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const px = Math.min(across - 1, Math.floor(((x + 0.5) * across) / width));
      const py = Math.min(bottom - 1, top + Math.floor(((y + 0.5) * down) / height));
      if (regions.has(bits, px, py)) data[y * width + x] = 255;
    }
  return { box: { left: 0, top, right: across, bottom }, width, height, data, leak: null };
}
