import { halfSpan, real, word } from "./mark";

/**
 * Which stretch of a row a mark can reach, so that the empty rest of its box costs nothing.
 * Each thread has its own copy of these two: px from the tile's left edge, the end exclusive;
 * nothing where `from` ≥ `to`.
 */
export let spanFrom: f32 = 0;
export let spanTo: f32 = 0;

/** Directions that lean less than this against an axis count as along it. */
const ALONG: f32 = 0.0001;
const FAR: f32 = 100000;

// @ts-ignore: decorator
@inline function set(from: f32, to: f32): void {
  spanFrom = from;
  spanTo = to;
}

/** Narrows the span to where low ≤ step · x + here ≤ high. */
// @ts-ignore: decorator
@inline function within(step: f32, here: f32, low: f32, high: f32): void {
  if (abs<f32>(step) < ALONG) {
    if (here < low || here > high) set(1, 0);
    return;
  }
  const a = (low - here) / step, b = (high - here) / step;
  set(max<f32>(spanFrom, min<f32>(a, b)), min<f32>(spanTo, max<f32>(a, b)));
}

/**
 * The stretch of the row `ry` px below a segment's start that lies within `rho` of the segment,
 * measured from its start: discs at both ends and the band between them.
 */
export function capsuleSpan(dx: f32, dy: f32, perLength: f32, ry: f32, rho: f32): void {
  let from: f32 = FAR, to: f32 = -FAR;
  const square = rho * rho;
  const d0 = square - ry * ry, far = ry - dy, d1 = square - far * far;
  if (d0 >= 0) {
    const s = sqrt<f32>(d0);
    from = -s;
    to = s;
  }
  if (d1 >= 0) {
    const s = sqrt<f32>(d1);
    from = min<f32>(from, dx - s);
    to = max<f32>(to, dx + s);
  }
  if (perLength > 0) {
    const ux = dx * perLength, uy = dy * perLength;
    set(-FAR, FAR);
    within(-uy, ry * ux, -rho, rho);
    within(ux, ry * uy, 0, 1 / perLength);
    if (spanFrom <= spanTo) {
      from = min<f32>(from, spanFrom);
      to = max<f32>(to, spanTo);
    }
  }
  set(from, to);
}

/** The stretch of a row of the picture that a segment with tapering half-width can touch. */
export function segmentSpan(mark: usize, px: i32, y: i32): void {
  const r0 = real(mark, 11), reach = max<f32>(r0, r0 + real(mark, 12)) + 1.5;
  const square = real(mark, 9);
  capsuleSpan(real(mark, 7), real(mark, 8), square > 0 ? sqrt<f32>(square) : 0, <f32>y + 0.5 - real(mark, 6), reach);
  const cx = real(mark, 5) - <f32>px;
  set(spanFrom + cx, spanTo + cx);
}

/** The stretch of a row of the picture that a chord between its bisectors can touch. */
export function chordSpan(mark: usize, px: i32, y: i32): void {
  const dx = real(mark, 7), dy = real(mark, 8), scale = real(mark, 9);
  const r0 = real(mark, 11), reach = max<f32>(r0, r0 + real(mark, 12)) + 1.5;
  const ry = <f32>y + 0.5 - real(mark, 6);
  set(-FAR, FAR);
  within(-dy * scale, ry * dx * scale, -reach, reach);
  // Ahead of the first bisector and before the last, a pixel of room to either side.
  within(real(mark, 36), ry * real(mark, 37), -1.5, FAR);
  within(-real(mark, 38), (dx * real(mark, 38) + (dy - ry) * real(mark, 39)), -1.5, FAR);
  const cx = real(mark, 5) - <f32>px;
  set(spanFrom + cx, spanTo + cx);
}

/** The stretch of a row of the picture that a disc can touch. */
export function discSpan(mark: usize, px: i32, y: i32): void {
  const m0 = real(mark, 7), m1 = real(mark, 9), m01 = real(mark, 8), m11 = real(mark, 10);
  const a = m0 * m0 + m1 * m1, b = m0 * m01 + m1 * m11;
  const dy = <f32>y + 0.5 - real(mark, 6), half = halfSpan(mark, dy, a, b, 1);
  if (half < 0) return set(1, 0);
  const middle = real(mark, 5) - <f32>px - (b * dy) / a;
  set(middle - half, middle + half);
}

/** The stretch of a row of the picture that a picture for a tip can touch. */
export function stampSpan(mark: usize, px: i32, y: i32): void {
  const dy = <f32>y + 0.5 - real(mark, 6);
  const halfU = <f32>word(mark, 24) * 0.5, halfV = <f32>word(mark, 25) * 0.5;
  const t00 = real(mark, 27), t10 = real(mark, 29);
  set(-FAR, FAR);
  // A texel of room, and a pixel.
  const roomU = halfU + 1 + abs<f32>(t00), roomV = halfV + 1 + abs<f32>(t10);
  within(t00, real(mark, 28) * dy, -roomU, roomU);
  within(t10, real(mark, 30) * dy, -roomV, roomV);
  const cx = real(mark, 5) - <f32>px;
  set(spanFrom + cx, spanTo + cx);
}

/** Half of a tile's diagonal and a little more, px. */
const HALF_TILE: f32 = 46;

/** Distance² of a point from a segment, both measured from the segment's start. */
// @ts-ignore: decorator
@inline function distance2(mark: usize, x: f32, y: f32): f32 {
  const dx = real(mark, 7), dy = real(mark, 8);
  const h = max<f32>(0, min<f32>(1, (x * dx + y * dy) * real(mark, 9)));
  const ex = x - h * dx, ey = y - h * dy;
  return ex * ex + ey * ey;
}

/** Whether a segment leaves the tile whose top left pixel is (px, py) untouched, though its box does not. */
export function segmentMisses(mark: usize, px: i32, py: i32): bool {
  const r0 = real(mark, 11), reach = max<f32>(r0, r0 + real(mark, 12)) + HALF_TILE;
  return distance2(mark, <f32>(px + 32) - real(mark, 5), <f32>(py + 32) - real(mark, 6)) > reach * reach;
}

/** Whether a box of the tile lies so deep inside of a segment that all of it is covered whole. */
export function segmentFills(mark: usize, px: i32, py: i32, x0: i32, y0: i32, x1: i32, y1: i32): bool {
  const r0 = real(mark, 11), least = min<f32>(r0, r0 + real(mark, 12)) - 1.5;
  if (least < 8) return false;
  const square = least * least;
  const left = <f32>(px + x0) - real(mark, 5), top = <f32>(py + y0) - real(mark, 6);
  const right = <f32>(px + x1) - real(mark, 5), bottom = <f32>(py + y1) - real(mark, 6);
  // What lies within a distance of a segment is convex: its corners stand for the box.
  return (
    distance2(mark, left, top) < square && distance2(mark, right, bottom) < square &&
    distance2(mark, right, top) < square && distance2(mark, left, bottom) < square
  );
}

/** As `segmentMisses`, for a chord between its bisectors. */
export function chordMisses(mark: usize, px: i32, py: i32): bool {
  const x = <f32>(px + 32) - real(mark, 5), y = <f32>(py + 32) - real(mark, 6);
  const dx = real(mark, 7), dy = real(mark, 8), scale = real(mark, 9);
  const r0 = real(mark, 11), reach = max<f32>(r0, r0 + real(mark, 12)) + HALF_TILE;
  if (abs<f32>((y * dx - x * dy) * scale) > reach) return true;
  const d0 = x * real(mark, 36) + y * real(mark, 37);
  const d1 = (dx - x) * real(mark, 38) + (dy - y) * real(mark, 39);
  return d0 < -HALF_TILE || d1 < -HALF_TILE;
}
