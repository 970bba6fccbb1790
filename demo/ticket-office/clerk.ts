import { arc, box, type Point, type Shape, smooth } from "../kit/shape";
import { breadthOf, GREYS, letter, type Panel, WHITE } from "./page";

const MIDDLE = 690;
const mirror = (shape: Shape): Shape => shape.map(([x, y]): Point => [2 * MIDDLE - x, y]);

const face: Shape = [
  [518, 1650],
  [520, 1780],
  [548, 1892],
  [612, 1974],
  [690, 1998],
  [768, 1974],
  [832, 1892],
  [860, 1780],
  [862, 1650],
];
const crown: Shape = [
  [478, 1612],
  [470, 1560],
  [506, 1486],
  [590, 1446],
  [690, 1436],
  [790, 1446],
  [874, 1486],
  [910, 1560],
  [902, 1612],
];
const peak: Shape = [
  [486, 1664],
  [580, 1692],
  [690, 1702],
  [800, 1692],
  [894, 1664],
  [866, 1728],
  [786, 1762],
  [690, 1772],
  [594, 1762],
  [514, 1728],
];
const coat: Shape = [
  [560, 2020],
  [430, 2070],
  [352, 2150],
  [318, 2310],
  [1062, 2310],
  [1028, 2150],
  [950, 2070],
  [820, 2020],
];
const moustache: Shape = [
  [560, 1930],
  [596, 1900],
  [650, 1888],
  [690, 1898],
  [730, 1888],
  [784, 1900],
  [820, 1930],
  [792, 1962],
  [740, 1958],
  [690, 1940],
  [640, 1958],
  [588, 1962],
];

/** 2: the clerk at his wicket looks up. */
export function clerk(panel: Panel): void {
  pigeonholes(panel);
  figure(panel);
  bars(panel);
  balloon(panel);
}

function pigeonholes(panel: Panel): void {
  panel.fill([
    [120, 1310],
    [1360, 1310],
    [1240, 2300],
    [120, 2300],
  ]);
  for (let row = 0; row < 4; row++)
    for (let column = 0; column < 5; column++) {
      const [x, y] = [186 + column * 228, 1372 + row * 214];
      panel.scratch([...box(x, y, 186, 172), [x, y]], 6);
      if ((row * 3 + column) % 4 === 1) continue;
      // Rolls of tickets, seen end on.
      const roll: Point = [x + 62 + ((row + column) % 3) * 30, y + 118];
      panel.scratch(arc(roll, 40, 40), 6);
      panel.scratch(arc(roll, 12, 12), 5);
    }
}

function figure(panel: Panel): void {
  panel.fill(coat);
  for (const side of [coat.slice(0, 4), mirror(coat.slice(0, 4))]) panel.scratch(smooth(side), 9);
  panel.thing(
    [
      [566, 1986],
      [532, 2040],
      [560, 2104],
      [690, 2150],
      [820, 2104],
      [848, 2040],
      [814, 1986],
    ],
    10,
  );
  panel.tone(
    [
      [566, 1990],
      [540, 2040],
      [564, 2100],
      [640, 2130],
      [620, 2030],
    ],
    GREYS.middle,
  );
  for (const x of [600, 650, 704, 756])
    panel.fine(
      [
        [x, 2030],
        [x + 14, 2112],
      ],
      5,
    );
  for (const ear of [
    [
      [524, 1784],
      [494, 1770],
      [478, 1806],
      [494, 1862],
      [534, 1872],
    ],
    mirror([
      [524, 1784],
      [494, 1770],
      [478, 1806],
      [494, 1862],
      [534, 1872],
    ]),
  ] as Shape[]) {
    panel.fill(ear, WHITE);
    panel.line(ear, 9);
  }
  panel.fill(face, WHITE);
  panel.line(face, 13);
  // Shade falls on the side away from the lamp.
  panel.tone(
    [
      [522, 1740],
      [524, 1790],
      [552, 1890],
      [612, 1970],
      [666, 1994],
      [610, 1900],
      [572, 1800],
      [560, 1740],
    ],
    GREYS.light,
  );
  cap(panel);
  features(panel);
}

function cap(panel: Panel): void {
  panel.fill(crown);
  panel.scratch(smooth(crown), 9);
  panel.white(
    [
      [500, 1548],
      [534, 1496],
      [600, 1470],
    ],
    10,
  );
  panel.thing(
    [
      [478, 1610],
      [902, 1610],
      [894, 1670],
      [486, 1670],
    ],
    9,
  );
  panel.tone(
    [
      [482, 1614],
      [620, 1614],
      [620, 1666],
      [488, 1666],
    ],
    GREYS.middle,
  );
  panel.fill(peak);
  panel.white(
    [
      [560, 1722],
      [640, 1742],
      [730, 1744],
    ],
    7,
  );
  panel.thing(arc([690, 1640], 32, 32), 8);
  panel.fill([
    [690, 1616],
    [704, 1650],
    [676, 1650],
  ]);
}

function features(panel: Panel): void {
  for (const x of [606, 774]) {
    panel.thing(arc([x, 1832], 72, 68), 10);
    // He looks up and to the right, where the clock hangs.
    panel.fill(arc([x + 20, 1812], 22, 24));
    panel.fill(arc([x + 28, 1804], 7, 7), WHITE);
    panel.fine(
      [
        [x - 46, 1812],
        [x - 10, 1790],
        [x + 46, 1798],
      ],
      6,
    );
  }
  panel.line(
    [
      [678, 1828],
      [690, 1816],
      [702, 1828],
    ],
    9,
  );
  for (const brow of [
    [
      [536, 1752],
      [580, 1738],
      [640, 1750],
    ],
    [
      [740, 1750],
      [796, 1738],
      [846, 1752],
    ],
  ] as Shape[])
    panel.line(brow, 12);
  panel.line(
    [
      [694, 1836],
      [714, 1876],
      [704, 1894],
      [680, 1892],
    ],
    9,
  );
  panel.fill(moustache, WHITE);
  panel.line([...moustache, moustache[0] as Point], 9);
  for (const [x, lean] of [
    [600, -22],
    [640, -14],
    [676, -4],
    [704, 6],
    [742, 14],
    [780, 22],
  ] as const)
    panel.fine(
      [
        [x, 1908],
        [x + lean, 1948],
      ],
      4,
    );
  panel.line(
    [
      [660, 1966],
      [690, 1974],
      [722, 1966],
    ],
    7,
  );
}

/** The wicket's bars stand in front of him, and the counter with its bell. */
function bars(panel: Panel): void {
  for (const [x, top] of [
    [206, 1300],
    [372, 1300],
    [1000, 1518],
    [1150, 1512],
  ] as const) {
    panel.thing(box(x, top, 34, 2220 - top), 9);
    panel.fine(
      [
        [x + 24, top + 10],
        [x + 24, 2216],
      ],
      4,
    );
  }
  panel.thing(box(120, 2206, 1240, 110), 11);
  for (const y of [2234, 2262])
    panel.fine(
      [
        [130, y],
        [700, y + 5],
        [1230, y],
      ],
      4,
    );
  panel.thing([...arc([850, 2204], 74, 78, Math.PI, 2 * Math.PI, 20)], 10);
  panel.thing(box(766, 2196, 168, 18), 8);
  panel.fill(arc([850, 2120], 12, 12));
  panel.tone(
    [
      [790, 2194],
      [788, 2160],
      [810, 2136],
      [816, 2194],
    ],
    GREYS.middle,
  );
}

function balloon(panel: Panel): void {
  const round = arc([1044, 1434], 226, 88, 0, 2 * Math.PI, 48);
  const tail: Shape = [
    [926, 1490],
    [1000, 1516],
    [916, 1586],
  ];
  panel.fill(round, WHITE);
  panel.ring(round, 9);
  panel.fill(tail, WHITE);
  panel.line(
    [
      [940, 1502],
      [916, 1586],
      [1000, 1520],
    ],
    8,
    { soft: false },
  );
  const [height, words] = [42, "MIDNIGHT!"];
  letter(panel, words, [1044 - breadthOf(words, height) / 2, 1414], height, 10);
}
