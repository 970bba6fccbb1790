/**
 * How pixels lie in memory. Everything in this folder agrees on these numbers;
 * `src/engine/tiles/layout.ts` holds the same ones for the TypeScript side.
 *
 * A tile is 64 × 64 px in blocks of eight pixels of one row:
 * R0…R7 G0…G7 B0…B7 A0…A7, each an unsigned Q15 number (0…32767 ≙ 0…1) in 16 bits,
 * premultiplied by alpha. A coverage tile is 64 × 64 Q15 numbers, row by row.
 */
export const SIDE: i32 = 64;
export const BLOCKS_A_ROW: i32 = 8;
export const BLOCK_BYTES: i32 = 64;
export const ROW_BYTES: i32 = 512;
export const TILE_BYTES: i32 = 32768;
export const COVERAGE_ROW_BYTES: i32 = 128;
export const ONE: i32 = 32767;

/** Blue noise: 64 rows of 128 values 0…255 (the second half repeats the first). */
export const NOISE_ROW_BYTES: i32 = 256;
