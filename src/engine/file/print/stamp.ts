import { Refusal } from "../../picture/refusal";
import { srgbProfile } from "./profile";

/** Says in a browser's JPEG or WebP how large it is on paper, and that its colours are sRGB. */

const ascii = (text: string): number[] => [...text].map((sign) => sign.charCodeAt(0));

function joined(parts: readonly ArrayLike<number>[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** JFIF's own segment (APP0), with px an inch. */
const jfif = (ppi: number): number[] => [
  ...[0xff, 0xe0, 0, 16, ...ascii("JFIF"), 0, 1, 2, 1],
  ...[ppi >> 8, ppi & 255, ppi >> 8, ppi & 255, 0, 0],
];

/** A segment (APP2) with a profile, as the ICC has it. */
function profileSegment(profile: Uint8Array): ArrayLike<number> {
  const body = [...ascii("ICC_PROFILE"), 0, 1, 1, ...profile];
  return [0xff, 0xe2, (body.length + 2) >> 8, (body.length + 2) & 255, ...body];
}

/** A JPEG with ppi and profile; those that it had give way. @throws Refusal where it is none */
export function stampJpeg(bytes: Uint8Array, ppi: number): Uint8Array<ArrayBuffer> {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) throw new Refusal("this is not a JPEG picture");
  let at = 2;
  const kept: Uint8Array[] = [];
  while (bytes[at] === 0xff && bytes[at + 1] !== 0xda) {
    const length = ((bytes[at + 2] ?? 0) << 8) | (bytes[at + 3] ?? 0);
    if (length < 2 || at + 2 + length > bytes.length)
      throw new Refusal("this JPEG picture is cut off");
    const kind = bytes[at + 1];
    if (kind !== 0xe0 && kind !== 0xe2) kept.push(bytes.subarray(at, at + 2 + length));
    at += 2 + length;
  }
  const whole = Math.round(Math.min(65_535, Math.max(1, ppi)));
  const head = [[0xff, 0xd8], jfif(whole), profileSegment(srgbProfile())];
  return joined([...head, ...kept, bytes.subarray(at)]);
}

const u32 = (v: number): number[] => [v & 255, (v >> 8) & 255, (v >> 16) & 255, (v >>> 24) & 255];
const u16 = (v: number): number[] => [v & 255, (v >> 8) & 255];

const riff = (name: string, data: ArrayLike<number>): Uint8Array =>
  joined([ascii(name), u32(data.length), data, data.length % 2 ? [0] : []]);

/** Px an inch in the words of Exif: a TIFF directory with three entries. */
function exif(ppi: number): number[] {
  const far = 8 + 2 + 3 * 12 + 4;
  const rational = (tag: number, at: number): number[] => [
    ...u16(tag),
    ...u16(5),
    ...u32(1),
    ...u32(at),
  ];
  return [
    ...[...ascii("II"), ...u16(42), ...u32(8), ...u16(3)],
    ...rational(282, far),
    ...rational(283, far + 8),
    ...[...u16(296), ...u16(3), ...u32(1), ...u16(2), ...u16(0), ...u32(0)],
    ...[...u32(Math.round(ppi * 100)), ...u32(100), ...u32(Math.round(ppi * 100)), ...u32(100)],
  ];
}

/** A plain WebP with ppi and profile. @throws Refusal where it is none */
export function stampWebp(
  bytes: Uint8Array,
  width: number,
  height: number,
  ppi: number,
): Uint8Array<ArrayBuffer> {
  const word = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (word(0) !== "RIFF" || word(8) !== "WEBP") throw new Refusal("this is not a WebP picture");
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const pixels: Uint8Array[] = [];
  let hasAlpha = false;
  for (let at = 12; at + 8 <= bytes.length;) {
    const length = view.getUint32(at + 4, true);
    const end = at + 8 + length + (length % 2);
    const name = word(at);
    // Of an extended file only what holds pixels is kept.
    if (name === "VP8 " || name === "VP8L" || name === "ALPH") pixels.push(bytes.subarray(at, end));
    // Lossless pixels say behind their size whether they have alpha (one bit of 32, the 29th).
    if (name === "ALPH" || (name === "VP8L" && (view.getUint8(at + 12) & 0x10) !== 0))
      hasAlpha = true;
    at = end;
  }
  if (pixels.length === 0) throw new Refusal("this WebP picture holds no pixels");
  const flags = 0x20 | 0x08 | (hasAlpha ? 0x10 : 0);
  const size = (v: number): number[] => u32(v - 1).slice(0, 3);
  const parts = [
    riff("VP8X", [flags, 0, 0, 0, ...size(width), ...size(height)]),
    riff("ICCP", srgbProfile()),
    ...pixels,
    riff("EXIF", exif(ppi)),
  ];
  const body = joined([ascii("WEBP"), ...parts]);
  return joined([ascii("RIFF"), u32(body.length), body]);
}
