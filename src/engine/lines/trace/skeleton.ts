/** A pixel's neighbours in turn: right, upper right, up … lower right; as steps for a width. */
export const ringOf = (width: number): readonly number[] => [
  1,
  1 - width,
  -width,
  -1 - width,
  -1,
  width - 1,
  width,
  width + 1,
];

/** Of each of the 256 rings of neighbours: 1 where taking the middle away neither parts, closes nor shortens anything. */
const MAY_GO = Uint8Array.from({ length: 256 }, (_, ring) => {
  const off = (k: number): number => (ring & (1 << (k & 7)) ? 0 : 1);
  let parts = 0;
  let count = 0;
  for (let k = 0; k < 8; k++) {
    count += 1 - off(k);
    if (k % 2 === 0) parts += off(k) - off(k) * off(k + 1) * off(k + 2);
  }
  return parts === 1 && count > 1 ? 1 : 0;
});

/** Pixels that are set, those nearest to the edge first. */
function fromTheEdge(mask: Uint8Array, squared: Float32Array): Int32Array {
  let most = 0;
  let count = 0;
  for (let at = 0; at < mask.length; at++) {
    if (!mask[at]) continue;
    count++;
    most = Math.max(most, squared[at] as number);
  }
  const starts = new Int32Array(most + 2);
  for (let at = 0; at < mask.length; at++)
    if (mask[at]) {
      const next = (squared[at] as number) + 1;
      starts[next] = (starts[next] as number) + 1;
    }
  for (let d = 1; d < starts.length; d++)
    starts[d] = (starts[d] as number) + (starts[d - 1] as number);
  const order = new Int32Array(count);
  for (let at = 0; at < mask.length; at++)
    if (mask[at]) {
      const d = squared[at] as number;
      const place = starts[d] as number;
      order[place] = at;
      starts[d] = place + 1;
    }
  return order;
}

/**
 * Thins what is set to lines of one pixel that hang together as it did: pixels go one by one, nearest to the edge
 * first, as long as nothing is parted, closed or shortened by it (simple points by Yokoi's number, 1973). In place.
 * @param mask 1 where set; its outermost pixels are not set
 * @param squared squared distances to the edge, whole numbers
 */
export function thin(mask: Uint8Array, squared: Float32Array, width: number): void {
  const ring = ringOf(width);
  const order = fromTheEdge(mask, squared);
  for (let went = true; went;) {
    went = false;
    for (let i = 0; i < order.length; i++) {
      const at = order[i] as number;
      if (!mask[at]) continue;
      let bits = 0;
      for (let k = 0; k < 8; k++) if (mask[at + (ring[k] as number)]) bits |= 1 << k;
      if (!MAY_GO[bits]) continue;
      mask[at] = 0;
      went = true;
    }
  }
}
