import { type Bristles } from "./bristles";
import { BANDS, type Blob, type Bristle, type Bundle } from "./bundle";
import { type Carried, carriedFrom, nearestOf, stripAt, STRIPS } from "./carried";

const { min, sqrt } = Math;

/** What a strip of a tuft holds when it is full, px³. */
const strips = ({ run }: Bristles, width: number): number => (width * width * run * 0.8) / STRIPS;

const stripOf = (bristle: Bristle, width: number): number => stripAt(bristle.across / width);

function fill(blob: Blob, volume: number, paint: readonly number[]): void {
  blob.volume = volume;
  for (let band = 0; band < BANDS; band++) blob.bands[band] = volume * (paint[band + 1] as number);
}

/**
 * Loads a tuft with what its brush carries, strip by strip: first the tips, as paint clings there, and what is
 * more into their stores. All that is carried is in the tuft afterwards, but for what rounding takes.
 */
export function loadTuft(bundle: Bundle, style: Bristles, width: number, carried: Carried): void {
  const { bristles, nominal } = bundle;
  const full = strips(style, width);
  const held = new Array<boolean>(STRIPS).fill(false);
  for (const b of bristles) held[stripOf(b, width)] = true;
  const into = nearestOf(held);
  const paints = Array.from({ length: STRIPS }, () => new Array<number>(BANDS + 1).fill(0));
  carried.forEach(([amount = 0, ...paint], strip) => {
    const there = paints[into[strip] as number] as number[];
    const whole = (there[0] as number) + amount;
    for (let band = 1; band <= BANDS; band++)
      there[band] =
        whole > 0
          ? ((there[0] as number) * (there[band] as number) +
              amount * (paint[band - 1] as number)) /
            whole
          : 0;
    there[0] = whole;
  });
  const shares = bristles.map((b) => {
    const store = nominal * ((paints[stripOf(b, width)] as number[])[0] as number);
    return { store, tip: b.area * style.film * sqrt(min(1, store / nominal)) };
  });
  const sums = new Float64Array(STRIPS);
  bristles.forEach((b, i) => {
    const strip = stripOf(b, width);
    const { store, tip } = shares[i] as (typeof shares)[number];
    sums[strip] = (sums[strip] as number) + store + tip;
  });
  bristles.forEach((b, i) => {
    const strip = stripOf(b, width);
    const paint = paints[strip] as number[];
    const { store, tip } = shares[i] as (typeof shares)[number];
    const sum = sums[strip] as number;
    const scale = sum > 0 ? ((paint[0] as number) * full) / sum : 0;
    fill(b.tip, tip * scale, paint);
    fill(b.store, store * scale, paint);
    fill(b.bead, 0, paint);
    b.full = b.tip.volume / b.area;
  });
}

/** What a tuft carries now. */
export function carriedInTuft({ bristles }: Bundle, style: Bristles, width: number): Carried {
  const full = strips(style, width);
  const amounts = new Float64Array(STRIPS);
  const bands = new Float64Array(STRIPS * BANDS);
  for (const b of bristles) {
    const strip = stripOf(b, width);
    for (const blob of [b.tip, b.store, b.bead]) {
      amounts[strip] = (amounts[strip] as number) + blob.volume / full;
      for (let band = 0; band < BANDS; band++) {
        const at = strip * BANDS + band;
        bands[at] = (bands[at] as number) + (blob.bands[band] as number) / full;
      }
    }
  }
  return carriedFrom(amounts, bands);
}

/** Numbers of a slot of a blade's edge: seven bands and how much (`kernels/oil/knife.ts`). */
const SLOT = BANDS + 1;
const SLOTS = 4;

/**
 * Loads the edge of a blade with what the knife carries.
 * @param cells as the kernel reads them: four slots each, word by word
 * @param full what a cell holds when it is full, px³
 */
export function loadBlade(cells: Float32Array, full: number, carried: Carried): void {
  const count = cells.length / (SLOT * SLOTS);
  for (let i = 0; i < count; i++) {
    const strip = carried[stripAt((i + 0.5) / count - 0.5)] as readonly number[];
    const volume = (full * (strip[0] as number)) / SLOTS;
    for (let slot = 0; slot < SLOTS; slot++) {
      const at = (i * SLOTS + slot) * SLOT;
      for (let band = 0; band < BANDS; band++)
        cells[at + band] = volume * (strip[band + 1] as number);
      cells[at + BANDS] = volume;
    }
  }
}

/** What a blade carries now: its slots in a cell are stirred together. */
export function carriedOnBlade(cells: Float32Array, full: number): Carried {
  const count = cells.length / (SLOT * SLOTS);
  const cellsIn = new Float64Array(STRIPS);
  const amounts = new Float64Array(STRIPS);
  const bands = new Float64Array(STRIPS * BANDS);
  for (let i = 0; i < count * SLOTS; i++) {
    const strip = stripAt((Math.floor(i / SLOTS) + 0.5) / count - 0.5);
    if (i % SLOTS === 0) cellsIn[strip] = (cellsIn[strip] as number) + 1;
    amounts[strip] = (amounts[strip] as number) + (cells[i * SLOT + BANDS] as number);
    for (let band = 0; band < BANDS; band++) {
      const at = strip * BANDS + band;
      bands[at] = (bands[at] as number) + (cells[i * SLOT + band] as number);
    }
  }
  for (let strip = 0; strip < STRIPS; strip++) {
    const per = full * Math.max(1, cellsIn[strip] as number);
    amounts[strip] = (amounts[strip] as number) / per;
    for (let band = 0; band < BANDS; band++) {
      const at = strip * BANDS + band;
      bands[at] = (bands[at] as number) / per;
    }
  }
  return carriedFrom(amounts, bands);
}
