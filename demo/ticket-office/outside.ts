import { arc, box, type Point, type Shape } from "../kit/shape";
import { breadthOf, GREYS, letter, type Panel, WHITE } from "./page";

const GROUND: Shape = [
  [120, 1064],
  [420, 1040],
  [760, 1052],
  [1100, 1046],
  [1500, 1052],
  [1900, 1030],
  [2360, 1010],
];
const LAMP: Point = [520, 372];

/** Snow as it lies on the roof, over the eaves. */
const roofSnow: Shape = [
  [800, 500],
  [842, 430],
  [920, 322],
  [960, 300],
  [1100, 306],
  [1260, 298],
  [1420, 304],
  [1570, 300],
  [1604, 324],
  [1680, 430],
  [1720, 498],
  [1690, 520],
  [1640, 506],
  [1580, 522],
  [1500, 508],
  [1400, 524],
  [1300, 508],
  [1190, 522],
  [1080, 508],
  [980, 524],
  [900, 508],
  [836, 520],
];

/** 1: the ticket office by the rails, lit, in the snow; somebody is still in there. */
export function outside(panel: Panel): void {
  sky(panel);
  lamp(panel);
  office(panel);
  ground(panel);
  panel.snow({ x: 150, y: 150, w: 2180, h: 880 }, 230, 17);
}

function sky(panel: Panel): void {
  panel.fill([[120, 120], [2360, 120], ...GROUND.slice().reverse()]);
  // Wires of the tram, and the mast that holds them.
  for (const dip of [0, 26])
    panel.white(
      [
        [120, 230 + dip],
        [700, 262 + dip],
        [1300, 270 + dip * 0.9],
        [2080, 236 + dip * 0.4],
        [2360, 226 + dip],
      ],
      5,
    );
  panel.white(
    [
      [2066, 190],
      [2062, 1018],
    ],
    8,
  );
  panel.white(
    [
      [2066, 208],
      [1930, 246],
    ],
    5,
  );
  smoke(panel);
}

function smoke(panel: Panel): void {
  for (const [x, y, r] of [
    [1478, 196, 22],
    [1516, 180, 31],
    [1568, 174, 40],
    [1634, 172, 46],
    [1708, 180, 40],
    [1768, 190, 26],
  ] as const)
    panel.fill(arc([x, y], r, r * 0.86), WHITE);
  panel.fine(
    [
      [1500, 200],
      [1540, 208],
      [1580, 196],
      [1620, 214],
      [1670, 204],
      [1720, 216],
    ],
    5,
  );
}

/** The lamp by the path: its light is dots that grow into the night. */
function lamp(panel: Panel): void {
  const halo = arc(LAMP, 250, 250, 0, Math.PI * 2, 60);
  panel.fill(halo, WHITE);
  panel.fade(halo, [LAMP[0] + 40, LAMP[1]], [LAMP[0] + 262, LAMP[1]], "radial");
  panel.fill([
    [508, 420],
    [532, 420],
    [542, 1070],
    [498, 1070],
  ]);
  panel.white(
    [
      [528, 440],
      [536, 1052],
    ],
    7,
  );
  panel.thing(
    [
      [474, 326],
      [566, 326],
      [550, 424],
      [490, 424],
    ],
    9,
  );
  panel.fill([
    [462, 328],
    [578, 328],
    [544, 288],
    [496, 288],
  ]);
  panel.thing(arc([520, 276], 13, 13), 7);
  panel.fine(
    [
      [520, 326],
      [520, 424],
    ],
    5,
  );
}

function office(panel: Panel): void {
  const walls = box(900, 480, 720, 566);
  chimney(panel);
  panel.fill(walls, WHITE);
  panel.line(
    [
      [900, 520],
      [900, 1046],
    ],
    14,
  );
  panel.line(
    [
      [1620, 520],
      [1620, 1046],
    ],
    14,
  );
  for (let y = 640; y < 1040; y += 44) {
    panel.fine(
      [
        [912, y],
        [996, y + 1],
      ],
      4,
    );
    panel.fine(
      [
        [1366, y + 2],
        [1418, y],
      ],
      4,
    );
    panel.fine(
      [
        [1582, y],
        [1612, y + 1],
      ],
      4,
    );
  }
  panel.tone(box(1580, 520, 38, 522), GREYS.dark);
  panel.tone(box(904, 520, 92, 522), GREYS.middle);
  panel.tone(box(1366, 520, 66, 522), GREYS.light);
  // Under the eaves it is black.
  panel.fill([
    [904, 484],
    [1616, 484],
    [1616, 560],
    [1400, 530],
    [1100, 536],
    [904, 572],
  ]);
  panel.fill(roofSnow, WHITE);
  panel.line([...roofSnow, roofSnow[0] as Point], 12);
  panel.tone(
    [
      [1604, 330],
      [1676, 430],
      [1712, 494],
      [1640, 500],
      [1580, 420],
      [1560, 330],
    ],
    GREYS.light,
  );
  const [height, words] = [46, "TICKETS"];
  const across = breadthOf(words, height);
  panel.thing(box(1180 - across / 2 - 26, 536, across + 52, 84), 9);
  letter(panel, words, [1180 - across / 2, 555], height, 10);
  shopWindow(panel);
  door(panel);
}

function chimney(panel: Panel): void {
  panel.fill(box(1430, 226, 72, 110), WHITE);
  panel.fine(
    [
      [1430, 302],
      [1430, 226],
      [1502, 226],
      [1502, 302],
    ],
    13,
    { soft: false },
  );
  // The wires run in front of it.
  panel.fine(
    [
      [1434, 268],
      [1498, 266],
    ],
    7,
  );
  panel.fine(
    [
      [1434, 290],
      [1498, 288],
    ],
    7,
  );
}

function shopWindow(panel: Panel): void {
  panel.thing(box(1010, 650, 340, 240), 12);
  // The clerk, black against the light.
  panel.fill([
    [1160, 888],
    [1182, 840],
    [1226, 818],
    [1232, 800],
    [1216, 770],
    [1214, 736],
    [1290, 736],
    [1290, 772],
    [1276, 802],
    [1282, 818],
    [1324, 838],
    [1344, 888],
  ]);
  panel.fill([
    [1206, 744],
    [1212, 712],
    [1252, 700],
    [1292, 710],
    [1300, 738],
    [1330, 748],
  ]);
  panel.fine(
    [
      [1120, 652],
      [1120, 888],
    ],
    8,
  );
  panel.fine(
    [
      [1012, 726],
      [1348, 726],
    ],
    8,
  );
  panel.thing(box(992, 890, 376, 26), 9);
}

function door(panel: Panel): void {
  panel.thing(box(1430, 640, 146, 402), 11);
  panel.thing(arc([1503, 730], 38, 38), 8);
  panel.fine(box(1456, 800, 94, 92), 5, { soft: false });
  panel.fine(box(1456, 914, 94, 100), 5, { soft: false });
  panel.fill(arc([1556, 858], 8, 8));
}

function ground(panel: Panel): void {
  panel.line(GROUND, 9);
  panel.fade(
    [
      [130, 1080],
      [900, 1066],
      [820, 1180],
      [130, 1254],
    ],
    [900, 1100],
    [130, 1180],
    "linear",
    0.5,
  );
  for (const [x, y] of [
    [1500, 1076],
    [1452, 1096],
    [1420, 1118],
    [1362, 1126],
    [1316, 1148],
    [1240, 1152],
    [1176, 1178],
    [1086, 1182],
    [1004, 1210],
  ] as const)
    panel.fill(arc([x, y], 15, 6));
  for (const lift of [0, 44])
    panel.line(
      [
        [120, 1222 + lift * 0.5],
        [900, 1204 + lift],
        [1600, 1158 + lift],
        [2360, 1100 + lift * 0.8],
      ],
      10,
    );
  // A drift against the mast.
  panel.line(
    [
      [1940, 1040],
      [2000, 1000],
      [2070, 984],
      [2140, 1000],
      [2200, 1030],
    ],
    9,
  );
}
