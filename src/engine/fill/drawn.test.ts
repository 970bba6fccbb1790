import { alphaAt, pixelAt, testEngine, testHeader } from "../engine.testing";
import { finderFor } from "../command/fill";
import { type Work } from "../command/work";
import { inks } from "../media/inks";
import { markers } from "../media/markers";
import { Regions } from "../region/regions";
import { sourceOf } from "../region/source";
import { drawnLine, drawnPage, drawnRing } from "./drawn.testing";
import { layFlats } from "./pages.testing";
import { leakOf } from "./region";

const engine = testEngine();

/** A sheet with a line source “ink” over a layer “flat”. */
function sheet(width: number, height: number): Work {
  const work = engine.open(testHeader({ width, height, ground: "#ffffff" }));
  work.apply({ do: "layer.add", id: "flat", name: "Flat", above: null });
  work.apply({ do: "layer.add", id: "ink", name: "Ink", above: "flat" });
  work.apply({ do: "layer.set", id: "ink", lines: true });
  return work;
}

describe("no pale fringe under any pen", () => {
  const [cx, cy, radius] = [110, 100, 66];
  const pens = [...inks, ...markers].map(({ id }) => id);

  test("there are pens to be tried", () => expect(pens.length).toBeGreaterThan(6));

  test.each(pens)("%s: within the middle of its line no ground is seen", (brush) => {
    for (const [size, colour] of [
      [4, "#ffffff"],
      [9, "#f3e04b"],
      [16, "#123c8a"],
    ] as const) {
      const work = sheet(220, 200);
      for (const line of drawnRing([cx, cy], radius, { layer: "ink", brush, size }))
        work.apply(line);
      work.apply({
        do: "fill",
        layer: "flat",
        at: [[cx, cy]],
        borders: "lines",
        tolerance: 0.1,
        bridge: 8,
        under: 16,
        colour,
      });
      // The middle of a ragged line is not quite where the pen went.
      const near = radius - Math.max(1, size / 4);
      let worst = 0;
      for (let y = 0; y < 200; y++)
        for (let x = 0; x < 220; x++) {
          if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) > near) continue;
          const bare =
            (1 - alphaAt(engine, work, "flat", x, y)) * (1 - alphaAt(engine, work, "ink", x, y));
          worst = Math.max(worst, bare);
        }
      expect([size, worst]).toEqual([size, expect.closeTo(0, 2)]);
      // And it has not run out.
      expect(alphaAt(engine, work, "flat", 4, 4)).toBe(0);
      work.release();
    }
  });
});

describe("a page drawn by hand, with 40 gaps of 1 to 12 px", () => {
  const page = drawnPage({
    columns: 7,
    rows: 5,
    side: 84,
    pen: { brush: "pen-even", size: 4 },
    gaps: Array.from({ length: 40 }, (_, i) => 1 + (i % 12)),
  });
  let work: Work;
  beforeAll(() => {
    work = sheet(640, 480);
    for (const stroke of page.strokes) work.apply(stroke);
  });
  afterAll(() => work.release());

  const colourOf = ([x, y]: readonly [number, number]): string =>
    pixelAt(engine, work, "flats", x, y).join(" ");
  const neighbours = page.rooms.flatMap((room) =>
    page.rooms
      .filter(
        (other) =>
          (other.row === room.row && other.column === room.column + 1) ||
          (other.column === room.column && other.row === room.row + 1),
      )
      .map((other) => [room, other] as const),
  );

  test("has its gaps", () => {
    expect(page.gaps).toHaveLength(40);
    for (const { middle } of page.gaps)
      expect(alphaAt(engine, work, "ink", ...middle)).toBeLessThan(0.5);
  });

  test("bridge 14 lays flats with no leak between rooms, nor to the outside", () => {
    layFlats(work, 14);
    for (const [room, other] of neighbours) {
      expect(colourOf(room.middle)).not.toBe("0 0 0 0");
      expect(colourOf(room.middle)).not.toBe(colourOf(other.middle));
    }
    // A room is one flat to its corners.
    for (const { middle } of page.rooms)
      for (const [dx, dy] of [
        [-34, -34],
        [34, -34],
        [-34, 34],
        [34, 34],
      ] as const)
        expect(colourOf([middle[0] + dx, middle[1] + dy])).toBe(colourOf(middle));
    expect(colourOf([5, 5])).toBe("0 0 0 0");
    work.undo();
  });

  test("with bridge 0 every gap is shown where it is, and which bridge would hold it", () => {
    const regions = new Regions(engine.bench, work.picture.width, work.picture.height);
    const source = sourceOf(regions, work.picture, "lines", "ink");
    const named: { x: number; y: number }[] = [];
    for (let bridge = 0; bridge < 14;) {
      let next = 64;
      for (const { middle } of page.rooms) {
        const finder = finderFor(regions, source, [0, 0, 0, 0], 0.2);
        const found = finder.at(...middle, bridge);
        const leak = found && leakOf(finder, ...middle, bridge, found);
        if (leak) named.push(...leak.places);
        if (leak) next = Math.min(next, leak.bridge);
        if (found) regions.release(found.bits);
        finder.free();
      }
      bridge = next;
    }
    source.free();
    regions.free();
    const open = page.gaps.filter(({ middle }) => alphaAt(engine, work, "ink", ...middle) < 0.1);
    expect(open.length).toBeGreaterThan(35);
    const missed = open.filter(
      ({ middle: [x, y], width }) =>
        !named.some((place) => Math.hypot(place.x - x, place.y - y) < width / 2 + 8),
    );
    expect(missed).toEqual([]);
    // And nothing is named where there is none.
    const wrong = named.filter(
      (place) =>
        !page.gaps.some(
          ({ middle: [x, y], width }) => Math.hypot(place.x - x, place.y - y) < width / 2 + 12,
        ),
    );
    expect(wrong.length / named.length).toBeLessThan(0.1);
  });
});

test("a strip that narrows to a point is one flat with the room that it opens into", () => {
  const work = sheet(420, 200);
  const pen = { layer: "ink", brush: "pen-even", size: 4 };
  const at: [number, number][] = [
    [20, 20],
    [120, 20],
    [400, 96],
    [120, 110],
    [120, 180],
    [20, 180],
    [20, 20],
  ];
  at.slice(1).forEach((to, i) => work.apply(drawnLine(at[i] as [number, number], to, i + 1, pen)));
  // A small room of its own, with a gap of 5 px to the large one.
  for (const stroke of [
    drawnLine([50, 120], [74, 120], 20, pen),
    drawnLine([74, 120], [74, 146], 21, pen),
    drawnLine([74, 146], [50, 146], 22, pen),
    drawnLine([50, 146], [50, 137.5], 23, pen),
    drawnLine([50, 128.5], [50, 120], 24, pen),
  ])
    work.apply(stroke);
  layFlats(work, 14);
  const colours = new Set<string>();
  for (let x = 130; x < 360; x += 3) {
    const y = Math.round(20 + ((x - 120) * 76) / 280 + (110 - 20 - ((x - 120) * 90) / 280) / 2);
    colours.add(pixelAt(engine, work, "flats", x, y).join(" "));
  }
  const room = pixelAt(engine, work, "flats", 60, 80).join(" ");
  expect([...colours]).toEqual([room]);
  expect(pixelAt(engine, work, "flats", 62, 133).join(" ")).not.toBe(room);
  work.release();
});
