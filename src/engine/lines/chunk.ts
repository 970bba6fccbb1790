import { z } from "zod";
import { Refusal } from "../picture/refusal";
import { isSound, type Line, lineStyleSchema, taperSchema } from "./line";

/**
 * Lines as bytes. A chunk: how many bytes follow (u32), then line after line: bytes of its head (u32), the head as
 * JSON, and its numbers as f32: points, material, corners (0 or 1), widths, hand.
 */

const headSchema = lineStyleSchema.extend({
  id: z.int().min(1),
  z: z.number(),
  taper: taperSchema,
  closed: z.boolean(),
  /** Pieces, numbers of its widths and of the hand. */
  counts: z.tuple([
    z.int().min(1).max(1_000_000),
    z.int().min(2).max(2_000_000),
    z.int().min(6).max(6_000_000),
  ]),
});

const text = new TextEncoder();

function numbersOf({ curve, width, hand }: Line): Float32Array {
  const corners = curve.corners.map((corner) => (corner ? 1 : 0));
  return Float32Array.from([...curve.points, ...curve.material, ...corners, ...width, ...hand]);
}

/** Bytes of a chunk, little-endian. */
export function encodeLines(lines: readonly Line[]): Uint8Array {
  const parts: Uint8Array[] = [];
  const push = (value: number): void => {
    parts.push(new Uint8Array(Uint32Array.of(value).buffer));
  };
  for (const line of lines) {
    const { curve, width, hand, ...rest } = line;
    const counts = [curve.material.length - 1, width.length, hand.length];
    const head = text.encode(JSON.stringify({ ...rest, counts }));
    push(head.length);
    parts.push(head, new Uint8Array(numbersOf(line).buffer));
  }
  const length = parts.reduce((sum, part) => sum + part.length, 0);
  const bytes = new Uint8Array(4 + length);
  new DataView(bytes.buffer).setUint32(0, length, true);
  let at = 4;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

/**
 * The lines of a chunk.
 * @throws Refusal where it is not one
 */
export function decodeLines(bytes: Uint8Array): Line[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const broken = (): Refusal => new Refusal("the lines of a layer cannot be read");
  const lines: Line[] = [];
  try {
    const end = 4 + view.getUint32(0, true);
    for (let at = 4; at < end;) {
      const length = view.getUint32(at, true);
      const head = new TextDecoder().decode(bytes.subarray(at + 4, at + 4 + length));
      const { counts, ...rest } = headSchema.parse(JSON.parse(head));
      at += 4 + length;
      const [pieces, widths, hands] = counts;
      const sizes = [6 * pieces + 2, pieces + 1, pieces + 1, widths, hands];
      const total = sizes.reduce((sum, size) => sum + size, 0);
      if (at + 4 * total > bytes.length) throw broken();
      const numbers = new Float32Array(bytes.slice(at, at + 4 * total).buffer);
      at += 4 * total;
      let from = 0;
      const [points, material, corners, width, hand] = sizes.map((size) => {
        const part = Array.from(numbers.subarray(from, from + size));
        from += size;
        return part;
      }) as [number[], number[], number[], number[], number[]];
      const line: Line = {
        ...rest,
        curve: { points, material, corners: corners.map((corner) => corner === 1) },
        width,
        hand,
      };
      if (!isSound(line)) throw broken();
      lines.push(line);
    }
  } catch (error) {
    throw error instanceof Refusal ? error : broken();
  }
  return lines;
}
