import { atRest, freeMatrix } from "../../../engine/transform/free";
import { through, type Matrix } from "../../../engine/transform/warp";
import {
  flipped,
  heldAs,
  inFrame,
  isAtRest,
  leaned,
  MOST_LEAN,
  outline,
  piecewise,
  placed,
  type Placement,
  warpOf,
} from "./placement";

const from = { left: 20, top: 10, right: 120, bottom: 70 };
const free: Placement = {
  kind: "free",
  free: { x: 90, y: 50, scaleX: 1.5, scaleY: -0.5, angle: 0.4, skew: 0.2 },
};

it("a piece at rest is where it was, whichever way it is held", () => {
  for (const kind of ["free", "perspective", "mesh"] as const) {
    const placement = heldAs(from, { kind: "free", free: atRest(from) }, kind);
    expect(isAtRest(from, placement)).toBe(true);
    const [x, y] = placed(from, placement, [33, 44]);
    expect(x).toBeCloseTo(33, 6);
    expect(y).toBeCloseTo(44, 6);
  }
});

it.each(["perspective", "mesh"] as const)("held as %s instead, it stays where it is", (kind) => {
  const other = heldAs(from, free, kind);
  for (const point of [
    [20, 10],
    [120, 70],
    [61, 33],
  ] as const) {
    const [x, y] = placed(from, free, point);
    const [x2, y2] = placed(from, other, point);
    expect(x2).toBeCloseTo(x, 6);
    expect(y2).toBeCloseTo(y, 6);
  }
  expect(isAtRest(from, other)).toBe(false);
});

it("the middle goes where it is put, and its frame finds the way back", () => {
  if (free.kind !== "free") throw new Error("unreachable");
  expect(placed(from, free, [70, 40])).toEqual([90, 50]);
  const corner = placed(from, free, [120, 10]);
  const [u, v] = inFrame(from, free.free, corner);
  expect(u).toBeCloseTo(1.5, 9);
  expect(v).toBeCloseTo(0.5, 9);
});

it("flips about its own middle as it is seen, and twice is nothing", () => {
  for (const placement of [free, heldAs(from, free, "perspective"), heldAs(from, free, "mesh")])
    for (const across of [true, false]) {
      const once = flipped(from, placement, across);
      const [x, y] = placed(from, placement, [120, 10]);
      const [fx, fy] = placed(from, once, [120, 10]);
      expect(fx).toBeCloseTo(across ? 180 - x : x, 6);
      expect(fy).toBeCloseTo(across ? y : 100 - y, 6);
      const twice = placed(from, flipped(from, once, across), [33, 22]);
      const before = placed(from, placement, [33, 22]);
      expect(twice[0]).toBeCloseTo(before[0], 6);
      expect(twice[1]).toBeCloseTo(before[1], 6);
    }
});

it("asks the engine for the very matrix that it shows", () => {
  if (free.kind !== "free") throw new Error("unreachable");
  expect(warpOf(from, free)).toEqual({
    kind: "matrix",
    matrix: [...freeMatrix(from, free.free)],
  });
  const held = warpOf(from, heldAs(from, free, "perspective"));
  if (held.kind !== "matrix") throw new Error("unreachable");
  const [x, y] = through(held.matrix as unknown as Matrix, 50, 60) as [number, number];
  const [x2, y2] = placed(from, free, [50, 60]);
  expect([x, y]).toEqual([expect.closeTo(x2, 6), expect.closeTo(y2, 6)]);
});

it("is drawn in triangles that cover its outline", () => {
  const all = piecewise(from, free);
  expect(all.length % 12).toBe(0);
  let area = 0;
  for (let t = 0; t < all.length; t += 12) {
    const at = (i: number): number => all[t + i] as number;
    area += Math.abs((at(4) - at(0)) * (at(9) - at(1)) - (at(8) - at(0)) * (at(5) - at(1))) / 2;
  }
  expect(area).toBeCloseTo(100 * 60 * 0.75, 3);
  expect(outline(from, free)).toHaveLength(4);
});

it("leans as far as its lower side is slid, and its upper side stays", () => {
  if (free.kind !== "free") throw new Error("unreachable");
  const across: [number, number] = [Math.cos(0.4) * 12, Math.sin(0.4) * 12];
  const next: Placement = { kind: "free", free: leaned(from, free.free, across) };
  for (const x of [20, 120]) {
    const [ux, uy] = placed(from, free, [x, 10]);
    expect(placed(from, next, [x, 10])).toEqual([expect.closeTo(ux, 9), expect.closeTo(uy, 9)]);
    const [lx, ly] = placed(from, free, [x, 70]);
    expect(placed(from, next, [x, 70])).toEqual([
      expect.closeTo(lx + across[0], 9),
      expect.closeTo(ly + across[1], 9),
    ]);
  }
});

it("leans with the part of a pull that goes along its side, and never lies flat", () => {
  const rest = atRest(from);
  expect(leaned(from, rest, [0, 40])).toEqual(rest);
  expect(leaned(from, rest, [1e6, 0]).skew).toBe(MOST_LEAN);
});
