/**
 * A wash while it is wet, in cells of 2 × 2 px: planes of 32 × 32 f32 for each tile. First a tile's worth of
 * what the water does, then what hangs in it and what has settled, four paints to a tile's worth.
 */
export const CELLS: i32 = 32;
export const PLANE: usize = 4096;
/** Water (1 = the film of a flat wash), how far a cell is covered, the paper's moisture, and vapour over it. */
export const WATER: usize = 0;
export const COVER: usize = PLANE;
export const MOIST: usize = PLANE * 2;
export const VAPOUR: usize = PLANE * 3;
/** Grains of salt, and what pushes paint away: the brine that comes of them, and drops. */
export const SALT: usize = PLANE * 4;
export const BRINE: usize = PLANE * 5;
/** How far a cell holds water off, 0…1. */
export const RESIST: usize = PLANE * 6;
/** Where four paints are; of each first what hangs in the water, and 4 planes on what has settled. */
const PAINTS: usize = PLANE * 8;
export const SETTLED: usize = PLANE * 4;

/** Where what hangs of a paint is. */
// @ts-ignore: decorator
@inline export function hangs(slot: i32): usize {
  return PAINTS * <usize>(1 + (slot >> 2)) + PLANE * <usize>(slot & 3);
}

/**
 * The paper as water meets it: heights of its pixels (0…255) and how much of a granulating paint they gather
 * (`GATHERS`), rows of `side` + 16; then, for each cell, planes of (side / 2 + 8)² f32.
 */
export const PIXEL_MARGIN: i32 = 8;
export const CELL_MARGIN: i32 = 4;
/** What a pixel gathers runs from here so far over 0…255. */
export const GATHERS_FROM: f32 = -0.95;
export const GATHERS_SPAN: f32 = 3.95;
/** Planes of the cells: heights 0…1, where grains settle, what lets water through, how it clings, where it strays. */
export const HEIGHT: i32 = 0;
export const GRAINS: i32 = 1;
export const LETS: i32 = 2;
export const CLINGS: i32 = 3;
export const STRAYS: i32 = 4;
/** What a cell's ground gathers where all of it is covered. */
export const GATHERED_MEAN: i32 = 5;

// @ts-ignore: decorator
@inline export function pixelPlane(side: i32): usize {
  return <usize>((side + 2 * PIXEL_MARGIN) * (side + 2 * PIXEL_MARGIN));
}

// @ts-ignore: decorator
@inline export function cellRow(side: i32): usize {
  return <usize>((side >> 1) + 2 * CELL_MARGIN) << 2;
}

/** A plane of the cells of a paper, at the cell where a tile of the sheet begins. */
export function cellsOf(paper: usize, side: i32, plane: i32, px: i32, py: i32): usize {
  const row = cellRow(side);
  const rows = <usize>((side >> 1) + 2 * CELL_MARGIN);
  const x = (px % side) >> 1, y = (py % side) >> 1;
  return paper + pixelPlane(side) * 2 + row * rows * <usize>plane + row * <usize>(y + CELL_MARGIN) + (<usize>(x + CELL_MARGIN) << 2);
}

/** A field of a tile with what lies around it: rows of a tile's cells and `margin` (4 or 8) more on each side. */
// @ts-ignore: decorator
@inline export function rowOf(margin: i32): usize {
  return <usize>(CELLS + 2 * margin) << 2;
}

/**
 * Gathers a plane of a tile and of the eight around it into a field. `hood`: nine states, row by row, 0 where
 * there is none; there it is `without`.
 */
export function gather(to: usize, hood: usize, plane: usize, margin: i32, without: f32): void {
  const none = f32x4.splat(without);
  const row = rowOf(margin), side = <usize>margin << 2;
  for (let y = -margin; y < CELLS + margin; y++) {
    const band = y < 0 ? 0 : y < CELLS ? 1 : 2;
    const line = <usize>((y + CELLS) & (CELLS - 1)) << 7;
    const at = to + row * <usize>(y + margin);
    const names = hood + <usize>(band * 12);
    const left = <usize>load<u32>(names), middle = <usize>load<u32>(names, 4), right = <usize>load<u32>(names, 8);
    for (let x: usize = 0; x < side; x += 16) {
      v128.store(at + x, left ? v128.load(left + plane + line + 128 - side + x) : none);
      v128.store(at + side + 128 + x, right ? v128.load(right + plane + line + x) : none);
    }
    const from = middle + plane + line;
    for (let x: usize = 0; x < 128; x += 16) v128.store(at + side + x, middle ? v128.load(from + x) : none);
  }
}

/** Numbers of a wash: tilt across and down, how paint is drawn to the rim, how fast it dries, its outline; then paints. */
export const TILT_X: usize = 0;
export const TILT_Y: usize = 4;
export const DRAWN: usize = 8;
export const DRIES: usize = 12;
export const OUTLINE: usize = 16;
export const PAINT_TABLE: usize = 32;
/** Of each paint: what it takes up in seven bands, how it settles, gathers, comes up, how that is held, how it lifts, its grain. */
export const PAINT_ROW: usize = 64;
export const SETTLES: usize = 28;
export const GATHERED: usize = 32;
export const COMES_UP: usize = 36;
export const HELD: usize = 40;
export const LIFTS: usize = 44;
export const GRAIN: usize = 48;

// @ts-ignore: decorator
@inline export function splat(at: usize): v128 {
  return v128.load32_splat(at);
}

// @ts-ignore: decorator
@inline export function held01(a: v128): v128 {
  return f32x4.pmin(f32x4.pmax(a, f32x4.splat(0)), f32x4.splat(1));
}

/** The greatest of four. */
export function greatest(a: v128): f32 {
  return max(
    max(f32x4.extract_lane(a, 0), f32x4.extract_lane(a, 1)),
    max(f32x4.extract_lane(a, 2), f32x4.extract_lane(a, 3)),
  );
}
