import { readPng } from "../file/png";
import { Refusal } from "../picture/refusal";
import { fromBase64 } from "../file/base64";
import { type Heap } from "../tiles/heap";
import { ONE } from "../tiles/layout";
import { madeTip } from "./made-tips";
import { MOST_TIP_SIDE, type TipPicture, tonesOf } from "./tip";
import { type TipTones } from "./tip-tones";

/** A tip's picture: straight RGBA, 8 bits a channel. */
export type TipPixels = { width: number; height: number; data: Uint8Array };

/** A tip with what an overtip leaves of it. */
export type JoinedTip = { key: string; tones: TipTones; make: () => TipPixels };

/** One size of a tip in shared memory; see `kernels/rows.ts` for how its corners lie. */
export type TipLevel = {
  address: number;
  width: number;
  height: number;
  columns: number;
  rows: number;
  planeBytes: number;
};

export type TipInMemory = { tones: TipTones; width: number; height: number; levels: TipLevel[] };

/** Smaller than this a tip is not halved any more, px. */
const LEAST_SIDE = 6;
const CORNERS_BYTES = 8;

type Planes = { width: number; height: number; planes: Float32Array[] };

/** Lightness of a pixel for tips in grey, 0…1 (Rec. 709 weights). */
const lightness = (r: number, g: number, b: number): number =>
  (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;

/** Premultiplied planes: coverage; and tone, or red, green and blue. */
function planesOf({ width, height, data }: TipPixels, tones: TipTones): Planes {
  const count = tones === "coverage" ? 1 : tones === "two tones" ? 2 : 4;
  const planes = Array.from({ length: count }, () => new Float32Array(width * height));
  for (let i = 0; i < width * height; i++) {
    const [r, g, b, a] = [0, 1, 2, 3].map((c) => data[i * 4 + c] as number) as [
      number,
      number,
      number,
      number,
    ];
    const alpha = a / 255;
    const light = lightness(r, g, b);
    const values =
      tones === "coverage"
        ? [alpha * (1 - light)]
        : tones === "two tones"
          ? [alpha, alpha * light]
          : [alpha, (alpha * r) / 255, (alpha * g) / 255, (alpha * b) / 255];
    values.forEach((value, p) => {
      (planes[p] as Float32Array)[i] = value;
    });
  }
  return { width, height, planes };
}

/** Half the size: means of two by two; an odd last row or column counts once. */
function halved({ width, height, planes }: Planes): Planes {
  const w = Math.max(1, width >> 1);
  const h = Math.max(1, height >> 1);
  const small = planes.map((plane) => {
    const out = new Float32Array(w * h);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const at = (i: number, j: number): number =>
          plane[Math.min(height - 1, 2 * y + j) * width + Math.min(width - 1, 2 * x + i)] as number;
        out[y * w + x] = (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4;
      }
    return out;
  });
  return { width: w, height: h, planes: small };
}

/** Keeps tips in shared memory, each in all its sizes, from when they are first used. */
export class TipShelf {
  #kept = new Map<string, TipInMemory>();

  constructor(readonly heap: Heap) {}

  /** @throws Refusal where the picture cannot be read or is too large */
  get(picture: TipPicture): TipInMemory {
    const key = "made" in picture ? `made ${picture.made}` : `${picture.tones} ${picture.png}`;
    const known = this.#kept.get(key);
    if (known) return known;
    const tip = this.#bringIn(tipPixels(picture), tonesOf(picture));
    this.#kept.set(key, tip);
    return tip;
  }

  /** A tip that is made of others, under a name of its own. @throws Refusal where one of them cannot be read */
  joined({ key, tones, make }: JoinedTip): TipInMemory {
    const known = this.#kept.get(key);
    if (known) return known;
    const tip = this.#bringIn(make(), tones);
    this.#kept.set(key, tip);
    return tip;
  }

  #bringIn(pixels: TipPixels, tones: TipTones): TipInMemory {
    let planes = planesOf(pixels, tones);
    const levels = [this.#write(planes)];
    while (Math.min(planes.width, planes.height) >= 2 * LEAST_SIDE) {
      planes = halved(planes);
      levels.push(this.#write(planes));
    }
    return { tones, width: pixels.width, height: pixels.height, levels };
  }

  /** Writes the corners around every place between texels; outside there is nothing. */
  #write({ width, height, planes }: Planes): TipLevel {
    const columns = width + 1;
    const rows = height + 1;
    const planeBytes = columns * rows * CORNERS_BYTES;
    const address = this.heap.allocate(planeBytes * planes.length);
    const { u16 } = this.heap;
    planes.forEach((plane, p) => {
      const texel = (x: number, y: number): number =>
        x < 0 || y < 0 || x >= width || y >= height
          ? 0
          : Math.round((plane[y * width + x] as number) * ONE);
      let at = (address + p * planeBytes) >> 1;
      for (let y = 0; y < rows; y++)
        for (let x = 0; x < columns; x++) {
          u16[at++] = texel(x - 1, y - 1);
          u16[at++] = texel(x, y - 1);
          u16[at++] = texel(x - 1, y);
          u16[at++] = texel(x, y);
        }
    });
    return { address, width, height, columns, rows, planeBytes };
  }
}

/** A tip's pixels, read from its PNG or made. @throws Refusal */
export function tipPixels(picture: TipPicture): TipPixels {
  if ("made" in picture) return madeTip(picture.made);
  const image = readPng(fromBase64(picture.png));
  const { width, height } = image;
  if (Math.max(width, height) > MOST_TIP_SIDE)
    throw new Refusal(
      `a tip's picture has at most ${MOST_TIP_SIDE} px a side; this one is ${width} × ${height}`,
    );
  return image;
}

/** The size of a tip whose texels are nearest to (and not much smaller than) a pixel. */
export function levelFor({ levels }: TipInMemory, texels: number): TipLevel {
  const level = Math.max(0, Math.ceil(Math.log2(texels / 1.45)));
  return levels[Math.min(levels.length - 1, level)] as TipLevel;
}
