import {
  type Frame,
  grips,
  moved,
  placeOf,
  pulled,
  turnedInside,
  wholeFrame,
  withProportion,
} from "./frame";

const frame: Frame = { left: 100, top: 50, width: 400, height: 200, angle: 0 };

test("a side pulled moves alone, beyond the sheet too; a corner moves two", () => {
  expect(pulled(frame, [1, 0], [620, 999], null)).toEqual({ ...frame, width: 520 });
  expect(pulled(frame, [-1, 0], [-40, 0], null)).toEqual({ ...frame, left: -40, width: 540 });
  expect(pulled(frame, [-1, -1], [150, 90], null)).toEqual({
    left: 150,
    top: 90,
    width: 350,
    height: 160,
    angle: 0,
  });
  expect(pulled(frame, [1, 0], [-300, 0], null).width).toBe(1);
});

test("with a proportion both sides follow, and the opposite corner stays", () => {
  const pulledOut = pulled(frame, [1, 1], [700, 251], 2);
  expect(pulledOut).toEqual({ left: 100, top: 50, width: 600, height: 300, angle: 0 });
  expect(withProportion(frame, 1)).toEqual({
    left: 200,
    top: 50,
    width: 200,
    height: 200,
    angle: 0,
  });
});

test.each(grips)("turned, pulling %i %i leaves the opposite side where it is", (...grip) => {
  const turned = { ...frame, angle: 0.4 };
  const far = [-grip[0]!, -grip[1]!] as [number, number];
  const before = placeOf(turned, far);
  const own = placeOf(turned, [grip[0]!, grip[1]!] as [number, number]);
  const after = pulled(turned, [grip[0]!, grip[1]!] as never, [own[0] + 31, own[1] + 17], null);
  const there = placeOf(after, far);
  // Whole px: half a one each way.
  expect(Math.hypot(there[0] - before[0], there[1] - before[1])).toBeLessThan(1.5);
});

test("turned inside a sheet no corner leaves it", () => {
  const sheet = { width: 600, height: 400 };
  for (const angle of [-0.5, 0.05, 0.3, 1.2]) {
    const turned = turnedInside(sheet, wholeFrame(sheet), angle);
    for (const x of [-1, 1])
      for (const y of [-1, 1]) {
        const [px, py] = placeOf(turned, [x, y]);
        expect(px).toBeGreaterThan(-1);
        expect(py).toBeGreaterThan(-1);
        expect(px).toBeLessThan(601);
        expect(py).toBeLessThan(401);
      }
    expect(turned.width / turned.height).toBeCloseTo(1.5, 1);
  }
});

test("moved by parts of a px it lies on whole ones", () => {
  expect(moved(frame, 3.4, -1.6)).toEqual({ ...frame, left: 103, top: 48 });
});
