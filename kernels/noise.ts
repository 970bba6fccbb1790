import { BLOCK_BYTES, BLOCKS_A_ROW, ROW_BYTES, SIDE } from "./layout";

/** How far noise of amount 1 goes: a share of white. */
const STRONGEST: f64 = 0.5;
/** Counters of a row of the widest sheet, four to a pixel. */
const ROW: i32 = 16384;

/** The PCG hash: see `src/engine/stroke/chance.ts`. */
// @ts-ignore: decorator
@inline function pcg(input: u32): u32 {
  const state = input * 747796405 + 2891336453;
  const word = ((state >> ((state >> 28) + 4)) ^ state) * 277803737;
  return (word >> 22) ^ word;
}

// @ts-ignore: decorator
@inline function chance(counter: u32, key: u32): f64 {
  return <f64>pcg(pcg(counter) ^ key) / 4294967296.0;
}

/**
 * A tile with noise in its colours, by chance that depends on the place alone; alpha stays.
 * `left`, `top`: the tile's first pixel on the sheet. `amount`: 0…1, as the bits of an f32.
 * `grey`: the same in all channels.
 */
export function noiseTile(dst: usize, src: usize, left: i32, top: i32, amount: i32, grey: i32, key: i32): void {
  const most = <f64>reinterpret<f32>(amount) * STRONGEST;
  memory.copy(dst, src, SIDE * ROW_BYTES);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const at = dst + <usize>(y * ROW_BYTES + (x >> 3) * BLOCK_BYTES + ((x & 7) << 1));
      const a = load<u16>(at, 48);
      if (a == 0) continue;
      const place = ((top + y) * ROW + left + x) * 4;
      let n: f64 = 0;
      for (let c = 0; c < 3; c++) {
        // Two throws together gather around nothing.
        if (c == 0 || !grey) n = chance(place + c, key) + chance(~(place + c), key) - 1;
        const p = at + <usize>(c << 4);
        const v = <f64>load<u16>(p) + n * most * <f64>a;
        store<u16>(p, <u16>max<f64>(0, min<f64>(<f64>a, Math.floor(v + 0.5))));
      }
    }
  }
}
