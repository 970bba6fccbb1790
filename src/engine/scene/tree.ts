/** Boxes within boxes over triangles, as the kernels read them (`kernels/scene/layout.ts`). */
export type Tree = {
  /** Least corner, and largest corner, three numbers each, of every node. */
  least: Float32Array;
  most: Float32Array;
  /** First child of a node (the other comes next), or first place in `order`. */
  first: Int32Array;
  /** How many triangles it holds; 0: it has children. */
  count: Int32Array;
  nodes: number;
  /** Triangles in the order of the leaves. */
  order: Int32Array;
};

const LEAF = 4;
const BINS = 12;
const { min, max, floor } = Math;

/**
 * Builds the tree, parting where rays have least to look at (the surface area heuristic in bins, Wald 2007).
 * @param boxes least x y z and largest x y z of each triangle
 */
export function treeOf(boxes: Float32Array): Tree {
  const total = boxes.length / 6;
  const order = Int32Array.from({ length: total }, (_, i) => i);
  const most = max(1, 2 * total);
  const tree: Tree = {
    least: new Float32Array(most * 3),
    most: new Float32Array(most * 3),
    first: new Int32Array(most),
    count: new Int32Array(most),
    nodes: 1,
    order,
  };
  const open: [node: number, from: number, to: number][] = [[0, 0, total]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [node, from, to] = next;
    bound(tree, node, boxes, from, to);
    const cut = to - from > LEAF ? parted(order, boxes, from, to) : from;
    if (cut === from) {
      tree.first[node] = from;
      tree.count[node] = to - from;
      continue;
    }
    const child = tree.nodes;
    tree.nodes += 2;
    tree.first[node] = child;
    open.push([child, from, cut], [child + 1, cut, to]);
  }
  return tree;
}

function bound(tree: Tree, node: number, boxes: Float32Array, from: number, to: number): void {
  for (let axis = 0; axis < 3; axis++) {
    let low = Infinity;
    let high = -Infinity;
    for (let i = from; i < to; i++) {
      const at = tree.order[i]! * 6 + axis;
      low = min(low, boxes[at]!);
      high = max(high, boxes[at + 3]!);
    }
    tree.least[node * 3 + axis] = low;
    tree.most[node * 3 + axis] = high;
  }
}

/** Parts a stretch of the order in two; returns where, `from` where that gains nothing. */
function parted(order: Int32Array, boxes: Float32Array, from: number, to: number): number {
  let axis = 0;
  let low = 0;
  let span = 0;
  for (let one = 0; one < 3; one++) {
    let least = Infinity;
    let most = -Infinity;
    for (let i = from; i < to; i++) {
      const at = order[i]! * 6 + one;
      const middle = boxes[at]! + boxes[at + 3]!;
      if (middle < least) least = middle;
      if (middle > most) most = middle;
    }
    if (most - least <= span) continue;
    axis = one;
    low = least;
    span = most - least;
  }
  // All in one place: nothing tells them apart.
  if (span === 0) return to - from > 4 * LEAF ? (from + to) >> 1 : from;
  const per = (BINS * (1 - 1e-6)) / span;
  const cut = cheapest(order, boxes, from, to, axis, low, per);
  let left = from;
  let right = to - 1;
  while (left <= right) {
    const at = order[left]! * 6 + axis;
    if (floor((boxes[at]! + boxes[at + 3]! - low) * per) < cut) left++;
    else {
      const other = order[right]!;
      order[right--] = order[left]!;
      order[left] = other;
    }
  }
  return left === from || left === to ? (from + to) >> 1 : left;
}

const counts = new Int32Array(BINS);
const bounds = new Float64Array(BINS * 6);
const rightCost = new Float64Array(BINS);
const grown = new Float64Array(6);

function clearBox(box: Float64Array, at: number): void {
  for (let k = 0; k < 3; k++) {
    box[at + k] = Infinity;
    box[at + 3 + k] = -Infinity;
  }
}

function growBy(
  box: Float64Array,
  at: number,
  by: Float32Array | Float64Array,
  from: number,
): void {
  for (let k = 0; k < 3; k++) {
    const low = by[from + k]!;
    const high = by[from + 3 + k]!;
    if (low < box[at + k]!) box[at + k] = low;
    if (high > box[at + 3 + k]!) box[at + 3 + k] = high;
  }
}

function surface(box: Float64Array): number {
  const x = box[3]! - box[0]!;
  const y = box[4]! - box[1]!;
  const z = box[5]! - box[2]!;
  return x < 0 ? 0 : x * y + y * z + z * x;
}

/** The bin before which to part. */
function cheapest(
  order: Int32Array,
  boxes: Float32Array,
  from: number,
  to: number,
  axis: number,
  low: number,
  per: number,
): number {
  counts.fill(0);
  for (let bin = 0; bin < BINS; bin++) clearBox(bounds, bin * 6);
  for (let i = from; i < to; i++) {
    const at = order[i]! * 6;
    const bin = floor((boxes[at + axis]! + boxes[at + axis + 3]! - low) * per);
    counts[bin]!++;
    growBy(bounds, bin * 6, boxes, at);
  }
  clearBox(grown, 0);
  for (let bin = BINS - 1, held = 0; bin > 0; bin--) {
    growBy(grown, 0, bounds, bin * 6);
    held += counts[bin]!;
    rightCost[bin] = surface(grown) * held;
  }
  clearBox(grown, 0);
  let least = Infinity;
  let best = 1;
  for (let bin = 1, held = 0; bin < BINS; bin++) {
    growBy(grown, 0, bounds, (bin - 1) * 6);
    held += counts[bin - 1]!;
    const cost = surface(grown) * held + rightCost[bin]!;
    if (held === 0 || held === to - from || cost >= least) continue;
    least = cost;
    best = bin;
  }
  return best;
}
