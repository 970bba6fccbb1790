import { oklchToHex } from "../colour/oklch";
import { hexToQ15 } from "../colour/srgb";
import { type Bits, type Regions } from "../region/regions";
import { eachRegion } from "./region";

/** Most regions that one sheet is cut into: their numbers have 16 bits. */
const MOST_REGIONS = 60_000;
/** Smallest ball that still looks for regions of its own, px. */
const LEAST_BALL = 1.5;
/** Regions go on under lines by this many px, or until they meet. */
const UNDER = 64;
/** Steps after which a nook is left to the lines' turn. */
const LONGEST_NOOK = 600;
/** A region smaller than this is a crumb: px, and share of the sheet. */
const CRUMB = { px: 40, share: 4e-6 };

/** Called now and then with the share done; throws to stop. */
type Told = (share: number) => void;

/** A sheet cut into regions: a number for each pixel (0: none), rows of `pitch` pixels. */
export type Cut = {
  labels: number;
  pitch: number;
  /** Area of each region by number; 0 for numbers that were merged away. */
  areas: number[];
  /** Numbers of the regions that each one borders on. */
  neighbours: Map<number, number>[];
  /** The region around the figure; 0 where none touches the sheet's edge. */
  outside: number;
};

/**
 * Cuts what is open into regions by trapped balls (Zhang, Chen, Zhang, Zhang & Hu 2009):
 * a ball as wide as the bridge rolls in every region it can be trapped in, then smaller ones
 * in what is left; regions grow back, on into nooks, and under the lines until they meet.
 * Crumbs are merged into the neighbour with the longest common border.
 */
export function cutIntoRegions(regions: Regions, open: Bits, bridge: number, tell: Told): Cut {
  const { words, tileRows } = regions;
  const pitch = words * 64;
  const rows = tileRows * 64;
  const labels = regions.room(pitch * rows * 2);
  const known = regions.make();
  const next = regions.make();
  const core = regions.make();
  const one = regions.make();
  const { kernels } = regions.bench.store;
  let count = 0;
  const grow = (free: Bits, most: number): void => {
    for (let step = 0; step < most; step++) {
      const eight = step % 2;
      const won = kernels.spreadLabels(labels, known, next, free, words, rows, eight);
      regions.copy(known, next);
      if (won === 0 && (eight === 1 || step > 0)) return;
    }
  };
  const balls = ballsFor(bridge);
  balls.forEach((radius, i) => {
    // What no ball has reached yet, less what lies too near to anything else.
    regions.copy(one, open);
    regions.join(one, "andNot", known);
    regions.not(next, one);
    regions.grow(core, next, radius);
    regions.join(one, "andNot", core);
    regions.copy(core, one);
    regions.clear(one);
    regions.copy(next, core);
    eachRegion(regions, core, one, () => (count < MOST_REGIONS ? ++count : count), labels);
    regions.join(known, "or", next);
    grow(open, Math.ceil(radius) + 1);
    tell((0.4 * (i + 1)) / balls.length);
  });
  grow(open, LONGEST_NOOK);
  tell(0.6);
  regions.clear(one);
  regions.not(core, one);
  grow(core, UNDER);
  tell(0.8);
  const cut = measured(regions, labels, pitch, count);
  mergeCrumbs(regions, cut);
  tell(0.9);
  return cut;
}

/** Radii from half the bridge down. */
function ballsFor(bridge: number): number[] {
  const balls: number[] = [];
  for (let r = bridge / 2; r > LEAST_BALL; r /= 2) balls.push(r);
  return [...balls, LEAST_BALL];
}

function measured(regions: Regions, labels: number, pitch: number, count: number): Cut {
  const { width, height } = regions;
  const u16 = regions.bench.store.heap.u16;
  const from = labels >> 1;
  const areas = new Array<number>(count + 1).fill(0);
  const rim = new Array<number>(count + 1).fill(0);
  const neighbours = Array.from({ length: count + 1 }, () => new Map<number, number>());
  const meet = (a: number, b: number): void => {
    if (a === 0 || b === 0) return;
    neighbours[a]?.set(b, (neighbours[a]?.get(b) ?? 0) + 1);
    neighbours[b]?.set(a, (neighbours[b]?.get(a) ?? 0) + 1);
  };
  for (let y = 0; y < height; y++) {
    let at = from + y * pitch;
    let before = 0;
    let run = 0;
    for (let x = 0; x < width; x++, at++) {
      const label = u16[at] as number;
      if (label !== before) {
        areas[before] = (areas[before] as number) + run;
        run = 0;
        if (x > 0) meet(before, label);
        before = label;
      }
      run++;
      if (y > 0) {
        const above = u16[at - pitch] as number;
        if (above !== label) meet(above, label);
      }
      if (y === 0 || y === height - 1) rim[label] = (rim[label] as number) + 1;
    }
    areas[before] = (areas[before] as number) + run;
    for (const x of [0, width - 1]) {
      const label = u16[from + y * pitch + x] as number;
      rim[label] = (rim[label] as number) + 1;
    }
  }
  areas[0] = 0;
  rim[0] = 0;
  const most = Math.max(...rim);
  // Around a figure lies what holds more than half of the sheet's edge.
  const outside = most > width + height ? rim.indexOf(most) : 0;
  return { labels, pitch, areas, neighbours, outside };
}

function mergeCrumbs(regions: Regions, { labels, pitch, areas, neighbours, outside }: Cut): void {
  const { width, height } = regions;
  const least = Math.max(CRUMB.px, Math.round(CRUMB.share * width * height));
  const into = areas.map((_, i) => i);
  const rootOf = (label: number): number => {
    let root = label;
    while (into[root] !== root) root = into[root] as number;
    return root;
  };
  const bySize = areas.map((_, i) => i).sort((a, b) => (areas[a] as number) - (areas[b] as number));
  for (const label of bySize) {
    const area = areas[label] as number;
    if (label === 0 || label === outside || area === 0 || area >= least) continue;
    const borders = new Map<number, number>();
    for (const [other, length] of neighbours[label] ?? []) {
      const root = rootOf(other);
      if (root !== label) borders.set(root, (borders.get(root) ?? 0) + length);
    }
    const best = [...borders].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0];
    if (!best) continue;
    const [winner] = best;
    into[label] = winner;
    areas[winner] = (areas[winner] as number) + area;
    areas[label] = 0;
    for (const [other, length] of neighbours[label] ?? [])
      if (rootOf(other) !== winner)
        neighbours[winner]?.set(other, (neighbours[winner]?.get(other) ?? 0) + length);
  }
  if (into.every((to, i) => to === i)) return;
  const roots = Uint16Array.from(into, (_, i) => rootOf(i));
  const u16 = regions.bench.store.heap.u16.subarray(
    labels >> 1,
    (labels >> 1) + pitch * regions.tileRows * 64,
  );
  for (let i = 0; i < u16.length; i++) u16[i] = roots[u16[i] as number] as number;
  neighbours.forEach((borders, label) => {
    const joined = new Map<number, number>();
    for (const [other, length] of borders) {
      const root = rootOf(other);
      if (root !== label) joined.set(root, (joined.get(root) ?? 0) + length);
    }
    neighbours[label] = joined;
  });
}

/** How light flats are, step by step, so that neighbours of one hue are told apart. */
const LIGHTNESS = [0.8, 0.72, 0.87, 0.65, 0.76, 0.83];
const CHROMA = 0.075;
/** Hues begin here: a warm ochre. */
const FIRST_HUE = 70;

/**
 * A colour for each region, Q15, by number: `hues` hues around the circle, neighbours in
 * different ones as far as there are enough.
 */
export function flatColours({ areas, neighbours }: Cut, hues: number): Uint16Array {
  const kinds = hues * LIGHTNESS.length;
  const chosen = new Array<number>(areas.length).fill(-1);
  const bySize = areas.map((_, i) => i).sort((a, b) => (areas[b] as number) - (areas[a] as number));
  const used = new Array<number>(kinds).fill(0);
  for (const label of bySize) {
    if (label === 0 || areas[label] === 0) continue;
    const near = new Set([...(neighbours[label]?.keys() ?? [])].map((other) => chosen[other]));
    const nearHues = new Set([...near].map((kind) => (kind ?? -1) % hues));
    // The least used kind, of another hue than the neighbours' where there is one.
    let best = 0;
    let bestCost = Infinity;
    for (let kind = 0; kind < kinds; kind++) {
      const cost =
        (used[kind] as number) + (near.has(kind) ? 1e9 : 0) + (nearHues.has(kind % hues) ? 1e4 : 0);
      if (cost < bestCost) {
        best = kind;
        bestCost = cost;
      }
    }
    chosen[label] = best;
    used[best] = (used[best] as number) + 1;
  }
  const palette = new Uint16Array(areas.length * 4);
  chosen.forEach((kind, label) => {
    if (kind < 0) return;
    const l = LIGHTNESS[Math.floor(kind / hues)] as number;
    const h = (FIRST_HUE + (360 / hues) * (kind % hues)) % 360;
    palette.set(hexToQ15(oklchToHex({ l, c: CHROMA, h })), label * 4);
  });
  return palette;
}
