import { arc, arched, between, box, type Point, type Shape } from "../kit/shape";
import { BLACK, GREYS, letter, type Panel, WHITE } from "./page";

/** What all that is level and goes away from us runs to. */
const EYE: Point = [470, 2830];
const away = (x: number, y: number, t: number): Point => between([x, y], EYE, t);

const NEAR = 1500;
const [TOP, FOOT] = [2560, 3190];
const BACK = 0.6;

/** A part of the tram's side, between two depths and two heights at its near edge. */
const onSide = (from: number, to: number, top: number, foot: number): Shape => [
  away(NEAR, top, from),
  away(NEAR, top, to),
  away(NEAR, foot, to),
  away(NEAR, foot, from),
];

/** 4: the last tram has gone. */
export function leaving(panel: Panel): void {
  const rays = {
    layer: `${panel.group}.rays`,
    within: { left: 128, top: 2354, right: 2352, bottom: 3380 },
  } as const;
  const pen = { brush: "pen-even", strength: 1, colour: BLACK, second: WHITE } as const;
  panel.sheet.commands.push(
    {
      ...{ do: "line.focus", ...rays, at: [...EYE], clear: [620, 350], gap: 21 },
      style: { ...pen, seed: 19, size: 14 },
      chance: { width: 0.8, length: 0.5, gap: 0.85 },
    },
    {
      ...{ do: "line.speed", ...rays, from: [2400, 2870], to: [1150, 2852], across: 1500, gap: 26 },
      style: { ...pen, seed: 7, size: 13 },
      toward: [...EYE],
      chance: { width: 0.8, length: 0.75, gap: 0.8 },
    },
  );
  horizon(panel);
  rails(panel);
  side(panel);
  rear(panel);
  panel.snow({ x: 1380, y: 2500, w: 760, h: 740 }, 60, 13);
}

function horizon(panel: Panel): void {
  panel.line(
    [
      [120, 2846],
      [300, 2826],
      [470, 2834],
      [640, 2830],
    ],
    8,
  );
  // The office, small already, with its light on.
  panel.fill([
    [226, 2824],
    [226, 2742],
    [212, 2742],
    [246, 2702],
    [356, 2702],
    [390, 2742],
    [376, 2742],
    [376, 2826],
  ]);
  panel.fill(box(252, 2758, 62, 36), WHITE);
  panel.fill(box(334, 2762, 22, 62), WHITE);
  // He has come out, and waves.
  panel.fill([
    [424, 2832],
    [428, 2790],
    [414, 2762],
    [420, 2756],
    [436, 2778],
    [444, 2772],
    [440, 2756],
    [450, 2748],
    [462, 2756],
    [458, 2774],
    [468, 2794],
    [466, 2832],
  ]);
  panel.white(
    [
      [210, 2740],
      [246, 2700],
      [356, 2700],
      [392, 2740],
    ],
    8,
  );
}

function rails(panel: Panel): void {
  for (const x of [1590, 1990]) {
    const foot: Point = [x, FOOT + 16];
    panel.line([between(EYE, foot, 0.08), between(EYE, foot, x < 1800 ? 0.4 : 0.3)], 9, {
      press: (u) => 0.3 + 0.6 * u,
    });
    panel.line([between(EYE, foot, 1.04), between(EYE, foot, 1.75)], 15, {
      press: (u) => 0.6 + 0.4 * u,
    });
  }
}

function side(panel: Panel): void {
  panel.fill(onSide(0, BACK, TOP, FOOT));
  const roof = onSide(0, BACK, TOP - 46, TOP);
  panel.thing(roof, 9);
  for (const [from, to] of [
    [0.05, 0.15],
    [0.185, 0.27],
    [0.3, 0.37],
    [0.395, 0.455],
    [0.475, 0.525],
    [0.54, 0.58],
  ] as const)
    panel.fill(onSide(from, to, TOP + 76, TOP + 262), WHITE);
  // A passenger leans against the last window.
  panel.fill([
    away(NEAR, TOP + 262, 0.07),
    away(NEAR, TOP + 190, 0.078),
    away(NEAR, TOP + 150, 0.09),
    away(NEAR, TOP + 150, 0.11),
    away(NEAR, TOP + 196, 0.122),
    away(NEAR, TOP + 262, 0.13),
  ]);
  panel.white([away(NEAR, TOP + 320, 0.01), away(NEAR, TOP + 320, BACK)], 7);
  panel.white([away(NEAR, TOP + 348, 0.01), away(NEAR, TOP + 348, BACK)], 5);
}

function rear(panel: Panel): void {
  const across = 590;
  const whole = arched(NEAR, TOP - 70, across, FOOT - TOP + 70, 130);
  panel.fill(box(NEAR + 20, FOOT - 10, across - 40, 54));
  panel.thing(whole, 15);
  panel.tone(
    [
      [NEAR + 6, TOP + 40],
      [NEAR + 130, TOP + 300],
      [NEAR + 130, FOOT - 6],
      [NEAR + 6, FOOT - 6],
    ],
    GREYS.light,
  );
  panel.tone(box(NEAR + 8, TOP + 330, across - 16, 110), GREYS.middle);
  panel.thing(box(NEAR + across / 2 - 70, TOP - 44, 140, 84), 9);
  letter(panel, "7", [NEAR + across / 2 - 20, TOP - 30], 58, 12);
  for (const [x, w] of [
    [40, 136],
    [196, 198],
    [414, 136],
  ] as const) {
    panel.thing(box(NEAR + x, TOP + 70, w, 206), 10);
    panel.fine(
      [
        [NEAR + x + 14, TOP + 250],
        [NEAR + x + w * 0.6, TOP + 84],
      ],
      5,
    );
  }
  // The conductor, seen through the middle pane, looks back.
  panel.fill([
    [NEAR + 214, TOP + 272],
    [NEAR + 232, TOP + 216],
    [NEAR + 268, TOP + 196],
    [NEAR + 266, TOP + 140],
    [NEAR + 256, TOP + 128],
    [NEAR + 272, TOP + 104],
    [NEAR + 318, TOP + 104],
    [NEAR + 334, TOP + 128],
    [NEAR + 324, TOP + 140],
    [NEAR + 322, TOP + 196],
    [NEAR + 358, TOP + 216],
    [NEAR + 376, TOP + 272],
  ]);
  for (const x of [86, across - 86]) {
    panel.thing(arc([NEAR + x, TOP + 500], 46, 46), 11);
    panel.fill(arc([NEAR + x, TOP + 500], 22, 22));
    panel.fill(arc([NEAR + x + 8, TOP + 492], 7, 7), WHITE);
  }
  panel.thing(box(NEAR - 24, TOP + 570, across + 48, 44), 11);
  panel.fine(
    [
      [NEAR + across / 2, TOP + 340],
      [NEAR + across / 2, TOP + 566],
    ],
    6,
  );
  // The arm that takes the current, up to the wire.
  panel.line(
    [
      [NEAR + 250, TOP - 72],
      [NEAR + 150, TOP - 150],
      [NEAR + 300, TOP - 206],
    ],
    10,
    {
      soft: false,
    },
  );
}
