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
/**
 * A piece that only a smaller ball found belongs to the one that it lies open to over at least
 * so many of the ball's radii: it is a nook or a stretch of a narrowing strip, no room of its own.
 */
const OPEN_TO = 1.6;

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

/** A cut in the making: how far regions lie open to each other, and which ball found each. */
type RawCut = Cut & { openTo: Map<number, number>[]; balls: readonly number[] };

/**
 * Cuts what is open into regions by trapped balls (Zhang, Chen, Zhang, Zhang & Hu 2009):
 * a ball as wide as the bridge rolls in every region it can be trapped in, then smaller ones
 * in what is left; regions grow back, on into nooks, and under the lines until they meet.
 * Pieces that only smaller balls found and that lie open to another are joined with it; crumbs
 * are merged into the neighbour with the longest common border.
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
  const foundBy: number[] = [Infinity];
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
    const take = (): number => {
      if (count < MOST_REGIONS) foundBy[++count] = i === 0 ? Infinity : radius;
      return count;
    };
    eachRegion(regions, core, one, take, labels);
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
  const cut: RawCut = { ...measured(regions, open, labels, pitch, count), balls: foundBy };
  const joining = new Joining(cut);
  joinNooks(cut, joining);
  mergeCrumbs(regions, cut, joining);
  renumber(regions, cut, joining);
  tell(0.9);
  return cut;
}

/** Radii from half the bridge down. */
function ballsFor(bridge: number): number[] {
  const balls: number[] = [];
  for (let r = bridge / 2; r > LEAST_BALL; r /= 2) balls.push(r);
  return [...balls, LEAST_BALL];
}

function measured(
  regions: Regions,
  open: Bits,
  labels: number,
  pitch: number,
  count: number,
): Omit<RawCut, "balls"> {
  const { width, height } = regions;
  const u16 = regions.bench.store.heap.u16;
  const from = labels >> 1;
  const areas = new Array<number>(count + 1).fill(0);
  const rim = new Array<number>(count + 1).fill(0);
  const neighbours = Array.from({ length: count + 1 }, () => new Map<number, number>());
  const openTo = Array.from({ length: count + 1 }, () => new Map<number, number>());
  const isOpen = (x: number, y: number): boolean => regions.has(open, x, y);
  const meet = (a: number, b: number, isFree: boolean): void => {
    if (a === 0 || b === 0) return;
    for (const borders of isFree ? [neighbours, openTo] : [neighbours]) {
      borders[a]?.set(b, (borders[a]?.get(b) ?? 0) + 1);
      borders[b]?.set(a, (borders[b]?.get(a) ?? 0) + 1);
    }
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
        if (x > 0) meet(before, label, isOpen(x, y) && isOpen(x - 1, y));
        before = label;
      }
      run++;
      if (y > 0) {
        const above = u16[at - pitch] as number;
        if (above !== label) meet(above, label, isOpen(x, y) && isOpen(x, y - 1));
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
  return { labels, pitch, areas, neighbours, openTo, outside };
}

/** Which region each one has been joined with. Areas and borders of those that win grow with it. */
class Joining {
  readonly #into: number[];

  constructor(readonly cut: RawCut) {
    this.#into = cut.areas.map((_, i) => i);
  }

  rootOf(label: number): number {
    let root = label;
    while (this.#into[root] !== root) root = this.#into[root] as number;
    return root;
  }

  /** The region, as things stand, that one has the longest border of a kind with. */
  best(
    borders: readonly Map<number, number>[],
    label: number,
  ): [root: number, length: number] | null {
    const joined = new Map<number, number>();
    for (const [other, length] of borders[label] ?? []) {
      const root = this.rootOf(other);
      if (root !== label) joined.set(root, (joined.get(root) ?? 0) + length);
    }
    return [...joined].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0] ?? null;
  }

  join(label: number, winner: number): void {
    const { areas, neighbours, openTo } = this.cut;
    this.#into[label] = winner;
    areas[winner] = (areas[winner] as number) + (areas[label] as number);
    areas[label] = 0;
    for (const borders of [neighbours, openTo])
      for (const [other, length] of borders[label] ?? [])
        if (this.rootOf(other) !== winner)
          borders[winner]?.set(other, (borders[winner]?.get(other) ?? 0) + length);
  }

  /** The numbers of all regions, smallest first. */
  get bySize(): number[] {
    const { areas } = this.cut;
    return areas.map((_, i) => i).sort((a, b) => (areas[a] as number) - (areas[b] as number));
  }
}

/** Each piece is joined with one other at most, so what the widest ball found stays apart. */
function joinNooks({ openTo, balls }: RawCut, joining: Joining): void {
  for (const label of joining.bySize) {
    const ball = balls[label] ?? Infinity;
    if (label === 0 || ball === Infinity) continue;
    const best = joining.best(openTo, label);
    if (best && best[1] >= OPEN_TO * ball) joining.join(label, best[0]);
  }
}

function mergeCrumbs(
  { width, height }: Regions,
  { areas, neighbours, outside }: RawCut,
  joining: Joining,
): void {
  const least = Math.max(CRUMB.px, Math.round(CRUMB.share * width * height));
  for (const label of joining.bySize) {
    const area = areas[label] as number;
    if (label === 0 || label === outside || area === 0 || area >= least) continue;
    const best = joining.best(neighbours, label);
    if (best) joining.join(label, best[0]);
  }
}

/** Every pixel gets the number of the region that its own was joined with. */
function renumber(
  regions: Regions,
  { labels, pitch, areas, neighbours }: Cut,
  joining: Joining,
): void {
  const roots = Uint16Array.from(areas, (_, i) => joining.rootOf(i));
  if (roots.every((to, i) => to === i)) return;
  const u16 = regions.bench.store.heap.u16.subarray(
    labels >> 1,
    (labels >> 1) + pitch * regions.tileRows * 64,
  );
  for (let i = 0; i < u16.length; i++) u16[i] = roots[u16[i] as number] as number;
  neighbours.forEach((borders, label) => {
    const joined = new Map<number, number>();
    for (const [other, length] of borders) {
      const root = joining.rootOf(other);
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
