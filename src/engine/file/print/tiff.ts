import { type Progress } from "../../compose/flatten";
import { type Engine } from "../../engine";
import { Refusal } from "../../picture/refusal";
import { type Picture } from "../../picture/picture";
import { Packer } from "../zlib";
import { greyProfile, srgbProfile } from "./profile";
import { bitsOf, channelsOf, hasAlpha, outSize, type Rendering, writeTones } from "./tones";

/** Compression level, as of PNG. */
const LEVEL = 4;
/** Rows packed together. */
const ROWS_A_STRIP = 64;
/** What a classic TIFF can address. */
const MOST_BYTES = 2 ** 32 - 1;

/** Tags of TIFF 6.0 and of its technical notes, in the order in which they must lie. */
const TAG = {
  subfile: 254,
  width: 256,
  height: 257,
  bits: 258,
  compression: 259,
  photometric: 262,
  offsets: 273,
  samples: 277,
  rows: 278,
  counts: 279,
  across: 282,
  down: 283,
  planar: 284,
  unit: 296,
  page: 297,
  predictor: 317,
  extra: 338,
  name: 285,
  profile: 34675,
} as const;
const ASCII = 2;
const SHORT = 3;
const LONG = 4;
const RATIONAL = 5;
const BYTES = 7;
const SIZES: Readonly<Record<number, number>> = { 2: 1, 3: 2, 4: 4, 5: 8, 7: 1 };

type Entry = { tag: number; type: number; values: ArrayLike<number> };

/** One page of a TIFF: a picture, and what it is called. */
export type TiffPage = { picture: Picture; name: string };

/** Differences to the sample before, so that it packs better (TIFF 6.0 §14); 16 bits: low byte first afterwards. */
function differences(row: Uint8Array, channels: number, bits: number, out: Uint8Array): Uint8Array {
  if (bits === 1) return row;
  if (bits === 8) {
    for (let i = row.length - 1; i >= channels; i--) out[i] = row[i]! - row[i - channels]!;
    out.set(row.subarray(0, channels));
    return out;
  }
  const at = (i: number): number => (row[i * 2]! << 8) | row[i * 2 + 1]!;
  for (let i = 0; i < row.length / 2; i++) {
    const v = i < channels ? at(i) : (at(i) - at(i - channels)) & 0xffff;
    out[i * 2] = v & 255;
    out[i * 2 + 1] = v >> 8;
  }
  return out;
}

/** Parts of a file, one after the other. */
class Parts {
  readonly all: Uint8Array[] = [];
  length = 0;

  add(bytes: Uint8Array): number {
    const at = this.length;
    // Words lie at even places.
    const odd = bytes.length % 2;
    this.all.push(bytes, new Uint8Array(odd));
    this.length += bytes.length + odd;
    if (this.length > MOST_BYTES)
      throw new Refusal("This TIFF would be larger than 4 GB. Choose eight bits, or fewer layers");
    return at;
  }
}

/** The strips of a page: where each begins, and its bytes. */
function writeStrips(
  parts: Parts,
  engine: Engine,
  { picture }: TiffPage,
  rendering: Rendering,
  progress?: Progress,
): { offsets: number[]; counts: number[] } {
  const { width, height } = outSize(picture, rendering);
  const [channels, bits] = [channelsOf(rendering), bitsOf(rendering)];
  const offsets: number[] = [];
  const counts: number[] = [];
  const stride = Math.ceil((width * channels * bits) / 8);
  const room = new Uint8Array(stride);
  let strip: Uint8Array[] = [];
  let pack: Packer | null = null;
  let y = 0;
  const row = (samples: Uint8Array): void => {
    pack ??= new Packer(LEVEL, (made) => strip.push(made));
    y++;
    const isLast = y % ROWS_A_STRIP === 0 || y === height;
    pack.push(differences(samples, channels, bits, room), isLast);
    if (!isLast) return;
    const bytes = strip.reduce((sum, part) => sum + part.length, 0);
    const whole = new Uint8Array(bytes);
    let at = 0;
    for (const part of strip) {
      whole.set(part, at);
      at += part.length;
    }
    offsets.push(parts.add(whole));
    counts.push(bytes);
    strip = [];
    pack = null;
  };
  writeTones(engine, picture, rendering, row, progress);
  return { offsets, counts };
}

/** A page's directory as bytes; what does not fit in it lies behind it. */
function directory(entries: readonly Entry[], at: number, next: number): Uint8Array {
  const sorted = [...entries].sort((a, b) => a.tag - b.tag);
  const head = 2 + sorted.length * 12 + 4;
  const far = sorted.map(({ type, values }) => {
    const bytes = values.length * SIZES[type]!;
    return bytes > 4 ? bytes + (bytes % 2) : 0;
  });
  const view = new DataView(new ArrayBuffer(head + far.reduce((sum, v) => sum + v, 0)));
  view.setUint16(0, sorted.length, true);
  let behind = head;
  sorted.forEach(({ tag, type, values }, i) => {
    const place = 2 + i * 12;
    view.setUint16(place, tag, true);
    view.setUint16(place + 2, type, true);
    view.setUint32(place + 4, type === RATIONAL ? values.length / 2 : values.length, true);
    const size = far[i]! > 0 ? behind : place + 8;
    if (far[i]! > 0) view.setUint32(place + 8, at + behind, true);
    for (let v = 0; v < values.length; v++) {
      if (type === SHORT) view.setUint16(size + v * 2, values[v]!, true);
      else if (type === LONG || type === RATIONAL) view.setUint32(size + v * 4, values[v]!, true);
      else view.setUint8(size + v, values[v]!);
    }
    behind += far[i]!;
  });
  view.setUint32(2 + sorted.length * 12, next, true);
  return new Uint8Array(view.buffer);
}

/**
 * Pages as a TIFF (6.0, deflate): eight bits, sixteen or one, with ppi and profile; each page has its name.
 * @throws Refusal where it would be larger than a TIFF can be
 */
export function writeTiff(
  engine: Engine,
  pages: readonly TiffPage[],
  rendering: Rendering,
  progress: Progress = () => undefined,
): Uint8Array {
  const parts = new Parts();
  const start = new DataView(new ArrayBuffer(8));
  start.setUint16(0, 0x4949);
  start.setUint16(2, 42, true);
  parts.add(new Uint8Array(start.buffer));
  const [channels, bits] = [channelsOf(rendering), bitsOf(rendering)];
  const isColour = rendering.tones === "colour";
  let link: { view: DataView; at: number } = { view: start, at: 4 };
  pages.forEach((page, i) => {
    const { picture, name } = page;
    const { width, height, ppi } = outSize(picture, rendering);
    const share = (part: number): void => progress((i + part) / pages.length);
    const { offsets, counts } = writeStrips(parts, engine, page, rendering, share);
    const perInch = [Math.round(ppi * 1000), 1000];
    const entries: Entry[] = [
      { tag: TAG.subfile, type: LONG, values: [pages.length > 1 ? 2 : 0] },
      { tag: TAG.width, type: LONG, values: [width] },
      { tag: TAG.height, type: LONG, values: [height] },
      { tag: TAG.bits, type: SHORT, values: new Array<number>(channels).fill(bits) },
      { tag: TAG.compression, type: SHORT, values: [8] },
      { tag: TAG.photometric, type: SHORT, values: [isColour ? 2 : 1] },
      { tag: TAG.offsets, type: LONG, values: offsets },
      { tag: TAG.samples, type: SHORT, values: [channels] },
      { tag: TAG.rows, type: LONG, values: [ROWS_A_STRIP] },
      { tag: TAG.counts, type: LONG, values: counts },
      { tag: TAG.across, type: RATIONAL, values: perInch },
      { tag: TAG.down, type: RATIONAL, values: perInch },
      { tag: TAG.planar, type: SHORT, values: [1] },
      { tag: TAG.name, type: ASCII, values: [...new TextEncoder().encode(name), 0] },
      { tag: TAG.unit, type: SHORT, values: [2] },
      { tag: TAG.page, type: SHORT, values: [i, pages.length] },
      ...(bits === 1 ? [] : [{ tag: TAG.predictor, type: SHORT, values: [2] }]),
      // Alpha that is not multiplied in.
      ...(hasAlpha(rendering) ? [{ tag: TAG.extra, type: SHORT, values: [2] }] : []),
      { tag: TAG.profile, type: BYTES, values: isColour ? srgbProfile() : greyProfile() },
    ];
    const at = parts.length;
    const bytes = directory(entries, at, 0);
    parts.add(bytes);
    link.view.setUint32(link.at, at, true);
    link = { view: new DataView(bytes.buffer), at: 2 + entries.length * 12 };
  });
  const out = new Uint8Array(parts.length);
  let at = 0;
  for (const part of parts.all) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
