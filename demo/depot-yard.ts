import { projectionOf, seenAt } from "../src/engine/scene/camera";
import { type Camera } from "../src/engine/scene/scene";
import { type Solid, type SolidInput, solidSchema } from "../src/engine/scene/solid";
import { madeSets, type Manner } from "../src/engine/strew/sets";
import { turnAbout, type Vector } from "../src/engine/scene/vector";
import { between, mix, type Point, type Shape } from "./kit/shape";
import { Sheet, swell, type Tool } from "./kit/sheet";

/**
 * “Depot yard”: a concept frame. The yard is blocked out in solids, its pictures are layers, and snow, smoke, warm
 * windows and evening air are painted over them.
 */
const WIDTH = 2400;
const HEIGHT = 1500;

const CAMERA: Camera = {
  at: [2.6, 1.75, 11],
  to: [-0.9, 2.1, -6],
  lens: 27,
  roll: 0,
  frame: { x: WIDTH / 2, y: HEIGHT / 2, width: WIDTH },
};

const BRICK = "#8d5a49";
const ROOF = "#4d5563";
const IRON = "#3b4250";
const TRAM = "#2f6a66";
const CREAM = "#d9c9a2";
const SNOW = "#dfe4ec";
const WOOD = "#7d6650";

const UP: Vector = [0, 1, 0];
let made = 0;

function solid(
  kind: SolidInput["kind"],
  at: [number, number, number],
  size: [number, number, number],
  colour: string,
  own: Partial<SolidInput> = {},
): Solid {
  const id = `yard ${++made}`;
  return solidSchema.parse({
    ...{ id, name: `${kind} ${made}`, kind, at, size, colour, turn: [0, 0, 0, 1] },
    ...own,
  });
}

const row = (count: number, step: [number, number, number]): Pick<SolidInput, "row"> => ({
  row: { count, step, turn: 0, about: [0, 0, 0] },
});

/** The shed: a long brick house with two roofs side by side, doors for the trams and a chimney. */
const shed = (): Solid[] => [
  solid("box", [-5.5, 0, -15], [13, 4.6, 9], BRICK, { name: "Shed" }),
  ...[-8.75, -2.25].flatMap((x) => [
    solid("wedge", [x - 1.7, 4.6, -15], [9.6, 2, 3.4], ROOF, {
      turn: [...turnAbout(UP, -Math.PI / 2)],
      name: "Roof, left side",
    }),
    solid("wedge", [x + 1.7, 4.6, -15], [9.6, 2, 3.4], ROOF, {
      turn: [...turnAbout(UP, Math.PI / 2)],
      name: "Roof, right side",
    }),
  ]),
  solid("box", [-10, 0, -10.45], [2.9, 3.7, 0.2], IRON, { ...row(3, [3.7, 0, 0]), name: "Doors" }),
  solid("box", [-10, 3.85, -10.4], [3.2, 0.25, 0.3], CREAM, {
    ...row(3, [3.7, 0, 0]),
    name: "Lintels",
  }),
  solid("cylinder", [-11.2, 0, -18], [1.5, 10.5, 1.5], BRICK, { taper: 0.62, name: "Chimney" }),
  solid("cylinder", [-11.2, 10.3, -18], [1.25, 0.5, 1.25], ROOF, { name: "Chimney’s rim" }),
];

/** The tram on its track. */
function tram(): Solid[] {
  const turn = { turn: [...turnAbout(UP, 0.09)] as [number, number, number, number] };
  const at = (x: number, y: number, z: number): [number, number, number] => [
    4.3 + x * Math.cos(0.09) + z * Math.sin(0.09),
    y,
    -4.2 + z * Math.cos(0.09) - x * Math.sin(0.09),
  ];
  return [
    solid("box", at(0, 0.75, 0), [2.3, 1.15, 8], TRAM, { ...turn, name: "Tram, body" }),
    solid("box", at(0, 1.9, 0), [2.2, 0.95, 7.8], CREAM, { ...turn, name: "Tram, windows" }),
    solid("box", at(0, 2.85, 0), [2.4, 0.4, 8.2], ROOF, {
      ...turn,
      taper: 0.7,
      name: "Tram, roof",
    }),
    solid("box", at(0, 0.3, 0), [1.8, 0.5, 5], IRON, { ...turn, name: "Tram, truck" }),
    solid("cylinder", at(0, 1.05, 4.0), [0.42, 0.22, 0.42], CREAM, {
      turn: [...turnAbout([1, 0, 0], Math.PI / 2)],
      name: "Tram, lamp",
    }),
    solid("tube", at(0, 3.2, 0), [0.07, 1, 1], IRON, {
      path: [
        [0, 0, 0],
        [0, 1.2, -1.3],
        [0, 1.75, -2.8],
      ],
      name: "Tram, pole",
    }),
  ];
}

/** Tracks, masts with their wires, a fence, and what stands about. */
const yard = (): Solid[] => [
  ...[-0.72, 0.72].map((x) =>
    solid("box", [4.5 + x, 0, 1], [0.1, 0.09, 30], IRON, {
      turn: [...turnAbout(UP, 0.09)],
      name: "Rail",
    }),
  ),
  ...[-0.72, 0.72].map((x) =>
    solid("box", [-2.4 + x, 0, 0], [0.1, 0.09, 24], IRON, { name: "Rail" }),
  ),
  solid("cylinder", [1.5, 0, -2.5], [0.2, 6.4, 0.2], IRON, {
    ...row(4, [0.1, 0, -5]),
    taper: 0.7,
    name: "Masts",
  }),
  solid("box", [3, 5.6, -2.5], [3.4, 0.09, 0.09], IRON, { ...row(4, [0.1, 0, -5]), name: "Arms" }),
  solid("tube", [4.1, 5.5, 12], [0.035, 1, 1], IRON, {
    path: [
      [0, 0.1, 0],
      [-0.1, -0.1, -9],
      [-0.2, 0, -18],
      [-0.3, 0.1, -30],
    ],
    name: "Wire",
  }),
  solid("box", [-9.6, 0, 1.2], [0.14, 1.15, 0.14], WOOD, {
    ...row(9, [0.75, 0, -1]),
    name: "Posts",
  }),
  solid("box", [-0.7, 0, 4.6], [0.95, 0.8, 0.8], WOOD, {
    turn: [...turnAbout(UP, 0.5)],
    name: "Crate",
  }),
  solid("box", [-0.6, 0.8, 4.55], [0.6, 0.5, 0.6], WOOD, {
    turn: [...turnAbout(UP, -0.2)],
    name: "Crate on it",
  }),
  solid("cylinder", [-1.7, 0, 4.3], [0.62, 0.9, 0.62], "#7a4a3c", { name: "Drum" }),
  solid("tube", [-5.2, 0, 2.2], [0.14, 1, 1], IRON, {
    path: [
      [0, 0, 0],
      [0, 3.1, 0],
      [0.2, 3.7, 0],
      [0.75, 3.85, 0],
      [1.05, 3.6, 0],
    ],
    name: "Lamp post",
  }),
  solid("cone", [-4.15, 3.3, 2.2], [0.6, 0.36, 0.6], ROOF, { name: "Lamp’s shade" }),
  solid("ball", [-4.15, 3.14, 2.2], [0.26, 0.26, 0.26], "#ffe2a0", { name: "Lamp" }),
  ...(
    [
      [-7.4, 4, 3.2, 0.9],
      [-5.9, 3.4, 2.2, 0.6],
      [7.6, 1, 3.6, 1.1],
      [1.9, -9, 2.6, 0.8],
      [-1.2, -8.8, 2, 0.6],
      [7.8, -6, 3.4, 1.3],
    ] as const
  ).map(([x, z, wide, high]) =>
    solid("ball", [x, -high * 0.45, z], [wide, high * 1.5, wide * 0.8], SNOW, {
      name: "Snow heap",
    }),
  ),
];

/** Hills and roofs of the town far behind. */
const town = (): Solid[] => [
  ...(
    [
      [-52, -95, 90, 11],
      [24, -110, 120, 14],
      [70, -90, 80, 9],
    ] as const
  ).map(([x, z, wide, high]) =>
    solid("ball", [x, -high, z], [wide, high * 2, 30], "#8f93a8", { name: "Hill" }),
  ),
  ...(
    [
      [-33, -52, 5, 3.4],
      [-27, -55, 4, 4.2],
      [-21.5, -50, 4.4, 3.2],
      [17, -46, 5, 3.6],
      [23, -50, 4, 5],
      [28, -44, 5.5, 3.2],
    ] as const
  ).flatMap(([x, z, wide, high]) => [
    solid("box", [x, 0, z], [wide, high, 5], "#7c6c74", { name: "House" }),
    solid("box", [x, high, z], [wide * 1.08, 1.7, 5.4], "#6a6f82", {
      taper: 0.35,
      name: "House’s roof",
    }),
  ]),
];

const projection = projectionOf(CAMERA);
/** Where a place of the yard is on the sheet. */
function on(x: number, y: number, z: number): Point {
  const seen = seenAt(projection, [x, y, z]);
  if (!seen) throw new Error("that is behind the painter");
  return [seen.x, seen.y];
}

/** A place of the tram: from its middle, m. */
const onTram = (x: number, y: number, z: number): Point =>
  on(
    4.3 + x * Math.cos(0.09) + z * Math.sin(0.09),
    y,
    -4.2 + z * Math.cos(0.09) - x * Math.sin(0.09),
  );

const soft = (colour: string, size: number, strength = 1): Tool => ({
  ...{ brush: "round-soft", colour, size, strength },
});
const firm = (colour: string, size: number, strength = 1): Tool => ({
  ...{ brush: "round-firm", colour, size, strength },
});

function sky(sheet: Sheet): void {
  sheet.commands.push({
    ...{ do: "layer.add", id: "sky", name: "Sky", above: null, kind: "fill" },
    paint: {
      kind: "gradient",
      shape: "linear",
      from: [1200, 0],
      to: [1150, 900],
      stops: [
        { at: 0, colour: "#5d6f97" },
        { at: 0.45, colour: "#a39bb0" },
        { at: 0.8, colour: "#e2b596" },
        { at: 1, colour: "#f4d3a2" },
      ],
    },
  });
  sheet.climb("sky");
  sheet.layer("clouds", "Clouds");
  for (let i = 0; i < 34; i++) {
    const y = sheet.chance(60, 620);
    const x = sheet.chance(-100, WIDTH);
    const long = sheet.chance(260, 720);
    const warm = y > 380;
    sheet.draw(
      [
        [x, y],
        [x + long / 2, y - sheet.chance(4, 22)],
        [x + long, y + sheet.chance(-8, 12)],
      ],
      soft(warm ? "#f0c8a4" : "#7f86a6", sheet.chance(40, 120), 0.35),
      { press: swell(0.1, 0.8), wobble: 5 },
    );
  }
}

const solids = [...town(), ...shed(), ...tram(), ...yard()];

/** Keeps what is painted to where none of these is seen. */
function behind(sheet: Sheet, names: RegExp, paint: () => void): void {
  const ids = solids.filter(({ name }) => names.test(name)).map(({ id }) => id);
  sheet.commands.push(
    { do: "select", shape: { kind: "solids", ids } },
    { do: "select.change", change: { kind: "invert" } },
  );
  paint();
  sheet.commands.push({ do: "select.none" });
}

function scene(sheet: Sheet): void {
  sheet.commands.push(
    { do: "scene.put", solids: solids.map((one) => solidSchema.parse(one)) },
    {
      ...{ do: "scene.set", camera: { ...CAMERA }, ground: "#e8ecf4" },
      light: {
        ...{ azimuth: 2.75, height: 0.33, sun: "#ffd7a0", strength: 1.05 },
        ...{ fill: "#8fa6cf", fillStrength: 0.5, shadows: true },
      },
    },
    {
      do: "scene.paint",
      passes: [
        { pass: "colour", layer: "scene colour" },
        { pass: "line", layer: "scene lines" },
        { pass: "depth", layer: "scene depth" },
      ],
      above: "clouds",
      lineWidth: 2,
      ink: "#2a2a38",
    },
    { do: "layer.set", id: "scene lines", opacity: 0.55 },
    { do: "layer.set", id: "scene depth", visible: false },
    {
      ...{ do: "layer.add", id: "haze", name: "Haze", above: "scene depth", kind: "fill" },
      paint: { kind: "colour", colour: "#d9b7a4" },
    },
    { do: "mask.add", id: "haze", from: { kind: "layer", layer: "scene depth", by: "light" } },
    { do: "layer.set", id: "haze", opacity: 0.62 },
  );
  sheet.climb("haze");
}

/** Snow that lies: along ridges, on crates and heaps, in the ruts of the yard. */
function snow(sheet: Sheet): void {
  sheet.layer("snow", "Snow");
  const ridge = (from: Point, to: Point, size: number): void => {
    for (let i = 0; i < 3; i++)
      sheet.draw(
        [
          [from[0], from[1] + i * size * 0.22],
          between(from, to, 0.5),
          [to[0], to[1] + i * size * 0.22],
        ],
        firm(i === 0 ? "#f3f4f6" : "#c9d2e2", size, 0.9),
        { press: swell(0.55, 0.95), wobble: 2.2 },
      );
  };
  for (const x of [-8.75, -2.25]) {
    ridge(on(x - 3.4, 4.66, -10.3), on(x, 6.62, -10.3), 15);
    ridge(on(x, 6.62, -10.3), on(x + 3.4, 4.66, -10.3), 15);
  }
  ridge(onTram(-0.84, 3.27, 2.87), onTram(0.84, 3.27, 2.87), 12);
  ridge(on(-0.9, 1.31, 4.75), on(-0.35, 1.31, 4.85), 14);
  ridge(on(-1.95, 0.92, 4.45), on(-1.45, 0.92, 4.45), 12);
  behind(sheet, /Crate|Drum|Lamp post|Posts|Masts|Tram|Rail|heap/, () => ruts(sheet));
}

/** Ruts and trodden snow, broad in front, fine toward the shed; and what the lamp throws on it. */
function ruts(sheet: Sheet): void {
  for (let i = 0; i < 150; i++) {
    const z = 7.5 - 17 * sheet.chance() ** 1.6;
    const x = sheet.chance(-8, 8);
    const [from, to] = [on(x, 0, z), on(x + sheet.chance(0.4, 1.6), 0, z - sheet.chance(0, 0.5))];
    const near = mix(4, 34, Math.max(0, (z + 9) / 17));
    const lit = i % 3 !== 0;
    sheet.draw(
      [from, [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2 - near * 0.1], to],
      firm(lit ? "#eef0f2" : "#a9b6d0", near * sheet.chance(0.5, 1), lit ? 0.5 : 0.35),
      { press: swell(0.1, 0.8), wobble: 2 },
    );
  }
  for (let i = 0; i < 14; i++) {
    const z = 2.2 + sheet.chance(-1.1, 1.1);
    const x = -4.15 + sheet.chance(-1.3, 0.9);
    sheet.draw([on(x, 0, z), on(x + 0.8, 0, z)], soft("#f0b56e", 54, 0.32), {
      press: swell(0.2, 0.8),
    });
  }
}

/** Lamplight: windows of the tram and of the shed's doors, what they throw on the snow, the lamp. */
function lights(sheet: Sheet): void {
  sheet.layer("windows", "Windows");
  for (let i = 0; i < 6; i++) {
    const [near, far] = [3.6 - i * 1.25, 2.6 - i * 1.25];
    const pane: Shape = [
      onTram(-1.12, 2.02, near),
      onTram(-1.12, 2.02, far),
      onTram(-1.12, 2.7, far),
      onTram(-1.12, 2.7, near),
    ];
    sheet.lasso(i % 3 === 1 ? "#d99a4a" : "#f2c368", pane);
  }
  for (const [left, right] of [
    [-1, -0.08],
    [0.08, 1],
  ] as const)
    sheet.lasso("#f6cf7c", [
      onTram(left, 2.02, 3.92),
      onTram(right, 2.02, 3.92),
      onTram(right, 2.7, 3.92),
      onTram(left, 2.7, 3.92),
    ]);
  behind(sheet, /Masts|Lamp post|Posts/, () => {
    for (const x of [-10, -6.3, -2.6])
      for (const side of [-0.72, 0.72])
        sheet.lasso("#c98b4c", [
          on(x + side - 0.4, 2.2, -10.3),
          on(x + side + 0.4, 2.2, -10.3),
          on(x + side + 0.4, 3.1, -10.3),
          on(x + side - 0.4, 3.1, -10.3),
        ]);
  });
  sheet.layer("glow", "Glow", { blend: "screen" });
  const lamp = on(-4.15, 3.25, 2.2);
  for (const [size, strength] of [
    [460, 0.3],
    [220, 0.5],
    [70, 0.95],
  ] as const)
    for (let i = 0; i < 3; i++)
      sheet.draw(
        [
          [lamp[0] - size * 0.1, lamp[1] + size * 0.06 * (i - 1)],
          [lamp[0] + size * 0.1, lamp[1] - size * 0.04 * (i - 1)],
        ],
        soft("#ffc46a", size, strength),
        { press: () => 0.9, wobble: 0 },
      );
  const head = onTram(0, 1.1, 4.3);
  sheet.draw(
    [
      [head[0] - 20, head[1]],
      [head[0] + 20, head[1]],
    ],
    soft("#ffdf9e", 190, 0.6),
    { press: () => 0.9 },
  );
}

/** Smoke from the chimney, drifting with the evening. */
function smoke(sheet: Sheet): void {
  sheet.layer("smoke", "Smoke", { opacity: 0.8 });
  const top = on(-11.2, 10.9, -18);
  for (let i = 0; i < 26; i++) {
    const t = i / 25;
    const at: Point = [top[0] + t * t * 520 + sheet.chance(-14, 14), top[1] - 30 - t * 150];
    const size = mix(34, 150, t);
    sheet.draw(
      [at, [at[0] + size * 0.5, at[1] - size * 0.2], [at[0] + size, at[1] + size * 0.05]],
      soft(i % 3 === 0 ? "#f0d6bd" : "#8e8ea6", size, mix(0.5, 0.16, t)),
      { press: swell(0.3, 0.9), wobble: 4 },
    );
  }
}

/** Strews a set along a way. */
function strew(
  sheet: Sheet,
  layer: string,
  name: string,
  way: readonly Point[],
  { size, seed, ...manner }: Partial<Manner> & { only?: number; size: number; seed: number },
): void {
  const set = madeSets.findIndex((one) => one.name === name);
  const own = madeSets[set];
  if (!own) throw new Error(`there is no set ${name}`);
  sheet.commands.push({
    ...{ do: "stroke", layer, brush: "pen-even", size, seed, steady: 0 },
    colour: "#2e3348",
    second: "#5b5f78",
    samples: way.map(([x, y], n) => [n * 40, x, y, 0.6, Math.PI / 2, 0, 0]),
    strew: { ...own.manner, ...manner, set },
  });
}

/** Birds over the roofs, and flakes that come down: strewn, so that each can still be moved. */
function air(sheet: Sheet): void {
  sheet.layer("birds", "Birds", {}, "strewn");
  const flock = { tint: 0.8, strays: 0.2, sizes: 0.55, press: 0, gap: 0.9, spread: 1.6 };
  strew(
    sheet,
    "birds",
    "Birds",
    [
      [940, 330],
      [1180, 262],
      [1420, 250],
      [1700, 196],
    ],
    { ...flock, size: 46, seed: 11 },
  );
  sheet.layer("flakes", "Flakes", { opacity: 0.9 }, "strewn");
  const fall = { turn: "any" as const, press: 0, spread: 14, fades: 0.4, only: 0 };
  for (const [row, y] of [140, 420, 700, 980, 1260].entries())
    strew(
      sheet,
      "flakes",
      "Flakes",
      [
        [-40, y],
        [1200, y + 60],
        [2440, y - 30],
      ],
      { ...fall, size: 12, gap: 3.2, sizes: 0.75, blurs: 0, seed: 20 + row },
    );
  // Near the eye they are large, few, and out of focus.
  strew(
    sheet,
    "flakes",
    "Flakes",
    [
      [0, 500],
      [1200, 900],
      [2400, 700],
    ],
    { ...fall, size: 56, gap: 2.6, sizes: 0.7, spread: 9, fades: 0.7, blurs: 0.9, seed: 31 },
  );
}

/** The work log of the sample. */
export function depotYard(): string {
  const sheet = new Sheet(
    { width: WIDTH, height: HEIGHT, title: "Depot yard", ground: "#e9e4dc", ppi: 200 },
    29,
  );
  sky(sheet);
  scene(sheet);
  snow(sheet);
  lights(sheet);
  smoke(sheet);
  air(sheet);
  return sheet.log;
}
