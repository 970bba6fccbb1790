import { arc, between, box, mix, type Point, type Shape } from "./kit/shape";
import { fade, flick, type Manner, Sheet, swell, type Tool } from "./kit/sheet";

/**
 * “The conductor”: a pencil drawing. The last tram from inside, in one-point perspective that
 * its vanishing point still shows; the conductor stands in the gangway and punches a ticket.
 * The lamp hangs at the upper right, so everything turns dark toward the lower left.
 */
const WIDTH = 2000;
const HEIGHT = 1500;
const EYE: Point = [1270, 560];
const SECOND: Point = [-2600, 560];

const graphite = "#2b2b31";
const hard: Tool = { brush: "pencil-2h", size: 5, colour: graphite };
const lead: Tool = { brush: "pencil-2b", size: 6, colour: graphite };
const dark: Tool = { brush: "pencil-6b", size: 9, colour: graphite };
const side: Tool = { brush: "pencil-6b", size: 12, colour: graphite, strength: 0.75 };
const flat: Manner = { altitude: 0.5, azimuth: 1.2 };

/** From a point toward the vanishing point. */
const away = (from: Point, u: number): Point => between(from, EYE, u);

/** How far along a row of things that grow smaller the n-th stands. */
const receding = (n: number): number => 1 - 1 / (1 + 0.34 * n);

class Drawing {
  constructor(readonly sheet: Sheet) {}

  /** A soft tone with the side of the lead, darker with `value`. */
  tone(shape: Shape, value: number, angle: number, gap = 17): void {
    this.sheet.hatch(shape, side, {
      ...flat,
      angle,
      gap,
      press: flick(mix(0.2, 0.85, value)),
      wobble: 1.3,
    });
  }

  hatch(shape: Shape, value: number, angle: number, bend = 0): void {
    this.sheet.hatch(shape, lead, {
      angle,
      gap: mix(20, 10, value),
      bend,
      press: flick(mix(0.3, 0.8, value)),
    });
  }

  line(points: Shape, most = 0.75): void {
    this.sheet.search(points, lead, { press: swell(0.2, most) });
  }

  firm(points: Shape, most = 0.9, size = 9): void {
    this.sheet.draw(points, { ...dark, size }, { press: swell(0.25, most), wobble: 0.8 });
  }

  faint(points: Shape, from = 0.5, to = 0.15): void {
    this.sheet.draw(points, hard, { press: fade(from, to), wobble: 0.4 });
  }
}

function shell(d: Drawing): void {
  // The lines that the room hangs on: they run on past what they bound.
  const edges: Point[] = [
    [0, 150],
    [0, 900],
    [0, 1180],
    [560, 0],
    [1500, 0],
    [2000, 40],
    [2000, 900],
    [2000, 1200],
  ];
  for (const from of edges) d.faint([from, away(from, 0.93)], 0.55, 0.1);
  for (const x of [180, 620, 1040, 1480, 1900])
    d.line([[x, 1500], away([x, 1500], 0.45), away([x, 1500], 0.84)], 0.55);
  // The far end: a door with a round window, dark outside.
  const door = box(1196, 452, 150, 272);
  d.line([...door, door[0] as Point], 0.7);
  d.firm(
    [
      [1196, 724],
      [1196, 452],
      [1346, 452],
      [1346, 724],
    ],
    0.7,
    7,
  );
  const pane = arc([1271, 540], 44, 52);
  d.line(pane, 0.75);
  d.tone(pane, 0.9, 0.7, 10);
  d.hatch(box(1204, 630, 134, 88), 0.35, 1.35);
}

function windows(d: Drawing, near: number, top: number, sill: number): void {
  const posts = Array.from({ length: 6 }, (_, n) => receding(n) * 0.97);
  const at = (y: number, u: number): Point => away([near, y], u);
  for (let n = 0; n + 1 < posts.length; n++) {
    const a = (posts[n] as number) + 0.012;
    const b = (posts[n + 1] as number) - 0.018;
    const frame: Shape = [at(top, a), at(top, b), at(sill, b), at(sill, a)];
    d.line([...frame, frame[0] as Point], 0.65);
    // Night behind the glass, and one lamp of the street going by.
    d.tone(frame, mix(0.95, 0.6, n / 5), near === 0 ? 0.5 : 2.4, mix(17, 9, n / 5));
    if (n < 2) d.hatch(frame, 0.5, near === 0 ? 1.1 : 1.9);
    const post: Shape = [at(top - 60, b), at(sill + 60, b)];
    d.firm(post, mix(0.9, 0.5, n / 5), mix(10, 5, n / 5));
  }
}

/** Benches seen from behind, the far ones first: each hides part of the next. */
function benches(d: Drawing): void {
  for (let n = 4; n >= 0; n--) {
    const u = receding(n) * 0.9;
    const at = (x: number, y: number): Point => away([x, y], u);
    const size = 1 - u;
    const back: Shape = [
      at(2040, 760),
      at(1640, 750),
      at(1596, 800),
      at(1590, 1330),
      at(2040, 1340),
    ];
    d.sheet.block(back, {
      brush: "round-firm",
      size: Math.max(12, 44 * size),
      colour: graphite,
      mode: "lift",
    });
    d.tone(back, mix(0.7, 0.4, n / 4), 1.25, mix(18, 9, n / 4));
    d.hatch([at(1594, 820), at(1700, 800), at(1690, 1330), at(1592, 1330)], 0.6, 0.5);
    d.firm(back, mix(1, 0.6, n / 4), Math.max(5, 11 * size));
    // The rolled upper edge, and the handle at the gangway.
    d.line([at(1604, 838), at(1700, 806), at(2040, 812)], 0.6);
    d.firm(
      [at(1640, 750), at(1612, 690), at(1668, 676), at(1704, 752)],
      0.9,
      Math.max(4, 9 * size),
    );
    for (let k = 1; k < 4; k++)
      d.faint([at(1596, 860 + k * 112), at(2040, 868 + k * 114)], 0.7, 0.5);
  }
}

function ceiling(d: Drawing): void {
  for (const x of [560, 1500]) {
    const rail: Shape = [[x, 0], away([x, 0], 0.4), away([x, 0], 0.86)];
    d.firm(rail, 0.7, 7);
    for (let n = 0; n < 5; n++) {
      const at = away([x, 0], 0.12 + receding(n) * 0.72);
      const size = 1 - (0.12 + receding(n) * 0.72);
      const end: Point = [at[0] + 5 * size, at[1] + 190 * size];
      d.line([at, [at[0] + 2, at[1] + 90 * size], end], 0.7);
      d.firm(arc([end[0], end[1] + 38 * size], 30 * size, 40 * size), 0.8, Math.max(4, 9 * size));
    }
  }
  const lamp: Point = [1610, 150];
  d.line(arc(lamp, 74, 62), 0.6);
  d.firm(arc(lamp, 76, 64, Math.PI * 1.05, Math.PI * 1.95, 14), 0.85, 8);
  d.line(
    [
      [1610, 0],
      [1610, 86],
    ],
    0.8,
  );
  for (let i = 0; i < 26; i++) {
    const a = (i / 26) * Math.PI * 2;
    const from = 100 + (i % 3) * 8;
    const to = from + 46 + (i % 2) * 52;
    const ray = (r: number): Point => [lamp[0] + Math.cos(a) * r, lamp[1] + Math.sin(a) * r * 0.85];
    d.faint([ray(from), ray(to)], 0.5, 0.08);
  }
  d.tone([[0, 0], [560, 0], away([560, 0], 0.75), away([0, 150], 0.75), [0, 150]], 0.55, 0.35, 20);
}

/** The coat, its folds and the shade that turns it. */
function coat(d: Drawing): void {
  const left: Shape = [
    [742, 586],
    [640, 622],
    [584, 690],
    [556, 900],
    [540, 1180],
    [520, 1500],
  ];
  const right: Shape = [
    [816, 584],
    [912, 616],
    [968, 692],
    [990, 900],
    [1004, 1180],
    [1024, 1500],
  ];
  d.tone(
    [
      [700, 610],
      [640, 640],
      [590, 720],
      [566, 960],
      [548, 1230],
      [530, 1490],
      [760, 1490],
      [752, 900],
    ],
    0.75,
    1.3,
    15,
  );
  d.hatch(
    [
      [640, 650],
      [600, 720],
      [572, 960],
      [552, 1250],
      [540, 1490],
      [650, 1490],
      [668, 1000],
    ],
    0.85,
    0.75,
  );
  d.hatch(
    [
      [585, 760],
      [566, 980],
      [548, 1260],
      [538, 1490],
      [590, 1490],
      [606, 1050],
    ],
    0.9,
    2.3,
  );
  d.hatch(
    [
      [880, 1060],
      [960, 1040],
      [985, 1490],
      [820, 1490],
    ],
    0.45,
    1.7,
    10,
  );
  d.tone(
    [
      [800, 740],
      [860, 760],
      [872, 960],
      [806, 960],
    ],
    0.3,
    1.2,
    18,
  );
  d.line(left, 0.8);
  d.firm(left, 1, 11);
  d.line(right, 0.7);
  d.firm(right, 0.75, 8);
  // Lapels, the front edge and two rows of buttons.
  d.firm(
    [
      [744, 590],
      [716, 652],
      [748, 672],
      [736, 694],
      [782, 780],
    ],
    0.85,
  );
  d.firm(
    [
      [812, 588],
      [850, 646],
      [818, 668],
      [832, 690],
      [782, 780],
    ],
    0.8,
  );
  d.firm(
    [
      [782, 780],
      [790, 1100],
      [786, 1500],
    ],
    0.8,
    8,
  );
  d.line(
    [
      [760, 600],
      [782, 650],
      [802, 598],
    ],
    0.7,
  );
  for (let row = 0; row < 6; row++)
    for (const x of [728, 838]) {
      const at: Point = [x + row * 1.5, 830 + row * 112];
      d.firm(arc(at, 12, 13), 0.85, 5);
      d.faint(arc([at[0] - 2, at[1] + 3], 7, 7, 0.4, 2.6, 8), 0.7, 0.5);
    }
  for (const [x, y] of [
    [640, 1110],
    [690, 1180],
    [900, 1150],
    [940, 1240],
  ] as const)
    d.line(
      [
        [x, y],
        [x - 14, y + 120],
        [x - 8, y + 250],
      ],
      0.55,
    );
}

function arms(d: Drawing): void {
  const leftArm: Shape = [
    [600, 700],
    [548, 860],
    [556, 980],
    [628, 1046],
    [716, 1042],
  ];
  const inner: Shape = [
    [668, 790],
    [640, 900],
    [668, 966],
    [726, 978],
  ];
  d.tone([...leftArm, [726, 978], [668, 966], [640, 900], [668, 790]], 0.7, 0.4, 14);
  d.hatch(
    [
      [596, 760],
      [556, 870],
      [566, 970],
      [630, 1030],
      [700, 1030],
      [640, 980],
      [610, 900],
    ],
    0.8,
    1.9,
  );
  d.firm(leftArm, 1, 11);
  d.firm(inner, 0.8, 8);
  const rightArm: Shape = [
    [960, 700],
    [1004, 860],
    [986, 986],
    [920, 1040],
    [858, 1034],
  ];
  d.firm(rightArm, 0.8, 9);
  d.firm(
    [
      [904, 800],
      [926, 900],
      [900, 962],
      [852, 972],
    ],
    0.7,
    7,
  );
  d.hatch(
    [
      [930, 830],
      [950, 900],
      [924, 980],
      [880, 1010],
      [900, 960],
      [926, 900],
    ],
    0.5,
    1.1,
    4,
  );
  // Cuffs with their braid.
  for (const x of [706, 722])
    d.firm(
      [
        [x, 966],
        [x - 12, 1008],
        [x - 4, 1048],
      ],
      0.85,
      6,
    );
  for (const x of [862, 846])
    d.firm(
      [
        [x, 964],
        [x + 14, 1004],
        [x + 6, 1044],
      ],
      0.75,
      6,
    );
}

function hands(d: Drawing): void {
  d.line(
    [
      [724, 978],
      [762, 968],
      [796, 984],
      [800, 1010],
      [770, 1034],
      [724, 1040],
    ],
    0.8,
  );
  for (let k = 0; k < 4; k++)
    d.line(
      [
        [764 + k * 4, 984 + k * 12],
        [792 + k * 2, 990 + k * 11],
        [800, 998 + k * 10],
      ],
      0.65,
    );
  d.line(
    [
      [848, 972],
      [818, 964],
      [800, 984],
      [806, 1012],
      [826, 1032],
      [850, 1036],
    ],
    0.75,
  );
  for (let k = 0; k < 3; k++)
    d.line(
      [
        [842, 990 + k * 14],
        [816, 992 + k * 13],
        [806, 1000 + k * 10],
      ],
      0.6,
    );
  d.hatch(
    [
      [730, 1010],
      [790, 1014],
      [770, 1034],
      [730, 1040],
    ],
    0.5,
    0.2,
  );
  // The punch and the ticket.
  d.firm(
    [
      [776, 968],
      [790, 900],
      [822, 888],
      [812, 960],
    ],
    0.95,
    8,
  );
  d.firm(
    [
      [800, 966],
      [830, 908],
      [846, 916],
      [818, 974],
    ],
    0.95,
    8,
  );
  const ticket: Shape = [
    [826, 870],
    [902, 846],
    [914, 890],
    [838, 914],
  ];
  d.line([...ticket, ticket[0] as Point], 0.7);
  d.faint(
    [
      [842, 884],
      [896, 868],
    ],
    0.6,
    0.5,
  );
  d.faint(
    [
      [846, 898],
      [884, 886],
    ],
    0.6,
    0.5,
  );
}

function satchel(d: Drawing): void {
  d.firm(
    [
      [900, 622],
      [760, 820],
      [610, 1120],
    ],
    0.85,
    9,
  );
  d.firm(
    [
      [930, 636],
      [790, 838],
      [648, 1128],
    ],
    0.75,
    7,
  );
  d.hatch(
    [
      [900, 622],
      [930, 636],
      [648, 1128],
      [610, 1120],
    ],
    0.5,
    0.2,
  );
  const bag: Shape = [
    [520, 1110],
    [676, 1130],
    [690, 1310],
    [508, 1300],
  ];
  d.tone(bag, 0.8, 1.1, 13);
  d.hatch(bag, 0.7, 0.3);
  d.firm([...bag, bag[0] as Point], 1, 11);
  d.firm(
    [
      [516, 1150],
      [560, 1226],
      [640, 1228],
      [682, 1166],
    ],
    0.9,
    9,
  );
  d.firm(arc([600, 1226], 13, 15), 1, 7);
}

function head(d: Drawing): void {
  const jaw: Shape = [
    [702, 452],
    [706, 520],
    [734, 568],
    [776, 588],
    [818, 566],
    [842, 516],
    [846, 448],
  ];
  d.tone(
    [
      [704, 470],
      [708, 524],
      [734, 568],
      [776, 586],
      [760, 540],
      [744, 470],
    ],
    0.5,
    1.2,
    12,
  );
  d.hatch(
    [
      [704, 480],
      [710, 528],
      [738, 568],
      [752, 560],
      [736, 510],
    ],
    0.6,
    0.6,
    4,
  );
  d.line(jaw, 0.75);
  d.firm(jaw.slice(0, 5), 0.8, 7);
  // Neck and collar, in the shade of the chin.
  d.hatch(
    [
      [744, 570],
      [812, 568],
      [806, 604],
      [782, 640],
      [752, 600],
    ],
    0.8,
    0.9,
  );
  const crown: Shape = [
    [690, 430],
    [684, 384],
    [720, 350],
    [790, 336],
    [856, 350],
    [876, 388],
    [862, 428],
  ];
  d.tone(
    [
      [690, 430],
      [684, 384],
      [720, 350],
      [784, 338],
      [770, 430],
    ],
    0.8,
    0.9,
    11,
  );
  d.hatch(
    [
      [690, 428],
      [688, 390],
      [718, 356],
      [744, 420],
    ],
    0.85,
    2.2,
  );
  d.firm(crown, 1, 10);
  d.firm(
    [
      [690, 430],
      [776, 446],
      [862, 428],
    ],
    0.9,
    8,
  );
  d.firm(
    [
      [694, 458],
      [776, 476],
      [860, 456],
    ],
    0.9,
    8,
  );
  d.hatch(
    [
      [690, 432],
      [776, 448],
      [862, 430],
      [860, 456],
      [776, 474],
      [694, 456],
    ],
    0.75,
    1.45,
  );
  const peak: Shape = [
    [690, 460],
    [704, 486],
    [774, 506],
    [846, 486],
    [864, 458],
  ];
  for (let k = 0; k < 4; k++)
    d.firm(
      peak.map(([x, y]): Point => [x, y - k * 5]),
      1,
      10,
    );
  d.firm(arc([778, 418], 15, 18), 0.9, 5);
  // Eyes under the peak, the nose, a moustache.
  for (const x of [744, 808]) {
    d.firm(
      [
        [x - 18, 520],
        [x, 514],
        [x + 17, 519],
      ],
      0.9,
      6,
    );
    d.firm(arc([x, 523], 5, 6), 1, 5);
    d.faint(
      [
        [x - 16, 534],
        [x, 537],
        [x + 14, 533],
      ],
      0.55,
      0.4,
    );
  }
  d.line(
    [
      [786, 518],
      [798, 548],
      [780, 556],
      [770, 552],
    ],
    0.7,
  );
  for (let k = 0; k < 7; k++)
    d.firm(
      [
        [776, 562 + k],
        [758 - k * 2, 566 + k],
        [738 + k * 2, 574 + k],
      ],
      0.75,
      5,
    );
  for (let k = 0; k < 7; k++)
    d.firm(
      [
        [784, 562 + k],
        [802 + k, 566 + k],
        [820 - k * 2, 574 + k],
      ],
      0.7,
      5,
    );
  d.faint(
    [
      [762, 580],
      [780, 584],
      [798, 579],
    ],
    0.8,
    0.7,
  );
  d.line(
    [
      [702, 478],
      [690, 490],
      [694, 526],
      [708, 530],
    ],
    0.7,
  );
  for (let k = 0; k < 6; k++)
    d.faint(
      [
        [706 + k * 3, 470],
        [704 + k * 3, 496 + k * 2],
      ],
      0.8,
      0.4,
    );
}

/** What he throws on the floor, and the floor going dark under the benches. */
function ground(d: Drawing): void {
  d.tone(
    [
      [0, 1180],
      [520, 1300],
      [500, 1500],
      [0, 1500],
    ],
    0.6,
    0.15,
    20,
  );
  d.tone(
    [
      [1040, 1380],
      [1480, 1180],
      [1640, 1200],
      [1300, 1500],
      [1030, 1500],
    ],
    0.35,
    0.2,
    22,
  );
  d.hatch(
    [
      [180, 1320],
      [510, 1340],
      [498, 1490],
      [120, 1490],
    ],
    0.55,
    0.55,
  );
}

const silhouette: Shape[] = [
  [
    [744, 590],
    [640, 622],
    [584, 690],
    [548, 860],
    [556, 990],
    [540, 1180],
    [520, 1500],
    [1024, 1500],
    [1004, 1180],
    [990, 990],
    [1004, 860],
    [968, 692],
    [912, 616],
    [816, 586],
  ],
  [
    [686, 392],
    [720, 350],
    [790, 336],
    [856, 350],
    [876, 388],
    [860, 470],
    [842, 530],
    [800, 610],
    [752, 610],
    [706, 530],
    [692, 470],
  ],
  [
    [520, 1110],
    [676, 1130],
    [690, 1310],
    [508, 1300],
  ],
];

export function theConductor(): string {
  const sheet = new Sheet(
    {
      title: "The conductor",
      width: WIDTH,
      height: HEIGHT,
      ppi: 300,
      ground: "#efe9dc",
      paper: { kind: "cold-pressed", scale: 1 },
    },
    2311,
  );
  const d = new Drawing(sheet);
  sheet.commands.push(
    {
      do: "guides.set",
      guides: [
        {
          kind: "vanishing points",
          points: [EYE, SECOND].map(([x, y]) => ({ x, y })),
        },
      ],
    },
    { do: "sun.set", sun: { at: { x: 1840, y: 300 }, azimuth: 0.75, height: 0.9 } },
  );
  sheet.layer("room", "The tram");
  shell(d);
  windows(d, 0, 210, 760);
  windows(d, 2000, 130, 660);
  benches(d);
  ceiling(d);
  ground(d);
  // He stands before all of it: the eraser gives the paper back where he is.
  for (const part of silhouette)
    sheet.block(part, { brush: "round-firm", size: 54, colour: graphite, mode: "lift" });
  sheet.layer("figure", "The conductor");
  coat(d);
  satchel(d);
  arms(d);
  hands(d);
  head(d);
  return sheet.log;
}
