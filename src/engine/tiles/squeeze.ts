import { compressBlock, compressBound, decompressBlock } from "lz4js";
import { TILE_BYTES } from "./layout";

/** LZ4 for tiles that nobody looks at for a while: quick both ways. */
const table = new Uint32Array(65536);
const bound = new Uint8Array(compressBound(TILE_BYTES));

/** A filtered tile (32 768 bytes) compressed; the bytes themselves where that gains nothing. */
export function lz4(bytes: Uint8Array): Uint8Array {
  table.fill(0);
  const size = compressBlock(bytes, bound, 0, TILE_BYTES, table);
  return size === 0 || size >= TILE_BYTES ? bytes.slice() : bound.slice(0, size);
}

/** The way back, into 32 768 bytes. */
export function unlz4(packed: Uint8Array, into: Uint8Array): void {
  if (packed.length === TILE_BYTES) into.set(packed);
  else decompressBlock(packed, into, 0, packed.length, 0);
}
