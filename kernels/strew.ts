import { BLOCK_BYTES, ONE, ROW_BYTES, SIDE } from "./layout";

/**
 * Strewn pieces: small pictures, each turned, stretched, tinted and laid over a tile.
 *
 * A piece is 32 words: centre x y; where the sheet's x and y lead in its picture (u by x, u by y, v by x, v by y, in
 * texels a px); centre u v; picture's address, texels a side, whether it is read at four places a pixel; gains r g b;
 * tint r g b and how much; air r g b and how much; opacity; box left top right bottom.
 * A picture is rows of texels R G B A in Q15, premultiplied, its outermost ring empty.
 */
const PIECE_SHIFT: usize = 7;
/** The lightness at which a tint is seen as it is; below it darkens, above it pales. */
const AS_IT_IS: f32 = 0.6;

// @ts-ignore: decorator
@inline function real(piece: usize, word: usize): f32 {
  return load<f32>(piece + (word << 2));
}

// @ts-ignore: decorator
@inline function texel(at: usize): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(v128.load64_zero(at)));
}

/** The picture at a place, between its texels. */
// @ts-ignore: decorator
@inline function seen(picture: usize, side: i32, last: f32, u: f32, v: f32): v128 {
  const x = max<f32>(0, min<f32>(u, last)), y = max<f32>(0, min<f32>(v, last));
  const ix = <i32>x, iy = <i32>y;
  const fx = f32x4.splat(x - <f32>ix), fy = f32x4.splat(y - <f32>iy);
  const row = picture + <usize>((iy * side + ix) << 3), below = row + <usize>(side << 3);
  const a = texel(row), c = texel(below);
  const top = f32x4.add(a, f32x4.mul(f32x4.sub(texel(row + 8), a), fx));
  const bottom = f32x4.add(c, f32x4.mul(f32x4.sub(texel(below + 8), c), fx));
  return f32x4.add(top, f32x4.mul(f32x4.sub(bottom, top), fy));
}

/** Lays those of the pieces that a list names, lowest first, over the tile whose first pixel is (px, py). */
export function strewTile(dst: usize, px: i32, py: i32, pieces: usize, list: usize, count: i32): void {
  for (let i = 0; i < count; i++)
    layPiece(dst, px, py, pieces + (<usize>load<i32>(list + (<usize>i << 2)) << PIECE_SHIFT));
}

function layPiece(dst: usize, px: i32, py: i32, p: usize): void {
  const left = max(px, load<i32>(p, 108)), top = max(py, load<i32>(p, 112));
  const right = min(px + SIDE, load<i32>(p, 116)), bottom = min(py + SIDE, load<i32>(p, 120));
  const cx = real(p, 0), cy = real(p, 1);
  const ux = real(p, 2), uy = real(p, 3), vx = real(p, 4), vy = real(p, 5);
  const cu = real(p, 6), cv = real(p, 7);
  const picture = <usize>load<i32>(p, 32), side = load<i32>(p, 36), four = load<i32>(p, 40) != 0;
  const edge: f32 = <f32>side, last: f32 = edge - <f32>1.001;
  const gain = f32x4(real(p, 11), real(p, 12), real(p, 13), 1);
  const tint = f32x4(real(p, 14), real(p, 15), real(p, 16), 0), tinted = real(p, 17);
  const amount = f32x4(tinted, tinted, tinted, 0);
  const untint = f32x4.sub(f32x4(1, 1, 1, 0), tint);
  const aired = real(p, 21);
  const air = f32x4(real(p, 18), real(p, 19), real(p, 20), 0), airs = f32x4(aired, aired, aired, 0);
  const opacity = f32x4.splat(real(p, 22));
  const one: f32 = <f32>ONE, per: f32 = <f32>(1.0 / 32767.0);
  for (let y = top; y < bottom; y++) {
    const dy: f32 = <f32>y + <f32>0.5 - cy;
    const row = dst + <usize>((y - py) * ROW_BYTES);
    for (let x = left; x < right; x++) {
      const dx: f32 = <f32>x + <f32>0.5 - cx;
      const u = cu + ux * dx + uy * dy, v = cv + vx * dx + vy * dy;
      if (u < -2 || v < -2 || u > edge + 1 || v > edge + 1) continue;
      let c: v128;
      if (four) {
        // A turned square of four places, so that edges of any direction have four steps.
        c = seen(picture, side, last, u - <f32>0.125 * ux - <f32>0.375 * uy, v - <f32>0.125 * vx - <f32>0.375 * vy);
        c = f32x4.add(c, seen(picture, side, last, u + <f32>0.375 * ux - <f32>0.125 * uy, v + <f32>0.375 * vx - <f32>0.125 * vy));
        c = f32x4.add(c, seen(picture, side, last, u + <f32>0.125 * ux + <f32>0.375 * uy, v + <f32>0.125 * vx + <f32>0.375 * vy));
        c = f32x4.add(c, seen(picture, side, last, u - <f32>0.375 * ux + <f32>0.125 * uy, v - <f32>0.375 * vx + <f32>0.125 * vy));
        c = f32x4.mul(c, f32x4.splat(0.25));
      } else c = seen(picture, side, last, u, v);
      const a = f32x4.extract_lane(c, 3);
      if (a < <f32>0.5) continue;
      if (tinted > 0) {
        const light = f32x4.extract_lane(c, 0) * <f32>0.3 + f32x4.extract_lane(c, 1) * <f32>0.59 + f32x4.extract_lane(c, 2) * <f32>0.11;
        const whole = a * AS_IT_IS;
        const shade = light <= whole
          ? f32x4.mul(tint, f32x4.splat(light / AS_IT_IS))
          : f32x4.add(f32x4.mul(tint, f32x4.splat(a)), f32x4.mul(untint, f32x4.splat((light - whole) / (<f32>1 - AS_IT_IS))));
        c = f32x4.add(c, f32x4.mul(f32x4.sub(shade, c), amount));
      }
      c = f32x4.min(f32x4.mul(c, gain), f32x4.splat(a));
      c = f32x4.add(c, f32x4.mul(f32x4.sub(f32x4.mul(air, f32x4.splat(a)), c), airs));
      c = f32x4.mul(c, opacity);
      const through: f32 = (one - f32x4.extract_lane(c, 3)) * per;
      const at = row + <usize>(((x - px) >> 3) * BLOCK_BYTES + (((x - px) & 7) << 1));
      const under = f32x4(<f32>load<u16>(at), <f32>load<u16>(at, 16), <f32>load<u16>(at, 32), <f32>load<u16>(at, 48));
      const laid = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(c, f32x4.mul(under, f32x4.splat(through))), f32x4.splat(0.5)));
      const alpha = min(ONE, i32x4.extract_lane(laid, 3));
      store<u16>(at, <u16>min(alpha, i32x4.extract_lane(laid, 0)));
      store<u16>(at, <u16>min(alpha, i32x4.extract_lane(laid, 1)), 16);
      store<u16>(at, <u16>min(alpha, i32x4.extract_lane(laid, 2)), 32);
      store<u16>(at, <u16>alpha, 48);
    }
  }
}
