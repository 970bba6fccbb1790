import { isEverywhere } from "../engine/compose/tree";
import { pullOf } from "../engine/crit/eye";
import { type Hole, holesIn } from "../engine/crit/holes";
import { type Engine } from "../engine/engine";
import { Compositor } from "../engine/compose/compositor";
import { type Picture } from "../engine/picture/picture";
import { Refusal } from "../engine/picture/refusal";
import { Regions } from "../engine/region/regions";
import { pixelOffset, tilesIn } from "../engine/tiles/layout";
import { TAPE } from "../engine/tiles/tape";

/** How strongly each part of a small picture pulls the eye, 0…1. */
export type Eyes = { width: number; height: number; pull: Float32Array<ArrayBuffer> };
export type Holes = { holes: Hole[] };

/** Longest side of the picture that is looked at, px. */
const LONGEST = 256;
/** From this alpha on a pixel counts as painted. */
const PAINTED = 26000;

const whole = ({ width, height }: Picture): number[] =>
  tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);

export function eyePull({ store }: Engine, picture: Picture, compositor: Compositor): Eyes {
  const step = Math.max(1, Math.max(picture.width, picture.height) / LONGEST);
  const width = Math.max(1, Math.floor(picture.width / step));
  const height = Math.max(1, Math.floor(picture.height / step));
  const rgba = new Uint8ClampedArray(width * height * 4);
  compositor.compose(whole(picture), (key, address) => {
    // The heap may have grown since the last batch.
    const { u16 } = store.heap;
    const [left, top] = [(key & 255) * 64, (key >> 8) * 64];
    const first = (from: number): number => Math.ceil(from / step - 0.5);
    for (let j = first(top); (j + 0.5) * step < top + 64 && j < height; j++)
      for (let i = first(left); (i + 0.5) * step < left + 64 && i < width; i++) {
        const x = Math.floor((i + 0.5) * step) - left;
        const y = Math.floor((j + 0.5) * step) - top;
        if (x < 0 || y < 0 || x > 63 || y > 63) continue;
        const at = (address + pixelOffset(x, y, 0)) >> 1;
        for (let c = 0; c < 3; c++)
          rgba[(j * width + i) * 4 + c] = ((u16[at + c * 8] as number) * 255) / 32767;
      }
  });
  return { width, height, pull: new Float32Array(pullOf(rgba, width, height)) };
}

/** Bare places inside of all that is painted, without the ground. */
export function holesOf(engine: Engine, picture: Picture): Holes {
  if (isEverywhere(picture.structure.layers.filter(({ kind }) => kind === "fill")))
    throw new Refusal("A fill covers all of the sheet: nothing can be bare. Hide it to look.");
  const { bench, store, workforce } = engine;
  const regions = new Regions(bench, picture.width, picture.height);
  const compositor = new Compositor(picture, store, workforce, false);
  try {
    const painted = regions.make();
    const bare = regions.make();
    compositor.through(whole(picture), (key, address) =>
      workforce.write(
        TAPE.alphaBits,
        regions.at(painted, key & 255, key >> 8),
        regions.stride,
        address,
        PAINTED,
      ),
    );
    regions.trim(painted);
    regions.not(bare, painted);
    return { holes: holesIn(regions, bare) };
  } finally {
    compositor.free();
    regions.free();
  }
}
