import { convertIndexedToRgb, decode } from "fast-png";
import { refuseSize } from "../picture/size";
import { Refusal } from "../picture/refusal";
import { PngRows } from "./png-rows";
import { PackedRows } from "./print/packed-rows";
import { unpack } from "./zlib";

/** Told how far long work has come, 0…1; throws to stop it. */
type Progress = (share: number) => void;

/** Straight RGBA, eight bits a channel. */
export type Pixels = { width: number; height: number; data: Uint8Array };
/** Straight RGBA, at the depth that the file had: eight bits a channel or sixteen. */
export type DeepPixels = { width: number; height: number; data: Uint8Array | Uint16Array };

const SIGNATURE = [137, 80, 78, 71, 13, 10, 26, 10];
/** Chunks that the decoder is given; others (profiles, texts) are neither needed nor trusted. */
const KEPT = new Set(["IHDR", "PLTE", "tRNS", "IDAT", "IEND", "pHYs"]);
const CHANNELS: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
const METRES_AN_INCH = 0.0254;

type Chunk = { type: string; start: number; end: number };
export type PngHeader = {
  width: number;
  height: number;
  depth: number;
  colourType: number;
  interlaced: boolean;
};

/** @throws Refusal where a PNG's outline is broken */
function chunksOf(bytes: Uint8Array): Chunk[] {
  if (SIGNATURE.some((byte, i) => bytes[i] !== byte))
    throw new Refusal("this is not a PNG picture");
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: Chunk[] = [];
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    const end = at + 12 + length;
    if (end > bytes.length) throw new Refusal("this PNG picture is cut off");
    chunks.push({ type, start: at, end });
    if (type === "IEND") return chunks;
    at = end;
  }
  throw new Refusal("this PNG picture is cut off");
}

/** Size and kind of a PNG, checked against what a picture may be. */
export function readPngHeader(bytes: Uint8Array): PngHeader {
  const first = chunksOf(bytes)[0];
  if (first?.type !== "IHDR" || first.end - first.start !== 25)
    throw new Refusal("this PNG picture does not begin with its size");
  const view = new DataView(bytes.buffer, bytes.byteOffset + first.start + 8, 13);
  const width = view.getUint32(0);
  const height = view.getUint32(4);
  refuseSize(width, height);
  return {
    width,
    height,
    depth: view.getUint8(8),
    colourType: view.getUint8(9),
    interlaced: view.getUint8(12) === 1,
  };
}

/** Bytes that the picture data unpacks to; an interlaced picture has a few more, one a row of each pass. */
function expectedBytes({ width, height, depth, colourType }: PngHeader): number {
  const bits = (CHANNELS[colourType] ?? 4) * depth;
  return (Math.ceil((width * bits) / 8) + 1) * height;
}

/** The packed data of a PNG, chunk by chunk. */
const packedParts = (bytes: Uint8Array, chunks: readonly Chunk[]): Uint8Array[] =>
  chunks
    .filter(({ type }) => type === "IDAT")
    .map(({ start, end }) => bytes.subarray(start + 8, end - 4));

/** Unpacks the data without keeping it: a header that lies is found before it costs memory. */
function checkData(bytes: Uint8Array, chunks: readonly Chunk[], header: PngHeader): void {
  const expected = expectedBytes(header);
  const slack = header.interlaced ? 8 * header.height + 64 : 0;
  let seen = 0;
  unpack(packedParts(bytes, chunks), (made) => {
    seen += made.length;
    if (seen > expected + slack)
      throw new Refusal("this PNG picture holds more than its header says");
  });
  if (seen < expected) throw new Refusal("this PNG picture holds less than its header says");
}

/** Whether its rows are whole samples of eight or sixteen bits, one after the other. */
const isPlain = ({ depth, colourType, interlaced }: PngHeader): boolean =>
  !interlaced && (depth === 8 || depth === 16) && colourType !== 3;

/**
 * The pixels of a plain PNG, unpacked row by row into `out`: only one row is kept besides the pixels.
 * @param progress told now and then how far it has come; throws to stop
 */
function readPlain(
  bytes: Uint8Array,
  chunks: readonly Chunk[],
  header: PngHeader,
  progress: Progress,
  out: Uint8Array,
): void {
  const { width, height, depth, colourType } = header;
  const rows = new PngRows(width, CHANNELS[colourType] as number, depth === 16);
  const bare = transparentColour(bytes, chunks, header);
  if (bare) rows.setBare(bare);
  let kind = -1;
  let filled = 0;
  let y = 0;
  unpack(packedParts(bytes, chunks), (made) => {
    for (let at = 0; at < made.length;) {
      if (y === height) throw new Refusal("this PNG picture holds more than its header says");
      if (kind < 0) {
        kind = made[at++] as number;
        continue;
      }
      const count = Math.min(rows.bytes - filled, made.length - at);
      rows.row.set(made.subarray(at, at + count), filled);
      filled += count;
      at += count;
      if (filled < rows.bytes) return;
      const row = rows.read(kind);
      out.set(row, y++ * row.length);
      filled = 0;
      kind = -1;
      if (y % 64 === 0) progress(y / height);
    }
  });
  if (y < height) throw new Refusal("this PNG picture holds less than its header says");
}

/** The one colour of a PNG without alpha that stands for bare, R G B; null: none. */
function transparentColour(
  bytes: Uint8Array,
  chunks: readonly Chunk[],
  { colourType }: PngHeader,
): number[] | null {
  const found = chunks.find(({ type }) => type === "tRNS");
  if (!found || (colourType !== 0 && colourType !== 2)) return null;
  const count = colourType === 0 ? 1 : 3;
  if (found.end - found.start !== 12 + count * 2) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset + found.start + 8, count * 2);
  return [0, 1, 2].map((c) => view.getUint16(Math.min(c, count - 1) * 2));
}

/** A PNG without what is neither needed nor trusted, its pixels still packed. */
export const withoutExtras = (bytes: Uint8Array): Uint8Array => onlyKept(bytes, chunksOf(bytes));

/** Pixels an inch that a PNG asks for, within what a picture may have; 300 where it does not say. */
export function pngPpi(bytes: Uint8Array): number {
  const ppi = ppiOf(bytes, chunksOf(bytes)) ?? 300;
  return ppi >= 1 && ppi <= 9600 ? ppi : 300;
}

function onlyKept(bytes: Uint8Array, chunks: readonly Chunk[]): Uint8Array {
  const kept = chunks.filter(({ type }) => KEPT.has(type));
  const size = kept.reduce((sum, { start, end }) => sum + end - start, 8);
  const out = new Uint8Array(size);
  out.set(SIGNATURE);
  let at = 8;
  for (const { start, end } of kept) {
    out.set(bytes.subarray(start, end), at);
    at += end - start;
  }
  return out;
}

/**
 * A PNG's pixels, whatever its kind, as straight RGBA of eight bits.
 * @throws Refusal where it is broken, too large, or not what it says
 */
export function readPng(bytes: Uint8Array): Pixels & { ppi: number | null } {
  const image = readDeepPng(bytes);
  return { ...image, data: inEightBits(image.data) };
}

/** The same pixels at eight bits a channel, rounded to nearest. */
export const inEightBits = (data: DeepPixels["data"]): Uint8Array =>
  data instanceof Uint8Array ? data : Uint8Array.from(data, (v) => Math.round(v / 257));

/**
 * A PNG's pixels as straight RGBA, at sixteen bits where the file has them.
 * @param progress told how far it has come, 0…1; throws to stop
 * @param room where the pixels shall lie, asked once at most, by files that can be unpacked row by row
 * @throws Refusal where it is broken, too large, or not what it says
 */
export function readDeepPng(
  bytes: Uint8Array,
  progress: Progress = () => undefined,
  room = (count: number): Uint8Array => new Uint8Array(count),
): DeepPixels & { ppi: number | null } {
  const header = readPngHeader(bytes);
  const chunks = chunksOf(bytes);
  // Whoever stops the work says so in words of their own.
  let stopped: { by: unknown } | null = null;
  const watched = (share: number): void => {
    try {
      progress(share);
    } catch (error) {
      stopped = { by: error };
      throw error;
    }
  };
  try {
    if (isPlain(header)) {
      const { width, height } = header;
      const isDeep = header.depth === 16;
      const out = room(width * height * (isDeep ? 8 : 4));
      readPlain(bytes, chunks, header, watched, out);
      const data = isDeep ? new Uint16Array(out.buffer, out.byteOffset, out.length / 2) : out;
      return { width, height, data, ppi: ppiOf(bytes, chunks) };
    }
    checkData(bytes, chunks, header);
    const image = decode(onlyKept(bytes, chunks));
    const { resolution } = image;
    const ppi = resolution && resolution.unit === 1 ? resolution.x * METRES_AN_INCH : null;
    return { width: image.width, height: image.height, data: toRgba(image, header.depth), ppi };
  } catch (error) {
    if (stopped || error instanceof Refusal) throw error;
    throw new Refusal(
      `this PNG picture is broken (${error instanceof Error ? error.message : "unreadable"})`,
    );
  }
}

/** Pixels an inch that a PNG asks for; null where it does not say. */
function ppiOf(bytes: Uint8Array, chunks: readonly Chunk[]): number | null {
  const found = chunks.find(({ type }) => type === "pHYs");
  if (!found || found.end - found.start !== 21) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset + found.start + 8, 9);
  return view.getUint8(8) === 1 ? view.getUint32(0) * METRES_AN_INCH : null;
}

/** Samples of less than a byte, each row beginning with a new one, as bytes. */
function unpacked(
  data: ArrayLike<number>,
  across: number,
  rows: number,
  depth: number,
): Uint8Array {
  const stride = Math.ceil((across * depth) / 8);
  const out = new Uint8Array(across * rows);
  for (let y = 0, to = 0; y < rows; y++)
    for (let x = 0; x < across; x++) {
      const bit = x * depth;
      const byte = data[y * stride + (bit >> 3)] as number;
      out[to++] = (byte >> (8 - depth - (bit & 7))) & ((1 << depth) - 1);
    }
  return out;
}

/** @param depth bits a sample in the file: few are widened, so that the greatest is white */
function toRgba(image: ReturnType<typeof decode>, depth: number): DeepPixels["data"] {
  const pixels = image.width * image.height;
  const source = image.palette
    ? convertIndexedToRgb(image)
    : depth < 8
      ? unpacked(image.data, image.width * image.channels, image.height, depth)
      : image.data;
  const channels = image.palette ? source.length / pixels : image.channels;
  const isDeep = source instanceof Uint16Array;
  const most = isDeep ? 65535 : 255;
  const grey = channels < 3;
  const scale = !image.palette && depth < 8 ? 255 / (2 ** depth - 1) : 1;
  const out = isDeep ? new Uint16Array(pixels * 4) : new Uint8Array(pixels * 4);
  for (let i = 0, from = 0, to = 0; i < pixels; i++, from += channels, to += 4) {
    for (let c = 0; c < 3; c++)
      out[to + c] = Math.round((source[grey ? from : from + c] as number) * scale);
    const hasAlpha = channels === 2 || channels === 4;
    out[to + 3] = hasAlpha ? (source[from + channels - 1] as number) : most;
  }
  return out;
}

// ---- writing ----

const crcTable = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c >>> 0;
});

function crc(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const byte of bytes) c = (crcTable[(c ^ byte) & 255] as number) ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

function chunk(type: string, data: Uint8Array): Uint8Array {
  const out = new Uint8Array(data.length + 12);
  const view = new DataView(out.buffer);
  view.setUint32(0, data.length);
  for (let i = 0; i < 4; i++) out[4 + i] = type.charCodeAt(i);
  out.set(data, 8);
  view.setUint32(data.length + 8, crc(out.subarray(4, data.length + 8)));
  return out;
}

export type PngStart = {
  width: number;
  height: number;
  /** Bits a sample; one only of greys without alpha: black (0) and white. */
  depth: 1 | 8 | 16;
  /** Whether it has but one sample for colour. */
  grey?: boolean;
  alpha: boolean;
  ppi: number;
};

/**
 * Writes a PNG row by row, so that only its compressed form is ever whole in memory.
 * Colour is sRGB and says so; the size on paper is kept.
 */
export class PngWriter {
  #parts: Uint8Array[] = [];
  #rows: PackedRows;

  constructor(readonly start: PngStart) {
    const { width, height, depth, grey = false, alpha, ppi } = start;
    const channels = (grey ? 1 : 3) + (alpha ? 1 : 0);
    const head = new DataView(new ArrayBuffer(13));
    head.setUint32(0, width);
    head.setUint32(4, height);
    head.setUint8(8, depth);
    head.setUint8(9, (grey ? 0 : 2) + (alpha ? 4 : 0));
    const physical = new DataView(new ArrayBuffer(9));
    const perMetre = Math.round(ppi / METRES_AN_INCH);
    physical.setUint32(0, perMetre);
    physical.setUint32(4, perMetre);
    physical.setUint8(8, 1);
    this.#parts.push(
      Uint8Array.from(SIGNATURE),
      chunk("IHDR", new Uint8Array(head.buffer)),
      chunk("sRGB", Uint8Array.of(0)),
      chunk("pHYs", new Uint8Array(physical.buffer)),
    );
    const take = (data: Uint8Array): void => void this.#parts.push(chunk("IDAT", data));
    this.#rows = new PackedRows(width, height, channels, depth, take);
  }

  /** Adds the next row: samples as they lie in a PNG (16 bits: high byte first). */
  row(samples: Uint8Array): void {
    this.#rows.row(samples);
  }

  /** @throws RangeError where rows are missing */
  finish(): Uint8Array {
    this.#rows.refuseMissing();
    this.#parts.push(chunk("IEND", new Uint8Array(0)));
    const out = new Uint8Array(this.#parts.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of this.#parts) {
      out.set(part, at);
      at += part.length;
    }
    return out;
  }
}

/** A whole picture in memory as a PNG of its own depth. */
export function writePng({ width, height, data }: DeepPixels, ppi = 300): Uint8Array {
  const isDeep = data instanceof Uint16Array;
  const writer = new PngWriter({ width, height, depth: isDeep ? 16 : 8, alpha: true, ppi });
  const across = width * 4;
  const deepRow = new Uint8Array(isDeep ? across * 2 : 0);
  for (let y = 0; y < height; y++) {
    const row = data.subarray(y * across, (y + 1) * across);
    if (row instanceof Uint8Array) {
      writer.row(row);
      continue;
    }
    row.forEach((v, i) => {
      deepRow[i * 2] = v >> 8;
      deepRow[i * 2 + 1] = v & 255;
    });
    writer.row(deepRow);
  }
  return writer.finish();
}
