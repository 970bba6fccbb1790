import { linearToOklab, type Rgb } from "../colour/oklch";
import { Compositor } from "../compose/compositor";
import { isEverywhere } from "../compose/tree";
import { type Layer, Picture, type Plane } from "../picture/picture";
import { Refusal } from "../picture/refusal";
import { ONE, pixelOffset, tileKey } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { type Q15Colour } from "../tiles/tile-store";
import { hexToQ15 } from "../colour/srgb";
import { type Bits, type Regions } from "./regions";

/** Where a fill or a selection looks for borders. */
export const borders = ["layer", "lines", "all"] as const;
export type Borders = (typeof borders)[number];

/** Bytes of what the kernel is told of the seed: seven floats, four whole numbers. */
const SEED_BYTES = 64;

/** What borders are looked for in: pixels by tile, whatever they are composited of. */
export type Source = {
  /** What a pixel looks like, premultiplied Q15. */
  colourAt(x: number, y: number): Q15Colour;
  /** Tiles whose pixels must be looked at one by one. */
  isPainted(key: number): boolean;
  /** The one colour of a tile that need not. */
  plain(key: number): Q15Colour;
  /** Hands the pixels of painted tiles on: `write` adds instructions for a tile at an address. */
  each(keys: readonly number[], write: (key: number, address: number) => void): void;
  free(): void;
};

/**
 * What borders are read from: one layer, the line source, or all that is seen.
 * @throws Refusal where no layer is named as line source
 */
export function sourceOf(regions: Regions, picture: Picture, from: Borders, layer: string): Source {
  if (from === "layer") return planeSource(regions, picture.plane(layer));
  const { structure } = picture;
  if (from === "all") return stackSource(regions, picture, structure.layers, true);
  const lines = structure.layers.filter((one) => one.lines);
  if (lines.length === 0)
    throw new Refusal(
      "No layer is named as line source. Name one: “Line source” in the list of layers",
    );
  const plainLines = lines.map((line): Layer => ({
    ...line,
    visible: true,
    opacity: 1,
    blend: "normal",
    clip: false,
    tint: null,
    group: null,
    mask: null,
    contour: null,
    fringe: null,
    halftone: null,
  }));
  const [only] = plainLines;
  if (only && plainLines.length === 1) return planeSource(regions, picture.plane(only.id));
  return stackSource(regions, picture, plainLines, false);
}

const TRANSPARENT: Q15Colour = [0, 0, 0, 0];

function planeSource({ bench }: Regions, plane: Plane): Source {
  const { store, workforce } = bench;
  return {
    colourAt: (x, y) => {
      const tile = plane.get(tileKey(x >> 6, y >> 6));
      if (!tile) return TRANSPARENT;
      return tile.colour ?? pixelAt(store.heap.u16, store.address(tile), x, y);
    },
    isPainted: (key) => {
      const tile = plane.get(key);
      return tile !== undefined && tile.colour === null;
    },
    plain: (key) => plane.get(key)?.colour ?? TRANSPARENT,
    each: (keys, write) => {
      for (const key of keys) {
        const tile = plane.get(key);
        if (!tile) continue;
        if (workforce.isFull) workforce.run(true);
        workforce.beginJob();
        write(key, store.address(tile));
        workforce.endJob();
      }
      workforce.run(true);
      store.trim();
    },
    free: () => undefined,
  };
}

function stackSource(
  { bench }: Regions,
  picture: Picture,
  layers: readonly Layer[],
  withGround: boolean,
): Source {
  const { store, workforce } = bench;
  const stack = new Picture(picture.header);
  stack.structure = { ...picture.structure, layers };
  for (const [id, planes] of picture.planes) stack.planes.set(id, planes);
  const compositor = new Compositor(stack, store, workforce, withGround);
  // The dots of a halftone are no borders: its greys are read.
  compositor.setScale(0);
  const shown = layers.filter(({ visible }) => visible);
  const ground: Q15Colour = withGround ? hexToQ15(picture.structure.ground) : TRANSPARENT;
  const everywhere = isEverywhere(shown);
  const isPainted = (key: number): boolean =>
    everywhere || shown.some(({ id }) => stack.plane(id).has(key));
  return {
    colourAt: (x, y) => {
      const key = tileKey(x >> 6, y >> 6);
      if (!isPainted(key)) return ground;
      let seen: Q15Colour = TRANSPARENT;
      compositor.compose([key], (_key, address) => {
        seen = pixelAt(store.heap.u16, address, x, y);
      });
      return seen;
    },
    isPainted,
    plain: () => ground,
    each: (keys, write) => {
      compositor.through(keys, write);
      compositor.forgetAll();
    },
    free: () => compositor.free(),
  };
}

function pixelAt(u16: Uint16Array, address: number, x: number, y: number): Q15Colour {
  const at = (address + pixelOffset(x & 63, y & 63, 0)) >> 1;
  return [u16[at] ?? 0, u16[at + 8] ?? 0, u16[at + 16] ?? 0, u16[at + 24] ?? 0];
}

/** sRGB to linear light as the kernel has it: a cubic that stays within 0.006. */
const nearlyLinear = (c: number): number => c * (c * (c * 0.305306011 + 0.682171111) + 0.012522878);

/** OKLab of a premultiplied colour over white, and over black. */
function overBoth([r, g, b, a]: Q15Colour): [number[], number[]] {
  const white = ONE - a;
  const lab = (...rgb: Rgb): number[] =>
    linearToOklab(rgb.map((v) => nearlyLinear(v / ONE)) as Rgb);
  return [lab(r + white, g + white, b + white), lab(r, g, b)];
}

/** How far apart two premultiplied colours look at most, over white or over black (ΔE in OKLab). */
export function colourDistance(one: Q15Colour, other: Q15Colour): number {
  const [white, black] = overBoth(one);
  const [otherWhite, otherBlack] = overBoth(other);
  const apart = (p: number[], q: number[]): number =>
    Math.hypot(...p.map((v, i) => v - (q[i] as number)));
  return Math.max(apart(white, otherWhite), apart(black, otherBlack));
}

/**
 * The pixels that look like a seed's colour to within a distance (ΔE in OKLab, 0…1), whether
 * on white or on black: everything that is no border. Painted tiles are looked at when they
 * are asked for: a small region on a large page reads little of it.
 */
export class Open {
  readonly bits: Bits;
  #unknown = new Set<number>();
  #told: number;

  constructor(
    readonly regions: Regions,
    readonly source: Source,
    seed: Q15Colour,
    tolerance: number,
  ) {
    this.bits = regions.make();
    this.#told = regions.room(SEED_BYTES);
    const { heap } = regions.bench.store;
    heap.f32.set([...overBoth(seed).flat(), tolerance * tolerance], this.#told >> 2);
    heap.i32.set(seed, (this.#told >> 2) + 7);
    const known = new Map<string, boolean>();
    for (let row = 0; row < regions.tileRows; row++)
      for (let column = 0; column < regions.words; column++) {
        const key = tileKey(column, row);
        if (source.isPainted(key)) {
          this.#unknown.add(key);
          continue;
        }
        const colour = source.plain(key);
        const name = colour.join(" ");
        let isNear = known.get(name);
        if (isNear === undefined)
          known.set(name, (isNear = colourDistance(seed, colour) <= tolerance));
        if (isNear) regions.fillTile(this.bits, column, row, true);
      }
    regions.trim(this.bits);
  }

  /** Looks at tiles (row · words + column). Returns those that had not been looked at. */
  know(tiles: Iterable<number>): number[] {
    const { words } = this.regions;
    const fresh: number[] = [];
    const keys: number[] = [];
    for (const tile of tiles) {
      const key = tileKey(tile % words, Math.floor(tile / words));
      if (!this.#unknown.delete(key)) continue;
      fresh.push(tile);
      keys.push(key);
    }
    this.#look(keys);
    return fresh;
  }

  knowAll(): void {
    const keys = [...this.#unknown];
    this.#unknown.clear();
    this.#look(keys);
  }

  #look(keys: readonly number[]): void {
    if (keys.length === 0) return;
    const { regions } = this;
    this.source.each(keys, (key, address) =>
      regions.bench.workforce.write(
        TAPE.nearBits,
        regions.at(this.bits, key & 255, key >> 8),
        regions.stride,
        address,
        this.#told,
      ),
    );
    regions.trim(this.bits);
  }

  free(): void {
    this.regions.release(this.bits);
    this.regions.release(this.#told);
  }
}

/** All pixels of the sheet that look like a seed's colour. They are freed with the others. */
export function openBits(
  regions: Regions,
  source: Source,
  seed: Q15Colour,
  tolerance: number,
): Bits {
  const open = new Open(regions, source, seed, tolerance);
  open.knowAll();
  return open.bits;
}
