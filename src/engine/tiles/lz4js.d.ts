declare module "lz4js" {
  export function compressBound(size: number): number;
  export function compressBlock(
    source: Uint8Array,
    target: Uint8Array,
    start: number,
    length: number,
    table: Uint32Array,
  ): number;
  export function decompressBlock(
    source: Uint8Array,
    target: Uint8Array,
    start: number,
    length: number,
    into: number,
  ): number;
}
