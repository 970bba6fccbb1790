import { arc, mix, type Point, type Shape } from "./kit/shape";
import { fade, flick, type Manner, Sheet, swell, type Tool } from "./kit/sheet";

/**
 * “Thermos, night shift”: a study in graphite on cold-pressed paper. A hard lead finds the forms, the
 * side of a soft one lays the tone, a stump draws it together, and a kneaded eraser takes the lights
 * out again: the shine on the flask, the rim of the mug, the steam.
 */
const WIDTH = 1500;
const HEIGHT = 1150;

const graphite = "#25262b";
const hard: Tool = { brush: "pencil-2h", size: 4, colour: graphite };
const lead: Tool = { brush: "pencil-2b", size: 6, colour: graphite };
const soft: Tool = { brush: "pencil-4b", size: 9, colour: graphite };
const dark: Tool = { brush: "pencil-6b", size: 10, colour: graphite };
const stump: Tool = { brush: "stump", size: 26, colour: graphite };
const rubber: Tool = { brush: "eraser-kneaded", size: 26, colour: graphite };

/** The lead lying on its side. */
const flat: Manner = { altitude: 0.55, azimuth: 1.1 };

/** Where a value is given at some places across, and wanted between them. */
type Values = readonly (readonly [at: number, value: number])[];

function valueAt(values: Values, at: number): number {
  for (let i = 1; i < values.length; i++) {
    const [from, a] = values[i - 1] as readonly [number, number];
    const [to, b] = values[i] as readonly [number, number];
    if (at <= to) return mix(a, b, (at - from) / (to - from));
  }
  return values.at(-1)?.[1] ?? 0;
}

/** Polished metal lit by a lamp at the right: a core of shade, light that comes back from the table. */
const metal: Values = [
  [-1, 0.62],
  [-0.8, 0.8],
  [-0.45, 0.95],
  [-0.1, 0.62],
  [0.2, 0.34],
  [0.42, 0.1],
  [0.58, 0.06],
  [0.75, 0.24],
  [1, 0.44],
];

/** Enamel: paler, softer. */
const enamel: Values = [
  [-1, 0.42],
  [-0.55, 0.62],
  [-0.1, 0.34],
  [0.35, 0.1],
  [0.6, 0.03],
  [1, 0.2],
];

/** A round body seen from the front: its middle, its half width, and its ends at each place across. */
type Round = {
  x: number;
  half: number;
  top: number;
  bottom: number;
  /** How far its ends curve: half the height of their ellipses. */
  curve: number;
};

const bow = (u: number): number => Math.sqrt(Math.max(0, 1 - u * u));

/** Tone of a round body in upright strokes, one beside the other, each as dark as the form is there. */
function turn(sheet: Sheet, body: Round, values: Values, by = 1): void {
  const { x, half, top, bottom, curve } = body;
  for (let at = -half + 3; at < half - 2; at += 5.5) {
    const u = (at + sheet.chance(-1.5, 1.5)) / half;
    const value = valueAt(values, u) * by;
    if (value < 0.05) continue;
    const [up, down] = [top + curve * bow(u), bottom + curve * bow(u)];
    const firm = 0.1 + 0.55 * value;
    const line: Shape = [
      [x + at, up + sheet.chance(0, 6)],
      [x + at + sheet.chance(-1.5, 1.5), (up + down) / 2],
      [x + at, down - sheet.chance(0, 6)],
    ];
    sheet.draw(line, soft, { ...flat, wobble: 0.7, press: (v) => firm * mix(0.92, 1.06, v) });
  }
}

/** Draws the tone of a round body together, along it. */
function rubRound(sheet: Sheet, { x, half, top, bottom, curve }: Round, press: number): void {
  for (let at = -half + 14; at < half - 8; at += 17) {
    const u = at / half;
    const [up, down] = [top + curve * bow(u) + 12, bottom + curve * bow(u) - 12];
    sheet.draw(
      [
        [x + at, up],
        [x + at, down],
        [x + at + 3, up + 20],
      ],
      { ...stump, size: 24 },
      {
        press: () => press,
        wobble: 1,
        altitude: 1.3,
      },
    );
  }
}

const ellipse = (x: number, y: number, rx: number, ry: number): Shape =>
  arc([x, y], rx, ry, 0, Math.PI * 2, 40);

const under = (x: number, y: number, rx: number, ry: number): Shape =>
  arc([x, y], rx, ry, Math.PI, 0, 24);

const flask: Round = { x: 600, half: 118, top: 372, bottom: 858, curve: 26 };
const cup: Round = { x: 600, half: 80, top: 148, bottom: 268, curve: 17 };
const mug: Round = { x: 965, half: 108, top: 648, bottom: 860, curve: 27 };
const over = (x: number, y: number, rx: number, ry: number): Shape =>
  arc([x, y], rx, ry, Math.PI, Math.PI * 2, 24);

/** How wide the flask is from its cup down to its body: half of it, at each height. */
const shoulder: Values = [
  [268, 74],
  [312, 74],
  [326, 84],
  [342, 102],
  [360, 114],
  [384, 118],
];

const shoulderSide = (side: number): Shape =>
  shoulder.map(([y, half]): Point => [600 + side * half, y]);

/** What stands before the night, to be kept clear of it. */
const silhouettes: readonly Shape[] = [
  [...shoulderSide(-1), ...under(600, 858, 118, 26), ...shoulderSide(1).toReversed()],
  [...over(600, 148, 80, 17), ...under(600, 268, 80, 17).toReversed()],
  [...over(965, 648, 108, 27), ...under(965, 860, 108, 27).toReversed()],
  [
    ...arc([1070, 745], 78, 66, -Math.PI / 2, Math.PI / 2, 24),
    ...arc([1070, 745], 54, 42, -Math.PI / 2, Math.PI / 2, 24).toReversed(),
  ],
];

const EDGE = 770;

/** Thin lines that find everything, and go too far. */
function construction(sheet: Sheet): void {
  const thin: Manner = { press: swell(0.15, 0.4), wobble: 0.8 };
  sheet.draw(
    [
      [60, EDGE + 6],
      [1440, EDGE - 10],
    ],
    hard,
    thin,
  );
  for (const { x, half, top, bottom, curve } of [flask, cup, mug]) {
    sheet.draw(
      [
        [x, top - 60],
        [x, bottom + 70],
      ],
      hard,
      thin,
    );
    sheet.search(ellipse(x, top, half, curve), hard, thin);
    sheet.search(ellipse(x, bottom, half, curve), hard, thin);
    for (const side of [-1, 1])
      sheet.draw(
        [
          [x + side * half, top - 30],
          [x + side * half, bottom + 30],
        ],
        hard,
        thin,
      );
  }
}

/** The night behind: darkest at the left, away from the lamp. */
function background(sheet: Sheet): void {
  const wall: Shape = [
    [70, 90],
    [1430, 80],
    [1430, EDGE - 12],
    [70, EDGE],
  ];
  const fall = (from: number, to: number): Manner => ({
    ...flat,
    wobble: 1.6,
    press: fade(from, to),
  });
  sheet.hatch(wall, { ...dark, size: 15 }, { ...fall(0.62, 0.16), angle: 0.08, gap: 12 });
  const left: Shape = [
    [70, 90],
    [820, 84],
    [470, EDGE - 6],
    [70, EDGE],
  ];
  sheet.hatch(left, { ...dark, size: 13 }, { ...fall(0.5, 0.25), angle: 1.1, gap: 12 });
  const corner: Shape = [
    [70, 380],
    [470, 430],
    [470, EDGE - 4],
    [70, EDGE],
  ];
  sheet.hatch(corner, { ...dark, size: 12 }, { ...flat, angle: 2.2, gap: 10, press: flick(0.6) });
  for (let y = 120; y < EDGE - 40; y += 46)
    sheet.draw(
      [
        [90, y],
        [500, y + 8],
        [900, y - 6],
        [1400, y + 4],
      ],
      { ...stump, size: 70 },
      {
        press: fade(0.75, 0.4),
        altitude: 1.2,
        wobble: 3,
      },
    );
  sheet.hatch(left, lead, { angle: 0.75, gap: 15, press: flick(0.4) });
}

/** The table, and the shadows that lie on it toward the left. */
function table(sheet: Sheet): void {
  const top: Shape = [
    [70, EDGE + 6],
    [1430, EDGE - 8],
    [1430, 1060],
    [70, 1070],
  ];
  sheet.hatch(top, { ...soft, size: 11 }, { ...flat, angle: 0.03, gap: 15, press: fade(0.3, 0.1) });
  const long: Shape = [
    [500, 850],
    [690, 890],
    [560, 930],
    [150, 985],
    [90, 960],
    [300, 890],
  ];
  const low: Shape = [
    [870, 850],
    [1000, 892],
    [930, 915],
    [720, 940],
    [690, 915],
  ];
  for (const shadow of [long, low]) {
    sheet.hatch(shadow, dark, { ...flat, angle: 0.14, gap: 7, press: flick(0.6) });
    sheet.hatch(shadow, dark, { ...flat, angle: -0.25, gap: 9, press: flick(0.45) });
  }
  for (let i = 0; i < 4; i++)
    sheet.draw(
      [
        [640 - i * 20, 880 + i * 14],
        [380, 915 + i * 12],
        [130, 955 + i * 10],
      ],
      stump,
      {
        press: fade(0.7, 0.3),
        altitude: 1.2,
      },
    );
  sheet.draw(
    [
      [60, EDGE + 4],
      [480, EDGE + 1],
    ],
    dark,
    { press: fade(0.7, 0.4) },
  );
  sheet.draw(
    [
      [722, EDGE - 2],
      [852, EDGE - 3],
    ],
    lead,
    { press: swell(0.3, 0.6) },
  );
  sheet.draw(
    [
      [1078, EDGE - 6],
      [1440, EDGE - 10],
    ],
    lead,
    { press: fade(0.5, 0.2) },
  );
}

/** The flask: a body, a shoulder, and its cup turned over on top. */
function thermos(sheet: Sheet): void {
  turn(sheet, flask, metal);
  for (let y = 286; y < 380; y += 5.5) {
    const half = valueAt(shoulder, y) - 3;
    const press = (u: number): number => 0.12 + 0.5 * valueAt(metal, u * 2 - 1);
    sheet.draw(under(600, y - 8, half, half * 0.2), soft, { ...flat, press, wobble: 0.5 });
  }
  turn(sheet, cup, metal, 0.85);
  rubRound(sheet, flask, 0.6);
  rubRound(sheet, cup, 0.5);
  turn(
    sheet,
    { ...flask, top: 380, bottom: 850 },
    [
      [-1, 0.4],
      [-0.45, 0.75],
      [0, 0.3],
      [0.3, 0],
      [1, 0.15],
    ],
    0.8,
  );
  // Bands that hold it together.
  for (const y of [400, 424, 800, 826]) {
    sheet.draw(under(600, y, 118, 26), y % 100 === 0 ? lead : dark, {
      press: fade(0.3, 0.85),
      wobble: 0.4,
    });
  }
  sheet.hatch(ellipse(600, 148, 76, 15), lead, { angle: 0.1, gap: 6, press: fade(0.4, 0.12) });
  sheet.draw(ellipse(600, 148, 80, 17), lead, { press: swell(0.3, 0.7), wobble: 0.4 });
  sheet.draw(under(600, 268, 80, 17), dark, { press: fade(0.4, 0.9), wobble: 0.4 });
  sheet.draw(
    [
      [482, 380],
      [481, 620],
      [482, 862],
    ],
    dark,
    { press: swell(0.6, 0.95), wobble: 0.5 },
  );
  sheet.draw(
    [
      [718, 380],
      [719, 620],
      [718, 858],
    ],
    lead,
    { press: swell(0.3, 0.6), wobble: 0.5 },
  );
  sheet.draw(shoulderSide(-1), dark, { press: swell(0.6, 0.85), wobble: 0.3 });
  sheet.draw(shoulderSide(1), lead, { press: swell(0.4, 0.65), wobble: 0.3 });
  for (const side of [-1, 1])
    sheet.draw(
      [
        [600 + side * 80, 150],
        [600 + side * 79, 266],
      ],
      side < 0 ? dark : lead,
      {
        press: swell(0.4, 0.8),
        wobble: 0.4,
      },
    );
  sheet.draw(under(600, 858, 118, 26), dark, { press: fade(0.95, 0.7), wobble: 0.4 });
}

/** The mug, its tea, and the handle. */
function teaMug(sheet: Sheet): void {
  turn(sheet, mug, enamel);
  rubRound(sheet, mug, 0.5);
  const tea = ellipse(965, 654, 92, 20);
  sheet.hatch(tea, dark, { angle: 0.05, gap: 6, press: flick(0.7), ...flat });
  sheet.hatch(tea, dark, { angle: -0.3, gap: 8, press: flick(0.5) });
  for (const rx of [108, 100])
    sheet.search(ellipse(965, 648, rx, rx / 4), lead, { press: swell(0.4, 0.8), wobble: 0.3 });
  sheet.draw(
    [
      [857, 650],
      [858, 760],
      [858, 862],
    ],
    dark,
    { press: swell(0.5, 0.85), wobble: 0.4 },
  );
  sheet.draw(
    [
      [1073, 650],
      [1072, 760],
      [1073, 860],
    ],
    lead,
    { press: swell(0.25, 0.5), wobble: 0.4 },
  );
  sheet.draw(under(965, 860, 108, 27), dark, { press: fade(0.9, 0.6), wobble: 0.4 });
  for (const [rx, ry, tool] of [
    [78, 66, lead],
    [54, 42, lead],
  ] as const)
    sheet.search(arc([1070, 745], rx, ry, -Math.PI / 2, Math.PI / 2, 24), tool, {
      press: swell(0.35, 0.75),
      wobble: 0.4,
    });
  sheet.hatch(arc([1072, 745], 72, 60, 0.3, Math.PI / 2, 12), lead, {
    angle: 0.8,
    gap: 7,
    press: flick(0.45),
  });
  // A chip in the enamel, as old mugs have.
  sheet.hatch(
    [
      [905, 812],
      [922, 806],
      [930, 820],
      [914, 828],
    ],
    dark,
    { angle: 0.6, gap: 4, press: flick(0.8) },
  );
}

/** An apple: tone in strokes that go round it, each as dark as the form is along it. */
function apple(sheet: Sheet): void {
  const [x, y, r] = [296, 880, 84];
  const shape = arc([x, y], r, r * 0.94);
  sheet.clear(shape);
  // The light stands at the right, above and before it.
  const shade = (u: number, v: number): number => {
    const depth = Math.sqrt(Math.max(0, 1 - u * u - v * v));
    const light = 0.62 * u - 0.58 * v + 0.53 * depth;
    const back = 0.22 * Math.max(0, -u - 0.55);
    return Math.min(0.95, Math.max(0.02, 0.82 - 0.95 * light - back));
  };
  for (const [gap, tool, by] of [
    [6, soft, 0.62],
    [9, lead, 0.5],
  ] as const)
    for (let v = -0.95; v < 0.96; v += gap / r) {
      const half = bow(v) * 0.98;
      const line = Array.from({ length: 9 }, (_, i): Point => {
        const u = mix(-half, half, i / 8);
        return [x + u * r, y + (v + 0.16 * (bow(u) - 1)) * r * 0.94];
      });
      const press = (t: number): number => by * shade(mix(-half, half, t), v);
      sheet.draw(line, tool, { press, wobble: 0.6, altitude: 0.8 });
    }
  sheet.search(
    shape,
    lead,
    { press: (u) => 0.35 + 0.4 * Math.abs(Math.sin(Math.PI * (u + 0.15))) },
    1,
  );
  // Where the stalk stands, and the stalk.
  sheet.hatch(arc([x + 8, y - 62], 24, 8), dark, { angle: 0.1, gap: 4, press: flick(0.55) });
  sheet.draw(
    [
      [x + 8, y - 60],
      [x + 13, y - 88],
      [x + 26, y - 108],
    ],
    dark,
    { press: fade(0.9, 0.6), wobble: 0.3 },
  );
  sheet.draw(
    [
      [x + 12, y - 62],
      [x + 17, y - 88],
      [x + 28, y - 106],
    ],
    lead,
    { press: fade(0.5, 0.4), wobble: 0.3 },
  );
  const below: Shape = [
    [x - 150, y + 76],
    [x - 20, y + 60],
    [x + 60, y + 66],
    [x + 40, y + 84],
    [x - 60, y + 96],
  ];
  sheet.hatch(below, dark, { ...flat, angle: 0.06, gap: 6, press: flick(0.7) });
  sheet.draw(arc([x + 2, y + 4], r - 4, r * 0.94 - 6, 0.9, 2.3, 14), dark, {
    press: swell(0.4, 0.9),
  });
}

/** Two tickets, one punched. */
function tickets(sheet: Sheet): void {
  const first: Shape = [
    [1180, 950],
    [1316, 928],
    [1334, 990],
    [1196, 1014],
  ];
  const second: Shape = [
    [1258, 1004],
    [1388, 1000],
    [1392, 1052],
    [1262, 1058],
  ];
  for (const ticket of [first, second]) {
    sheet.clear(ticket);
    sheet.draw(ticket.map(([x, y]): Point => [x - 7, y + 7]).slice(2), dark, {
      press: swell(0.4, 0.7),
      soft: false,
    });
    sheet.outline(ticket, lead, { press: swell(0.4, 0.7), wobble: 0.4 });
  }
  sheet.draw(ellipse(1296, 958, 6, 6), dark, { press: () => 0.7, wobble: 0.1 });
  for (let i = 0; i < 3; i++) {
    sheet.draw(
      [
        [1204 + i * 3, 964 + i * 12],
        [1262 + i * 3, 955 + i * 12],
      ],
      lead,
      { press: flick(0.4), wobble: 0.4 },
    );
    sheet.draw(
      [
        [1280, 1018 + i * 12],
        [1350, 1016 + i * 12],
      ],
      lead,
      { press: flick(0.35), wobble: 0.4 },
    );
  }
}

/** What the kneaded eraser takes out of the tone. */
function lights(sheet: Sheet): void {
  for (const press of [0.85, 0.7])
    sheet.draw(
      [
        [659, 424],
        [661, 610],
        [659, 800],
      ],
      { ...rubber, size: 20 },
      { press: () => press, wobble: 0.8 },
    );
  sheet.draw(
    [
      [640, 170],
      [641, 250],
    ],
    { ...rubber, size: 14 },
    { press: () => 0.8, wobble: 0.5 },
  );
  sheet.draw(
    [
      [652, 334],
      [656, 352],
    ],
    { ...rubber, size: 12 },
    { press: () => 0.8, wobble: 0.3 },
  );
  sheet.draw(
    [
      [495, 470],
      [494, 760],
    ],
    { ...rubber, size: 9 },
    { press: () => 0.45, wobble: 0.5 },
  );
  sheet.draw(
    arc([965, 648], 104, 26, -0.2, 1.2, 16),
    { ...rubber, size: 9 },
    { press: () => 0.9, wobble: 0.2 },
  );
  sheet.draw(
    [
      [940, 652],
      [990, 650],
    ],
    { ...rubber, size: 9 },
    { press: swell(0.2, 0.8), wobble: 0.3 },
  );
  // Steam: two wisps, wider and fainter as they rise.
  const wisp = (dx: number, lean: number): Shape => [
    [955 + dx, 622],
    [935 + dx + lean, 560],
    [972 + dx + lean, 490],
    [948 + dx + lean * 2, 410],
    [980 + dx + lean * 3, 320],
    [965 + dx + lean * 4, 236],
  ];
  for (const [dx, lean, size] of [
    [-18, -4, 22],
    [26, 5, 28],
    [4, 1, 40],
  ] as const)
    for (let pass = 0; pass < 2; pass++)
      sheet.draw(wisp(dx, lean), { ...rubber, size }, { press: fade(0.95, 0.25), wobble: 2 });
}

/** The study's log. */
export function thermosNightShift(): string {
  const sheet = new Sheet(
    {
      width: WIDTH,
      height: HEIGHT,
      ground: "#f3eee3",
      title: "Thermos, night shift",
      paper: { kind: "cold-pressed", scale: 1 },
    },
    73,
  );
  sheet.layer("construction", "Construction", { opacity: 0.7 });
  construction(sheet);
  sheet.layer("graphite", "Graphite");
  background(sheet);
  table(sheet);
  // The forms stand clear of the night behind them.
  for (const shape of silhouettes) sheet.clear(shape);
  thermos(sheet);
  teaMug(sheet);
  apple(sheet);
  tickets(sheet);
  lights(sheet);
  return sheet.log;
}
