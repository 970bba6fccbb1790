import { aroundFor } from "./world";
import { meshOf, smoothPath } from "./mesh";
import { solid } from "./scene.testing";
import { type SolidInput } from "./solid";
import {
  cosine,
  cross,
  dot,
  length,
  minus,
  plus,
  sine,
  times,
  turnAbout,
  turned,
  turnedBy,
  type Vector,
} from "./vector";

const AROUND = 96;

/** The volume within a mesh, by its faces: six times that of the wedges to the middle (Gauss). */
function volumeOf(own: Partial<SolidInput>): number {
  const { corners, faces } = meshOf(solid(own), AROUND);
  let six = 0;
  for (const [a, b, c] of faces)
    six += dot(corners[a] as Vector, cross(corners[b] as Vector, corners[c] as Vector));
  return six / 6;
}

/** How often each side of a face comes, by its places: a closed mesh has each once in each direction. */
function openSides(own: Partial<SolidInput>): number {
  const { corners, faces } = meshOf(solid(own), AROUND);
  const name = (i: number): string =>
    (corners[i] as Vector).map((v) => (Math.round(v * 1e6) + 0) / 1e6).join(" ");
  const sides = new Map<string, number>();
  for (const face of faces)
    for (let k = 0; k < 3; k++) {
      const [from, to] = [name(face[k] as number), name(face[(k + 1) % 3] as number)];
      if (from === to) continue;
      sides.set(`${from} ${to}`, (sides.get(`${from} ${to}`) ?? 0) + 1);
      sides.set(`${to} ${from}`, (sides.get(`${to} ${from}`) ?? 0) - 1);
    }
  return [...sides.values()].filter((count) => count !== 0).length;
}

/** A ring of chords holds a little less than its circle. */
const ROUND = (Math.PI / 4) * (sine((2 * Math.PI) / AROUND) / ((2 * Math.PI) / AROUND));

test.each<[string, Partial<SolidInput>, number]>([
  ["box", { kind: "box", size: [2, 3, 4] }, 24],
  ["wedge", { kind: "wedge", size: [2, 3, 4] }, 12],
  ["cylinder", { kind: "cylinder", size: [2, 3, 2] }, 12 * ROUND],
  ["cone", { kind: "cone", size: [2, 3, 2] }, 4 * ROUND],
  ["ball", { kind: "ball", size: [2, 2, 2] }, (4 / 3) * Math.PI],
  ["tapered box", { taper: 0.5 }, (1 + 0.5 + 0.25) / 3],
  ["tapered cylinder", { kind: "cylinder", taper: 2 }, (ROUND * (1 + 2 + 4)) / 3],
  ["twisted box", { twist: 2, size: [1, 3, 1] }, 3],
  // Its middle keeps its length, so what is lost inside is won outside (Pappus).
  ["bent box", { bend: 1.2, size: [1, 3, 1] }, 3],
  ["bent cylinder", { kind: "cylinder", bend: -2, size: [1, 4, 1] }, 4 * ROUND],
  ["box cut level", { cut: { at: 0.6, slope: 0, toward: 0 } }, 0.6],
  ["box cut on a slope", { cut: { at: 0.5, slope: 0.7, toward: 1 } }, 0.5],
  [
    "cylinder cut on a slope",
    { kind: "cylinder", cut: { at: 0.5, slope: 0.5, toward: -2 } },
    ROUND / 2,
  ],
  ["ball cut in half", { kind: "ball", cut: { at: 0.5, slope: 0, toward: 0 } }, Math.PI / 12],
  ["flipped wedge", { kind: "wedge", flip: true, twist: 0 }, 0.5],
  [
    "straight tube",
    {
      kind: "tube",
      size: [0.5, 1, 1],
      path: [
        [0, 0, 0],
        [0, 4, 0],
      ],
    },
    0.25 *
      4 *
      (Math.PI / 4) *
      (sine((2 * Math.PI) / (AROUND / 2)) / ((2 * Math.PI) / (AROUND / 2))),
  ],
])("a %s is closed and holds its volume", (_n, own, wanted) => {
  expect(openSides(own)).toBe(0);
  expect(Math.abs(volumeOf(own) / wanted - 1)).toBeLessThan(0.005);
});

test.each(["box", "ball", "cylinder", "cone", "wedge"] as const)(
  "every corner of a %s faces outward, however it is shaped",
  (kind) => {
    for (const own of [
      {},
      { taper: 0.4 },
      { twist: 1.5 },
      { bend: 1 },
      { size: [1, 2, 3] as [number, number, number] },
    ]) {
      const { corners, normals, faces } = meshOf(solid({ kind, ...own }), 32);
      for (const [a, b, c] of faces) {
        const [p, q, r] = [corners[a], corners[b], corners[c]] as [Vector, Vector, Vector];
        const out = cross(minus(q, p), minus(r, p));
        if (length(out) < 1e-6) continue;
        for (const i of [a, b, c])
          expect(dot(times(out, 1 / length(out)), normals[i] as Vector)).toBeGreaterThan(0.3);
      }
    }
  },
);

test("corners are as many as keep a circle round", () => {
  for (const radius of [3, 30, 300])
    for (const error of [0.1, 1]) {
      const around = aroundFor(radius, error);
      expect(around % 4).toBe(0);
      if (around > 12 && around < 256)
        expect(radius * (1 - Math.cos(Math.PI / around))).toBeLessThanOrEqual(error);
    }
});

test("a path goes through its places, smoothly", () => {
  const path: Vector[] = [
    [0, 0, 0],
    [1, 2, 0],
    [3, 2, 1],
    [4, 0, 0],
  ];
  const points = smoothPath(path, 8);
  path.forEach((at, i) => expect(points[i * 8]).toEqual(at));
  for (let i = 2; i < points.length; i++) {
    const [a, b, c] = [points[i - 2], points[i - 1], points[i]] as [Vector, Vector, Vector];
    const [u, v] = [minus(b, a), minus(c, b)];
    expect(dot(u, v) / length(u) / length(v)).toBeGreaterThan(0.8);
  }
});

test("sine and cosine are right to ten digits at any angle", () => {
  for (let angle = -20; angle < 20; angle += 0.0371) {
    expect(Math.abs(sine(angle) - Math.sin(angle))).toBeLessThan(1e-10);
    expect(Math.abs(cosine(angle) - Math.cos(angle))).toBeLessThan(1e-10);
  }
});

test("turns follow each other, and go to the left as seen against the axis", () => {
  const quarter = turnAbout([0, 1, 0], Math.PI / 2);
  const [x, y, z] = turned(quarter, [1, 0, 0]);
  expect([x, y, z].map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([0, 0, -1]);
  const tip = turnAbout([0, 0, 1], 0.7);
  const v: Vector = [0.3, -1, 2];
  const [one, two] = [turned(turnedBy(quarter, tip), v), turned(tip, turned(quarter, v))];
  expect(length(minus(one, two))).toBeLessThan(1e-9);
  expect(length(plus(one, [0, 0, 0]))).toBeCloseTo(length(v), 10);
});
