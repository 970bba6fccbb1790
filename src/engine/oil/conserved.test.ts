import { testEngine } from "../engine.testing";
import { Chance } from "../stroke/chance";
import { TAPE, realWord } from "../tiles/tape";
import { findBrush } from "../media";
import { BANDS, plant } from "./bundle";
import { type Bristles } from "./bristles";
import { Motion } from "./motion";
import { SUM_WORDS, SWEEP_WORDS, Sweeps } from "./sweep";

/** A tile of wet paint as the kernels lay it out: groups of four pixels, 76 words each, and a byte for each group. */
const GROUP = 76;
const WET_BYTES = 1024 * GROUP * 4 + 1024;
const engine = testEngine();
const { heap } = engine.store;
const chance = new Chance(77);

/** Uneven wet paint of many colours on uneven ground. Returns its address. */
function wetTile(): number {
  const address = heap.allocate(WET_BYTES);
  const { f32 } = heap;
  for (let i = 0; i < 1024; i++)
    for (let lane = 0; lane < 4; lane++) {
      const draw = (n: number): number => chance.at((i * 4 + lane) * 32 + n);
      const at = (address >> 2) + i * GROUP + lane;
      const [skin, bulk] = [0.45 * draw(20), 3 * draw(21)];
      for (let band = 0; band < BANDS; band++) {
        f32[at + band * 4] = skin * draw(band);
        f32[at + 32 + band * 4] = bulk * draw(8 + band);
      }
      f32[at + 28] = skin;
      f32[at + 60] = bulk;
      f32[at + 64] = 2 * draw(22) - 0.9;
      f32[at + 68] = draw(23) < 0.1 ? draw(24) : 1;
    }
  return address;
}

/** Of all the paint in a tile: seven bands, and how much. */
function total(address: number): number[] {
  const sums = new Array<number>(BANDS + 1).fill(0);
  for (let i = 0; i < 1024; i++)
    for (let lane = 0; lane < 4; lane++)
      for (let band = 0; band <= BANDS; band++) {
        const at = (address >> 2) + i * GROUP + lane + band * 4;
        sums[band] =
          (sums[band] as number) + (heap.f32[at] as number) + (heap.f32[at + 32] as number);
      }
  return sums;
}

const carriedOut = (write: () => void): void => {
  engine.workforce.beginJob();
  write();
  engine.workforce.endJob();
  engine.workforce.run(false);
};

it.each(["oil-round", "oil-flat", "oil-sable", "oil-house"])(
  "%s and wet paint only give each other paint: none is made or lost",
  (id) => {
    const style = findBrush(id)?.laying as Bristles;
    const bundle = plant(style, 40, 0.6, [0.2, 0.4, 0.1, 0.9, 0.3, 0.05, 0.6], 3);
    const motion = new Motion(style, bundle, 40, new Chance(1));
    const sweeps = new Sweeps(style, bundle, 40, "paint", new Chance(2));
    const hand = { x: 20, y: 32, pressure: 0.8, speed: 400, altitude: 1.5, azimuth: 0 };
    motion.begin(hand, 1, 0);
    motion.follow({ ...hand, x: 40 }, 20, 1, 0);
    const { bristles } = bundle;
    const wet = wetTile();
    const at = heap.allocate(bristles.length * SWEEP_WORDS * 4);
    const list = heap.allocate(bristles.length * 4);
    const sums = heap.allocate(bristles.length * SUM_WORDS * 4);
    bristles.forEach((b, i) => {
      b.level = 1;
      b.bead.volume = 4;
      b.bead.bands.fill(2);
      heap.i32[(list >> 2) + i] = i;
      sweeps.write(heap.f32, heap.i32, (at >> 2) + i * SWEEP_WORDS, b, motion, 0.8);
    });
    const held = (): number[] =>
      Array.from({ length: BANDS + 1 }, (_, n) =>
        bristles.reduce(
          (sum, { tip, store, bead }) =>
            sum +
            [tip, store, bead].reduce(
              (s, blob) => s + (n < BANDS ? (blob.bands[n] as number) : blob.volume),
              0,
            ),
          0,
        ),
      );
    const [canvas, brush] = [total(wet), held()];
    carriedOut(() =>
      engine.workforce.write(TAPE.sweep, wet, 0, 0, at, list, bristles.length, sums),
    );
    bristles.forEach((b, i) => {
      sweeps.book(heap.f32, (sums >> 2) + i * SUM_WORDS, b);
      sweeps.settle(b);
    });
    const [now, left] = [total(wet), held()];
    expect(Math.abs((now[BANDS] as number) - (canvas[BANDS] as number))).toBeGreaterThan(5);
    for (let n = 0; n <= BANDS; n++) {
      const before = (canvas[n] as number) + (brush[n] as number);
      const after = (now[n] as number) + (left[n] as number);
      expect(Math.abs(after / before - 1)).toBeLessThan(1e-6);
    }
  },
);

it.each([0.1, 0.5, 0.95])("a knife pressed %d makes and loses no paint", (pressure) => {
  const count = 40;
  const wet = wetTile();
  const cells = heap.allocate(count * 128);
  const step = heap.allocate(96);
  const { f32, i32 } = heap;
  for (let i = 0; i < count * 4; i++) {
    for (let band = 0; band < BANDS; band++)
      f32[(cells >> 2) + i * 8 + band] = 9 * chance.at(900_000 + i * 8 + band);
    f32[(cells >> 2) + i * 8 + BANDS] = 9;
  }
  const onKnife = (): number[] =>
    Array.from({ length: BANDS + 1 }, (_, n) => {
      let sum = 0;
      for (let i = 0; i < count * 4; i++) sum += f32[(cells >> 2) + i * 8 + n] as number;
      return sum;
    });
  const before = total(wet).map((v, n) => v + (onKnife()[n] as number));
  const canvas = total(wet);
  for (let i = 0; i < 40; i++) {
    const x = 8 + i * 1.2;
    f32.set(
      [x, 32, 1, 0, x + 1.2, 32, 1, 0, count / 2, pressure, 0.6, 1.2, i * 1.2, 1, 1],
      step >> 2,
    );
    i32.set([9, 0, 0, 64, 64], (step >> 2) + 15);
    carriedOut(() => {
      engine.workforce.write(TAPE.knife, wet, 0, 0, step, cells, count);
      engine.workforce.write(
        TAPE.knifeCreep,
        cells,
        count,
        ...[1.2, 0.6, i * 1.2].map(realWord),
        9,
      );
    });
  }
  const after = total(wet).map((v, n) => v + (onKnife()[n] as number));
  expect(Math.abs((total(wet)[BANDS] as number) - (canvas[BANDS] as number))).toBeGreaterThan(20);
  after.forEach((v, n) => expect(Math.abs(v / (before[n] as number) - 1)).toBeLessThan(1e-6));
});
