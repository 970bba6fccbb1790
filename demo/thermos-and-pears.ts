import {
  along,
  arc,
  between,
  box,
  closed,
  distance,
  onCurve,
  parallels,
  type Point,
  type Shape,
} from "./kit/shape";
import { fade, Sheet, swell } from "./kit/sheet";

/**
 * “Thermos and pears”: watercolour over pencil. The plan: a pencil drawing; the wall wet in wet around the things,
 * with a back-run left in it; the table; each thing light first, its shadow charged in while it is wet; then, dry,
 * granulating shadows over all; lights lifted out; white gouache last.
 */
const WIDTH = 3000;
const HEIGHT = 2200;
const EDGE = 1480;

const WALL = { cool: "#3f5f86", dusk: "#c78a52", deep: "#27395c" };
const TABLE = { warm: "#b98d5e", deep: "#7c5a3e" };
const PEAR = { light: "#dfc04a", green: "#8b9a3c", blush: "#c0552f", deep: "#5d5a2a" };
const STEEL = { light: "#9db4c0", mid: "#54748a", deep: "#24394f" };
const CAP = { light: "#c8472f", deep: "#6d2426" };
const SHADE = "#3c4a78";

/** A smooth closed shape through points. */
function round(points: Shape): Shape {
  const n = points.length;
  const at = (i: number): Point => points[((i % n) + n) % n] as Point;
  const out: Point[] = [];
  for (let i = 0; i < n; i++)
    for (let k = 0; k < 10; k++) out.push(onCurve(at(i - 1), at(i), at(i + 1), at(i + 2), k / 10));
  return out;
}

/** A shape drawn in on all sides by about so many px. */
function inset(drawn: Shape, by: number): Shape {
  const shape = along(closed(drawn), 30).slice(0, -1);
  const n = shape.length;
  const [xs, ys] = [shape.map(([x]) => x), shape.map(([, y]) => y)];
  const held = (v: number, all: number[]): number =>
    Math.min(Math.max(...all) - by, Math.max(Math.min(...all) + by, v));
  return shape.map((p, i) => {
    const before = shape[(i + n - 3) % n] as Point;
    const after = shape[(i + 3) % n] as Point;
    const long = Math.max(1, distance(before, after));
    // Shapes go clockwise: inward is to the right of the way.
    const x = p[0] - ((after[1] - before[1]) / long) * by;
    return [held(x, xs), held(p[1] + ((after[0] - before[0]) / long) * by, ys)];
  });
}

const thermos: Shape = round([
  [742, 700],
  [800, 640],
  [940, 628],
  [1080, 640],
  [1138, 700],
  [1152, 1100],
  [1150, 1520],
  [1110, 1604],
  [940, 1632],
  [770, 1604],
  [730, 1520],
  [728, 1100],
]);
const cap: Shape = round([
  [776, 452],
  [830, 418],
  [940, 406],
  [1050, 418],
  [1104, 452],
  [1110, 560],
  [1096, 640],
  [940, 662],
  [784, 640],
  [770, 560],
]);
const standing: Shape = round([
  [1652, 838],
  [1716, 858],
  [1752, 980],
  [1806, 1120],
  [1908, 1270],
  [1938, 1430],
  [1880, 1570],
  [1740, 1640],
  [1580, 1632],
  [1452, 1560],
  [1404, 1420],
  [1440, 1262],
  [1530, 1120],
  [1566, 980],
  [1592, 868],
]);
const lying: Shape = round([
  [2006, 1452],
  [2070, 1392],
  [2190, 1372],
  [2330, 1330],
  [2480, 1330],
  [2590, 1420],
  [2620, 1556],
  [2560, 1690],
  [2420, 1748],
  [2270, 1716],
  [2150, 1640],
  [2040, 1590],
  [1992, 1524],
]);
const things = [thermos, cap, standing, lying];

const polygon = (shape: Shape) => ({
  kind: "polygon" as const,
  points: shape.map(([x, y]): [number, number] => [Math.round(x), Math.round(y)]),
});

/** Brush and water over a sheet, in the order of a painter's morning. */
class Painter {
  constructor(readonly sheet: Sheet) {}

  /** One stroke over all of a shape: round its edge, then to and fro inside, so that it is one wash. */
  wash(
    shape: Shape,
    colour: string,
    size: number,
    { strength = 0.7, angle = 0.12, brush = "wash-mop", round: goesRound = true } = {},
  ): void {
    const inner = inset(shape, size * 0.46);
    const lines = parallels(inner, angle, size * 0.55);
    const path: Point[] = goesRound ? [...closed(inner)] : [];
    lines.forEach(([a, b], i) => {
      const [from, to] = i % 2 ? [b, a] : [a, b];
      const cut = Math.min(0.4, (size * 0.1) / Math.max(1, distance(a, b)));
      path.push(between(from, to, cut), between(from, to, 1 - cut));
    });
    this.stroke(path, colour, size, { strength, brush });
  }

  stroke(
    path: Shape,
    colour: string,
    size: number,
    {
      strength = 1,
      brush = "wash-round",
      press = 0.9 as number | ((u: number) => number),
      mode = "paint" as "paint" | "lift" | "blend",
    } = {},
  ): void {
    this.sheet.draw(
      path,
      { brush, size, colour, strength, mode },
      {
        press: typeof press === "number" ? () => press : press,
        wobble: size * 0.012,
        speed: 1.4,
        soft: false,
      },
    );
  }

  /** Stronger paint into what is wet: broad and faint first, then less broad. */
  charge(path: Shape, colour: string, size: number, strength: number): void {
    const press = swell(0.45, 1);
    for (const [by, share] of [
      [1.7, 0.35],
      [1.2, 0.35],
      [0.75, 0.4],
    ] as const)
      this.stroke(path, colour, size * by, {
        brush: "wash-charge",
        strength: strength * share,
        press,
      });
  }

  wait(seconds: number): void {
    this.sheet.commands.push({ do: "time", steps: Math.round(seconds * 30) });
  }

  dry(): void {
    this.sheet.commands.push({ do: "paint.dry", layers: ["washes"] });
  }

  /** Keeps what follows inside shapes, or outside them. */
  within(shapes: readonly Shape[], way: "inside" | "outside", act: () => void): void {
    const [first, ...others] = shapes;
    this.sheet.commands.push({ do: "select", shape: polygon(first as Shape) });
    for (const shape of others)
      this.sheet.commands.push({ do: "select", how: "add", shape: polygon(shape) });
    if (way === "outside")
      this.sheet.commands.push({ do: "select.change", change: { kind: "invert" } });
    act();
    this.sheet.commands.push({ do: "select.none" });
  }
}

function pencil(sheet: Sheet): void {
  const lead = { brush: "pencil-2b", size: 7, colour: "#3a3834" };
  const manner = { wobble: 1.6, altitude: 1.1 };
  for (const shape of things) sheet.search(closed(shape), lead, manner, 2);
  sheet.search(
    [
      [60, EDGE - 4],
      [720, EDGE + 4],
    ],
    lead,
    manner,
  );
  sheet.search(
    [
      [1160, EDGE + 2],
      [1420, EDGE + 4],
    ],
    lead,
    manner,
  );
  sheet.search(
    [
      [1936, EDGE + 2],
      [2010, EDGE + 3],
    ],
    lead,
    manner,
  );
  sheet.search(
    [
      [2606, EDGE + 4],
      [2950, EDGE - 6],
    ],
    lead,
    manner,
  );
  // Where the cap ends, the ring round the thermos, axes of the pears, stalks.
  sheet.draw(arc([940, 636], 166, 26, 0.1, 3.05, 14), lead, manner);
  sheet.draw(arc([940, 742], 204, 30, 0.05, 3.1, 14), lead, manner);
  sheet.draw(
    [
      [1648, 800],
      [1668, 1660],
    ],
    { ...lead, size: 5 },
    { ...manner, press: () => 0.25 },
  );
  sheet.draw(
    [
      [1980, 1500],
      [2640, 1560],
    ],
    { ...lead, size: 5 },
    { ...manner, press: () => 0.25 },
  );
  sheet.search(
    [
      [1622, 856],
      [1612, 770],
      [1650, 706],
    ],
    lead,
    manner,
  );
  sheet.search(
    [
      [2012, 1490],
      [1950, 1450],
      [1912, 1462],
    ],
    lead,
    manner,
  );
  for (const [a, b] of parallels(box(1180, 1640, 420, 80), 0.02, 22))
    sheet.draw([a, b], lead, { ...manner, press: () => 0.3 });
}

function wall(painter: Painter): void {
  const paper = box(70, 70, WIDTH - 140, EDGE - 70);
  painter.within(things, "outside", () => {
    painter.wash(paper, "#000000", 420, { brush: "wash-clear", angle: 0.02 });
    painter.wash(box(80, 80, 1510, EDGE - 76), WALL.cool, 420, { strength: 0.55, angle: 0.1 });
    painter.wash(box(1380, 90, 1530, EDGE - 84), WALL.dusk, 400, { strength: 0.42, angle: -0.1 });
    // The lamp is at the left above: the dark gathers behind the lit side and along the edges.
    for (const [path, width, strength] of [
      [
        [
          [1250, 240],
          [1270, 560],
          [1230, 900],
          [1290, 1380],
        ],
        300,
        0.3,
      ],
    ] as const)
      painter.charge(path, WALL.deep, width, strength);
    painter.stroke(
      [
        [330, 330],
        [800, 300],
        [1180, 340],
      ],
      WALL.deep,
      460,
      { brush: "wash-mop", strength: 0.16, press: swell(0.6, 1) },
    );
    painter.stroke(
      [
        [2480, 330],
        [2640, 420],
      ],
      WALL.dusk,
      420,
      { brush: "wash-mop", strength: 0.4, press: swell(0.6, 1) },
    );
  });
  painter.wait(5);
  painter.within(things, "outside", () => {
    // A drop too many, left as it fell.
    painter.stroke(
      [
        [2330, 640],
        [2336, 648],
      ],
      WALL.dusk,
      150,
      { brush: "wash-bloom", strength: 0.5 },
    );
    painter.stroke(
      [
        [2560, 900],
        [2563, 905],
      ],
      WALL.dusk,
      90,
      { brush: "wash-bloom", strength: 0.5 },
    );
  });
  painter.wait(4);
  painter.dry();
}

function table(painter: Painter): void {
  const top = box(60, EDGE - 14, WIDTH - 120, HEIGHT - EDGE - 56);
  painter.within(things, "outside", () => {
    painter.wash(top, TABLE.warm, 300, { strength: 0.6, angle: 0.02 });
    for (const [x, y, long, strength] of [
      [200, 1660, 1300, 0.2],
      [1500, 1880, 1300, 0.16],
      [300, 2030, 2300, 0.26],
    ] as const)
      painter.charge(
        [
          [x, y],
          [x + long * 0.5, y + 26],
          [x + long, y - 14],
        ],
        TABLE.deep,
        120,
        strength,
      );
  });
  painter.wait(3);
  painter.dry();
}

function pear(painter: Painter, shape: Shape, light: Point, dark: Shape, blush: Shape): void {
  painter.wash(shape, PEAR.light, 150, { strength: 0.75, angle: 0.9 });
  painter.within([shape], "inside", () => {
    painter.charge(dark, PEAR.green, 190, 0.5);
    painter.charge(blush, PEAR.blush, 170, 0.42);
    painter.charge(dark, PEAR.deep, 110, 0.36);
  });
  painter.wait(1.5);
  // The light, with a thirsty brush, while the paper still shines.
  const [x, y] = light;
  painter.stroke(
    [
      [x, y],
      [x + 26, y + 50],
      [x + 30, y + 110],
    ],
    "#000000",
    96,
    { brush: "wash-thirsty", mode: "lift" },
  );
  painter.wait(2);
}

function pears(painter: Painter): void {
  pear(
    painter,
    standing,
    [1560, 1230],
    [
      [1700, 960],
      [1780, 1200],
      [1850, 1420],
      [1780, 1560],
      [1600, 1590],
    ],
    [
      [1640, 1180],
      [1700, 1330],
      [1640, 1470],
    ],
  );
  pear(
    painter,
    lying,
    [2300, 1410],
    [
      [2060, 1560],
      [2220, 1640],
      [2400, 1690],
      [2540, 1600],
    ],
    [
      [2380, 1470],
      [2480, 1520],
      [2540, 1490],
    ],
  );
  painter.dry();
}

function flask(painter: Painter): void {
  painter.wash(thermos, STEEL.light, 150, { strength: 0.6, angle: 1.5 });
  painter.within([thermos], "inside", () => {
    painter.charge(
      [
        [1090, 720],
        [1104, 1100],
        [1092, 1560],
      ],
      STEEL.deep,
      130,
      0.62,
    );
    painter.charge(
      [
        [980, 720],
        [990, 1100],
        [980, 1570],
      ],
      STEEL.mid,
      130,
      0.4,
    );
    painter.charge(
      [
        [768, 760],
        [764, 1100],
        [774, 1540],
      ],
      STEEL.mid,
      60,
      0.5,
    );
  });
  painter.wait(1.2);
  painter.stroke(
    [
      [862, 720],
      [858, 1100],
      [862, 1540],
    ],
    "#000000",
    84,
    { brush: "wash-thirsty", mode: "lift" },
  );
  painter.wash(cap, CAP.light, 110, { strength: 0.85, angle: 1.5 });
  painter.charge(
    [
      [1060, 452],
      [1066, 540],
      [1056, 622],
    ],
    CAP.deep,
    90,
    0.6,
  );
  painter.wait(1);
  painter.stroke(
    [
      [858, 452],
      [854, 540],
      [858, 610],
    ],
    "#000000",
    56,
    { brush: "wash-thirsty", mode: "lift" },
  );
  painter.wait(2);
  painter.dry();
}

/** Granulating shadows over what is dry: the light comes from the left above. */
function shadows(painter: Painter): void {
  const cast = (shape: Shape, strength = 0.5): void => {
    painter.within(things, "outside", () =>
      painter.wash(shape, SHADE, 110, { strength, angle: 0.05 }),
    );
  };
  cast(
    round([
      [760, 1590],
      [1120, 1560],
      [1430, 1640],
      [1500, 1700],
      [1300, 1736],
      [960, 1700],
      [800, 1660],
    ]),
  );
  cast(
    round([
      [1500, 1610],
      [1800, 1600],
      [2040, 1660],
      [2080, 1716],
      [1900, 1744],
      [1640, 1700],
    ]),
  );
  cast(
    round([
      [2160, 1690],
      [2400, 1730],
      [2600, 1690],
      [2790, 1740],
      [2800, 1790],
      [2560, 1816],
      [2300, 1780],
    ]),
  );
  // Their far ends are softened with clear water.
  for (const [x, y] of [
    [1480, 1700],
    [2070, 1716],
    [2800, 1764],
  ] as const)
    painter.stroke(
      [
        [x - 30, y],
        [x + 60, y + 6],
      ],
      "#000000",
      120,
      { brush: "wash-clear", mode: "blend" },
    );
  const form = (thing: Shape, shape: Shape, strength: number): void =>
    painter.within([thing], "inside", () =>
      painter.wash(shape, SHADE, 80, { strength, angle: 1.4 }),
    );
  form(
    thermos,
    round([
      [1040, 700],
      [1120, 720],
      [1136, 1100],
      [1130, 1530],
      [1080, 1600],
      [1030, 1600],
      [1050, 1100],
    ]),
    0.4,
  );
  form(
    cap,
    round([
      [1010, 430],
      [1086, 452],
      [1094, 560],
      [1082, 630],
      [1010, 645],
      [1030, 540],
    ]),
    0.34,
  );
  form(
    standing,
    round([
      [1740, 1010],
      [1800, 1140],
      [1890, 1280],
      [1918, 1430],
      [1860, 1560],
      [1730, 1620],
      [1640, 1616],
      [1780, 1500],
      [1810, 1350],
      [1760, 1160],
    ]),
    0.36,
  );
  form(
    lying,
    round([
      [2080, 1590],
      [2200, 1630],
      [2360, 1660],
      [2520, 1640],
      [2600, 1560],
      [2550, 1680],
      [2420, 1736],
      [2270, 1704],
      [2150, 1630],
    ]),
    0.36,
  );
  painter.wait(2);
  painter.dry();
}

function details(painter: Painter): void {
  // Stalks, the ring, where the things stand.
  painter.stroke(
    [
      [1622, 860],
      [1612, 770],
      [1652, 704],
    ],
    "#4a3524",
    26,
    { brush: "wash-rigger", press: fade(0.9, 0.5) },
  );
  painter.stroke(
    [
      [2014, 1492],
      [1950, 1450],
      [1910, 1464],
    ],
    "#4a3524",
    26,
    { brush: "wash-rigger", press: fade(0.9, 0.5) },
  );
  painter.stroke(arc([940, 648], 166, 24, 0.15, 3.0, 14), CAP.deep, 16, {
    brush: "wash-rigger",
    press: swell(0.3, 0.9),
  });
  painter.stroke(arc([940, 742], 204, 30, 0.1, 3.05, 14), STEEL.deep, 12, {
    brush: "wash-rigger",
    press: swell(0.3, 0.8),
  });
  painter.stroke(arc([940, 1606], 190, 34, 0.1, 3.0, 14), "#26283a", 14, {
    brush: "wash-rigger",
    strength: 0.6,
    press: swell(0.3, 0.9),
  });
  painter.stroke(arc([1672, 1606], 190, 42, 0.1, 2.9, 14), "#2f2a20", 14, {
    brush: "wash-rigger",
    strength: 0.6,
    press: swell(0.2, 0.8),
  });
  painter.stroke(arc([2400, 1690], 180, 60, 0.4, 2.6, 14), "#2f2a20", 14, {
    brush: "wash-rigger",
    strength: 0.6,
    press: swell(0.2, 0.8),
  });
  // Grain of the table, dragged dry; a few spots.
  for (let i = 0; i < 11; i++) {
    const [x, y] = [painter.sheet.chance(120, 2300), painter.sheet.chance(1790, 2110)];
    const long = painter.sheet.chance(180, 620);
    painter.stroke(
      [
        [x, y],
        [x + long * 0.5, y + 7],
        [x + long, y - 5],
      ],
      TABLE.deep,
      painter.sheet.chance(22, 60),
      { brush: "wash-dry", strength: painter.sheet.chance(0.2, 0.45), press: swell(0.1, 0.6) },
    );
  }
  painter.stroke(
    [
      [420, 1900],
      [900, 2000],
    ],
    TABLE.deep,
    420,
    { brush: "wash-spatter", strength: 0.6 },
  );
  painter.stroke(
    [
      [2300, 400],
      [2700, 620],
    ],
    WALL.deep,
    420,
    { brush: "wash-spatter", strength: 0.5 },
  );
  painter.wait(2);
  painter.dry();
}

function gouache(sheet: Sheet): void {
  const white = { brush: "gouache-liner", size: 12, colour: "#fbf8f0" };
  sheet.draw(
    [
      [846, 800],
      [842, 1060],
      [846, 1300],
    ],
    { ...white, size: 16 },
    { press: swell(0.2, 0.8), wobble: 1 },
  );
  sheet.draw(
    [
      [846, 470],
      [842, 540],
    ],
    { ...white, size: 13 },
    { press: swell(0.3, 0.8), wobble: 0.5 },
  );
  sheet.draw(
    [
      [1566, 1236],
      [1580, 1280],
    ],
    { ...white, size: 22 },
    { press: swell(0.4, 0.9), wobble: 0.5 },
  );
  sheet.draw(
    [
      [2300, 1416],
      [2340, 1420],
    ],
    { ...white, size: 20 },
    { press: swell(0.4, 0.9), wobble: 0.5 },
  );
  sheet.draw(
    [
      [1640, 716],
      [1616, 780],
    ],
    { ...white, size: 6 },
    { press: swell(0.2, 0.7), wobble: 0.4 },
  );
  sheet.draw(
    arc([940, 738], 196, 26, 1.7, 2.7, 10),
    { ...white, size: 7 },
    { press: swell(0.2, 0.7), wobble: 0.3 },
  );
}

/** The still life's log. */
export function thermosAndPears(): string {
  const sheet = new Sheet(
    {
      width: WIDTH,
      height: HEIGHT,
      ground: "#f7f2e6",
      title: "Thermos and pears",
      paper: { kind: "cold-pressed", scale: 1 },
    },
    91,
  );
  const painter = new Painter(sheet);
  sheet.layer("pencil", "Pencil");
  pencil(sheet);
  sheet.layer("washes", "Washes", { blend: "multiply" });
  sheet.commands.push({ do: "wash.set", layer: "washes", edge: 0.5, pace: 0.5 });
  wall(painter);
  table(painter);
  pears(painter);
  flask(painter);
  shadows(painter);
  details(painter);
  sheet.layer("whites", "White gouache");
  gouache(sheet);
  return sheet.log;
}
