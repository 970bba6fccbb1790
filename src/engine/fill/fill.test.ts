import {
  alphaAt,
  fingerprint,
  pixel,
  pixelAt,
  testEngine,
  testHeader,
  writeStraight,
} from "../engine.testing";
import { type CommandInput } from "../command/commands";
import { type Work } from "../command/work";
import { finderFor } from "../command/fill";
import { Regions } from "../region/regions";
import { sourceOf } from "../region/source";
import { ONE } from "../tiles/layout";
import { ellipseIn } from "../select/shapes";
import { leakOf, type RegionFinder } from "./region";
import { layFlats, paletteOf, ringPage, roomsPage } from "./pages.testing";

const engine = testEngine();
const at = (x: number, y: number): [number, number][] => [[x, y]];

/** A sheet with lines on a layer “ink” that is the line source, and an empty layer “flat” under it. */
function sheet(
  width: number,
  height: number,
  isInk: (x: number, y: number) => boolean | number,
): Work {
  const work = engine.open(testHeader({ width, height }));
  work.apply({ do: "layer.add", id: "flat", name: "Flat", above: null });
  work.apply({ do: "layer.add", id: "ink", name: "Ink", above: "flat" });
  work.apply({ do: "layer.set", id: "ink", lines: true });
  writeStraight(work, "ink", (x, y) => {
    const a = Number(isInk(x, y));
    return [20, 20, 30, Math.round(a * 255)];
  });
  return work;
}

const count = (work: Work, layer: string): number => {
  let n = 0;
  for (let y = 0; y < work.picture.height; y++)
    for (let x = 0; x < work.picture.width; x++) if (alphaAt(engine, work, layer, x, y) > 0) n++;
  return n;
};

describe("bit pictures", () => {
  const width = 200;
  const height = 150;
  let seed = 7;
  const chance = (): number => {
    seed = (Math.imul(seed, 1103515245) + 12345) >>> 0;
    return seed / 4294967296;
  };
  const walls = Array.from({ length: width * height }, () => chance() < 0.3);

  test("a flood reaches what a plain four-way search reaches, through a maze across tiles", () => {
    const regions = new Regions(engine.bench, width, height);
    const open = regions.make();
    const filled = regions.make();
    walls.forEach((wall, i) => wall || regions.set(open, i % width, Math.floor(i / width)));
    const start = walls.findIndex((wall, i) => !wall && i > width * 60 + 90);
    const [sx, sy] = [start % width, Math.floor(start / width)];
    regions.set(filled, sx, sy);
    const { area } = regions.flood(open, filled, [regions.tileOf(sx, sy)]);
    const seen = new Set([start]);
    const queue = [start];
    for (let i = queue.pop(); i !== undefined; i = queue.pop()) {
      const x = i % width;
      const steps = [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width];
      for (const next of steps)
        if (next >= 0 && next < walls.length && !walls[next] && !seen.has(next)) {
          seen.add(next);
          queue.push(next);
        }
    }
    expect(seen.size).toBeGreaterThan(2000);
    expect(area).toBe(seen.size);
    for (let i = 0; i < walls.length; i++)
      if (regions.has(filled, i % width, Math.floor(i / width)) !== seen.has(i))
        throw new Error(`pixel ${i % width}, ${Math.floor(i / width)} differs`);
    regions.free();
  });

  test.each([1, 2.5, 4, 11, 20.5])("growing by %d px is exact to the Euclidean distance", (r) => {
    const regions = new Regions(engine.bench, width, height);
    const from = regions.make();
    const into = regions.make();
    const points = [
      [3, 4],
      [63, 63],
      [64, 100],
      [150, 20],
      [199, 149],
    ] as const;
    for (const [x, y] of points) regions.set(from, x, y);
    regions.grow(into, from, r);
    let wrong = 0;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const isNear = points.some(([px, py]) => (x - px) ** 2 + (y - py) ** 2 <= r * r);
        if (regions.has(into, x, y) !== isNear) wrong++;
      }
    expect(wrong).toBe(0);
    regions.free();
  });
});

describe("fill", () => {
  const ring = ringPage({ radius: 60, width: 3, gap: 6 });

  test("a circle with a 6-px gap holds at bridge 8 and leaks at bridge 0", () => {
    const held = sheet(220, 200, ring.isInk);
    held.apply({
      do: "fill",
      layer: "flat",
      at: at(110, 100),
      borders: "lines",
      bridge: 8,
      colour: "#c08040",
    });
    const area = Math.PI * 60 ** 2;
    expect(count(held, "flat")).toBeGreaterThan(area * 0.97);
    expect(count(held, "flat")).toBeLessThan(area * 1.12);
    expect(alphaAt(engine, held, "flat", 5, 5)).toBe(0);
    held.release();

    const leaking = sheet(220, 200, ring.isInk);
    leaking.apply({
      do: "fill",
      layer: "flat",
      at: at(110, 100),
      borders: "lines",
      bridge: 0,
      colour: "#c08040",
    });
    expect(alphaAt(engine, leaking, "flat", 5, 5)).toBe(1);
    leaking.release();
  });

  test.each(["#ffffff", "#c02020", "#104080"])(
    "no pale fringe under a soft line with %s: all of its near half is covered",
    (colour) => {
      const whole = ringPage({ radius: 60, width: 6, gap: 0, soft: true });
      const work = sheet(220, 200, whole.isInk);
      work.apply({
        do: "fill",
        layer: "flat",
        at: at(110, 100),
        borders: "lines",
        under: 32,
        colour,
      });
      let bare = 0;
      for (let y = 0; y < 200; y++)
        for (let x = 0; x < 220; x++) {
          const r = Math.hypot(x + 0.5 - 110, y + 0.5 - 100);
          if (r < 59.4 && alphaAt(engine, work, "flat", x, y) < 1) bare++;
          // It stops at the middle of the line.
          if (r > 61.6 && alphaAt(engine, work, "flat", x, y) > 0) bare++;
        }
      expect(bare).toBe(0);
      work.release();
    },
  );

  test("on its own layer it goes behind the lines, and a flat is recoloured exactly", () => {
    const work = sheet(220, 200, ringPage({ radius: 60, width: 3, gap: 0 }).isInk);
    const fill = (layer: string, colour: string) =>
      work.apply({ do: "fill", layer, at: at(110, 100), borders: "layer", colour });
    fill("ink", "#40a060");
    expect(pixelAt(engine, work, "ink", 110, 100)).toEqual([64, 160, 96, 255]);
    expect(pixelAt(engine, work, "ink", 110 + 60, 100)).toEqual([20, 20, 30, 255]);
    const before = paletteOf(engine, work, "ink");
    fill("ink", "#a04060");
    const after = paletteOf(engine, work, "ink");
    expect(after.get("160 64 96 255")).toBe(before.get("64 160 96 255"));
    work.undo();
    expect(paletteOf(engine, work, "ink")).toEqual(before);
    work.release();
  });

  test("several points fill their regions in one step; a loop fills only what lies wholly in it", () => {
    const { isInk } = roomsPage({ columns: 4, rows: 3, side: 50, gaps: [] });
    const work = sheet(240, 190, isInk);
    const room = (column: number, row: number): [number, number] => [
      20 + column * 50 + 25,
      20 + row * 50 + 25,
    ];
    work.apply({
      do: "fill",
      layer: "flat",
      at: [room(0, 0), room(1, 0), room(2, 0)],
      borders: "lines",
      colour: "#806020",
    });
    const filled = (column: number, row: number): boolean =>
      alphaAt(engine, work, "flat", ...room(column, row)) === 1;
    expect([0, 1, 2, 3].map((column) => filled(column, 0))).toEqual([true, true, true, false]);
    expect(work.undo()).toBe("fill");
    work.apply({
      do: "fill.loop",
      layer: "flat",
      loop: [
        [10, 10],
        [132, 10],
        [132, 132],
        [10, 132],
      ],
      what: "regions",
      borders: "lines",
      colour: "#806020",
    });
    expect([filled(0, 0), filled(1, 1), filled(2, 0), filled(0, 2)]).toEqual([
      true,
      true,
      false,
      false,
    ]);
    work.release();
  });

  test("a lassoed edge is as smooth as the loop, and as much of a pixel as it covers is filled", () => {
    const work = sheet(200, 200, () => false);
    const loop = ellipseIn(50.3, 40.7, 150.3, 140.7).map(([x, y]): [number, number] => [x, y]);
    work.apply({ do: "fill.loop", layer: "flat", loop, colour: "#ff0000" });
    let area = 0;
    let between = 0;
    for (let y = 0; y < 200; y++)
      for (let x = 0; x < 200; x++) {
        const [red, green, blue, alpha] = pixel(engine, work, "flat", x, y) as [
          number,
          number,
          number,
          number,
        ];
        area += alpha / ONE;
        if (alpha > 0 && alpha < ONE) between++;
        // Premultiplied by what is there: no fringe of another colour.
        if (red !== alpha || green !== 0 || blue !== 0)
          throw new Error(`a fringe at ${x}, ${y}: ${red} ${green} ${blue} ${alpha}`);
      }
    expect(area / (Math.PI * 50 * 50)).toBeCloseTo(1, 3);
    expect(between).toBeGreaterThan(300);
    expect(between).toBeLessThan(600);
    work.release();
  });

  test.each([
    [{ at: at(-5, -5) }, "outside the sheet"],
    [{ borders: "lines" as const, at: at(5, 5) }, "line source"],
  ])("what cannot be filled is refused with a word: %j", (changes, word) => {
    const work = engine.open(testHeader());
    work.apply({ do: "layer.add", id: "flat", name: "Flat", above: null });
    expect(() => work.apply({ do: "fill", layer: "flat", colour: "#000000", ...changes })).toThrow(
      word,
    );
    work.apply({ do: "layer.set", id: "flat", visible: false });
    const before = fingerprint(engine, work);
    for (const refused of [
      { do: "fill", layer: "flat", colour: "#000000", at: at(1, 1) },
      {
        do: "fill.loop",
        layer: "flat",
        colour: "#000000",
        loop: [...at(1, 1), ...at(9, 1), ...at(9, 9)],
      },
      { do: "gradient", layer: "flat", paint: { kind: "colour", colour: "#000000" } },
      { do: "colour.replace", layer: "flat", from: "#000000", to: "#ffffff" },
    ] as CommandInput[])
      expect(() => work.apply(refused)).toThrow("hidden");
    expect(fingerprint(engine, work)).toBe(before);
    work.apply({ do: "layer.set", id: "flat", visible: true, locked: true });
    expect(() =>
      work.apply({ do: "fill", layer: "flat", colour: "#000000", at: at(1, 1) }),
    ).toThrow("locked");
    work.release();
  });
});

describe("leaks", () => {
  const finderOn = (work: Work): { finder: RegionFinder; regions: Regions } => {
    const regions = new Regions(engine.bench, work.picture.width, work.picture.height);
    const source = sourceOf(regions, work.picture, "lines", "ink");
    return { regions, finder: finderFor(regions, source, [0, 0, 0, 0], 0.2) };
  };

  test("a leak is named: the bridge that would hold it, and where it gets out", () => {
    const work = sheet(220, 200, ringPage({ radius: 60, width: 3, gap: 6 }).isInk);
    const { finder, regions } = finderOn(work);
    const found = finder.at(110, 100, 0);
    if (!found) throw new Error("nothing was found");
    const leak = leakOf(finder, 110, 100, 0, found);
    expect(leak?.bridge).toBe(8);
    expect(leak?.places).toHaveLength(1);
    // Within the bridge of the gap's middle.
    expect(
      Math.hypot((leak?.places[0]?.x ?? 0) - 170, (leak?.places[0]?.y ?? 0) - 100),
    ).toBeLessThan(8);
    regions.free();
    work.release();
  });

  test("a closed ring does not leak", () => {
    const work = sheet(220, 200, ringPage({ radius: 60, width: 3, gap: 0 }).isInk);
    const { finder, regions } = finderOn(work);
    const found = finder.at(110, 100, 0);
    expect(found && leakOf(finder, 110, 100, 0, found)).toBeNull();
    regions.free();
    work.release();
  });
});

describe("a page that is read only as far as a region reaches", () => {
  // A gangway that winds through the sheet and back, tile to tile, between rooms it has no door to.
  const [width, height] = [500, 330];
  const isInk = (x: number, y: number): number => {
    const lane = Math.floor(y / 55);
    const isWall = y % 55 < 4 && lane > 0;
    const isDoor = lane % 2 === 1 ? x > 450 : x < 50;
    const isRoom = Math.abs((x % 97) - 60) < 14 && Math.abs((y % 55) - 30) < 12;
    const inside = Math.abs((x % 97) - 60) < 11 && Math.abs((y % 55) - 30) < 9;
    return Number((isWall && !isDoor) || (isRoom && !inside));
  };

  test("holds what a plain search holds, grown under its lines as if all had been read", () => {
    const work = sheet(width, height, isInk);
    const found = [true, false].map((whole) => {
      const regions = new Regions(engine.bench, width, height);
      const source = sourceOf(regions, work.picture, "lines", "ink");
      const finder = finderFor(regions, source, [0, 0, 0, 0], 0.2);
      if (whole) expect(regions.area(finder.open)).toBeGreaterThan(100_000);
      const region = finder.at(10, 20, 0);
      if (!region) throw new Error("nothing was found");
      const before = region.area;
      expect(regions.area(region.bits)).toBe(before);
      finder.under(region, 3);
      const bits = Array.from({ length: width * height }, (_, i) =>
        Number(regions.has(region.bits, i % width, Math.floor(i / width))),
      ).join("");
      regions.free();
      return { before, bits };
    });
    const seen = new Uint8Array(width * height);
    const queue = [20 * width + 10];
    seen[queue[0] as number] = 1;
    let plain = 0;
    for (let i = queue.pop(); i !== undefined; i = queue.pop()) {
      plain++;
      const [x, y] = [i % width, Math.floor(i / width)];
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ] as const) {
        const [nx, ny] = [x + dx, y + dy];
        if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
        const next = ny * width + nx;
        if (seen[next] || isInk(nx, ny)) continue;
        seen[next] = 1;
        queue.push(next);
      }
    }
    expect(found.map(({ before }) => before)).toEqual([plain, plain]);
    expect(found[1]?.bits === found[0]?.bits).toBe(true);
    work.release();
  });
});

describe("lay flats", () => {
  const gaps = Array.from({ length: 40 }, (_, i) => 1 + (i % 12));
  const { isInk, rooms } = roomsPage({ columns: 7, rows: 6, side: 70, gaps });

  test("a page with 40 gaps of 1 to 12 px: bridge 14 keeps every room apart, bridge 0 does not", () => {
    const colourOf = (work: Work, [x, y]: readonly [number, number]): string =>
      pixelAt(engine, work, "flats", x, y).join(" ");
    const page = sheet(540, 470, isInk);
    layFlats(page, 14);
    for (const { middle, corners, right, below } of rooms) {
      const own = colourOf(page, middle);
      expect(own).not.toBe("0 0 0 0");
      for (const corner of corners) expect(colourOf(page, corner)).toBe(own);
      for (const other of [right, below]) if (other) expect(colourOf(page, other)).not.toBe(own);
    }
    expect(colourOf(page, [4, 4])).toBe("0 0 0 0");
    page.release();
  });

  test("every pixel of the figure is covered, and twice gives the same", () => {
    const paint = (): number[] => {
      const page = sheet(540, 470, isInk);
      layFlats(page, 14);
      const seen: number[] = [];
      for (let y = 24; y < 440; y++)
        for (let x = 24; x < 500; x += 3) seen.push(...pixelAt(engine, page, "flats", x, y));
      page.release();
      return seen;
    };
    const one = paint();
    expect(one.filter((_, i) => i % 4 === 3).every((a) => a === 255)).toBe(true);
    expect(paint().join() === one.join()).toBe(true);
  });

  test("lines that close nothing in are refused, and nothing is left behind", () => {
    const work = sheet(200, 200, (x, y) => y === 100 && x > 40 && x < 160);
    expect(() => layFlats(work, 4)).toThrow("close nothing");
    expect(work.picture.structure.layers.map(({ id }) => id)).toEqual(["flat", "ink"]);
    work.release();
  });

  test("it says how far it has come and can be stopped", () => {
    const told: number[] = [];
    const work = engine.open(testHeader({ width: 540, height: 470 }), {
      progressed: (_label, share) => {
        told.push(share);
        if (share > 0.3) throw new Error("stopped");
      },
    });
    work.apply({ do: "layer.add", id: "ink", name: "Ink", above: null });
    writeStraight(work, "ink", (x, y) => [0, 0, 0, isInk(x, y) ? 255 : 0]);
    work.apply({ do: "layer.set", id: "ink", lines: true });
    expect(() => layFlats(work, 14)).toThrow("stopped");
    expect(told.length).toBeGreaterThan(1);
    expect(work.picture.structure.layers).toHaveLength(1);
    work.release();
  });
});
