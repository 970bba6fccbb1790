import {
  arc,
  arched,
  between,
  box,
  distance,
  mix,
  parallels,
  type Point,
  type Shape,
} from "./kit/shape";
import { fade, type Manner, Sheet, shifted, swell, type Tool } from "./kit/sheet";

/**
 * “Depot at dusk”: oil on canvas. The plan: a warm ground rubbed in and left to dry; sky, hall and snow
 * blocked in wet into wet; then, over what has dried, the forms; snow with the knife; lights and wires last.
 */
const WIDTH = 3000;
const HEIGHT = 2000;
const HORIZON = 1180;
const FOOT = 1360;

type Rgb = readonly [number, number, number];
const rgb = (hex: string): Rgb => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16)) as never;
const hex = (c: Rgb): string =>
  `#${c.map((v) => Math.round(v).toString(16).padStart(2, "0")).join("")}`;

/** A colour between two. */
const blend = (a: string, b: string, t: number): string => {
  const [from, to] = [rgb(a), rgb(b)];
  const u = Math.min(1, Math.max(0, t));
  return hex([0, 1, 2].map((i) => mix(from[i] as number, to[i] as number, u)) as never);
};

/** A colour at a place of a row of them. */
const along = (row: readonly string[], t: number): string => {
  const at = Math.min(0.9999, Math.max(0, t)) * (row.length - 1);
  const i = Math.floor(at);
  return blend(row[i] as string, row[i + 1] as string, at - i);
};

type Cover = Manner & {
  angle: number;
  /** From line to line, in sizes; and how long a stroke is before the brush is loaded anew, px. */
  gap?: number;
  length?: readonly [number, number];
  vary?: number;
};

/** Covers a shape stroke by stroke, each loaded with the colour of its place. */
function cover(
  sheet: Sheet,
  shape: Shape,
  tool: Omit<Tool, "colour">,
  colourAt: (x: number, y: number) => string,
  { angle, gap = 0.62, length = [220, 420], vary = 0.02, ...manner }: Cover,
): void {
  for (const [a, b] of parallels(shape, angle, tool.size * gap)) {
    const whole = distance(a, b);
    let from = -sheet.chance(0, 0.2) * (length[0] as number);
    while (from < whole - tool.size * 0.3) {
      const long = sheet.chance(length[0], length[1]);
      const cut = tool.size * 0.35;
      const [u, v] = [Math.max(cut, from) / whole, Math.min(whole - cut, from + long) / whole];
      from += long * 0.82;
      if (v <= u) continue;
      const [p, q] = [between(a, b, u), between(a, b, v)];
      const middle = between(p, q, 0.5);
      const d = (): number => sheet.chance(-vary, vary);
      const colour = shifted(colourAt(middle[0], middle[1]), d(), d());
      const bow: Point = [middle[0], middle[1] + sheet.chance(-0.08, 0.08) * tool.size];
      sheet.draw(
        sheet.chance() < 0.5 ? [p, bow, q] : [q, bow, p],
        { ...tool, colour },
        {
          press: () => 0.62,
          wobble: tool.size * 0.015,
          ...manner,
        },
      );
    }
  }
}

const skyRow = ["#1d2850", "#2c3566", "#49457a", "#7d5a82", "#c07a72", "#e6a06c", "#f2bd7c"];
const sky = (x: number, y: number): string => {
  const warm = 1 - Math.abs(x - 900) / 3400;
  return along(skyRow, (y / HORIZON) * warm + 0.03);
};
const snowRow = ["#8c93bd", "#7d8abb", "#92a0cd", "#a9b6da", "#8695c6"];

const doors = [1560, 2020, 2480] as const;
const DOOR = { width: 330, top: 790, height: FOOT - 790 };

/** Light that falls from a door on the snow before it, 0…1. */
const glow = (x: number, y: number): number => {
  let sum = 0;
  for (const left of doors) {
    const middle = left + DOOR.width / 2 - (y - FOOT) * 0.45;
    const wide = DOOR.width * 0.5 + (y - FOOT) * 0.42;
    const off = Math.abs(x - middle) / wide;
    sum += Math.max(0, 1 - off * off) * Math.max(0, 1 - (y - FOOT) / 520);
  }
  return Math.min(1, sum);
};
const snow = (x: number, y: number): string => {
  const cold = along(snowRow, (y - FOOT) / (HEIGHT - FOOT));
  return along([cold, "#c3a4bb", "#eab489", "#f8cf92"], glow(x, y) ** 0.8);
};

function ground(sheet: Sheet): void {
  sheet.layer("ground", "Block-in");
  const whole = box(-60, -40, WIDTH + 120, HEIGHT + 80);
  cover(
    sheet,
    whole,
    { brush: "oil-house", size: 300, strength: 0.9 },
    (_x, y) => along(["#9a7456", "#8a5f48", "#a5825f"], y / HEIGHT),
    {
      angle: -0.35,
      gap: 1.5,
      length: [700, 1100],
      vary: 0.015,
    },
  );
  dry(sheet, "ground");
}

const dry = (sheet: Sheet, layer: string): void =>
  void sheet.commands.push({ do: "paint.dry", layers: [layer] });

function blockIn(sheet: Sheet): void {
  cover(sheet, box(-220, -40, WIDTH + 440, HORIZON - 60), { brush: "oil-house", size: 210 }, sky, {
    angle: -0.12,
    gap: 0.68,
    length: [320, 640],
  });
  // Clouds, dragged into the wet sky.
  const bands: readonly (readonly [number, number, number, string])[] = [
    [180, 330, 980, "#54507f"],
    [1250, 210, 900, "#3d4474"],
    [2150, 420, 700, "#8a6286"],
    [620, 620, 1040, "#c98074"],
    [1700, 560, 760, "#b5747a"],
    [120, 800, 760, "#f0b988"],
    [900, 880, 800, "#f7cf98"],
  ];
  for (const [x, y, long, colour] of bands)
    for (let i = 0; i < 3; i++)
      sheet.draw(
        [
          [x + i * 60, y + i * 26],
          [x + long * 0.5, y - 26 + i * 22],
          [x + long - i * 90, y + 10 + i * 20],
        ],
        {
          brush: "oil-filbert",
          size: 84 - i * 14,
          colour: shifted(colour, 0.02 * i, 0),
          strength: 0.55,
        },
        { press: swell(0.25, 0.6), wobble: 3 },
      );
  // A soft brush lays edges together.
  for (let y = 120; y < HORIZON - 160; y += 190)
    for (let x = 150; x < WIDTH - 500; x += 760)
      sheet.draw(
        [
          [x, y + sheet.chance(-30, 30)],
          [x + 640, y + sheet.chance(-40, 40)],
        ],
        { brush: "oil-blender", size: 170, colour: "#000000", mode: "blend" },
        { press: () => 0.2, wobble: 6 },
      );
  cover(
    sheet,
    box(-220, FOOT - 30, WIDTH + 440, HEIGHT - FOOT + 80),
    { brush: "oil-house", size: 170 },
    snow,
    {
      angle: 0.06,
      gap: 0.68,
      length: [280, 520],
    },
  );
  dry(sheet, "ground");
}

function town(sheet: Sheet): void {
  sheet.layer("forms", "Forms");
  const roofs: readonly (readonly [number, number, number, number])[] = [
    [-40, 1010, 230, 90],
    [170, 960, 210, 120],
    [360, 1020, 260, 70],
    [600, 985, 190, 100],
    [770, 1035, 250, 60],
    [1000, 975, 220, 110],
    [1200, 1020, 240, 80],
  ];
  for (const [x, y, w, rise] of roofs) {
    const house: Shape = [
      [x, y],
      [x + w / 2, y - rise],
      [x + w, y],
      [x + w, FOOT],
      [x, FOOT],
    ];
    const tone = shifted("#4a4166", sheet.chance(-0.04, 0.05), sheet.chance(-0.02, 0.04));
    cover(
      sheet,
      house,
      { brush: "oil-flat", size: 70 },
      (_x, at) => blend(tone, "#6d5f86", (at - y) / 420),
      {
        angle: Math.PI / 2,
        gap: 0.68,
        length: [160, 320],
      },
    );
    // Snow on the roof, a little warm where the sky still is.
    for (const [from, to] of [
      [
        [x + w / 2, y - rise],
        [x - 8, y + 8],
      ],
      [
        [x + w / 2, y - rise],
        [x + w + 8, y + 8],
      ],
    ] as const)
      sheet.draw(
        [from, to],
        { brush: "oil-filbert", size: 30, colour: "#b9b2cf" },
        { press: () => 0.6 },
      );
    for (let i = 0; i < 3; i++) {
      if (sheet.chance() < 0.35) continue;
      const at: Point = [x + w * (0.24 + 0.26 * i), y + 70 + sheet.chance(-14, 70)];
      sheet.draw(
        [at, [at[0] + 1, at[1] + 26]],
        { brush: "oil-flat", size: 20, colour: "#f0b45c" },
        { press: () => 0.7, wobble: 0 },
      );
    }
  }
}

function hall(sheet: Sheet): void {
  dry(sheet, "forms");
  const wall = box(1440, 690, 1580, FOOT - 690);
  const brick = (x: number, y: number): string =>
    blend(blend("#3a2a3c", "#5a3636", (x - 1440) / 1600), "#2c2440", (y - 690) / 900);
  cover(sheet, wall, { brush: "oil-flat", size: 96 }, brick, {
    angle: 0.02,
    gap: 0.68,
    length: [200, 380],
  });
  const roof: Shape = [
    [1380, 720],
    [1560, 470],
    [3020, 430],
    [3020, 720],
  ];
  cover(
    sheet,
    roof,
    { brush: "oil-flat", size: 100 },
    (x, y) => blend("#59628f", "#8f93ba", (720 - y) / 290 + (x - 2200) / 4000),
    {
      angle: -1.0,
      gap: 0.62,
      length: [220, 330],
    },
  );
  // Skylights along the ridge, lit from below.
  for (let i = 0; i < 5; i++) {
    const x = 1700 + i * 262;
    for (let k = 0; k < 3; k++) {
      const tone = shifted("#dca05c", sheet.chance(-0.06, 0.06), 0);
      const pane: Shape = [
        [x + k * 44, 604],
        [x + 34 + k * 44, 548],
      ];
      sheet.draw(pane, { brush: "oil-flat", size: 36, colour: tone }, { press: () => 0.7 });
    }
  }
  for (const left of doors) {
    const { width, top, height } = DOOR;
    const middle = left + width / 2;
    cover(
      sheet,
      arched(left, top, width, height, width / 2),
      { brush: "oil-filbert", size: 56 },
      (x, y) => {
        const off = Math.hypot((x - middle) / 190, (y - top - 380) / 420);
        return along(["#ffe2a0", "#fbc163", "#e08f3c", "#a4562c", "#6a3526"], off);
      },
      { angle: Math.PI / 2 - 0.08, gap: 0.62, length: [150, 300] },
    );
    // The rim of the arch, in cold light.
    sheet.draw(
      arc([middle, top + width / 2], width / 2 + 14, width / 2 + 14, Math.PI, Math.PI * 2),
      { brush: "oil-flat", size: 30, colour: "#86768a" },
      { press: () => 0.6 },
    );
    for (const side of [left - 14, left + width + 14])
      sheet.draw(
        [
          [side, top + width / 2],
          [side, FOOT],
        ],
        { brush: "oil-flat", size: 28, colour: "#5d4a5c" },
        { press: () => 0.6 },
      );
  }
  // What waits inside: the noses of two trams, and somebody with a lamp.
  for (const [left, tone] of [
    [doors[0], "#6b2a28"],
    [doors[2], "#4d3a3a"],
  ] as const) {
    const nose: Shape = arched(left + 70, 1010, 190, FOOT - 1020, 60);
    cover(
      sheet,
      nose,
      { brush: "oil-filbert", size: 48 },
      (_x, y) => blend(tone, "#2c1a20", (y - 1010) / 340),
      { angle: Math.PI / 2, gap: 0.62, length: [140, 240] },
    );
    cover(sheet, box(left + 96, 1056, 138, 92), { brush: "oil-flat", size: 40 }, () => "#f6cf86", {
      angle: 0,
      gap: 0.6,
      length: [110, 150],
    });
    sheet.draw(
      [
        [left + 165, 1212],
        [left + 168, 1216],
      ],
      { brush: "oil-sable", size: 40, colour: "#fff2c8" },
      { press: () => 0.9, wobble: 0 },
    );
  }
  dry(sheet, "forms");
}

const TRAM = { left: 250, right: 1230, top: 900, foot: 1500 };

function tram(sheet: Sheet): void {
  const { left, right, top, foot } = TRAM;
  cover(
    sheet,
    arched(left, top, right - left, 500, 70),
    { brush: "oil-flat", size: 80 },
    (x, y) => (y < top + 60 ? "#3b3550" : blend("#d9c08e", "#b89a78", (x - left) / 900)),
    { angle: 0, gap: 0.62, length: [220, 380] },
  );
  // The lower body, red, darker toward the snow.
  cover(
    sheet,
    box(left - 6, top + 262, right - left + 12, 250),
    { brush: "oil-flat", size: 84 },
    (x, y) =>
      blend(blend("#a33a30", "#7a2a2c", (x - left) / 1000), "#4c1f2a", (y - top - 262) / 300),
    { angle: 0, gap: 0.62, length: [220, 380] },
  );
  cover(
    sheet,
    box(left + 30, foot - 92, right - left - 60, 74),
    { brush: "oil-flat", size: 60 },
    () => "#241d2c",
    { angle: 0, gap: 0.62, length: [200, 320] },
  );
  dry(sheet, "forms");
  // Windows, each a little different, with the heads of two who go home.
  for (let i = 0; i < 6; i++) {
    const x = left + 70 + i * 146;
    cover(
      sheet,
      box(x, top + 92, 112, 140),
      { brush: "oil-flat", size: 52 },
      (_x, y) => along(["#ffe9b0", "#fcd07a", "#eda64e"], (y - top - 92) / 140),
      { angle: Math.PI / 2, gap: 0.68, length: [120, 160] },
    );
    sheet.draw(
      [
        [x - 14, top + 84],
        [x - 14, top + 240],
      ],
      { brush: "oil-flat", size: 20, colour: "#8a6a48" },
      { press: () => 0.6, wobble: 0.5 },
    );
  }
  for (const x of [left + 282, left + 580]) {
    sheet.draw(
      [
        [x, top + 176],
        [x + 2, top + 182],
      ],
      { brush: "oil-sable", size: 66, colour: "#4a2c2c" },
      { press: () => 0.8, wobble: 0 },
    );
    sheet.draw(
      [
        [x - 34, top + 228],
        [x, top + 212],
        [x + 36, top + 228],
      ],
      { brush: "oil-filbert", size: 44, colour: "#3a2430" },
      { press: () => 0.7, wobble: 0 },
    );
  }
  for (const [y, size, colour] of [
    [top + 262, 22, "#e8c98c"],
    [top + 300, 12, "#d8b070"],
    [top + 480, 18, "#5c2830"],
  ] as const)
    for (let x = left + 10; x < right - 40; x += 310)
      sheet.draw(
        [
          [x, y],
          [Math.min(right - 14, x + 330), y],
        ],
        { brush: "oil-flat", size, colour },
        { press: () => 0.55, wobble: 0.6 },
      );
  for (const x of [left + 170, left + 360, right - 380, right - 190])
    sheet.draw(
      arc([x, foot - 30], 44, 44),
      { brush: "oil-round", size: 30, colour: "#17131d" },
      { press: () => 0.7, wobble: 0.4 },
    );
  // Pole and shoe.
  sheet.draw(
    [
      [690, top - 6],
      [820, 690],
      [900, 640],
    ],
    { brush: "oil-rigger", size: 13, colour: "#221d2c" },
    { press: () => 0.7, wobble: 0.6 },
  );
  sheet.draw(
    [
      [640, top - 10],
      [760, top - 16],
    ],
    { brush: "oil-flat", size: 30, colour: "#2c2638" },
    { press: () => 0.7 },
  );
  dry(sheet, "forms");
}

function knifeSnow(sheet: Sheet): void {
  const slab = (line: Shape, size: number, colour: string, press: number, strength = 0.7): void =>
    sheet.draw(
      line,
      { brush: "knife-trowel", size, colour, strength },
      { press: () => press, wobble: 1.5 },
    );
  // On the hall's gutter and ridge, and on the tram: laid with a brush, then ridged with the knife.
  const lie = (from: Point, to: Point, size: number): void => {
    const steps = Math.ceil(distance(from, to) / 230);
    for (let i = 0; i < steps; i++) {
      const [p, q] = [between(from, to, i / steps), between(from, to, (i + 1.15) / steps)];
      const tone = blend("#b4bce0", "#e4d6d6", sheet.chance());
      const middle: Point = [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2 - sheet.chance(4, 14)];
      sheet.draw(
        [p, middle, q],
        { brush: "oil-filbert", size, colour: tone },
        { press: () => 0.8 },
      );
      if (sheet.chance() < 0.6)
        slab([between(p, q, 0.2), between(p, q, 0.8)], size * 0.6, "#f1eef2", 0.2, 0.35);
    }
  };
  lie([1384, 714], [3010, 704], 44);
  lie([1566, 474], [3010, 436], 34);
  lie([TRAM.left + 30, TRAM.top - 2], [TRAM.right - 40, TRAM.top - 2], 40);
  // Drifts: planes turned to the sky, the warm ones where a door shines on them.
  for (let row = 0; row < 6; row++) {
    const y = 1470 + row * 92 + row * row * 3;
    for (let x = -80; x < WIDTH; x += sheet.chance(300, 460)) {
      const [long, up] = [sheet.chance(210, 420), sheet.chance(-20, 26)];
      const at = y + sheet.chance(-26, 26);
      if (x > 200 && x < 1240 && at < 1540) continue;
      const warm = glow(x + long / 2, at);
      const colour = along(
        [along(["#aeb9de", "#c3cdea", "#97a5d2"], sheet.chance()), "#d9b9c6", "#f6cc9c", "#fbdfae"],
        warm,
      );
      slab(
        [
          [x, at],
          [x + long * 0.5, at - up - 10],
          [x + long, at + up],
        ],
        50 + row * 13,
        colour,
        0.35 + sheet.chance(0, 0.2),
        0.5,
      );
    }
  }
  // Shadows scraped thin under the tram.
  for (let i = 0; i < 4; i++)
    sheet.draw(
      [
        [180 + i * 260, 1526 + i * 4],
        [470 + i * 260, 1532],
      ],
      { brush: "oil-filbert", size: 60, colour: "#4a5288", strength: 0.6 },
      { press: swell(0.3, 0.6) },
    );
  // Rails: scratched in with something hard, then dark.
  for (const [from, to] of [
    [
      [1180, 1990],
      [1660, FOOT + 20],
    ],
    [
      [1470, 1990],
      [1775, FOOT + 20],
    ],
    [
      [2380, 1990],
      [2140, FOOT + 20],
    ],
    [
      [2700, 1990],
      [2250, FOOT + 20],
    ],
  ] as const) {
    const bow: Point = [mix(from[0], to[0], 0.55), mix(from[1], to[1], 0.5)];
    sheet.draw(
      [from, bow, to],
      { brush: "oil-rigger", size: 26, colour: "#3a3658", strength: 1 },
      { press: fade(0.8, 0.3), wobble: 1 },
    );
    sheet.draw(
      [from, bow, to].map(([x, y]): Point => [x + 7, y]),
      { brush: "oil-rigger", size: 8, colour: "#f3d3a0" },
      { press: fade(0.8, 0.3), wobble: 1 },
    );
  }
  dry(sheet, "forms");
}

/** Somebody of the night crew, with a lantern. */
function figure(sheet: Sheet, x: number, y: number, tall: number): void {
  const at = (u: number, v: number): Point => [x + u * tall, y - v * tall];
  const coat = "#252036";
  sheet.draw(
    [at(0, 0.66), at(-0.02, 0.16)],
    { brush: "oil-filbert", size: tall * 0.3, colour: coat },
    { press: () => 0.7, wobble: 0.5 },
  );
  sheet.draw(
    [at(-0.07, 0.2), at(-0.09, 0)],
    { brush: "oil-filbert", size: tall * 0.11, colour: coat },
    { press: () => 0.7, wobble: 0.4 },
  );
  sheet.draw(
    [at(0.06, 0.2), at(0.1, 0.01)],
    { brush: "oil-filbert", size: tall * 0.11, colour: coat },
    { press: () => 0.7, wobble: 0.4 },
  );
  sheet.draw(
    [at(0.1, 0.6), at(0.2, 0.4)],
    { brush: "oil-filbert", size: tall * 0.09, colour: coat },
    { press: () => 0.7, wobble: 0.4 },
  );
  sheet.draw(
    [at(0, 0.84), at(0.004, 0.83)],
    { brush: "oil-sable", size: tall * 0.2, colour: "#7d4c40" },
    { press: () => 0.8, wobble: 0 },
  );
  sheet.draw(
    [at(-0.1, 0.9), at(0.1, 0.91)],
    { brush: "oil-flat", size: tall * 0.08, colour: "#1d1a2c" },
    { press: () => 0.8, wobble: 0 },
  );
  sheet.draw(
    [at(0.08, 0.72), at(-0.12, 0.7)],
    { brush: "oil-flat", size: tall * 0.07, colour: "#b0402f" },
    { press: () => 0.8, wobble: 0 },
  );
  // The side that the doors shine on.
  sheet.draw(
    [at(0.12, 0.62), at(0.1, 0.2)],
    { brush: "oil-rigger", size: tall * 0.05, colour: "#e0904c" },
    { press: () => 0.5, wobble: 0.5 },
  );
  light(sheet, at(0.22, 0.36), tall * 0.1);
}

/** A lamp: a warm round, and its heart nearly white. */
function light(sheet: Sheet, [x, y]: Point, size: number): void {
  const dab = (by: number, colour: string, strength: number): void =>
    sheet.draw(
      [
        [x, y],
        [x + 2, y + 1],
      ],
      { brush: "oil-sable", size: size * by, colour, strength },
      { press: () => 0.85, wobble: 0 },
    );
  dab(2.3, "#d98a48", 0.4);
  dab(1.3, "#fbd184", 0.8);
  dab(0.8, "#fff6da", 1);
}

function lights(sheet: Sheet): void {
  // Two posts, and wires from one to the other and into the hall.
  for (const [x, foot] of [
    [1345, 1470],
    [96, 1500],
  ] as const) {
    sheet.draw(
      [
        [x, foot],
        [x + 3, 560],
      ],
      { brush: "oil-rigger", size: 22, colour: "#1d1a2b" },
      { press: fade(0.8, 0.5), wobble: 0.8 },
    );
    sheet.draw(
      [
        [x, 600],
        [x + 120, 640],
      ],
      { brush: "oil-rigger", size: 12, colour: "#1d1a2b" },
      { press: () => 0.7, wobble: 0.5 },
    );
  }
  for (const [from, to, sag] of [
    [[-20, 600], [1348, 590], 50],
    [[100, 660], [1345, 650], 26],
    [[1348, 590], [3020, 560], 60],
    [[1348, 640], [1900, 800], 18],
    [[1348, 640], [2400, 800], 30],
  ] as const)
    sheet.draw(
      [from, [mix(from[0], to[0], 0.5), mix(from[1], to[1], 0.5) + sag], to],
      { brush: "oil-rigger", size: 6, colour: "#191627" },
      { press: () => 0.5, wobble: 0.4, speed: 1.6 },
    );
  figure(sheet, 1420, 1560, 210);
  figure(sheet, 2310, 1500, 150);
  light(sheet, [1466, 650], 34);
  light(sheet, [TRAM.right - 26, TRAM.top + 350], 40);
  for (const left of doors) light(sheet, [left + DOOR.width / 2, DOOR.top - 44], 22);
  // Light drawn down into the snow before the doors.
  for (const left of doors)
    for (let i = 0; i < 4; i++) {
      const x = left + 50 + i * 76;
      const far = sheet.chance(60, 190);
      const tone = along(["#f3b565", "#ffdf9c"], sheet.chance());
      const path: Shape = [
        [x, FOOT + 26],
        [x - far * 0.3, FOOT + 26 + far],
      ];
      const tool = { brush: "oil-filbert", size: 58, colour: tone, strength: 0.35 };
      sheet.draw(path, tool, { press: fade(0.45, 0.3), wobble: 3 });
    }
  // Snow that begins to fall.
  for (let i = 0; i < 120; i++) {
    const at: Point = [sheet.chance(0, WIDTH), sheet.chance(0, HEIGHT * 0.86)];
    const size = mix(6, 20, sheet.chance() ** 3);
    const warm = at[1] > 760 && at[0] > 1300 ? 0.6 : 0.1;
    sheet.draw(
      [at, [at[0] - 2, at[1] + 3]],
      { brush: "oil-sable", size, colour: blend("#dfe3f4", "#ffe0ae", warm * sheet.chance()) },
      { press: () => 0.8, wobble: 0 },
    );
  }
}

/** The log of the picture. */
export function depotAtDusk(): string {
  const sheet = new Sheet(
    {
      title: "Depot at dusk",
      ...{ width: WIDTH, height: HEIGHT, ppi: 200, ground: "#b59a74" },
      paper: { kind: "canvas", scale: 1.2 },
    },
    1907,
  );
  ground(sheet);
  blockIn(sheet);
  town(sheet);
  hall(sheet);
  tram(sheet);
  knifeSnow(sheet);
  lights(sheet);
  dry(sheet, "forms");
  return sheet.log;
}
