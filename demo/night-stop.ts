import { arc, arched, between, box, mix, type Point, type Shape } from "./kit/shape";
import { fade, flick, Sheet, swell, type Tool } from "./kit/sheet";

/**
 * “Night stop”: the colour key for the last tram's halt. Cold violet night, one warm light;
 * everything that matters is warm or stands against warmth.
 */
const WIDTH = 2000;
const HEIGHT = 1250;
/** Where the street goes. */
const VANISHING: Point = [1330, 590];

const recede = (p: Point, t: number): Point => between(p, VANISHING, t);

const firm = (colour: string, size: number, strength = 1): Tool => ({
  brush: "round-firm",
  colour,
  size,
  strength,
});
const soft = (colour: string, size: number, strength = 1): Tool => ({
  brush: "round-soft",
  colour,
  size,
  strength,
});

function sky(sheet: Sheet): void {
  sheet.layer("sky", "Sky and street");
  const bands: [number, string][] = [
    [0, "#1b2140"],
    [130, "#22284c"],
    [270, "#2f3159"],
    [400, "#443a64"],
    [520, "#5b4567"],
    [620, "#7a5566"],
  ];
  for (const [y, colour] of bands) {
    for (let row = 0; row < 3; row++) {
      const at = y + row * 46;
      sheet.draw(
        [
          [-60, at + sheet.chance(-20, 20)],
          [700, at - 16],
          [1400, at + 20],
          [2060, at + sheet.chance(-20, 20)],
        ],
        soft(colour, 190, 0.9),
        { press: () => 0.85, wobble: 4 },
      );
    }
  }
  sheet.draw(
    [
      [900, 620],
      [1330, 600],
      [1700, 630],
    ],
    soft("#c78566", 150, 0.55),
    { press: swell(0.2, 0.8) },
  );
  // Snow clouds: broad, dragged, a little cooler than what they cover.
  for (let i = 0; i < 22; i++) {
    const x = sheet.chance(0, WIDTH);
    const y = sheet.chance(30, 420);
    const l = sheet.chance(180, 520);
    sheet.draw(
      [
        [x, y],
        [x + l / 2, y - 18],
        [x + l, y + 6],
      ],
      firm(i % 3 ? "#363764" : "#4b4270", sheet.chance(26, 60), 0.3),
      { press: swell(0.05, 0.75) },
    );
  }
}

function street(sheet: Sheet): void {
  const ground: Shape = [[-20, 820], VANISHING, [2020, 760], [2020, 1270], [-20, 1270]];
  sheet.block(ground, firm("#2c2b4a", 90), { angle: -0.12, vary: 0.02 });
  sheet.block(
    [
      [-20, 960],
      [VANISHING[0] - 60, 620],
      [VANISHING[0] + 40, 620],
      [1200, 1270],
      [-20, 1270],
    ],
    firm("#3a3557", 70, 0.85),
    { angle: -0.35, vary: 0.03, edge: false },
  );
  // Pavement under snow at the right.
  sheet.block(
    [
      [1420, 650],
      [2020, 820],
      [2020, 1010],
      [1380, 640],
    ],
    firm("#6d6a8f", 40, 0.9),
    { angle: 0.28, vary: 0.03, edge: false },
  );
  sheet.block(
    [
      [1500, 690],
      [2020, 900],
      [2020, 985],
      [1420, 660],
    ],
    firm("#9a93ad", 18, 0.8),
    { angle: 0.38, vary: 0.03, edge: false },
  );
}

function rails(sheet: Sheet): void {
  // Rails, catching the light as they come toward us.
  for (const [x, w] of [
    [-29, 15],
    [468, 15],
    [905, 13],
    [1330, 13],
  ] as const) {
    const from: Point = [x, 1260];
    sheet.draw([recede(from, 0.9), recede(from, 0.5), from], firm("#15172c", w), {
      press: fade(0.08, 0.9),
      wobble: 0.3,
    });
    sheet.draw(
      [recede([x + 5, 1260], 0.9), recede([x + 5, 1260], 0.5), [x + 5, 1260]],
      firm("#b6a3a0", w * 0.36, 0.85),
      { press: fade(0.08, 0.85), wobble: 0.3 },
    );
  }
}

function houses(sheet: Sheet): void {
  sheet.layer("houses", "Houses");
  const left: [number, number, number, string][] = [
    [-20, 150, 330, "#191d38"],
    [300, 250, 250, "#20233f"],
    [530, 330, 190, "#292a4a"],
    [700, 400, 150, "#343154"],
  ];
  for (const [x, top, w, colour] of left) {
    const bottom = mix(860, 640, (x + 20) / 900);
    sheet.block(
      [
        [x, top + 30],
        [x + w * 0.45, top - 40],
        [x + w, top + 46],
        [x + w, bottom - 40],
        [x, bottom],
      ],
      firm(colour, 58),
      { angle: 1.5, vary: 0.012 },
    );
    // Snow on the roof.
    sheet.draw(
      [
        [x - 6, top + 28],
        [x + w * 0.45, top - 44],
        [x + w + 4, top + 44],
      ],
      firm("#77769c", 15, 0.9),
      { press: swell(0.4, 0.9), soft: false },
    );
  }
  const right: [number, number, number, string][] = [
    [1820, 90, 220, "#151931"],
    [1640, 250, 190, "#1d203d"],
    [1500, 370, 150, "#2a2a4b"],
  ];
  for (const [x, top, w, colour] of right) {
    sheet.block(
      [
        [x, top + 60],
        [x + w * 0.6, top - 30],
        [x + w, top],
        [x + w, 800],
        [x, 690],
      ],
      firm(colour, 54),
      { angle: 1.6, vary: 0.012 },
    );
    sheet.draw(
      [
        [x - 4, top + 56],
        [x + w * 0.6, top - 34],
        [x + w, top],
      ],
      firm("#6b6b92", 13, 0.9),
      { press: swell(0.4, 0.9), soft: false },
    );
  }
  const panes: [number, number, number, number, string][] = [
    [90, 330, 44, 66, "#e0a752"],
    [176, 332, 44, 64, "#b57a3f"],
    [92, 470, 44, 66, "#37365a"],
    [370, 400, 32, 50, "#37385c"],
    [430, 402, 32, 48, "#d79a4a"],
    [580, 470, 24, 38, "#c98d47"],
    [1700, 400, 28, 46, "#c08443"],
    [1880, 300, 40, 62, "#383860"],
    [1880, 430, 40, 62, "#d99c4c"],
    [1560, 480, 20, 32, "#b27a45"],
  ];
  for (const [x, y, w, h, colour] of panes)
    sheet.block(box(x, y, w, h), firm(colour, 15), { angle: 1.57, vary: 0.03 });
}

function tram(sheet: Sheet): void {
  sheet.layer("tram", "Tram");
  const front = { x: 560, y: 470, w: 380, h: 470 };
  const right = front.x + front.w;
  const base = front.y + front.h;
  const deep = 0.62;
  const side: Shape = [
    [right, front.y + 46],
    recede([right, front.y + 46], deep),
    recede([right, base], deep),
    [right, base],
  ];
  sheet.block(side, firm("#5b2430", 40), { angle: 0.05, vary: 0.02 });
  // The roof, with snow lying on it.
  sheet.block(
    [
      [front.x + 30, front.y + 8],
      [front.x + 90, front.y - 34],
      recede([right - 40, front.y - 34], deep),
      recede([right, front.y + 40], deep),
      [right, front.y + 44],
    ],
    firm("#8d8aae", 24),
    { angle: 0.1, vary: 0.025 },
  );
  sheet.block(arched(front.x, front.y, front.w, front.h, 66), firm("#9c3a2c", 48), {
    angle: 1.57,
    vary: 0.025,
  });
  // The shaded lower front and the pale band.
  sheet.block(box(front.x + 4, front.y + 330, front.w - 8, 136), firm("#7a2a28", 40), {
    angle: 0.03,
    vary: 0.02,
  });
  sheet.block(box(front.x + 2, front.y + 286, front.w - 4, 34), firm("#e2c58e", 16), {
    angle: 0,
    vary: 0.03,
  });
  sheet.draw(
    [[right + 4, front.y + 312], recede([right, front.y + 306], deep)],
    firm("#b08f6a", 22),
    { press: fade(0.95, 0.3) },
  );
  sideWindows(sheet, right, front.y, deep);
  frontWindows(sheet, front);
  // Destination box and the two lamps.
  sheet.block(box(front.x + 110, front.y + 26, 160, 38), firm("#f6e3a4", 14), {
    angle: 0,
    vary: 0.02,
  });
  for (const x of [front.x + 70, right - 70]) {
    sheet.draw(
      [
        [x, base - 84],
        [x + 1, base - 84],
      ],
      firm("#fff6d6", 46),
      { press: () => 1, wobble: 0 },
    );
    sheet.draw(arc([x, base - 84], 27, 27), firm("#3c1820", 7), { press: () => 0.9, wobble: 0.3 });
  }
  // Skirt, buffer and what is dark below.
  sheet.block(
    [
      [front.x + 20, base - 6],
      [right - 12, base - 6],
      [right + 30, base + 30],
      [front.x + 46, base + 36],
    ],
    firm("#14162a", 26),
    { angle: 0.02, vary: 0.01 },
  );
  sheet.draw([[right, base + 14], recede([right, base + 6], deep)], firm("#14162a", 30), {
    press: fade(1, 0.25),
  });
  sheet.draw(
    [
      [front.x - 8, base - 22],
      [right + 8, base - 22],
    ],
    firm("#c9a36a", 13),
    { press: () => 0.9 },
  );
}

function frontWindows(sheet: Sheet, front: { x: number; y: number; w: number; h: number }): void {
  const top = front.y + 84;
  for (let i = 0; i < 3; i++) {
    const x = front.x + 26 + i * 112;
    sheet.block(box(x, top, 102, 184), firm("#f0c469", 34), { angle: 1.57, vary: 0.025 });
    sheet.block(box(x + 6, top + 8, 90, 62), firm("#fbe2a0", 26, 0.8), {
      angle: 0.1,
      vary: 0.02,
      edge: false,
    });
    sheet.draw(
      [
        [x + 14, top + 170],
        [x + 88, top + 164],
      ],
      firm("#a8663a", 22, 0.7),
      { press: swell(0.5, 0.9) },
    );
  }
  // The driver: cap, face in shadow, coat; and one passenger asleep at the side.
  const x = front.x + 188;
  sheet.block(
    [
      [x - 42, top + 184],
      [x - 32, top + 112],
      [x, top + 96],
      [x + 34, top + 114],
      [x + 42, top + 184],
    ],
    firm("#2b2440", 20),
    { angle: 1.5, vary: 0.015 },
  );
  sheet.draw(
    [
      [x, top + 68],
      [x, top + 84],
    ],
    firm("#7a4a38", 46),
    { press: () => 0.95, wobble: 0.2 },
  );
  sheet.draw(
    [
      [x - 26, top + 56],
      [x, top + 48],
      [x + 27, top + 57],
    ],
    firm("#1d1a33", 17),
    { press: swell(0.7, 1) },
  );
  sheet.draw(
    [
      [x - 14, top + 64],
      [x + 16, top + 64],
    ],
    firm("#1d1a33", 8),
    { press: swell(0.7, 1) },
  );
  sheet.block(
    [
      [x + 92, top + 184],
      [x + 98, top + 140],
      [x + 124, top + 128],
      [x + 140, top + 184],
    ],
    firm("#6d3f3b", 16),
    { angle: 1.3, vary: 0.02 },
  );
}

function sideWindows(sheet: Sheet, right: number, top: number, deep: number): void {
  let t = 0.045;
  for (let i = 0; i < 6; i++) {
    const w = 0.088 * (1 - t * 0.55);
    const [a, b] = [t, t + w * 0.82];
    const high = top + 92;
    const low = top + 262;
    const pane: Shape = [
      recede([right, high], a),
      recede([right, high], b),
      recede([right, low], b),
      recede([right, low], a),
    ];
    const size = mix(30, 12, a / deep);
    sheet.block(pane, firm(i === 3 ? "#b97f48" : "#edb95c", size), { angle: 1.57, vary: 0.03 });
    sheet.draw(
      [recede([right, high + 12], a + 0.008), recede([right, high + 12], b - 0.008)],
      firm("#fbdc95", size * 0.6),
      { press: () => 0.8 },
    );
    t += w;
  }
}

function lightAndReflections(sheet: Sheet): void {
  sheet.layer("wet", "Wet street");
  // What is bright stands upside down in the wet: short level dabs, broken by the tracks.
  for (let i = 0; i < 230; i++) {
    const depth = sheet.chance() ** 0.8;
    const y = mix(975, 1240, depth);
    const spread = mix(200, 330, depth);
    const x = 750 + sheet.chance(-spread, spread);
    const near = 1 - Math.abs(x - 750) / spread;
    const colour = near > 0.55 ? "#eab45c" : near > 0.3 ? "#b86f3f" : "#7c3d3e";
    sheet.draw(
      [
        [x, y],
        [x + mix(16, 66, sheet.chance()) * (0.5 + depth), y + sheet.chance(-3, 3)],
      ],
      firm(colour, mix(4, 13, depth), sheet.chance(0.35, 0.85)),
      { press: swell(0.2, 0.9) },
    );
  }
  for (let i = 0; i < 90; i++) {
    const y = sheet.chance(820, 1240);
    const x = 1655 + sheet.chance(-70, 70) * (1 + (y - 820) / 400);
    sheet.draw(
      [
        [x, y],
        [x + sheet.chance(14, 60), y + 1],
      ],
      firm(
        sheet.chance() > 0.5 ? "#f2cd83" : "#a8794f",
        sheet.chance(3, 9),
        sheet.chance(0.3, 0.8),
      ),
      { press: swell(0.2, 0.85) },
    );
  }
  for (let i = 0; i < 120; i++) {
    const x = sheet.chance(-20, WIDTH);
    const y = sheet.chance(900, 1245);
    sheet.draw(
      [
        [x, y],
        [x + sheet.chance(30, 150), y + sheet.chance(-4, 4)],
      ],
      firm(i % 3 ? "#22223f" : "#575379", sheet.chance(3, 10), 0.5),
      { press: swell(0.1, 0.8) },
    );
  }
}

function lampAndPeople(sheet: Sheet): void {
  sheet.layer("lamp", "Lamp and people");
  const x = 1655;
  sheet.draw(
    [
      [x, 860],
      [x - 2, 600],
      [x, 330],
    ],
    firm("#10122a", 15),
    { press: fade(1, 0.75), wobble: 0.5 },
  );
  sheet.draw(
    [
      [x, 868],
      [x, 800],
    ],
    firm("#10122a", 30),
    { press: fade(1, 0.4), wobble: 0.3 },
  );
  sheet.draw(
    [
      [x, 350],
      [x - 30, 322],
      [x - 66, 322],
    ],
    firm("#10122a", 9),
    { press: () => 0.9 },
  );
  sheet.block(
    [
      [x - 92, 336],
      [x - 66, 318],
      [x - 40, 336],
    ],
    firm("#10122a", 9),
    { angle: 0, vary: 0 },
  );
  sheet.draw(
    [
      [x - 66, 350],
      [x - 65, 352],
    ],
    firm("#fff3cc", 34),
    { press: () => 1, wobble: 0 },
  );
  // Two who wait, seen against the glow: a tall one with a bag, a short one with a lantern.
  const person = (px: number, foot: number, h: number, lean: number): void => {
    sheet.block(
      [
        [px - h * 0.15, foot],
        [px - h * 0.13 + lean, foot - h * 0.74],
        [px + h * 0.12 + lean, foot - h * 0.76],
        [px + h * 0.17, foot],
      ],
      firm("#12142b", h * 0.13),
      { angle: 1.5, vary: 0.01 },
    );
    sheet.draw(
      [
        [px + lean, foot - h * 0.87],
        [px + lean + 1, foot - h * 0.86],
      ],
      firm("#12142b", h * 0.17),
      { press: () => 1, wobble: 0 },
    );
    sheet.draw(
      [
        [px - h * 0.12 + lean, foot - h * 0.93],
        [px + h * 0.11 + lean, foot - h * 0.94],
      ],
      firm("#12142b", h * 0.06),
      { press: () => 1, wobble: 0 },
    );
    sheet.draw(
      [
        [px - h * 0.13 + lean, foot - h * 0.7],
        [px - h * 0.15, foot - h * 0.3],
      ],
      firm("#d79a54", h * 0.026, 0.9),
      { press: swell(0.2, 0.9) },
    );
  };
  person(1490, 850, 190, -3);
  person(1556, 872, 138, 4);
  sheet.block(box(1440, 796, 34, 40), firm("#0e1024", 12), { angle: 0, vary: 0 });
  sheet.draw(
    [
      [1590, 838],
      [1591, 839],
    ],
    firm("#ffdf9a", 17),
    { press: () => 1, wobble: 0 },
  );
  // The overhead wires.
  for (const [from, sag] of [
    [[-10, 120], 60],
    [[-10, 60], 40],
  ] as [Point, number][])
    sheet.draw(
      [from, [700, mix(from[1], 470, 0.55) + sag], [1300, 545]],
      { brush: "pen-fine", size: 5, colour: "#0f1126", strength: 0.9 },
      { press: fade(0.95, 0.3), wobble: 0.4 },
    );
  sheet.draw(
    [
      [750, 436],
      [800, 360],
      [770, 300],
    ],
    { brush: "pen-fine", size: 6, colour: "#0f1126" },
    { press: () => 0.8, soft: false },
  );
}

function glow(sheet: Sheet): void {
  sheet.layer("glow", "Glow", { blend: "screen", opacity: 0.85 });
  const pool = (x: number, y: number, size: number, colour: string, strength: number): void => {
    // Held in place for a moment, as one does for a glow.
    for (let i = 0; i < 4; i++)
      sheet.draw(
        [
          [x, y],
          [x + 2, y + 1],
          [x, y],
        ],
        soft(colour, size, strength),
        { press: () => 1, wobble: 0 },
      );
  };
  pool(1590, 356, 620, "#8a5a2a", 0.4);
  pool(1590, 352, 260, "#d79a52", 0.62);
  pool(750, 690, 980, "#5f3520", 0.42);
  pool(750, 640, 420, "#8a5428", 0.35);
  for (const x of [630, 870]) pool(x, 856, 210, "#d9a860", 0.6);
  pool(1591, 839, 110, "#c58a45", 0.6);
  sheet.draw(
    [
      [690, 1000],
      [730, 1150],
      [760, 1260],
    ],
    soft("#6a3d22", 360, 0.4),
    { press: () => 0.9 },
  );
}

function snowAndLine(sheet: Sheet): void {
  sheet.layer("snow", "Snow");
  sheet.dots(
    { x: 0, y: 0, w: WIDTH, h: HEIGHT },
    260,
    { brush: "round-firm", colour: "#e9e4ee", size: 4, strength: 0.8 },
    [2, 11],
  );
  sheet.layer("pencil", "Pencil notes", { blend: "multiply", opacity: 0.8 });
  const lead: Tool = { brush: "pencil-6b", size: 8, colour: "#0c0e22" };
  sheet.hatch(
    [
      [560, 800],
      [606, 800],
      [600, 936],
      [572, 936],
    ],
    lead,
    { angle: 1.2, gap: 12, press: flick(0.6) },
  );
  sheet.hatch(
    [
      [944, 800],
      [1090, 730],
      [1090, 800],
      [946, 900],
    ],
    lead,
    { angle: -0.9, gap: 15, press: flick(0.5) },
  );
  sheet.hatch(
    [
      [0, 640],
      [300, 560],
      [300, 820],
      [0, 860],
    ],
    lead,
    { angle: 0.9, gap: 20, press: flick(0.55) },
  );
  sheet.hatch(
    [
      [1820, 560],
      [2000, 520],
      [2000, 780],
      [1820, 720],
    ],
    lead,
    { angle: 2.2, gap: 18, press: flick(0.55) },
  );
}

/** What makes it a colour key: the corners held down, cold darks against warm lights, and its wells. */
function colourKey(sheet: Sheet): void {
  sheet.commands.push(
    { do: "layer.group", id: "car", name: "Tram and street", layers: ["tram", "wet"] },
    {
      do: "layer.add",
      id: "corners",
      name: "Corners held down",
      above: "snow",
      kind: "fill",
      paint: {
        kind: "gradient",
        shape: "radial",
        from: [1120, 560],
        to: [2200, 1120],
        stops: [
          { at: 0, colour: "#ffffff" },
          { at: 0.5, colour: "#f4f0fa" },
          { at: 1, colour: "#8f86b8" },
        ],
      },
    },
    { do: "layer.set", id: "corners", blend: "multiply", opacity: 0.85 },
    {
      do: "layer.add",
      id: "balance",
      name: "Cold darks, warm lights",
      above: "corners",
      kind: "adjustment",
      tone: {
        kind: "balance",
        darks: [-0.1, -0.02, 0.16],
        middles: [0, 0, 0],
        lights: [0.16, 0.05, -0.16],
      },
    },
    {
      do: "wells.set",
      wells: [
        {
          id: "night",
          name: "Night stop",
          colours: [
            { hex: "#1b1c3a", name: "Night wall" },
            { hex: "#3b3a5c", name: "Wet street" },
            { hex: "#6d6a8f", name: "Snow in shade" },
            { hex: "#9c3a2c", name: "Tram red" },
            { hex: "#c0562f", name: "Lit red" },
            { hex: "#f0c469", name: "Window" },
            { hex: "#ffe7ae", name: "Lamp" },
            { hex: "#e9e4ee", name: "Snow" },
          ],
        },
      ],
    },
  );
}

export function nightStop(): string {
  const sheet = new Sheet(
    {
      title: "Night stop",
      width: WIDTH,
      height: HEIGHT,
      ppi: 200,
      ground: "#3b3a5c",
      paper: { kind: "cold-pressed", scale: 1 },
    },
    2202,
  );
  sky(sheet);
  street(sheet);
  rails(sheet);
  houses(sheet);
  tram(sheet);
  lightAndReflections(sheet);
  lampAndPeople(sheet);
  glow(sheet);
  snowAndLine(sheet);
  colourKey(sheet);
  return sheet.log;
}
