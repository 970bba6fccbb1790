import { toBase64 } from "../file/base64";
import { type Pixels, writePng } from "../file/png";
import { Refusal } from "../picture/refusal";
import { PICTURE_SIDE } from "./paper";

/** Smallest side of a picture that a paper can be made from, px. */
const LEAST_SIDE = 64;
/** Unevenness broader than this is light on the sheet and not its tooth, px. */
const BROAD = 48;
/** How far in from its edges a sheet is mixed with its own middle, so that it repeats without a seam. */
const BAND = 96;
const HALF = PICTURE_SIDE / 2;
const CELLS = PICTURE_SIDE * PICTURE_SIDE;
const wrap = (v: number): number => (v + PICTURE_SIDE) & (PICTURE_SIDE - 1);

/**
 * A paper from a picture of one: its middle square, lighter places higher, the light on it
 * evened out, made to repeat without a seam. Answers what `paper.picture` holds.
 * @throws Refusal where the picture is too small, or shows nothing
 */
export function paperFrom(pixels: Pixels): string {
  const side = Math.min(pixels.width, pixels.height);
  if (side < LEAST_SIDE)
    throw new Refusal(`a paper needs a picture of at least ${LEAST_SIDE} × ${LEAST_SIDE} px`);
  const field = evened(squared(pixels, side));
  const seamless = mixedDown(mixedAcross(field));
  return toBase64(writePng(asPixels(seamless)));
}

/** The middle square as lightness, each cell the mean of the pixels that fall in it. */
function squared({ width, height, data }: Pixels, side: number): Float32Array {
  const left = Math.floor((width - side) / 2);
  const top = Math.floor((height - side) / 2);
  const field = new Float32Array(CELLS);
  const step = side / PICTURE_SIDE;
  for (let y = 0; y < PICTURE_SIDE; y++)
    for (let x = 0; x < PICTURE_SIDE; x++) {
      const x0 = Math.floor(x * step);
      const y0 = Math.floor(y * step);
      const x1 = Math.max(x0 + 1, Math.floor((x + 1) * step));
      const y1 = Math.max(y0 + 1, Math.floor((y + 1) * step));
      let sum = 0;
      for (let py = y0; py < y1; py++)
        for (let px = x0; px < x1; px++) {
          const at = ((top + py) * width + left + px) * 4;
          sum +=
            0.2126 * (data[at] as number) +
            0.7152 * (data[at + 1] as number) +
            0.0722 * (data[at + 2] as number);
        }
      field[y * PICTURE_SIDE + x] = sum / ((x1 - x0) * (y1 - y0));
    }
  return field;
}

/** Without what is broader than tooth. Its mean is 0. */
function evened(field: Float32Array): Float32Array {
  let broad = field;
  for (let pass = 0; pass < 2; pass++) {
    broad = meaned(broad, 1, PICTURE_SIDE);
    broad = meaned(broad, PICTURE_SIDE, 1);
  }
  const out = field.map((v, i) => v - (broad[i] as number));
  if (out.every((v) => Math.abs(v) < 0.01)) throw new Refusal("this picture shows no tooth");
  return out;
}

/** Running means along `step`, held at the ends of lines. */
function meaned(field: Float32Array, step: number, line: number): Float32Array {
  const out = new Float32Array(CELLS);
  const at = (start: number, i: number): number =>
    field[start + Math.min(PICTURE_SIDE - 1, Math.max(0, i)) * step] as number;
  for (let l = 0; l < PICTURE_SIDE; l++) {
    const start = l * line;
    let sum = 0;
    for (let i = -BROAD; i <= BROAD; i++) sum += at(start, i);
    for (let i = 0; i < PICTURE_SIDE; i++) {
      out[start + i * step] = sum / (2 * BROAD + 1);
      sum += at(start, i + BROAD + 1) - at(start, i - BROAD);
    }
  }
  return out;
}

/** Toward its edges a line goes over into itself moved by half: there it repeats. The roughness stays. */
const mixed = (own: number, moved: number, i: number): number => {
  const edge = Math.min(i, PICTURE_SIDE - 1 - i);
  const t = Math.min(1, edge / BAND);
  const weight = t * t * (3 - 2 * t);
  return (own * weight + moved * (1 - weight)) / Math.hypot(weight, 1 - weight);
};

const mixedAcross = (field: Float32Array): Float32Array =>
  field.map((v, i) => {
    const x = i & (PICTURE_SIDE - 1);
    return mixed(v, field[i - x + wrap(x + HALF)] as number, x);
  });

const mixedDown = (field: Float32Array): Float32Array =>
  field.map((v, i) => {
    const x = i & (PICTURE_SIDE - 1);
    const y = i >> 9;
    return mixed(v, field[wrap(y + HALF) * PICTURE_SIDE + x] as number, y);
  });

/** Heights as greys: four times their spread about the middle. */
function asPixels(field: Float32Array): Pixels {
  let square = 0;
  for (let i = 0; i < CELLS; i++) square += (field[i] as number) ** 2;
  const spread = Math.sqrt(square / CELLS);
  const data = new Uint8Array(CELLS * 4);
  for (let i = 0; i < CELLS; i++) {
    const grey = Math.min(255, Math.max(0, 128 + ((field[i] as number) / spread) * 48));
    data.fill(grey, i * 4, i * 4 + 3);
    data[i * 4 + 3] = 255;
  }
  return { width: PICTURE_SIDE, height: PICTURE_SIDE, data };
}
