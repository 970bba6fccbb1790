import { deflateRawSync, deflateSync, inflateSync } from "node:zlib";
import { Packer, packRaw, unpack, unpackRaw } from "./zlib";

/** Bytes that pack a little: runs among noise. */
function bytes(count: number): Uint8Array {
  const out = new Uint8Array(count);
  let state = 7;
  for (let i = 0; i < count; i++) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    out[i] = i % 97 < 40 ? 9 : state >>> 24;
  }
  return out;
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  return Uint8Array.from(Buffer.concat(parts));
}

const unpacked = (parts: Iterable<Uint8Array>): Uint8Array => {
  const made: Uint8Array[] = [];
  unpack(parts, (part) => made.push(part.slice()));
  return joined(made);
};

describe("zlib", () => {
  it.each([1, 100, 65_535, 65_536, 131_072, 1_000_003])("%i bytes come back", (count) => {
    const plain = bytes(count);
    const packed: Uint8Array[] = [];
    const packer = new Packer(4, (part) => packed.push(part));
    for (let at = 0; at < count; at += 24_001)
      packer.push(plain.subarray(at, at + 24_001), at + 24_001 >= count);
    expect(Buffer.compare(unpacked(packed), plain)).toBe(0);
    // Another's zlib reads it too, and the other way round.
    expect(Buffer.compare(inflateSync(joined(packed)), plain)).toBe(0);
    expect(Buffer.compare(unpacked([deflateSync(plain)]), plain)).toBe(0);
    const out = new Uint8Array(count);
    unpackRaw(packRaw(plain, 1), out);
    expect(Buffer.compare(out, plain)).toBe(0);
    unpackRaw(deflateRawSync(plain), out.fill(0));
    expect(Buffer.compare(out, plain)).toBe(0);
  });

  it("unpacks what comes a byte at a time", () => {
    const packed = deflateSync(bytes(5000));
    const single = Array.from(packed, (_, i) => packed.subarray(i, i + 1));
    expect(unpacked(single)).toEqual(bytes(5000));
  });

  it("refuses what is cut off or broken", () => {
    const packed = deflateSync(bytes(200_000));
    expect(() => unpacked([packed.subarray(0, 90_000)])).toThrow(/cut off/);
    expect(() => unpacked([packed.map((v, i) => (i === 2000 ? v ^ 255 : v))])).toThrow(/broken/);
    expect(() => unpacked([Uint8Array.of(1, 2, 3, 4)])).toThrow(/broken/);
    expect(() => unpacked([])).toThrow(/cut off/);
    expect(() => unpackRaw(packRaw(bytes(100), 1), new Uint8Array(99))).toThrow(/too long/);
    expect(() => unpackRaw(packRaw(bytes(100), 1), new Uint8Array(101))).toThrow(/cut off/);
  });
});
