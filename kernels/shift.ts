import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";

/** What of a tile falls into another one when it is moved by whole pixels (−64…64): the rest of that stays as it is. */
export function shiftTile(dst: usize, src: usize, dx: i32, dy: i32): void {
  const left = max(0, dx), right = min(SIDE, SIDE + dx);
  const skip = -dx & 7;
  const bytes = i8x16(0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15);
  const low = i8x16.add(bytes, i8x16.splat(<i8>(skip << 1))), high = i8x16.sub(low, i8x16.splat(16));
  for (let y = max(0, dy); y < min(SIDE, SIDE + dy); y++) {
    const to = dst + <usize>(y * ROW_BYTES), from = src + <usize>((y - dy) * ROW_BYTES);
    let x = left;
    while (x < right) {
      const a = x - dx;
      const at = to + <usize>((x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      const own = from + <usize>((a >> 3) * BLOCK_BYTES + ((a & 7) << 1));
      if ((x & 7) == 0 && x + 8 <= right) {
        // Eight of two blocks beside each other; bytes beyond a block count as none.
        const block = from + <usize>((a >> 3) * BLOCK_BYTES);
        for (let c: usize = 0; c < 64; c += 16) {
          const first = v128.load(block + c);
          v128.store(at + c, skip == 0 ? first : v128.or(i8x16.swizzle(first, low), i8x16.swizzle(v128.load(block + c + <usize>BLOCK_BYTES), high)));
        }
        x += 8;
        continue;
      }
      // As many as are left of both blocks.
      const count = min(min(8 - (x & 7), 8 - (a & 7)), right - x);
      for (let c: usize = 0; c < 64; c += 16)
        for (let i = 0; i < count; i++) store<u16>(at + c + <usize>(i << 1), load<u16>(own + c + <usize>(i << 1)));
      x += count;
    }
  }
}
