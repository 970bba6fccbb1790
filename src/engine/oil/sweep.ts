import { type Chance } from "../stroke/chance";
import { type Bristles } from "./bristles";
import { BANDS, type Blob, type Bristle, type Bundle, KNOTS, power0375 } from "./bundle";
import { grows, type Motion } from "./motion";

const { floor, max, min, sqrt } = Math;

/** Words of a sweep, and of the sums of what it moved in a tile: see `kernels/oil/exchange.ts`. */
export const SWEEP_WORDS = 56;
export const SUM_WORDS = 20;
const TAKEN = 0;
const PLOUGHED = 8;
const GIVEN = 16;
const LAID = 17;
const HEIGHT = 18;
const WEIGHT = 19;

/** The bead lies within so many radii. */
const BEAD = 1.36;
/** Px a second at which a touch is as light as half of one that stands. */
const QUICK = 3000;
/** From this film on a bristle is full, px. */
export const FULL = 1.7;

/** How much deeper into the weave soft hair and its thin paint go, px. */
const SOFT_REACHES = 0.55;

/** A tip that is being loaded keeps this film, px; what is more goes into its belly. */
const SOAKED = 0.5;
/** How much more it takes up meanwhile. */
const THIRST = 2.5;

/** How far a bristle goes between two sweeps, radii: farther where it is broad, `from` … `to` px. */
const PACE = { fine: 3, more: 1.2, from: 6, to: 12 };

/** What the hand does with the brush. */
export type Handling = "paint" | "blend" | "wipe";

/** From 0 at `from` to 1 at `to`, smoothly. */
function smooth(from: number, to: number, x: number): number {
  const t = max(0, min(1, (x - from) / (to - from)));
  return t * t * (3 - 2 * t);
}

const ease = (t: number): number => t * t * (3 - 2 * t);
const knotAt = (chance: Chance, u: number, v: number): number =>
  chance.at(((v & 0xffff) << 16) ^ ((u & 0xffff) + 0x8000));

/** Smooth chance 0…1 over a plane. */
function noise(chance: Chance, x: number, y: number): number {
  const column = floor(x);
  const row = floor(y);
  const tx = ease(x - column);
  const ty = ease(y - row);
  const top = knotAt(chance, column, row) * (1 - tx) + knotAt(chance, column + 1, row) * tx;
  const low = knotAt(chance, column, row + 1) * (1 - tx) + knotAt(chance, column + 1, row + 1) * tx;
  return top * (1 - ty) + low * ty;
}

/** How far above what it runs on a bristle still touches, px: lower when pressed or full, higher when quick. */
function reachDown(b: Bristle, speed: number, scratches: number, soft: number): number {
  const full = min(1, b.full / FULL);
  return (
    -0.95 +
    0.62 * b.press +
    0.85 * min(b.full, 1.8) +
    0.75 * full * full -
    0.6 * min(1, speed / QUICK) +
    0.5 * scratches +
    SOFT_REACHES * soft
  );
}

/** What a blob's paint takes up, band by band, for each px³. */
function perVolume({ volume, bands }: Blob, into: Float32Array, at: number): void {
  const per = volume > 1e-9 ? 1 / volume : 0;
  for (let band = 0; band < BANDS; band++) into[at + band] = (bands[band] as number) * per;
}

/** Moves a share of one blob into another. */
function pour(from: Blob, into: Blob, share: number): void {
  for (let band = 0; band < BANDS; band++) {
    const part = (from.bands[band] as number) * share;
    from.bands[band] = (from.bands[band] as number) - part;
    into.bands[band] = (into.bands[band] as number) + part;
  }
  const part = from.volume * share;
  from.volume -= part;
  into.volume += part;
}

/** Takes a volume of a blob away; never more than there is. */
function lose(blob: Blob, volume: number): void {
  if (blob.volume <= 0) return;
  const left = max(0, 1 - volume / blob.volume);
  for (let band = 0; band < BANDS; band++) blob.bands[band] = (blob.bands[band] as number) * left;
  blob.volume *= left;
}

/** Writes sweeps as the kernels read them, and books what they moved. */
export class Sweeps {
  constructor(
    readonly style: Bristles,
    readonly bundle: Bundle,
    readonly width: number,
    readonly handling: Handling,
    readonly chance: Chance,
    /** Whether it is being loaded: what its tips take up goes on into its belly. */
    readonly soaks = false,
    /** The share of thinner in what it lays, 0…1. */
    readonly thinner = 0,
  ) {}

  /** How far a bristle goes before it is swept again, px. */
  pace(b: Bristle, index: number): number {
    const own =
      (PACE.fine + PACE.more * smooth(PACE.from, PACE.to, this.bundle.radius)) *
      this.bundle.radius *
      b.pace;
    const turn = 0.8 + 0.4 * this.chance.at(index * 4096 + (b.sweeps & 4095));
    // Each begins somewhere on its way, so that they do not all sweep at once.
    const first = b.sweeps === 0 ? 0.15 + 0.85 * this.chance.at(0x7000_0000 + index) : 1;
    return own * turn * first;
  }

  /**
   * Writes the sweep of one bristle to where its tip is, at word `at` of both views.
   * @param pressure of the hand, 0…1
   */
  write(
    f32: Float32Array,
    i32: Int32Array,
    at: number,
    b: Bristle,
    motion: Motion,
    pressure: number,
  ): void {
    const { style, width } = this;
    const wayX = b.x - b.sweptX;
    const wayY = b.y - b.sweptY;
    const length = sqrt(wayX * wayX + wayY * wayY);
    const [dirX, dirY] =
      length > 1e-4 ? [wayX / length, wayY / length] : [motion.dirX, motion.dirY];
    const scratches = style.stiff * smooth(0.72, 1, pressure);
    const film = b.tip.volume / b.area;
    const filled = min(1, film / FULL);
    const press = b.press;
    const radius = max(0.8, b.radius * (0.72 + 0.38 * press) * (1 - 0.35 * scratches));
    const wide = BEAD * radius;
    const swells = 1 + 0.6 * filled;
    const dwell = (4.9 * max(0, press - b.sweptPress) * radius) / swells;
    const dwellRadius = wide * swells;
    const { speed } = motion;
    // Where bristles stand farther apart than they should, each does the work of several.
    const perPx = (0.45 + 0.55 * press) / (1 + (0.6 * speed) / QUICK) / radius / this.bundle.share;
    const lane = this.#lane(b, motion.way);
    const gives = this.#gives(b, {
      film,
      scratches,
      lane,
      length,
      radius,
      dwell,
      dwellRadius,
      perPx,
    });
    const takes = this.#takes(b, film, filled, scratches, lane);
    f32[at] = b.sweptX;
    f32[at + 1] = b.sweptY;
    f32[at + 2] = dirX;
    f32[at + 3] = dirY;
    f32[at + 4] = length;
    f32[at + 5] = radius;
    f32[at + 6] = wide;
    f32[at + 7] = dwell;
    f32[at + 8] = dwellRadius;
    f32[at + 9] = perPx;
    f32[at + 10] = gives;
    f32[at + 11] = takes.skin;
    f32[at + 12] = takes.bulk;
    f32[at + 13] = takes.ploughs;
    f32[at + 14] = takes.stirs;
    f32[at + 15] = 0.3 * (1 - 0.6 * min(press, 1)) * (1 - scratches);
    f32[at + 16] = 0.75 * filled * filled;
    f32[at + 17] = reachDown(b, speed, scratches, style.soft) - b.level;
    f32[at + 18] = 0.25 + 0.35 * (1 - min(1, film));
    f32[at + 19] = 1 / (0.34 + 0.6 * style.soft);
    const runs = length > 0 ? min(0.5 / length, 1 / (2.2 * radius)) : 0;
    f32[at + 20] = (b.bead.volume * runs * 2) / (Math.PI * (wide * wide - radius * radius));
    f32[at + 21] = max(0, min(1, 1.6 * filled - 0.2));
    // How far out of the middle it is, across its way: more of the bead runs off on that side.
    const beside = style.turns ? b.across : b.across * dirY + b.along * dirX;
    const outer = (2 * beside) / width;
    f32[at + 22] = (0.9 * outer) / wide;
    f32[at + 23] = style.thick;
    perVolume(b.tip, f32, at + 24);
    perVolume(b.bead, f32, at + 31);
    this.#writeHair(f32, at + 38, b.hair);
    const far = max(wide, dwell > 0 ? dwellRadius : 0) + 1;
    i32[at + 46] = floor(min(b.x, b.sweptX) - far);
    i32[at + 47] = floor(min(b.y, b.sweptY) - far);
    i32[at + 48] = Math.ceil(max(b.x, b.sweptX) + far);
    i32[at + 49] = Math.ceil(max(b.y, b.sweptY) + far);
    f32[at + 50] = 1 - this.thinner;
    f32[at + 51] = this.thinner;
  }

  #writeHair(f32: Float32Array, at: number, knots: Float64Array): void {
    f32[at] = knots[0] as number;
    let slope = 0;
    for (let i = 1; i < KNOTS; i++) {
      const next = (knots[i] as number) - (knots[i - 1] as number);
      f32[at + i] = next - slope;
      slope = next;
    }
  }

  /** Which lane of its track a bristle is in: −1…1, the more so the more ridges there are. */
  #lane(b: Bristle, way: number): number {
    const { radius } = this.bundle;
    const n = noise(this.chance, b.across / (0.9 * radius) + 512, way / (40 * radius));
    const wide = max(0, min(1, (n - 0.5) * 1.5 + 0.5));
    return this.style.ridge * (2 * wide - 1);
  }

  /** How much a bristle gives, so that it never gives more than it has; its store fills it up meanwhile. */
  #gives(
    b: Bristle,
    of: {
      film: number;
      scratches: number;
      lane: number;
      length: number;
      radius: number;
      dwell: number;
      dwellRadius: number;
      perPx: number;
    },
  ): number {
    if (this.handling === "wipe") return 0;
    const { film, lane } = of;
    const there = b.tip.volume;
    if (there < 1e-9 && b.store.volume < 1e-9) return 0;
    const sheds =
      this.style.gives *
      min(3 * film, max(film, power0375(film))) *
      max(0.12, 1 + 1.25 * lane) *
      (1 - 0.95 * of.scratches);
    const held = max(there, 1e-9);
    const swept = of.length * of.radius * of.radius + of.dwell * of.dwellRadius * of.dwellRadius;
    const expected = max(1e-9, (sheds * of.perPx * (Math.PI / 2) * swept) / held);
    const full = b.area * this.style.film * sqrt(min(1, b.store.volume / this.bundle.nominal));
    const refills = of.length / (9 * b.radius);
    const rate = refills + expected;
    const settles = (refills * max(1, full / held)) / rate;
    const mean = settles + ((1 - settles) * grows(rate)) / rate;
    const fed = max(0, min(refills * (full - mean * there), b.store.volume / 2));
    if (fed > 0) pour(b.store, b.tip, fed / b.store.volume);
    return sheds * min(mean, (0.38 * (there + fed)) / (held * expected));
  }

  /** How much a bristle takes up, ploughs aside and stirs. */
  #takes(b: Bristle, film: number, filled: number, scratches: number, lane: number) {
    const { style } = this;
    const press = b.press;
    if (this.handling === "wipe")
      return { skin: 3 * press, bulk: press + 2.5 * press * press, ploughs: 0.1, stirs: 0.1 };
    const skin =
      (this.soaks ? THIRST : 1) *
      (1 + 1.2 * this.thinner) *
      style.takes *
      b.takes *
      (1 - 0.8 * filled) *
      (0.6 + 0.5 * press) *
      max(0, 1 - film / 4) *
      (1 - 0.7 * scratches);
    const ploughs =
      (style.ploughs *
        b.ploughs *
        (0.12 + press * press) *
        (1 - 0.35 * filled) *
        (1 - 0.7 * lane) *
        (1 + 4 * scratches)) /
      (1 + b.bead.volume / (3 * b.area * (1 + scratches)));
    return {
      skin,
      bulk: skin * 0.5 * (0.15 + 1.2 * press * press),
      ploughs,
      stirs: 0.12 * (0.1 + 0.9 * press) * (1 - 0.75 * filled),
    };
  }

  /** Books what one sweep moved in one tile. @param sums word of its sums */
  book(f32: Float32Array, sums: number, b: Bristle): void {
    lose(b.tip, f32[sums + GIVEN] as number);
    lose(b.bead, f32[sums + LAID] as number);
    for (let band = 0; band < BANDS; band++) {
      b.tip.bands[band] = (b.tip.bands[band] as number) + (f32[sums + TAKEN + band] as number);
      b.bead.bands[band] = (b.bead.bands[band] as number) + (f32[sums + PLOUGHED + band] as number);
    }
    b.tip.volume += f32[sums + TAKEN + BANDS] as number;
    b.bead.volume += f32[sums + PLOUGHED + BANDS] as number;
    b.seenHeight += f32[sums + HEIGHT] as number;
    b.seenWeight += f32[sums + WEIGHT] as number;
  }

  /** After a sweep was booked in every tile: the bristle has arrived, and what is too much goes back into its store. */
  settle(b: Bristle): void {
    const wayX = b.x - b.sweptX;
    const wayY = b.y - b.sweptY;
    const length = sqrt(wayX * wayX + wayY * wayY);
    const dwell = 4.9 * max(0, b.press - b.sweptPress) * b.radius;
    if (b.seenWeight > 1e-9) {
      const mean = b.seenHeight / b.seenWeight;
      b.level += (mean - b.level) * grows((length + dwell / 2) / (2.5 * b.radius));
    }
    b.seenHeight = 0;
    b.seenWeight = 0;
    // A rag: what was wiped off is gone from the brush.
    if (this.handling === "wipe") {
      pour(b.tip, b.store, 1);
      pour(b.bead, b.store, 1);
      b.store.volume = 0;
      b.store.bands.fill(0);
    }
    if (this.soaks && b.store.volume < this.bundle.nominal) {
      const over = b.tip.volume - SOAKED * b.area;
      if (over > 0) pour(b.tip, b.store, (over / b.tip.volume) * grows(length / (2 * b.radius)));
    }
    const most = 2.6 * b.area;
    if (b.tip.volume > most)
      pour(b.tip, b.store, ((b.tip.volume - most) / b.tip.volume) * grows(length / (9 * b.radius)));
    b.full += (b.tip.volume / b.area - b.full) * grows(length / (6 * b.radius));
    b.sweptX = b.x;
    b.sweptY = b.y;
    b.sweptPress = b.press;
    b.way = 0;
    b.sweeps++;
  }
}
