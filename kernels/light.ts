import { BLOCK_BYTES, BLOCKS_A_ROW, ONE, SIDE } from "./layout";
import { halveTile } from "./warp";

/**
 * Premultiplied colour from one scale of light to another (sRGB's to linear, and back), by a
 * table of 32 768 f32 for the straight colour. What is averaged in linear light keeps its
 * brightness; averaged as it is stored it grows darker.
 */

/** One straight channel through the table, and premultiplied again. */
// @ts-ignore: decorator
@inline function onScale(c: i32, a: i32, table: usize): i32 {
  const straight = a == ONE ? c : min(ONE, (c * ONE + (a >> 1)) / a);
  const v = load<f32>(table + (<usize>straight << 2));
  return min(a, <i32>(v * <f32>a * <f32>(1.0 / 32767.0) + 0.5));
}

/** A region's pixels (R G B A, eight bytes each), in place. */
export function lightRegion(at: usize, bytes: i32, table: usize): void {
  const end = at + <usize>bytes;
  for (let p = at; p < end; p += 8) {
    const a = <i32>load<u16>(p, 6);
    if (a == 0) continue;
    store<u16>(p, <u16>onScale(load<u16>(p), a, table));
    store<u16>(p, <u16>onScale(load<u16>(p, 2), a, table), 2);
    store<u16>(p, <u16>onScale(load<u16>(p, 4), a, table), 4);
  }
}

/** A tile on the other scale. */
export function lightTile(dst: usize, src: usize, table: usize): void {
  for (let o = 0; o < SIDE * BLOCKS_A_ROW * BLOCK_BYTES; o += BLOCK_BYTES) {
    for (let i = 0; i < 16; i += 2) {
      const from = src + <usize>(o + i), to = dst + <usize>(o + i);
      const a = <i32>load<u16>(from, 48);
      if (a == 0) {
        store<u16>(to, 0);
        store<u16>(to, 0, 16);
        store<u16>(to, 0, 32);
        store<u16>(to, 0, 48);
        continue;
      }
      store<u16>(to, <u16>onScale(load<u16>(from), a, table));
      store<u16>(to, <u16>onScale(load<u16>(from, 16), a, table), 16);
      store<u16>(to, <u16>onScale(load<u16>(from, 32), a, table), 32);
      store<u16>(to, <u16>a, 48);
    }
  }
}

/** A tile on the other scale at half its size, into a quarter of `dst`; `scratch`: room for a tile. */
export function halveLight(dst: usize, src: usize, qx: i32, qy: i32, table: usize, scratch: usize): void {
  lightTile(scratch, src, table);
  halveTile(dst, scratch, qx, qy);
}
