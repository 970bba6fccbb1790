import { arc, type Point, type Shape } from "../kit/shape";
import { type Sheet } from "../kit/sheet";
import { Pen } from "./pen";

/**
 * The tram from inside, in metres from the eye: x to the right, y down, z away. Everything in
 * it is measured, so it all runs to the one vanishing point.
 */
export const EYE: Point = [1270, 560];
const FOCAL = 1500;

export const at = (x: number, y: number, z: number): Point => [
  EYE[0] + (FOCAL * x) / z,
  EYE[1] + (FOCAL * y) / z,
];

export const LEFT = -1.9;
export const RIGHT = 1.1;
export const FLOOR = 1.5;
export const CEILING = -0.85;
export const NEAR = 2.1;
export const FAR = 9;
/** Where the panels of the walls end, and where the windows stand over them. */
export const SILL = 0.36;
const TOP = -0.46;
const GLASS = 0.24;
/** The gangway between the benches. */
const GANGWAY = [-1.05, 0.25] as const;
/** Where windows begin and end, from near to far. */
export const BAYS: readonly (readonly [number, number])[] = [
  [1.9, 3.05],
  [3.3, 4.45],
  [4.7, 5.85],
  [6.1, 7.25],
  [7.5, 8.65],
];
export const BENCHES = [7.6, 6.4, 5.2, 4.1, 3.05];
const LAMPS = [2.6, 4.2, 6.2, 8.2];
const LAMP = { x: 0.76, y: -0.66, r: 0.125 };
/** Rails that people hold on to, left and right of the gangway. */
const RAILS = [-1.2, 0.26] as const;
const RAIL = -0.66;

/** Lines grow thinner with distance. */
const weight = (z: number, near = 9): number => Math.max(2.2, (near * 2.6) / z);

/** A box with round corners in a plane, as a closed line; `set` puts a point of the plane into the room. */
function rounded(
  [a0, b0, a1, b1]: readonly [number, number, number, number],
  r: number,
  set: (a: number, b: number) => Point,
): Shape {
  const corner = (a: number, b: number, turn: number): Shape =>
    arc([a, b], r, r, Math.PI * turn, Math.PI * (turn + 0.5), 9);
  return [
    ...corner(a0 + r, b0 + r, 1),
    ...corner(a1 - r, b0 + r, 1.5),
    ...corner(a1 - r, b1 - r, 0),
    ...corner(a0 + r, b1 - r, 0.5),
  ].map(([a, b]) => set(a, b));
}

export const pane = (wall: number, [from, to]: readonly [number, number], inset = 0): Shape =>
  rounded([from + inset, TOP + inset, to - inset, GLASS - inset], 0.16, (z, y) => at(wall, y, z));

/** Ceiling, walls, floor and far end as flat planes, for the lasso. */
export const planes = {
  ceiling: [
    at(LEFT, CEILING, NEAR),
    at(RIGHT, CEILING, NEAR),
    at(RIGHT, CEILING, FAR),
    at(LEFT, CEILING, FAR),
  ],
  floor: [
    at(LEFT, FLOOR, NEAR),
    at(RIGHT, FLOOR, NEAR),
    at(RIGHT, FLOOR, FAR),
    at(LEFT, FLOOR, FAR),
  ],
  leftWall: wallBetween(LEFT, CEILING, SILL),
  leftPanel: wallBetween(LEFT, SILL, FLOOR),
  rightWall: wallBetween(RIGHT, CEILING, SILL),
  rightPanel: wallBetween(RIGHT, SILL, FLOOR),
  end: [
    at(LEFT, CEILING, FAR),
    at(RIGHT, CEILING, FAR),
    at(RIGHT, FLOOR, FAR),
    at(LEFT, FLOOR, FAR),
  ],
} satisfies Record<string, Shape>;

export function wallBetween(wall: number, top: number, bottom: number): Shape {
  return [at(wall, top, NEAR), at(wall, top, FAR), at(wall, bottom, FAR), at(wall, bottom, NEAR)];
}

export const door = rounded([-0.86, -0.62, 0.06, FLOOR - 0.01], 0.2, (x, y) => at(x, y, FAR));
export const porthole = arc(at(-0.4, -0.05, FAR), 44, 44, 0, Math.PI * 2, 40);
export const endWindows = (
  [
    [-1.7, -1.05],
    [0.25, 0.9],
  ] as const
).map(([from, to]) => rounded([from, -0.42, to, 0.24], 0.1, (x, y) => at(x, y, FAR)));

/** The back of a bench and its thickness toward the gangway. */
export function bench(
  side: "left" | "right",
  z: number,
): { back: Shape; edge: Shape; foot: Shape } {
  const [inner, outer] = side === "right" ? [GANGWAY[1], RIGHT - 0.02] : [GANGWAY[0], LEFT + 0.02];
  const [from, to] = [Math.min(inner, outer), Math.max(inner, outer)];
  const back = rounded([from, 0.34, to, 1.24], 0.1, (x, y) => at(x, y, z));
  const edge: Shape = [
    at(inner, 0.44, z),
    at(inner, 0.4, z + 0.34),
    at(inner, 1.2, z + 0.34),
    at(inner, 1.16, z),
  ];
  const foot: Shape = [
    at(inner, 1.2, z),
    at(inner, FLOOR, z),
    at(inner, FLOOR, z + 0.3),
    at(inner, 1.2, z + 0.3),
  ];
  return { back, edge, foot };
}

export const lamps = LAMPS.map((z) => {
  const [x, y] = at(LAMP.x, LAMP.y, z);
  return { x, y, r: (FOCAL * LAMP.r) / z, z };
});

function shell(pen: Pen): void {
  for (const [x, y] of [
    [LEFT, CEILING],
    [RIGHT, CEILING],
    [LEFT, FLOOR],
    [RIGHT, FLOOR],
    [LEFT, SILL],
    [RIGHT, SILL],
    [LEFT, SILL + 0.07],
    [RIGHT, SILL + 0.07],
  ] as const) {
    pen.line([at(x, y, NEAR), at(x, y, FAR)], 9, { press: (u) => 1 - u * 0.7 });
  }
  pen.ring(planes.end, 2.6);
  for (const x of [-0.75, -0.05])
    pen.line([at(x, CEILING, NEAR), at(x, CEILING, FAR)], 5, { press: (u) => 0.8 - u * 0.6 });
  for (let z = 2.7; z < FAR; z += 1.4)
    pen.fine([at(LEFT, CEILING, z), at(RIGHT, CEILING, z)], weight(z, 4));
  for (const x of [GANGWAY[0], -0.73, -0.4, -0.08, GANGWAY[1]])
    pen.line([at(x, FLOOR, NEAR), at(x, FLOOR, 4), at(x, FLOOR, FAR)], 6, {
      press: (u) => 0.85 - u * 0.6,
    });
  for (let z = 2.5; z < FAR; z += 0.32)
    for (const wall of [LEFT, RIGHT])
      pen.fine([at(wall, SILL + 0.08, z), at(wall, FLOOR - 0.02, z)], weight(z, 5));
}

function farEnd(pen: Pen): void {
  pen.ring(door, 3.2);
  pen.ring(porthole, 3.2);
  pen.ring(arc(at(-0.4, -0.05, FAR), 36, 36), 2.2);
  pen.fine([at(0, 0.5, FAR), at(0, 0.66, FAR)], 4);
  for (const pane of endWindows) pen.ring(pane, 2.6);
}

function windows(pen: Pen): void {
  for (const wall of [LEFT, RIGHT])
    for (const bay of BAYS) {
      const z = bay[0];
      pen.ring(pane(wall, bay), weight(z, 8));
      pen.ring(pane(wall, bay, 0.045), weight(z, 4.5));
      // A latch in the middle of the upper part, and the bar that divides it off.
      const middle = (bay[0] + bay[1]) / 2;
      pen.fine([at(wall, -0.2, bay[0] + 0.05), at(wall, -0.2, bay[1] - 0.05)], weight(z, 6));
      pen.fine([at(wall, -0.24, middle - 0.04), at(wall, -0.24, middle + 0.04)], weight(z, 10));
    }
}

function hangStraps(pen: Pen): void {
  for (const x of RAILS) {
    pen.sheet.clear(rail(x));
    for (const drop of [0, 0.035])
      pen.line([at(x, RAIL + drop, 1.2), at(x, RAIL + drop, FAR)], 7, {
        press: (u) => 0.95 - u * 0.7,
      });
    for (const one of strapsOn(x)) {
      pen.sheet.clear(one.strap);
      pen.ring(one.strap, weight(one.z, 4));
      pen.ring(one.outer, weight(one.z, 6));
      pen.ring(one.inner, weight(one.z, 4));
    }
  }
}

export const rail = (x: number): Shape => [
  at(x, RAIL, 1.2),
  at(x, RAIL, FAR),
  at(x, RAIL + 0.035, FAR),
  at(x, RAIL + 0.035, 1.2),
];
export const rails = RAILS.map(rail);

type Strap = { z: number; strap: Shape; outer: Shape; inner: Shape };

/** The far ones first. */
function strapsOn(x: number): Strap[] {
  return [7.6, 6.3, 5.1, 4.1, 3.3, 2.55].map((z) => {
    const [hx, hy] = at(x, RAIL + 0.02, z);
    const size = FOCAL / z;
    return {
      z,
      strap: [
        [hx - 0.02 * size, hy],
        [hx + 0.02 * size, hy],
        [hx + 0.013 * size, hy + 0.2 * size],
        [hx - 0.013 * size, hy + 0.2 * size],
      ],
      outer: arc([hx, hy + 0.27 * size], 0.062 * size, 0.075 * size, 0, Math.PI * 2, 44),
      inner: arc([hx, hy + 0.27 * size], 0.042 * size, 0.054 * size, 0, Math.PI * 2, 36),
    };
  });
}
export const straps = RAILS.flatMap(strapsOn);

/** The far ones first: each hides part of the next. */
function benches(pen: Pen): void {
  for (const z of BENCHES)
    for (const side of ["left", "right"] as const) {
      const { back, edge, foot } = bench(side, z);
      const inner = side === "right" ? GANGWAY[1] : GANGWAY[0];
      pen.sheet.clear(foot);
      pen.line([at(inner, 1.2, z + 0.3), at(inner, FLOOR, z + 0.3)], weight(z, 7));
      pen.line([at(inner, FLOOR, z + 0.3), at(inner, FLOOR, z)], weight(z, 7));
      pen.line([at(inner, FLOOR, z), at(inner, 1.2, z)], weight(z, 9));
      pen.sheet.clear(edge);
      pen.ring(edge, weight(z, 7));
      inkHandle(pen, side, z);
      pen.sheet.clear(back);
      pen.ring(back, weight(z, 9));
      padding(pen, side, z);
    }
}

function padding(pen: Pen, side: "left" | "right", z: number): void {
  const [from, to] = side === "right" ? [GANGWAY[1], RIGHT] : [LEFT, GANGWAY[0]];
  const seam = rounded([from + 0.07, 0.42, to - 0.07, 1.14], 0.07, (x, y) => at(x, y, z));
  pen.ring(seam, weight(z, 4));
  for (let k = 1; k < 4; k++) {
    const x = from + 0.07 + ((to - from - 0.14) * k) / 4;
    pen.fine([at(x, 0.44, z), at(x + 0.006, 0.78, z), at(x, 1.12, z)], weight(z, 4));
  }
}

/** What one holds on to at the corner of a bench: its outer and its inner line. */
export function handle(side: "left" | "right", z: number): { outer: Shape; inner: Shape } {
  const size = FOCAL / z;
  const [x, y] = at(side === "right" ? GANGWAY[1] + 0.1 : GANGWAY[0] - 0.1, 0.35, z);
  const [w, h] = [0.075 * size, 0.1 * size];
  const outer: Shape = [
    [x - w, y],
    [x - w * 1.02, y - h * 0.7],
    [x - w * 0.5, y - h],
    [x + w * 0.5, y - h],
    [x + w * 1.02, y - h * 0.7],
    [x + w, y],
  ];
  return { outer, inner: outer.map(([px, py]) => [x + (px - x) * 0.66, y + (py - y) * 0.72]) };
}

function inkHandle(pen: Pen, side: "left" | "right", z: number): void {
  const { outer, inner } = handle(side, z);
  pen.sheet.clear([...outer, ...[...inner].reverse()]);
  pen.line(outer, weight(z, 8), { press: () => 0.8 });
  pen.line(inner, weight(z, 6), { press: () => 0.8 });
}

function hangLamps(pen: Pen): void {
  for (const { x, y, r, z } of [...lamps].reverse()) {
    const [, top] = at(LAMP.x, CEILING, z);
    for (const side of [-0.07, 0.07])
      pen.line(
        [
          [x + r * side, top],
          [x + r * side, y - r],
        ],
        weight(z, 4),
      );
    pen.ring(arc([x, top], r * 0.34, r * 0.1), weight(z, 5));
    pen.sheet.clear(arc([x, y], r, r));
    const cap: Shape = [
      [x - r * 0.42, y - r * 0.86],
      [x - r * 0.3, y - r * 1.2],
      [x + r * 0.3, y - r * 1.2],
      [x + r * 0.42, y - r * 0.86],
    ];
    pen.ring(arc([x, y], r, r, 0, Math.PI * 2, 48), weight(z, 7));
    pen.sheet.clear(cap);
    pen.ring(cap, weight(z, 6));
    pen.fine(arc([x, y - r * 0.1], r * 0.66, r * 0.62, 3.5, 4.4, 8), weight(z, 5));
  }
}

/** What people leave: tickets on the floor. */
function leftBehind(pen: Pen): void {
  for (const corners of tickets) {
    pen.sheet.clear(corners);
    pen.ring(corners, 3.6);
  }
}

export const tickets = (
  [
    [-0.1, 2.75, 0.2],
    [0.06, 3.3, -0.3],
    [-0.32, 3.9, 0.5],
  ] as const
).map(([x, z, turn]) =>
  [
    [-0.07, -0.05],
    [0.07, -0.05],
    [0.07, 0.05],
    [-0.07, 0.05],
  ].map(([a, b]): Point =>
    at(
      x + (a as number) * Math.cos(turn) - (b as number) * Math.sin(turn),
      FLOOR,
      z + (a as number) * Math.sin(turn) * 2 + (b as number) * Math.cos(turn) * 2,
    ),
  ),
);

export function inkTheTram(sheet: Sheet): void {
  const pen = new Pen(sheet);
  shell(pen);
  farEnd(pen);
  windows(pen);
  leftBehind(pen);
  hangStraps(pen);
  hangLamps(pen);
  benches(pen);
}
