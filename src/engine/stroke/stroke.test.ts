import {
  alphas,
  fingerprint,
  line,
  pixel,
  pixelAt,
  stroke,
  sum,
  testEngine,
  testHeader,
  testWork,
  writeStraight,
} from "../engine.testing";
import { COVERAGE_BYTES } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { Marks } from "./marks";
import { type Sample } from "./sample";

/** Mean coverage of the middle of a tile after `count` equal marks. */
function accumulate(flow: number, count: number): number {
  const engine = testEngine();
  const { heap } = engine.store;
  const coverage = heap.allocate(COVERAGE_BYTES);
  const marks = new Marks(heap);
  engine.workforce.beginJob();
  engine.workforce.write(TAPE.clear, coverage, COVERAGE_BYTES);
  engine.workforce.endJob();
  engine.workforce.run(false);
  for (let i = 0; i < count; i++) {
    marks.disc(
      { x: 32, y: 32, radius: 500, stretch: 1, angle: 0, hardness: 0, flow, noise: i * 2654435761 },
      null,
    );
    if (!marks.lacksRoomFor(1) && i < count - 1) continue;
    engine.workforce.beginJob();
    engine.workforce.write(
      TAPE.marks,
      coverage,
      0,
      0,
      marks.address,
      marks.count,
      engine.bench.noise,
      0,
      64,
    );
    engine.workforce.endJob();
    engine.workforce.run(false);
    marks.clear();
  }
  const at = coverage >> 1;
  let total = 0;
  for (let y = 28; y < 36; y++)
    for (let x = 28; x < 36; x++) total += heap.u16[at + y * 64 + x] as number;
  return total / 64 / 32767;
}

describe("accumulation of faint marks", () => {
  it.each([
    [0.01, 500],
    [0.01, 60],
    [0.002, 800],
    [0.1, 12],
    [0.6, 3],
  ])("%d flow × %d marks reaches 1 − (1 − flow)^n within half a percent", (flow, count) => {
    const expected = 1 - (1 - flow) ** count;
    expect(Math.abs(accumulate(flow, count) - expected) / expected).toBeLessThan(0.005);
  });
});

describe("a stroke's strength", () => {
  it("is a ceiling: crossing itself does not darken", () => {
    const { engine, work } = testWork();
    const there = line([40, 96], [216, 96], { pressure: () => 1 });
    const back = line([216, 96], [40, 96], { pressure: () => 1 }).map((s): Sample => [
      s[0] + 200,
      s[1],
      s[2],
      s[3],
      s[4],
      s[5],
      s[6],
    ]);
    work.apply(
      stroke(
        [
          ...there,
          ...back,
          ...there.map((s): Sample => [s[0] + 400, s[1], s[2], s[3], s[4], s[5], s[6]]),
        ],
        { brush: "round-soft", size: 40, strength: 0.5 },
      ),
    );
    const middle = pixel(engine, work, "a", 128, 96)[3] as number;
    expect(middle / 32767).toBeLessThanOrEqual(0.5 + 1 / 255);
    expect(middle / 32767).toBeGreaterThan(0.47);
  });
});

describe("coverage", () => {
  it("is the same in either direction of travel", () => {
    const a = testWork();
    const b = testWork();
    const there = line([30, 40], [200, 140], { pressure: () => 0.7 });
    const back = line([200, 140], [30, 40], { pressure: () => 0.7 });
    a.work.apply(stroke(there));
    b.work.apply(stroke(back));
    const [one, other] = [alphas(a.engine, a.work), alphas(b.engine, b.work)];
    const apart = one.map((v, i) => Math.abs(v - (other[i] as number)));
    expect(Math.max(...apart)).toBeLessThan(2 / 255);
  });

  it("does not change at tile borders", () => {
    const a = testWork();
    const b = testWork();
    a.work.apply(stroke(line([10, 10], [50, 44])));
    // The same line, moved so that it lies across four tiles.
    b.work.apply(stroke(line([43, 42], [83, 76])));
    let apart = 0;
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 62; x++) {
        const one = pixel(a.engine, a.work, "a", x, y)[3] as number;
        const other = pixel(b.engine, b.work, "a", x + 33, y + 32)[3] as number;
        apart = Math.max(apart, Math.abs(one - other));
      }
    expect(apart).toBeLessThan(32767 / 255);
  });

  it("does not change with the zoom at which it was drawn", () => {
    const a = testWork();
    const b = testWork();
    a.work.apply(stroke(line([20, 30], [180, 120]), { scale: 1 }));
    b.work.apply(stroke(line([20, 30], [180, 120]), { scale: 6 }));
    expect(fingerprint(a.engine, a.work)).toBe(fingerprint(b.engine, b.work));
  });

  it.each([0.5, 0.75, 1, 1.6, 3, 12])("of an ink line %d px wide has the line's area", (size) => {
    const { engine, work } = testWork();
    work.apply(stroke(line([40, 90.3], [200, 90.3], { steps: 40 }), { size }));
    const mask = alphas(engine, work);
    const { width } = work.picture;
    let column = 0;
    for (let y = 0; y < work.picture.height; y++) column += mask[y * width + 120] as number;
    expect(column).toBeCloseTo(size, 2);
    expect(sum(mask)).toBeCloseTo(160 * size + (Math.PI * size * size) / 4, -1);
  });

  it("of a slanting ink line is its width too, within two percent", () => {
    const { engine, work } = testWork();
    work.apply(stroke(line([30, 40], [210, 150], { steps: 40 }), { size: 4 }));
    const length = Math.hypot(180, 110);
    const expected = length * 4 + Math.PI * 4;
    expect(Math.abs(sum(alphas(engine, work)) - expected) / expected).toBeLessThan(0.02);
  });
});

describe("the path", () => {
  const wandering = (): Sample[] =>
    Array.from({ length: 60 }, (_, i) => [
      i * 7,
      40 + i * 2.6,
      96 + Math.sin(i / 4) * 40,
      0.3 + 0.5 * Math.sin(i / 9) ** 2,
      1.2,
      0.4,
      0,
    ]);

  it.each(["pen-sprung", "pencil-2b", "round-soft"])(
    "of %s does not depend on how the samples were batched",
    (brush) => {
      for (const steady of [0, 0.3, 0.8]) {
        const prints = [60, 1, 7].map((size) => {
          const { engine, work } = testWork();
          const { samples: _, ...beginning } = stroke([], { brush, size: 12, steady }) as Extract<
            ReturnType<typeof stroke>,
            { do: "stroke" }
          >;
          work.beginStroke(beginning);
          const samples = wandering();
          for (let i = 0; i < samples.length; i += size)
            work.extendStroke(samples.slice(i, i + size));
          work.endStroke();
          return fingerprint(engine, work);
        });
        expect(prints[1]).toBe(prints[0]);
        expect(prints[2]).toBe(prints[0]);
      }
    },
  );

  it("ends where the pen was lifted, however strongly it is steadied", () => {
    for (const steady of [0, 0.5, 1]) {
      const { engine, work } = testWork();
      work.apply(stroke(line([30, 60], [220, 150]), { size: 6, steady }));
      expect(pixel(engine, work, "a", 219, 149)[3]).toBeGreaterThan(30000);
    }
  });

  it("that is a tap leaves a dot as heavy as the press became", () => {
    const { engine, work } = testWork();
    const tap: Sample[] = [0.1, 0.6, 0.9, 0.3].map((p, i) => [i * 8, 100, 100, p, 1.5, 0, 0]);
    work.apply(stroke(tap, { brush: "pen-sprung", size: 20 }));
    expect(sum(alphas(engine, work))).toBeGreaterThan(200);
  });

  it("live and logged is the same", () => {
    const live = testWork();
    const { samples: _, ...beginning } = stroke([], { brush: "pen-sprung" }) as Extract<
      ReturnType<typeof stroke>,
      { do: "stroke" }
    >;
    live.work.beginStroke(beginning);
    for (const sample of wandering()) live.work.extendStroke([sample]);
    const command = live.work.endStroke();
    const logged = testWork();
    logged.work.apply(JSON.parse(JSON.stringify(command)));
    expect(fingerprint(logged.engine, logged.work)).toBe(fingerprint(live.engine, live.work));
  });

  it("given up leaves the layer as it was", () => {
    const { engine, work } = testWork();
    work.apply(stroke(line([10, 10], [200, 100])));
    const before = fingerprint(engine, work);
    const { samples: _, ...beginning } = stroke([]) as Extract<
      ReturnType<typeof stroke>,
      { do: "stroke" }
    >;
    work.beginStroke(beginning);
    work.extendStroke(wandering());
    work.abandonStroke();
    expect(fingerprint(engine, work)).toBe(before);
  });
});

describe("taper", () => {
  it("thins the line at both ends, over the lengths of the brush", () => {
    const { engine, work } = testWork();
    work.apply(
      stroke(line([20, 90], [230, 90], { steps: 60, pressure: () => 1 }), {
        brush: "pen-sprung",
        size: 10,
      }),
    );
    const mask = alphas(engine, work);
    const { width, height } = work.picture;
    const widthAt = (x: number): number => {
      let total = 0;
      for (let y = 0; y < height; y++) total += mask[y * width + x] as number;
      return total;
    };
    expect(widthAt(125)).toBeCloseTo(10, 1);
    expect(widthAt(24)).toBeLessThan(5.5);
    expect(widthAt(226)).toBeLessThan(5.5);
    expect(widthAt(21)).toBeLessThan(widthAt(30));
    expect(widthAt(227)).toBeLessThan(widthAt(215));
  });
});

describe("a pencil", () => {
  it("widens when the pencil is tilted, along the tilt", () => {
    const spread = (altitude: number): number => {
      const { engine, work } = testWork();
      work.apply(
        stroke(line([60, 96], [200, 96], { altitude, azimuth: Math.PI / 2, pressure: () => 0.8 }), {
          brush: "pencil-2b",
          size: 8,
        }),
      );
      const mask = alphas(engine, work);
      let rows = 0;
      for (let y = 0; y < 192; y++)
        if (mask.subarray(y * 256 + 100, y * 256 + 160).some((v) => v > 0.02)) rows++;
      return rows;
    };
    expect(spread(0.4)).toBeGreaterThan(3 * spread(Math.PI / 2));
  });
});

describe("Lift and Blend", () => {
  it("lift takes away by the same mark", () => {
    const { engine, work } = testWork();
    work.apply(stroke(line([40, 96], [210, 96]), { size: 60 }));
    work.apply(stroke(line([128, 40], [128, 150]), { size: 12, mode: "lift" }));
    expect(pixel(engine, work, "a", 128, 96)[3]).toBeLessThan(10);
    expect(pixel(engine, work, "a", 100, 96)[3]).toBeGreaterThan(32700);
  });

  it("lift of everything leaves no tiles", () => {
    const { work } = testWork();
    work.apply(stroke(line([20, 20], [50, 50]), { size: 10 }));
    work.apply(stroke(line([20, 20], [50, 50]), { size: 80, mode: "lift" }));
    expect(work.picture.plane("a").size).toBe(0);
  });

  it("blend carries paint along and mixes what it crosses", () => {
    const { engine, work } = testWork();
    work.apply(stroke(line([30, 60], [220, 60]), { size: 40, colour: "#ff0000" }));
    work.apply(stroke(line([30, 100], [220, 100]), { size: 40, colour: "#0000ff" }));
    work.apply(
      stroke(line([120, 60], [120, 130], { steps: 40, pressure: () => 1 }), {
        mode: "blend",
        brush: "round-soft",
        size: 30,
      }),
    );
    const [r, , b] = pixel(engine, work, "a", 120, 92) as [number, number, number];
    expect(r).toBeGreaterThan(3000);
    expect(b).toBeGreaterThan(1500);
    const below = pixel(engine, work, "a", 120, 126);
    expect(below[3]).toBeGreaterThan(3000);
  });

  it.each([30, 60, 120])("blend with a soft tip %d px wide has a soft edge", (size) => {
    const { engine, work } = testWork();
    work.apply(stroke(line([-40, 40], [300, 40]), { size: 130, colour: "#000000" }));
    work.apply(
      stroke(line([128, 90], [128, 130], { pressure: () => 1, steps: 30 }), {
        mode: "blend",
        brush: "round-soft",
        size,
      }),
    );
    const alpha = (x: number): number => (pixel(engine, work, "a", x, 122)[3] as number) / 32767;
    const across = Array.from({ length: size / 2 }, (_, i) => alpha(128 + i));
    expect(across[0]).toBeGreaterThan(0.1);
    const steps = across.slice(1).map((v, i) => (across[i] as number) - v);
    // From the middle to the rim it falls gently, and has all but gone before the rim.
    expect(Math.max(...steps)).toBeLessThan(((across[0] as number) * 5.5) / size);
    expect(across.at(-2)).toBeLessThan((across[0] as number) * 0.2);
  });

  it("blend touches only what its marks touch, however much the tip takes up", () => {
    const { work } = testWork({ width: 640, height: 640 });
    for (let y = 20; y < 640; y += 60)
      work.apply(stroke(line([0, y], [640, y]), { size: 80, colour: "#446688" }));
    const before = new Map(work.picture.plane("a"));
    work.apply(
      stroke(line([300, 300], [320, 310]), { mode: "blend", brush: "round-soft", size: 40 }),
    );
    const changed = [...work.picture.plane("a")].filter(([key, tile]) => before.get(key) !== tile);
    expect(changed.length).toBeGreaterThan(0);
    expect(changed.length).toBeLessThanOrEqual(4);
  });

  it("blend of one colour with itself changes nothing", () => {
    const { engine, work } = testWork();
    work.apply(stroke(line([20, 96], [236, 96]), { size: 120, colour: "#3d7a5c" }));
    const before = pixel(engine, work, "a", 128, 96);
    work.apply(
      stroke(line([80, 96], [180, 96], { pressure: () => 1 }), {
        mode: "blend",
        brush: "round-soft",
        size: 40,
      }),
    );
    pixel(engine, work, "a", 128, 96).forEach((v, c) =>
      expect(Math.abs(v - (before[c] as number))).toBeLessThanOrEqual(32767 / 255),
    );
  });

  it("a long drag does not stall on rounding: a faint blend reaches what it should", () => {
    const { engine, work } = testWork({ width: 512, height: 128 });
    work.apply(stroke(line([0, 64], [512, 64]), { size: 120, colour: "#101010" }));
    work.apply(stroke(line([-40, 64], [30, 64]), { size: 120, colour: "#ffffff" }));
    for (let i = 0; i < 4; i++)
      work.apply(
        stroke(line([70, 64], [110, 64], { pressure: () => 0.4 }), {
          mode: "blend",
          brush: "round-soft",
          size: 60,
          strength: 0.25,
          seed: i,
        }),
      );
    // The border has become a slope: strictly falling, without a step.
    const values = [92, 98, 104, 110].map((x) => pixel(engine, work, "a", x, 64)[0] as number);
    values.slice(1).forEach((v, i) => expect(v).toBeLessThan(values[i] as number));
  });

  it("keeps alpha where transparency is locked, in every mode", () => {
    const { engine, work } = testWork();
    work.apply(
      stroke(line([40, 60], [210, 120]), { brush: "round-soft", size: 50, colour: "#aa3300" }),
    );
    const before = alphas(engine, work);
    work.apply({ do: "layer.set", id: "a", lockTransparency: true });
    work.apply(stroke(line([40, 120], [210, 60]), { size: 50, colour: "#0033aa" }));
    work.apply(
      stroke(line([100, 40], [100, 150]), { mode: "blend", brush: "round-soft", size: 30 }),
    );
    const after = alphas(engine, work);
    expect(after).toEqual(before);
    expect(() => work.apply(stroke(line([0, 0], [9, 9]), { mode: "lift" }))).toThrow(
      /transparency/i,
    );
  });
});

describe("chance", () => {
  it("comes from the seed alone", () => {
    const print = (seed: number): string => {
      const { engine, work } = testWork();
      work.apply(stroke(line([20, 20], [200, 150]), { brush: "pencil-6b", seed }));
      return fingerprint(engine, work);
    };
    expect(print(5)).toBe(print(5));
    expect(print(5)).not.toBe(print(6));
  });
});

it("a stroke that leaves the sheet on every side draws only what lies on it", () => {
  const engine = testEngine();
  const work = engine.open(testHeader({ width: 70, height: 70 }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  work.apply(stroke(line([-300, -300], [400, 400]), { size: 500, brush: "round-soft" }));
  expect([...work.picture.plane("a").keys()].sort((a, b) => a - b)).toEqual([0, 1, 256, 257]);
});

describe("blending", () => {
  /** A sheet whose upper half is dark and whose lower half is light. */
  function halves(edge: number) {
    const made = testWork({ width: 300, height: 180 });
    writeStraight(made.work, "a", (_x, y) =>
      y < edge ? [62, 70, 110, 255] : [230, 200, 120, 255],
    );
    return made;
  }

  it.each([
    ["right", line([309, 60], [200, 60])],
    ["left", line([-9, 60], [100, 60])],
    ["top", line([150, -9], [150, 60])],
  ])("inward from the %s edge takes no paint away", (_edge, samples) => {
    const { engine, work } = halves(180);
    for (const brush of ["round-soft", "round-bristle"])
      work.apply(stroke(samples, { brush, size: 60, mode: "blend" }));
    for (const [x, y] of [
      [297, 60],
      [2, 60],
      [150, 2],
      [280, 60],
    ] as const)
      expect(pixelAt(engine, work, "a", x, y)).toEqual([62, 70, 110, 255]);
  });

  it.each([
    ["round-soft", 100],
    ["round-soft", 140],
    ["round-veil", 120],
  ])("with %s at %i px shows none of its marks across an edge", (brush, size) => {
    const { engine, work } = halves(60);
    const path = line([150, 10], [150, 165], { steps: 60 });
    work.apply(stroke(path, { brush, size, strength: 1, mode: "blend" }));
    let worst = 0;
    for (let x = 150 - size / 4; x <= 150 + size / 4; x += 5) {
      const at = (y: number): number => pixel(engine, work, "a", Math.round(x), y)[0] as number;
      // What a straight piece of the drawn-out colour does not explain, over the distance of two marks.
      for (let y = 70; y < 150; y++)
        worst = Math.max(worst, Math.abs(at(y) - (at(y - 3) + at(y + 3)) / 2));
    }
    expect(worst / 32767).toBeLessThan(0.01);
  });
});
