import { type Point } from "../curve";
import { fit } from "../fit";
import { type Line, type LineStyle, settledLine } from "../line";
import { profileThrough, smoothed } from "../profile";
import { smoothSeam } from "../seam";
import { netOf } from "./branches";
import { distancesInside } from "./distance";
import { thin } from "./skeleton";
import { type Way, waysOf } from "./ways";

/** Ink that is to be read: how far each pixel is covered, 0…255, row by row, and where its corner lies on the sheet. */
export type Ink = { left: number; top: number; width: number; height: number; cover: Uint8Array };

/** From this cover on a pixel is ink. */
const INKED = 128;
/** Lines shorter than this many px and thinner than that are specks. */
const SPECK = { long: 2, wide: 1.2 };
/** How the pen is taken to have been held: upright, pressed as usual. */
const HAND = [0, 0.7, 1.5707963267948966, 0, 0, 0] as const;
/** A middle is looked for across the line this far beyond its edge, px, at places so far apart. */
const ACROSS = { beyond: 2, apart: 0.25 };
/** A crossing is felt in a line's width as far as this many of its radii. */
const FELT = 2.2;
/** Farthest that a point goes on beyond the skeleton, px. */
const LONGEST_TIP = 14;
/** Within so many of its radii nothing of a line through it can be told. */
const INSIDE = 0.9;
/** Stairs of the skeleton are smoothed over so many px; what is left of them once its middle was found. */
const STAIRS = 4;
const REST = 2.5;
/** How near the curve keeps to the middles found, px, and over how far corners are looked for. */
const FINENESS = { error: 0.3, corner: 5 };

/** Where a line goes and half of its width there; and its stretches between crossings, whose reach is felt at their ends. */
type Places = { x: number[]; y: number[]; r: number[]; parts: Part[] };
type Part = { first: number; end: number; before: number; after: number };

const at = (list: ArrayLike<number>, i: number): number => list[i] as number;

/** Reads the ink of a picture as lines, their ids and heights in the order in which they are found from the top. */
export class Tracer {
  readonly #squared: Float32Array;
  readonly ways: readonly Way[];

  constructor(readonly ink: Ink) {
    const { cover, width, height } = ink;
    const mask = new Uint8Array(cover.length);
    for (let y = 1; y + 1 < height; y++)
      for (let i = y * width + 1; i < (y + 1) * width - 1; i++)
        mask[i] = at(cover, i) >= INKED ? 1 : 0;
    this.#squared = distancesInside(mask, width, height);
    thin(mask, this.#squared, width);
    this.ways = waysOf(netOf(mask, this.#squared, width), width);
  }

  /** One way as a line; null where it is a speck. @param style but for its size, which is the line's widest */
  line(way: Way, style: LineStyle, names: { id: number; z: number }): Line | null {
    const places = this.#middles(way, evened(this.#places(way), STAIRS, way.closed));
    // A scribble may have more places than a call takes numbers.
    const wide = 2 * places.r.reduce((most, r) => Math.max(most, r), 0);
    const found = ring(evened(places, REST, way.closed), way.closed);
    const along = lengths(found);
    const total = along.at(-1) as number;
    if (total < SPECK.long && wide < SPECK.wide) return null;
    const { left, top } = this.ink;
    const curve = fit(
      found.x.map((x, i): Point => [x + left, at(found.y, i) + top]),
      FINENESS,
    );
    const by = total > 0 ? (curve.material.at(-1) as number) / total : 0;
    const line = settledLine({
      ...names,
      ...style,
      size: Math.max(0.5, wide),
      curve,
      width:
        total > 0
          ? profileThrough(
              along.map((length) => length * by),
              found.r,
            )
          : [0, wide / 2],
      hand: HAND,
      taper: { in: 0, out: 0 },
      closed: way.closed,
    });
    return way.closed ? smoothSeam(line) : line;
  }

  /** The pixels' middles along a way, without those inside of crossings. */
  #places({ stretches, from, to }: Way): Places {
    const places: Places = { x: [], y: [], r: [], parts: [] };
    const { width } = this.ink;
    const put = (x: number, y: number, r: number): void => {
      places.x.push(x);
      places.y.push(y);
      places.r.push(r);
    };
    stretches.forEach(({ pixels, before, after }, n) => {
      const half = Math.floor((pixels.length - 1) / 2);
      const skipped = Math.min(half, Math.ceil(before * INSIDE));
      const until = pixels.length - Math.min(half, Math.ceil(after * INSIDE));
      if (n === 0 && from) put(...this.#meeting(from, pixels.slice(skipped, until)));
      const first = places.x.length;
      for (let i = skipped; i < until; i++) {
        const pixel = at(pixels, i);
        put((pixel % width) + 0.5, Math.floor(pixel / width) + 0.5, this.#radius(pixel));
      }
      places.parts.push({ first, end: places.x.length, before, after });
      if (n === stretches.length - 1 && to)
        put(...this.#meeting(to, pixels.slice(skipped, until).toReversed()));
    });
    return places;
  }

  /** Where a line meets the one that it ends at: straight on from where it comes out of the crossing. */
  #meeting(middle: readonly [number, number], pixels: readonly number[]): [number, number, number] {
    const { width } = this.ink;
    const first = at(pixels, 0);
    const later = at(pixels, Math.min(pixels.length - 1, 6 + Math.round(2 * this.#radius(first))));
    const [x, y] = [(first % width) + 0.5, Math.floor(first / width) + 0.5];
    const [dx, dy] = [x - (later % width) - 0.5, y - Math.floor(later / width) - 0.5];
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length < 1) return [...middle, this.#radius(first)];
    const way = Math.max(0, ((middle[0] - x) * dx + (middle[1] - y) * dy) / length);
    return [x + (dx / length) * way, y + (dy / length) * way, this.#radius(first)];
  }

  /**
   * Brings the free end of a line to where its own round end reaches the ink's tip: a blunt end's skeleton runs on into
   * its corners, and that of a fine point ends where ink is half covered.
   */
  #endAtTip({ x, y, r }: Places): void {
    const n = x.length;
    const wide = Math.max(...r.slice(-12));
    const base = n - 1 - Math.min(n - 1, Math.ceil(wide));
    const back = Math.max(0, base - 8);
    const [dx, dy] = [at(x, base) - at(x, back), at(y, base) - at(y, back)];
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length < 2) return;
    const [ux, uy] = [dx / length, dy / length];
    const [bx, by] = [at(x, base), at(y, base)];
    let tip = 0;
    const farthest = n - 1 - base + LONGEST_TIP;
    while (tip < farthest && this.#coverAt(bx + ux * tip, by + uy * tip) > 0.2) tip += 0.25;
    for (let i = base; i < n; i++)
      if (tip - (i - base) <= at(r, i) + 0.35) {
        for (const list of [x, y, r]) list.length = i + 1;
        return;
      }
    for (let k = n - base; k < tip; k++) {
      const [px, py] = [bx + ux * k, by + uy * k];
      const { half } = this.#across(px, py, -uy, ux, at(r, r.length - 1));
      if (half === 0) return;
      x.push(px);
      y.push(py);
      r.push(half);
      if (tip - k <= half + 0.35) return;
    }
  }

  /** Half of the width at a pixel of the skeleton: to the outer edge of the last pixel that is ink, nearly. */
  #radius(pixel: number): number {
    return Math.max(0.5, Math.sqrt(at(this.#squared, pixel)) - 0.5);
  }

  /** Moves places to the middle of the ink across them and measures its width. */
  #middles(way: Way, { x, y, r, parts }: Places): Places {
    const found: Places = { x: [...x], y: [...y], r: [...r], parts };
    const n = x.length;
    const [first, last] = [way.from ? 1 : 0, way.to ? n - 2 : n - 1];
    for (let i = first; i <= last; i++) {
      const over = Math.max(2, Math.round(at(r, i)));
      const [a, b] = way.closed
        ? [(i - over + n * 8) % n, (i + over) % n]
        : [Math.max(0, i - over), Math.min(n - 1, i + over)];
      const [dx, dy] = [at(x, b) - at(x, a), at(y, b) - at(y, a)];
      const length = Math.sqrt(dx * dx + dy * dy);
      if (length < 0.5) continue;
      const { off, half } = this.#across(at(x, i), at(y, i), -dy / length, dx / length, at(r, i));
      if (half === 0) continue;
      found.x[i] = at(x, i) - (dy / length) * off;
      found.y[i] = at(y, i) + (dx / length) * off;
      found.r[i] = half;
    }
    calm(found, way);
    if (way.closed) return found;
    if (!way.to) this.#endAtTip(found);
    if (way.from) return found;
    const turned = turnedRound(found);
    this.#endAtTip(turned);
    return turnedRound(turned);
  }

  /** How far the ink's middle is off a place across the line, and half of the ink's width. */
  #across(x: number, y: number, nx: number, ny: number, r: number): { off: number; half: number } {
    let sum = 0;
    let moment = 0;
    for (const side of [-1, 1]) {
      let before = 1;
      const most = r + ACROSS.beyond;
      for (let t = ACROSS.apart / 2; t < most; t += ACROSS.apart) {
        const here = this.#coverAt(x + nx * t * side, y + ny * t * side);
        // Ink that comes again is another line's.
        if (t > r - 0.5 && (here < 0.02 || here > before + 0.03)) break;
        before = here;
        sum += here;
        moment += here * t * side;
      }
    }
    if (sum * ACROSS.apart < 0.3) return { off: 0, half: 0 };
    const off = Math.max(-1.5, Math.min(1.5, moment / sum));
    return { off, half: (sum * ACROSS.apart) / 2 };
  }

  /** Cover 0…1 between pixels. */
  #coverAt(x: number, y: number): number {
    const { cover, width, height } = this.ink;
    const [u, v] = [x - 0.5, y - 0.5];
    const [i, j] = [Math.floor(u), Math.floor(v)];
    if (i < 0 || j < 0 || i + 1 >= width || j + 1 >= height) return 0;
    const [s, t] = [u - i, v - j];
    const row = j * width + i;
    const above = at(cover, row) * (1 - s) + at(cover, row + 1) * s;
    const below = at(cover, row + width) * (1 - s) + at(cover, row + width + 1) * s;
    return (above * (1 - t) + below * t) / 255;
  }
}

const turnedRound = ({ x, y, r, parts }: Places): Places => ({
  x: x.toReversed(),
  y: y.toReversed(),
  r: r.toReversed(),
  parts,
});

/** Lengths along places, from 0. */
function lengths({ x, y }: Pick<Places, "x" | "y">): number[] {
  let sum = 0;
  return x.map((here, i) => {
    if (i > 0) sum += Math.sqrt((here - at(x, i - 1)) ** 2 + (at(y, i) - at(y, i - 1)) ** 2);
    return sum;
  });
}

/** Places, each the mean of its neighbourhood; the ends stay. */
function evened({ x, y, r, parts }: Places, over: number, closed: boolean): Places {
  const n = x.length;
  if (n < 3) return { x, y, r, parts };
  const wrap = closed ? Math.min(n - 1, 2 * Math.ceil(over)) : 0;
  const long = (list: readonly number[]): number[] => [
    ...list.slice(n - wrap),
    ...list,
    ...list.slice(0, wrap),
  ];
  const s = lengths({ x: long(x), y: long(y) });
  const ease = (list: readonly number[]): number[] => {
    const eased = smoothed(s, long(list), over).slice(wrap, wrap + n);
    if (!closed) [eased[0], eased[n - 1]] = [at(list, 0), at(list, n - 1)];
    return eased;
  };
  return { x: ease(x), y: ease(y), r, parts };
}

/** The same places; of a closed line the first one again at its end. */
function ring({ x, y, r, parts }: Places, closed: boolean): Places {
  if (!closed) return { x, y, r, parts };
  const again = (list: readonly number[]): number[] => [...list, at(list, 0)];
  return { x: again(x), y: again(y), r: again(r), parts };
}

/**
 * Near crossings there is another line's ink in a width: there it goes evenly from what it is before to what it is
 * behind. What ends at another line is as wide there as before.
 */
function calm({ r, parts }: Places, { from, to, closed }: Way): void {
  const reach = ({ first, end }: Part, radius: number): number =>
    Math.min((end - first) >> 1, Math.ceil(radius * FELT));
  const bridge = (a: Part, b: Part): void => {
    const [before, after] = [reach(a, a.after), reach(b, b.before)];
    const [start, stop] = [a.end - before, b.first + after];
    const [low, high] = [at(r, Math.max(a.first, start - 1)), at(r, Math.min(b.end - 1, stop))];
    for (let k = 0; k < before + after; k++) {
      const i = k < before ? start + k : b.first + k - before;
      r[i] = low + ((high - low) * (k + 1)) / (before + after + 1);
    }
  };
  parts.forEach((part, n) => {
    const next = parts[n + 1] ?? (closed ? parts[0] : undefined);
    if (next && part.after > 0 && next.before > 0) bridge(part, next);
  });
  const [first, last] = [parts[0] as Part, parts.at(-1) as Part];
  if (from)
    r.fill(
      at(r, first.first + reach(first, first.before)),
      0,
      first.first + reach(first, first.before),
    );
  if (to) r.fill(at(r, last.end - 1 - reach(last, last.after)), last.end - reach(last, last.after));
}
