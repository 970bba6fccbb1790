import { BLOCK_BYTES, ROW_BYTES } from "../layout";
import { CELLS, RESIST } from "./film";

/** Where there is so much wax it begins to hold water off, and from there on it does wholly. */
const FROM: f32 = 0.04;
const WHOLLY: f32 = 0.3;
/** It never closes quite: water finds its way. */
const MOST: f32 = 0.97;

/** Wax in four pixels of a cell, the mean (see `kernels/dry.ts`). */
function waxAt(powder: usize, x: i32, y: i32): f32 {
  const at = powder + ROW_BYTES * <usize>(2 * y) + BLOCK_BYTES * <usize>(x >> 2) + 16 + (<usize>((2 * x) & 7) << 1);
  const upper = <i32>load<u16>(at) + <i32>load<u16>(at, 2);
  const lower = <i32>load<u16>(at + ROW_BYTES) + <i32>load<u16>(at + ROW_BYTES, 2);
  return <f32>(upper + lower) * <f32>(2.0 / (4.0 * 32767.0));
}

/** Where dry media left wax in a tile of powder, a wash's state holds water off; what holds it off more stays. */
export function waxResists(state: usize, powder: usize): void {
  for (let y = 0; y < CELLS; y++) {
    for (let x = 0; x < CELLS; x++) {
      const at = state + RESIST + (<usize>(y * CELLS + x) << 2);
      const t = min<f32>(1, max<f32>(0, (waxAt(powder, x, y) - FROM) / (WHOLLY - FROM)));
      store<f32>(at, max<f32>(load<f32>(at), MOST * t * t * (<f32>3 - 2 * t)));
    }
  }
}

/** Masking fluid over four pixels of a cell: the mean of its cover. */
function filmAt(film: usize, x: i32, y: i32): f32 {
  const at = film + ROW_BYTES * <usize>(2 * y) + BLOCK_BYTES * <usize>(x >> 2) + 48 + (<usize>((2 * x) & 7) << 1);
  const upper = <i32>load<u16>(at) + <i32>load<u16>(at, 2);
  const lower = <i32>load<u16>(at + ROW_BYTES) + <i32>load<u16>(at + ROW_BYTES, 2);
  return <f32>(upper + lower) * <f32>(1.0 / (4.0 * 32767.0));
}

/** Under masking fluid the paper stays dry: no water comes there at all. */
export function fluidResists(state: usize, film: usize): void {
  for (let y = 0; y < CELLS; y++) {
    for (let x = 0; x < CELLS; x++) {
      const at = state + RESIST + (<usize>(y * CELLS + x) << 2);
      store<f32>(at, max<f32>(load<f32>(at), filmAt(film, x, y)));
    }
  }
}
