/** Far enough from everything. */
const FAR = 1e12;

/** One row of squared distances, from squared distances across it: the lower envelope of parabolas. */
function envelope(
  f: Float64Array,
  n: number,
  d: Float64Array,
  v: Int32Array,
  z: Float64Array,
): void {
  let k = 0;
  v[0] = 0;
  z[0] = -FAR;
  z[1] = FAR;
  for (let q = 1; q < n; q++) {
    const fq = (f[q] as number) + q * q;
    let p = v[k] as number;
    let s = (fq - (f[p] as number) - p * p) / (2 * q - 2 * p);
    while (s <= (z[k] as number)) {
      k--;
      p = v[k] as number;
      s = (fq - (f[p] as number) - p * p) / (2 * q - 2 * p);
    }
    k++;
    v[k] = q;
    z[k] = s;
    z[k + 1] = FAR;
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    while ((z[k + 1] as number) < q) k++;
    const p = v[k] as number;
    d[q] = (q - p) * (q - p) + (f[p] as number);
  }
}

/**
 * Squared distances, px, from each pixel that is set to the nearest one that is not (Felzenszwalb & Huttenlocher 2012,
 * exact). What lies beyond the picture is not set.
 * @param mask 1 where set, row by row; its outermost pixels are not set
 */
export function distancesInside(mask: Uint8Array, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  const most = Math.max(width, height);
  const [f, d] = [new Float64Array(most), new Float64Array(most)];
  const [v, z] = [new Int32Array(most), new Float64Array(most + 1)];
  // Down the columns by counting, along the rows by envelopes.
  for (let x = 0; x < width; x++) {
    let since = 0;
    for (let y = 0, at = x; y < height; y++, at += width) {
      since = mask[at] ? since + 1 : 0;
      out[at] = since;
    }
    since = 0;
    for (let y = height - 1, at = (height - 1) * width + x; y >= 0; y--, at -= width) {
      since = mask[at] ? since + 1 : 0;
      out[at] = Math.min(out[at] as number, since);
    }
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let any = false;
    for (let x = 0; x < width; x++) {
      const down = out[row + x] as number;
      any ||= down > 0;
      f[x] = down * down;
    }
    if (!any) continue;
    envelope(f, width, d, v, z);
    for (let x = 0; x < width; x++) out[row + x] = d[x] as number;
  }
  return out;
}
