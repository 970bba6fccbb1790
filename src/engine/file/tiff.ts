import UTIF from "utif2";
import { MOST_PIXELS, refuseSize } from "../picture/size";
import { Refusal } from "../picture/refusal";
import { type DeepPixels } from "./png";

/**
 * TIFF 6.0: pages of 8 or 16 bits a channel, kept at that depth where they are grey or RGB.
 * Others are read at eight. Compressions are those of the
 * decoder (none, LZW, deflate, PackBits, JPEG, fax).
 */
export const MOST_PAGES = 200;
/** Longest side of one tile or strip, px. */
const MOST_PART = 65_535;
const CENTIMETRES_AN_INCH = 2.54;
const TAG = { width: "t256", height: "t257", name: "t285", perUnit: "t282", unit: "t296" } as const;
const PER_CENTIMETRE = 3;
const LAYOUT = { bits: "t258", meaning: "t262", samples: "t277", plan: "t284", extra: "t338" };
/** Photometric interpretations that are read at sixteen bits. */
const WHITE_IS_ZERO = 0;
const GREY = 1;
const RGB = 2;
/** An extra sample that colours are premultiplied by. */
const ASSOCIATED = 1;
const MOST = 65535;

export type TiffPage = DeepPixels & { name: string | null; ppi: number | null };

/** Offsets of the pages, each once: a file may name a page that it has named before, for ever. */
function pageOffsets(bytes: Uint8Array): number[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const order = view.getUint16(0);
  const little = order === 0x4949;
  if ((!little && order !== 0x4d4d) || view.getUint16(2, little) !== 42)
    throw new Refusal("this is not a TIFF picture that Pampas reads");
  const offsets: number[] = [];
  for (let at = view.getUint32(4, little); at !== 0;) {
    if (offsets.includes(at)) throw new Refusal("the pages of this TIFF go round in a circle");
    if (at + 2 > bytes.length) throw new Refusal("this TIFF picture is cut off");
    offsets.push(at);
    if (offsets.length > MOST_PAGES)
      throw new Refusal(`a TIFF may have at most ${MOST_PAGES} pages`);
    const next = at + 2 + view.getUint16(at, little) * 12;
    if (next + 4 > bytes.length) throw new Refusal("this TIFF picture is cut off");
    at = view.getUint32(next, little);
  }
  if (offsets.length === 0) throw new Refusal("there is no page in this TIFF picture");
  return offsets;
}

/** Bytes of one value of each TIFF type, 1 to 13; 0: there is no such type. */
const TYPE_BYTES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4];
/** Tags of a page, and values of a tag, at most: more are no picture's. */
const MOST_TAGS = 1024;
const MOST_VALUES = 4_000_000;
const NUMBER = {
  width: 256,
  height: 257,
  stripOffsets: 273,
  samples: 277,
  rowsPerStrip: 278,
  stripBytes: 279,
  tileWidth: 322,
  tileHeight: 323,
  tileOffsets: 324,
  tileBytes: 325,
};
const MOST_SAMPLES = 64;

/** Numbers of a page's tags, as far as they must be looked at before the page is decoded. */
type Directory = Map<number, { count: number; at: number; bytes: number }>;

/**
 * Checks a page's tags against the file: whatever the decoder would follow or allocate by.
 * @throws Refusal where a tag points out of the file, or sizes make no sense
 */
function checkDirectory(bytes: Uint8Array, at: number): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = view.getUint16(0) === 0x4949;
  const tags: Directory = new Map();
  const count = view.getUint16(at, little);
  if (count > MOST_TAGS) throw new Refusal(`a page of this TIFF has ${count} tags`);
  for (let i = 0; i < count; i++) {
    const entry = at + 2 + i * 12;
    const size = TYPE_BYTES[view.getUint16(entry + 2, little)] ?? 0;
    const values = view.getUint32(entry + 4, little);
    if (size === 0 || values > MOST_VALUES) throw new Refusal("a tag of this TIFF is broken");
    const inside = size * values <= 4;
    const start = inside ? entry + 8 : view.getUint32(entry + 8, little);
    if (start + size * values > bytes.length) throw new Refusal("this TIFF picture is cut off");
    tags.set(view.getUint16(entry, little), { count: values, at: start, bytes: size });
  }
  const all = (tag: number): number[] => {
    const found = tags.get(tag);
    if (!found) return [];
    const read = (i: number): number => {
      const from = found.at + i * found.bytes;
      if (found.bytes === 2) return view.getUint16(from, little);
      return found.bytes === 1 ? view.getUint8(from) : view.getUint32(from, little);
    };
    return Array.from({ length: found.count }, (_, i) => read(i));
  };
  checkLayout(all, bytes.length);
}

function checkLayout(all: (tag: number) => number[], fileBytes: number): void {
  const one = (tag: number, fallback: number): number => all(tag)[0] ?? fallback;
  const width = one(NUMBER.width, 0);
  const height = one(NUMBER.height, 0);
  refuseSize(width, height);
  const samples = one(NUMBER.samples, 1);
  if (samples < 1 || samples > MOST_SAMPLES)
    throw new Refusal(`a page of this TIFF has ${samples} samples a pixel`);
  const isTiled = all(NUMBER.tileOffsets).length > 0 || all(NUMBER.tileWidth).length > 0;
  const [across, down] = isTiled
    ? [one(NUMBER.tileWidth, 0), one(NUMBER.tileHeight, 0)]
    : [width, Math.min(height, one(NUMBER.rowsPerStrip, height))];
  if (across < 1 || down < 1 || across > MOST_PART || down > MOST_PART)
    throw new Refusal("the parts of a page of this TIFF have no size");
  const wanted = Math.ceil(width / across) * Math.ceil(height / down);
  const offsets = all(isTiled ? NUMBER.tileOffsets : NUMBER.stripOffsets);
  const lengths = all(isTiled ? NUMBER.tileBytes : NUMBER.stripBytes);
  // Planes may lie apart, sample by sample.
  if (offsets.length < wanted || offsets.length > wanted * samples)
    throw new Refusal("this TIFF picture does not hold all of its parts");
  offsets.forEach((offset, i) => {
    if (offset + (lengths[i] ?? 0) > fileBytes) throw new Refusal("this TIFF picture is cut off");
  });
}

/** The first of a tag's values: they come as arrays of several kinds. */
const first = (value: unknown): unknown =>
  typeof value === "object" && value !== null && "0" in value ? value[0] : value;

/** A whole number, or a rational (a pair of them). */
const numberOf = (value: unknown): number | null => {
  const raw = first(value);
  const one = Array.isArray(raw) ? Number(raw[0]) / Number(raw[1]) : raw;
  return typeof one === "number" && Number.isFinite(one) && one > 0 ? one : null;
};

function ppiOf(page: Record<string, unknown>): number | null {
  const perUnit = numberOf(page[TAG.perUnit]);
  if (perUnit === null) return null;
  const ppi = numberOf(page[TAG.unit]) === PER_CENTIMETRE ? perUnit * CENTIMETRES_AN_INCH : perUnit;
  return ppi >= 1 && ppi <= 9600 ? ppi : null;
}

function nameOf(page: Record<string, unknown>): string | null {
  const name = first(page[TAG.name]);
  const plain = typeof name === "string" ? name.replaceAll("\0", "").trim() : "";
  return plain ? plain.slice(0, 120) : null;
}

/**
 * All pages of a TIFF, first page first. Sizes are checked before anything is decoded.
 * @throws Refusal that says what was wrong
 */
export function readTiff(bytes: Uint8Array): TiffPage[] {
  if (bytes.length < 8) throw new Refusal("this TIFF picture is cut off");
  for (const at of pageOffsets(bytes)) checkDirectory(bytes, at);
  const buffer = bytes.slice().buffer;
  const pages = guarded(() => UTIF.decode(buffer)) as unknown as Record<string, unknown>[];
  let total = 0;
  for (const page of pages) {
    const width = numberOf(page[TAG.width]) ?? 0;
    const height = numberOf(page[TAG.height]) ?? 0;
    refuseSize(width, height);
    total += width * height;
    if (total > MOST_PIXELS)
      throw new Refusal(`all pages of a TIFF may have ${MOST_PIXELS / 1e6} million px together`);
  }
  return pages.map((page) => {
    const ifd = page as unknown as Parameters<typeof UTIF.decodeImage>[1];
    const data = guarded(() => {
      UTIF.decodeImage(buffer, ifd);
      return sixteenBits(page, (ifd as { data?: Uint8Array }).data) ?? eightBits(ifd);
    });
    const width = numberOf(page[TAG.width]) as number;
    const height = numberOf(page[TAG.height]) as number;
    if (data.length !== width * height * 4) throw new Refusal("this TIFF picture is broken");
    return { width, height, data, name: nameOf(page), ppi: ppiOf(page) };
  });
}

const eightBits = (ifd: Parameters<typeof UTIF.toRGBA8>[0]): Uint8Array =>
  new Uint8Array(UTIF.toRGBA8(ifd));

/** A page of sixteen bits a channel as straight RGBA; null: it is laid out otherwise. */
function sixteenBits(
  page: Record<string, unknown>,
  bytes: Uint8Array | undefined,
): Uint16Array | null {
  const value = (tag: string): unknown => first(page[tag]);
  const meaning = value(LAYOUT.meaning);
  const isGrey = meaning === GREY || meaning === WHITE_IS_ZERO;
  const isChunky = (value(LAYOUT.plan) ?? 1) === 1;
  if (!bytes || value(LAYOUT.bits) !== 16 || !isChunky || !(isGrey || meaning === RGB)) return null;
  const colours = isGrey ? 1 : 3;
  const channels = (value(LAYOUT.samples) as number | undefined) ?? colours;
  const pixels = bytes.length / (channels * 2);
  if (channels < colours || !Number.isInteger(pixels)) return null;
  const out = new Uint16Array(pixels * 4);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  // The decoder leaves samples with the low byte first.
  const sample = (at: number): number => view.getUint16(at * 2, true);
  const isPremultiplied = value(LAYOUT.extra) === ASSOCIATED;
  for (let i = 0, from = 0, to = 0; i < pixels; i++, from += channels, to += 4) {
    const alpha = channels > colours ? sample(from + colours) : MOST;
    for (let c = 0; c < 3; c++) {
      const own = sample(isGrey ? from : from + c);
      const v = meaning === WHITE_IS_ZERO ? MOST - own : own;
      out[to + c] =
        isPremultiplied && alpha > 0 ? Math.min(MOST, Math.round((v * MOST) / alpha)) : v;
    }
    out[to + 3] = alpha;
  }
  return out;
}

function guarded<T>(read: () => T): T {
  try {
    return read();
  } catch {
    throw new Refusal("this TIFF picture is broken, or compressed in a way that is not read");
  }
}
