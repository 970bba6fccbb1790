import { BLOCK_BYTES, ROW_BYTES, SIDE } from "./layout";

/** What of a tile falls into another one when it is moved by whole pixels (−64…64): the rest of that stays as it is. */
export function shiftTile(dst: usize, src: usize, dx: i32, dy: i32): void {
  const left = max(0, dx), right = min(SIDE, SIDE + dx);
  for (let y = max(0, dy); y < min(SIDE, SIDE + dy); y++) {
    const to = dst + <usize>(y * ROW_BYTES), from = src + <usize>((y - dy) * ROW_BYTES);
    let x = left;
    while (x < right) {
      const a = x - dx;
      const at = to + <usize>((x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      const own = from + <usize>((a >> 3) * BLOCK_BYTES + ((a & 7) << 1));
      if (((x | a) & 7) == 0 && x + 8 <= right) {
        for (let c: usize = 0; c < 64; c += 16) v128.store(at + c, v128.load(own + c));
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
