import { GROUND, HAS_GROUND, LARGEST, NOTHING, num, ON_GROUND, triangleAt } from "./layout";

/**
 * Which triangle is nearest at each sample of a square of the sheet: `samples` a side of each pixel, evenly. A sample
 * becomes f32 1/depth and i32 triangle. Edges are worked out as homogeneous coordinates (Olano and Greer 1997), so
 * triangles that reach behind the eye need no cutting; an edge that two triangles share has exactly opposite numbers in
 * both, so every sample belongs to one of them.
 *
 * @param list numbers of the triangles that may lie there
 * @param px and `py`: the square's corner, px; `side`: how many px
 */
export function rasterScene(region: usize, scene: usize, list: usize, count: i32, px: i32, py: i32, side: i32, samples: i32): void {
  const across = side * samples;
  const pitch = <usize>(across << 3);
  for (let at = region, end = region + <usize>across * pitch; at < end; at += 8) {
    store<f32>(at, 0);
    store<i32>(at, NOTHING, 4);
  }
  const step = 1.0 / <f64>samples;
  const most = num(scene, LARGEST);
  for (let i = 0; i < count; i++) {
    const index = load<i32>(list + (<usize>i << 2));
    const t = triangleAt(scene, index);
    const left = max(0, (load<i32>(t, 96) - px) * samples), right = min(across, (load<i32>(t, 104) - px) * samples);
    const top = max(0, (load<i32>(t, 100) - py) * samples), bottom = min(across, (load<i32>(t, 108) - py) * samples);
    if (left >= right) continue;
    const a0 = load<f64>(t), b0 = load<f64>(t, 8), c0 = load<f64>(t, 16);
    const a1 = load<f64>(t, 24), b1 = load<f64>(t, 32), c1 = load<f64>(t, 40);
    const a2 = load<f64>(t, 48), b2 = load<f64>(t, 56), c2 = load<f64>(t, 64);
    const per = load<f64>(t, 72);
    const d0 = 1.0 / a0, d1 = 1.0 / a1, d2 = 1.0 / a2;
    const own0 = a0 > 0 || (a0 == 0 && b0 > 0), own1 = a1 > 0 || (a1 == 0 && b1 > 0), own2 = a2 > 0 || (a2 == 0 && b2 > 0);
    for (let row = top; row < bottom; row++) {
      const y = <f64>py + (<f64>row + 0.5) * step;
      const r0 = b0 * y + c0, r1 = b1 * y + c1, r2 = b2 * y + c2;
      // Where the row may be inside, a sample more on each side for what is rounded.
      let low = <f64>px + <f64>left * step, high = <f64>px + <f64>right * step;
      if (a0 > 0) low = max(low, -r0 * d0);
      else if (a0 < 0) high = min(high, -r0 * d0);
      else if (r0 < 0) continue;
      if (a1 > 0) low = max(low, -r1 * d1);
      else if (a1 < 0) high = min(high, -r1 * d1);
      else if (r1 < 0) continue;
      if (a2 > 0) low = max(low, -r2 * d2);
      else if (a2 < 0) high = min(high, -r2 * d2);
      else if (r2 < 0) continue;
      if (low > high) continue;
      const first = max(left, <i32>((low - <f64>px) * <f64>samples) - 1), last = min(right, <i32>((high - <f64>px) * <f64>samples) + 2);
      let at = region + <usize>row * pitch + (<usize>first << 3);
      let wasIn = false;
      for (let column = first; column < last; column++, at += 8) {
        const x = <f64>px + (<f64>column + 0.5) * step;
        const e0 = a0 * x + r0, e1 = a1 * x + r1, e2 = a2 * x + r2;
        if (e0 < 0 || e1 < 0 || e2 < 0 || (e0 == 0 && !own0) || (e1 == 0 && !own1) || (e2 == 0 && !own2)) {
          // A triangle has no gaps along a row.
          if (wasIn) break;
          continue;
        }
        wasIn = true;
        const near = (e0 + e1 + e2) * per;
        if (near <= 0 || near > most || <f32>near <= load<f32>(at)) continue;
        store<f32>(at, <f32>near);
        store<i32>(at, index, 4);
      }
    }
  }
  if (num(scene, HAS_GROUND) == 0) return;
  const gx = num(scene, GROUND), gy = num(scene, GROUND + 1), g0 = num(scene, GROUND + 2);
  for (let row = 0; row < across; row++) {
    const y = <f64>py + (<f64>row + 0.5) * step;
    let at = region + <usize>row * pitch;
    for (let column = 0; column < across; column++, at += 8) {
      const near = gx * (<f64>px + (<f64>column + 0.5) * step) + (gy * y + g0);
      if (near <= 0 || near > most || <f32>near <= load<f32>(at)) continue;
      store<f32>(at, <f32>near);
      store<i32>(at, ON_GROUND, 4);
    }
  }
}
