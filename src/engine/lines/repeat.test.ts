import { along, draw, lineWork, placesOf, straightWay, theLine } from "./lines.testing";
import { linesOf } from "./line-set";
import { placesAlong } from "./repeat";

const middle = (places: readonly (readonly [number, number])[]): [number, number] => {
  const [xs, ys] = [0, 1].map((axis) => places.map((place) => place[axis] as number));
  const half = (list: number[] = []): number => (Math.min(...list) + Math.max(...list)) / 2;
  return [half(xs), half(ys)];
};

describe("places along a way", () => {
  it("stand a gap apart, and go as the way does", () => {
    const places = placesAlong(
      [
        [0, 0],
        [30, 0],
        [30, 40],
      ],
      10,
    );
    expect(places.map(({ at }) => at)).toEqual([
      ...[0, 10, 20, 30].map((x) => [x, 0]),
      ...[10, 20, 30, 40].map((y) => [30, y]),
    ]);
    expect(places[1]?.toward).toEqual([1, 0]);
    expect(places[3]?.toward[0]).toBeCloseTo(Math.SQRT1_2, 9);
    expect(places[6]?.toward).toEqual([0, 1]);
  });
});

describe("repeating lines", () => {
  const sheet = () => {
    const { engine, work } = lineWork();
    const id = draw(engine, work, along(straightWay([100, 90], [100, 110]), 40), {
      brush: "pen-even",
    });
    const all = () => linesOf(engine.store, work.picture, "l").lines;
    return { engine, work, id, all };
  };

  it("copies them along a way, upright or turned as it turns", () => {
    const { engine, work, id, all } = sheet();
    const way: [number, number][] = [
      [100, 100],
      [300, 100],
      [300, 300],
    ];
    const repeat = { do: "line.repeat", layer: "l", lines: [id], along: way, gap: 50 } as const;
    work.apply({ ...repeat, turns: false });
    expect(all()).toHaveLength(9);
    const [x, y] = middle(placesOf(theLine(engine, work, id + 8)));
    expect(Math.hypot(x - 300, y - 300)).toBeLessThan(0.5);
    const upright = placesOf(theLine(engine, work, id + 8)).map(([px]) => px);
    expect(Math.max(...upright) - Math.min(...upright)).toBeLessThan(0.5);

    work.undo();
    expect(all()).toHaveLength(1);
    work.apply({ ...repeat, turns: true });
    // What stood across the way at its start lies across it at its end.
    const turned = placesOf(theLine(engine, work, id + 8));
    const [xs, ys] = [turned.map(([px]) => px), turned.map(([, py]) => py)];
    expect(Math.max(...xs) - Math.min(...xs)).toBeGreaterThan(18);
    expect(Math.max(...ys) - Math.min(...ys)).toBeLessThan(0.5);
  });

  it("keeps width, colour and the brush of what it copies", () => {
    const { engine, work, id } = sheet();
    const way: [number, number][] = [
      [0, 0],
      [60, 0],
    ];
    work.apply({ do: "line.repeat", layer: "l", lines: [id], along: way, gap: 30, turns: true });
    const [own, copy] = [theLine(engine, work, id), theLine(engine, work, id + 2)];
    expect(copy).toMatchObject({ brush: own.brush, colour: own.colour, seed: own.seed });
    expect(copy.width.map(Math.round)).toEqual(own.width.map(Math.round));
  });

  it("refuses a way that is too short, lines that are not there, and copies without end", () => {
    const { work, id } = sheet();
    const repeat = { do: "line.repeat", layer: "l", lines: [id], turns: true } as const;
    const way = (x: number): [number, number][] => [
      [0, 0],
      [x, 0],
    ];
    expect(() => work.apply({ ...repeat, along: way(20), gap: 30 })).toThrow(/Drag farther/);
    expect(() => work.apply({ ...repeat, along: way(6000), gap: 2 })).toThrow(/3000 copies/);
    expect(() => work.apply({ ...repeat, lines: [99], along: way(90), gap: 30 })).toThrow();
  });
});
