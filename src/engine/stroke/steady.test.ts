import { Path } from "./path";
import { type Sample } from "./sample";
import { steady } from "./steady";

const STEP_MS = 5;
/** A hand's jitter: the same every time, ± half a px. */
const jitter = (i: number): number =>
  (((Math.imul(i + 1, 2654435761) >>> 8) & 1023) / 1023 - 0.5) * 1;

const rest = (i: number): Sample => [
  i * STEP_MS,
  100 + jitter(i),
  100 + jitter(i + 5000),
  0.5,
  1.5,
  0,
  0,
];
const moving =
  (speed: number) =>
  (i: number): Sample => [i * STEP_MS, (speed * i * STEP_MS) / 1000, 50, 0.5, 1.5, 0, 0];

function filtered(amount: number, samples: (i: number) => Sample, count = 200): Sample[] {
  const filter = steady(amount, 1);
  return Array.from({ length: count }, (_, i) => filter.take(samples(i)) ?? samples(i));
}

const spread = (samples: Sample[]): number => {
  const xs = samples.slice(50).map(([, x]) => x);
  const mean = xs.reduce((a, b) => a + b) / xs.length;
  return Math.sqrt(xs.reduce((a, x) => a + (x - mean) ** 2, 0) / xs.length);
};

describe("Steady", () => {
  it("none leaves samples as they are", () => {
    expect(filtered(0, rest, 5)).toEqual([0, 1, 2, 3, 4].map(rest));
  });

  it("takes the jitter out of a resting hand, more the stronger it is", () => {
    const before = spread(Array.from({ length: 200 }, (_, i) => rest(i)));
    const spreads = [0.1, 0.3, 0.5].map((amount) => spread(filtered(amount, rest)));
    expect(spreads[0]).toBeLessThan(before * 0.75);
    expect(spreads[1]).toBeLessThan(spreads[0] as number);
    expect(spreads[2]).toBeLessThan(before * 0.3);
  });

  it.each([1000, 3000])("when light lags less than a sample at %d px a second", (speed) => {
    const samples = filtered(0.2, moving(speed));
    const last = samples.at(-1) as Sample;
    const behind = (moving(speed)(199)[1] - last[1]) / speed;
    expect(behind * 1000).toBeLessThan(STEP_MS);
  });

  it("when strong holds the tip by a string that does not stretch", () => {
    const filter = steady(1, 1);
    filter.take(moving(0)(0));
    let x = 0;
    for (let i = 1; i < 100; i++) {
      const taken = filter.take([i * 5, i * 4, 50, 0.5, 1.5, 0, 0]);
      if (taken) x = taken[1];
      expect(i * 4 - x).toBeLessThanOrEqual(120 + 1e-9);
    }
    expect(x).toBeCloseTo(99 * 4 - 120, 6);
  });

  it("measures in screen px: far out it holds longer", () => {
    const reach = (scale: number): number => {
      const filter = steady(0.75, scale);
      filter.take([0, 0, 0, 0.5, 1.5, 0, 0]);
      let x = 0;
      while (!filter.take([1, x, 0, 0.5, 1.5, 0, 0])) x++;
      return x;
    };
    expect(reach(4) / reach(1)).toBeCloseTo(4, 0);
  });
});

describe("the path", () => {
  const samples: Sample[] = [
    [0, 0, 0, 0.2, 1.5, 3.1, 0],
    [10, 30, 5, 0.5, 1.4, -3.1, 0],
    [20, 60, 40, 0.8, 1.3, -3, 0],
    [30, 60, 90, 0.6, 1.2, -2.9, 0],
    [40, 20, 120, 0.1, 1.1, -2.8, 0],
  ];
  const whole = (): Path => {
    const path = new Path(0, 1);
    for (const sample of samples) path.add(sample);
    path.points.push(...path.tail());
    return path;
  };

  it("goes through every sample, with its pressure", () => {
    const { points } = whole();
    for (const [, x, y, pressure] of samples) {
      const nearest = points.reduce((a, b) =>
        Math.hypot(b.x - x, b.y - y) < Math.hypot(a.x - x, a.y - y) ? b : a,
      );
      expect(Math.hypot(nearest.x - x, nearest.y - y)).toBeLessThan(0.01);
      expect(nearest.pressure).toBeCloseTo(pressure, 6);
    }
  });

  it("is measured along itself in short chords", () => {
    const { points } = whole();
    points.slice(1).forEach((point, i) => {
      const before = points[i] as (typeof points)[number];
      const chord = Math.hypot(point.x - before.x, point.y - before.y);
      expect(point.s - before.s).toBeCloseTo(chord, 6);
      expect(chord).toBeLessThan(2.5);
    });
  });

  it("turns angles the short way round", () => {
    for (const { azimuth } of whole().points)
      expect(Math.cos(azimuth - Math.PI)).toBeGreaterThan(0.9);
  });

  it("does not overshoot between close samples of a sharp turn", () => {
    const path = new Path(0, 1);
    const turn: Sample[] = [
      [0, 0, 0, 1, 1, 0, 0],
      [5, 100, 0, 1, 1, 0, 0],
      [10, 100, 1, 1, 1, 0, 0],
      [15, 0, 1, 1, 1, 0, 0],
    ];
    for (const sample of turn) path.add(sample);
    path.points.push(...path.tail());
    for (const { x } of path.points) expect(x).toBeLessThan(101);
  });

  it("has nothing before the pen has come down", () => {
    expect(new Path(0.5, 1).tail()).toEqual([]);
  });
});
