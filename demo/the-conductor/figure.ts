import { arc, type Point, type Shape, smooth } from "../kit/shape";
import { type Sheet, swell } from "../kit/sheet";
import { Pen } from "./pen";

const MIDDLE = 774;
const mirror = (shape: Shape): Shape => shape.map(([x, y]): Point => [2 * MIDDLE - x, y]);

/** The shapes of the conductor, each side a line of its own; what lies farther back comes first. */
const coatLeft: Shape = [
  [668, 660],
  [612, 690],
  [562, 780],
  [532, 960],
  [504, 1230],
  [476, 1512],
];
const coatRight: Shape = mirror([
  [668, 660],
  [612, 690],
  [560, 780],
  [526, 960],
  [494, 1230],
  [462, 1512],
]);
const armOuter: Shape = [
  [622, 690],
  [552, 764],
  [510, 896],
  [514, 1000],
  [562, 1058],
  [640, 1066],
  [722, 1042],
];
const armInner: Shape = [
  [712, 962],
  [656, 950],
  [642, 900],
  [670, 800],
];
const braid: Shape = [
  [702, 1050],
  [711, 1008],
  [693, 958],
  [677, 955],
  [694, 1012],
  [685, 1056],
];
export const braids: readonly Shape[] = [braid, mirror(braid)];
const cuff: Shape = [
  [722, 1042],
  [731, 1004],
  [712, 962],
];

export const coat: Shape = [...smooth(coatLeft), ...smooth(coatRight).slice().reverse()];
export const arm: Shape = [...smooth(armOuter), ...cuff, ...smooth(armInner)];
export const otherArm: Shape = mirror(arm);
export const bag: Shape = [
  [508, 1128],
  [600, 1122],
  [694, 1140],
  [708, 1240],
  [706, 1336],
  [600, 1344],
  [490, 1322],
  [494, 1220],
];
const flap: Shape = [
  [504, 1126],
  [600, 1118],
  [698, 1138],
  [700, 1200],
  [672, 1248],
  [600, 1258],
  [528, 1240],
  [500, 1190],
];

const scarf: Shape[] = [
  [
    [682, 604],
    [662, 636],
    [668, 682],
    [720, 708],
    [790, 712],
    [856, 696],
    [888, 668],
    [884, 628],
    [862, 604],
  ],
  [
    [862, 604],
    [800, 646],
    [740, 644],
    [682, 604],
  ],
];
const scarfEnd: Shape[] = [
  [
    [690, 700],
    [672, 770],
    [664, 852],
  ],
  [
    [664, 852],
    [696, 868],
    [734, 862],
  ],
  [
    [734, 862],
    [744, 780],
    [748, 706],
  ],
];

export const face: Shape = [
  [676, 430],
  [672, 520],
  [690, 588],
  [730, 632],
  [774, 646],
  [818, 632],
  [858, 588],
  [876, 520],
  [872, 430],
];
const ear: Shape = [
  [678, 508],
  [656, 500],
  [648, 528],
  [660, 560],
  [682, 566],
];
const crown: Shape = [
  [664, 420],
  [644, 372],
  [664, 330],
  [724, 306],
  [790, 298],
  [856, 312],
  [902, 346],
  [906, 384],
  [884, 420],
];
const bandLow: Shape = [
  [884, 420],
  [880, 458],
  [774, 474],
  [668, 456],
  [664, 420],
];
const peak: Shape[] = [
  [
    [668, 456],
    [774, 476],
    [880, 458],
  ],
  [
    [880, 458],
    [872, 494],
    [828, 522],
    [770, 528],
    [712, 518],
    [676, 492],
    [668, 456],
  ],
];
export const badge: Shape = arc([774, 404], 32, 30, 0, Math.PI * 2, 40);
export const nose: Shape = [
  [762, 520],
  [748, 562],
  [744, 584],
  [758, 600],
  [780, 602],
  [796, 590],
  [794, 566],
  [784, 520],
];
const half: Shape = [
  [772, 602],
  [740, 590],
  [706, 598],
  [676, 626],
  [660, 622],
  [672, 644],
  [704, 652],
  [746, 640],
  [772, 622],
];
export const moustache: Shape = [...half, ...mirror(half).slice().reverse()];

export const ticket: Shape = [
  [738, 846],
  [846, 812],
  [870, 888],
  [762, 922],
];
const handLeft: Shape = [
  [712, 964],
  [736, 930],
  [768, 902],
  [790, 908],
  [788, 932],
  [772, 948],
  [800, 948],
  [812, 970],
  [806, 1004],
  [786, 1034],
  [722, 1042],
];
const handRight: Shape = [
  [836, 964],
  [846, 940],
  [868, 944],
  [874, 980],
  [868, 1020],
  [846, 1046],
  [826, 1040],
  [812, 1004],
  [816, 972],
  [836, 964],
];
/** The punch: two grips that go down into the fist, and its jaws on the ticket. */
const grips: readonly Shape[] = [
  [
    [838, 922],
    [822, 990],
    [838, 996],
    [856, 926],
  ],
  [
    [862, 924],
    [862, 990],
    [878, 990],
    [882, 918],
  ],
];
export const jaws: Shape = [
  [834, 926],
  [824, 892],
  [836, 868],
  [852, 880],
  [868, 862],
  [890, 878],
  [892, 916],
  [872, 932],
];

const strap: Shape[] = [
  [
    [892, 682],
    [770, 850],
    [646, 1040],
    [588, 1130],
  ],
  [
    [588, 1130],
    [628, 1140],
  ],
  [
    [628, 1140],
    [690, 1046],
    [812, 858],
    [938, 696],
  ],
];
export const strapShape = strap.flatMap(smooth);
export const scarfShapes = [smooth(scarf[0] as Shape), scarfEnd.flatMap(smooth)];
export const gripShapes = grips;
export const buttons: readonly Point[] = [1106, 1216, 1326, 1436].flatMap((y) =>
  [714, 846].map((x): Point => [x + (y - 752) * 0.012 * (x < MIDDLE ? -1 : 1), y]),
);
export const handShapes = [smooth(handLeft), smooth(handRight)];
export const ears = [smooth(ear), smooth(mirror(ear))];
export const capShape: Shape = [...smooth(crown), ...bandLow, ...smooth(peak[1] as Shape)];

/** All that he covers of the tram. */
export const silhouette: readonly Shape[] = [
  coat,
  arm,
  otherArm,
  smooth(bag),
  smooth(face),
  ...ears,
  capShape,
  smooth(scarf[0] as Shape),
  moustache,
];

function clothes(pen: Pen): void {
  pen.sheet.clear(coat);
  pen.line(coatLeft, 15, { press: swell(0.5, 1) });
  pen.line(coatRight, 12, { press: swell(0.5, 0.95) });
  pen.line(
    [
      [776, 700],
      [786, 1000],
      [780, 1260],
      [790, 1512],
    ],
    8,
  );
  // Folds of a heavy cloth: they hang from the arms and from the strap.
  for (const fold of [
    [
      [668, 1070],
      [690, 1180],
      [700, 1290],
    ],
    [
      [880, 1074],
      [872, 1190],
      [886, 1330],
    ],
    [
      [930, 1060],
      [948, 1230],
      [944, 1420],
    ],
    [
      [1000, 1180],
      [1022, 1320],
      [1030, 1490],
    ],
    [
      [560, 1350],
      [548, 1420],
      [546, 1500],
    ],
    [
      [650, 1360],
      [660, 1430],
      [654, 1505],
    ],
    [
      [716, 1400],
      [722, 1460],
      [718, 1508],
    ],
  ] as Shape[])
    pen.line(fold, 7, { press: (u) => 0.95 - 0.75 * u });
  pen.form(
    [
      [
        [902, 1214],
        [960, 1204],
        [1018, 1206],
      ],
      [
        [1018, 1206],
        [1022, 1256],
      ],
      [
        [1022, 1256],
        [960, 1258],
        [908, 1268],
      ],
      [
        [908, 1268],
        [902, 1214],
      ],
    ],
    7,
  );
  for (const centre of buttons) {
    pen.sheet.clear(arc(centre, 15, 16));
    pen.ring(arc(centre, 15, 16), 5);
    pen.fine(arc(centre, 9, 10, 2.4, 4.6, 8), 3);
  }
}

function satchel(pen: Pen): void {
  pen.form(strap, 8);
  const stitches: Shape[] = [
    [
      [888, 702],
      [766, 868],
      [640, 1060],
    ],
    [
      [922, 704],
      [802, 864],
      [676, 1056],
    ],
  ];
  for (const stitch of stitches) pen.fine(stitch, 2.4);
  pen.sheet.clear(smooth(bag));
  pen.line(
    [
      [506, 1128],
      [492, 1220],
      [490, 1322],
    ],
    12,
  );
  pen.line(
    [
      [490, 1322],
      [600, 1346],
      [706, 1336],
    ],
    13,
  );
  pen.line(
    [
      [706, 1336],
      [710, 1240],
      [694, 1140],
    ],
    10,
  );
  pen.form([flap.slice(0, 3), flap.slice(2)], 9);
  pen.line(
    [
      [500, 1190],
      [500, 1150],
      [504, 1126],
    ],
    9,
  );
  pen.fine(
    flap.slice(3).map(([x, y]): Point => [600 + (x - 600) * 0.9, 1180 + (y - 1180) * 0.84]),
    3,
  );
  pen.form(
    [
      [
        [584, 1216],
        [616, 1218],
      ],
      [
        [616, 1218],
        [614, 1276],
      ],
      [
        [614, 1276],
        [586, 1274],
      ],
      [
        [586, 1274],
        [584, 1216],
      ],
    ],
    6,
  );
  pen.ring(arc([600, 1252], 6, 7), 4);
}

function arms(pen: Pen): void {
  for (const flip of [(s: Shape) => s, mirror]) {
    const heavy = flip === mirror ? 11 : 14;
    pen.sheet.clear(flip(arm));
    pen.line(flip(armOuter), heavy);
    pen.line(flip(armInner), 9, { press: (u) => 0.95 - 0.6 * u });
    pen.line(flip(cuff), 8);
    pen.fine(flip(braid.slice(0, 3)), 4);
    pen.fine(flip(braid.slice(3)), 4);
    for (const crease of [
      [
        [520, 980],
        [556, 968],
        [590, 978],
      ],
      [
        [528, 1010],
        [570, 996],
        [604, 1006],
      ],
      [
        [640, 905],
        [612, 920],
        [592, 946],
      ],
    ] as Shape[])
      pen.line(flip(crease), 6, { press: (u) => 0.9 - 0.8 * u });
  }
}

function hands(pen: Pen): void {
  pen.form(
    [
      [ticket[0] as Point, ticket[1] as Point],
      [ticket[1] as Point, ticket[2] as Point],
      [ticket[2] as Point, ticket[3] as Point],
      [ticket[3] as Point, ticket[0] as Point],
    ],
    6,
    { soft: false },
  );
  for (const [from, to] of [
    [
      [764, 888],
      [826, 871],
    ],
    [
      [769, 904],
      [812, 892],
    ],
  ] as Shape[])
    pen.fine([from as Point, to as Point], 3);
  for (const grip of grips) {
    pen.sheet.clear(grip);
    pen.ring(grip, 6);
  }
  pen.sheet.clear(smooth(jaws));
  pen.ring(smooth(jaws), 7);
  pen.ring(arc([860, 904], 7, 7), 4);
  pen.form([handLeft], 8);
  pen.line(
    [
      [772, 948],
      [756, 956],
      [748, 968],
    ],
    6,
    { press: (u) => 0.9 - 0.6 * u },
  );
  for (let k = 0; k < 3; k++)
    pen.line(
      [
        [768 + k * 3, 972 + k * 18],
        [790 + k, 972 + k * 18],
        [808 - k * 5, 978 + k * 17],
      ],
      5,
      {
        press: (u) => 0.5 + 0.4 * u,
      },
    );
  pen.form([handRight], 8);
  for (let k = 0; k < 3; k++)
    pen.line(
      [
        [815, 984 + k * 16],
        [836, 982 + k * 18],
        [854, 988 + k * 17],
      ],
      5,
      {
        press: (u) => 0.9 - 0.5 * u,
      },
    );
}

function head(pen: Pen): void {
  pen.form(scarfEnd, 9);
  for (const x of [670, 686, 702, 718, 730])
    pen.fine(
      [
        [x, 862],
        [x - 3, 884 + ((x * 7) % 9)],
      ],
      4,
    );
  for (let k = 0; k < 3; k++)
    pen.fine(
      [
        [672 - k * 2, 776 + k * 26],
        [706, 786 + k * 26],
        [742 - k * 2, 778 + k * 26],
      ],
      3,
    );
  for (const flip of [(s: Shape) => s, mirror]) {
    pen.sheet.clear(smooth(flip(ear)));
    pen.line(flip(ear), 8);
    pen.fine(
      flip([
        [674, 520],
        [662, 526],
        [668, 548],
      ]),
      3.4,
    );
  }
  pen.form([face], 9);
  pen.form(scarf, 10);
  for (const knit of [
    [
      [690, 636],
      [686, 664],
      [700, 694],
    ],
    [
      [724, 652],
      [722, 680],
      [734, 708],
    ],
    [
      [770, 656],
      [774, 684],
      [778, 710],
    ],
    [
      [818, 648],
      [828, 676],
      [832, 700],
    ],
    [
      [852, 626],
      [868, 652],
      [872, 676],
    ],
  ] as Shape[])
    pen.line(knit, 5, { press: (u) => 0.85 - 0.6 * u });
  // Downcast lids under the peak, tired creases beneath them.
  for (const flip of [(s: Shape) => s, mirror]) {
    pen.line(
      flip([
        [700, 552],
        [722, 564],
        [746, 556],
      ]),
      9,
      { press: swell(0.5, 1) },
    );
    pen.fine(
      flip([
        [698, 553],
        [690, 560],
      ]),
      3.4,
    );
    pen.fine(
      flip([
        [708, 578],
        [726, 584],
        [740, 579],
      ]),
      3,
    );
    pen.line(
      flip([
        [696, 532],
        [720, 524],
        [744, 532],
      ]),
      9,
      { press: (u) => 0.9 - 0.3 * u },
    );
  }
  pen.form([nose], 8);
  pen.sheet.clear(smooth(moustache));
  pen.line(half, 8);
  pen.line(mirror(half), 8);
  for (const flip of [(s: Shape) => s, mirror])
    for (let k = 0; k < 4; k++)
      pen.fine(
        flip([
          [762 - k * 14, 610 + k * 2],
          [734 - k * 14, 614 + k * 3],
          [704 - k * 9, 632 + k * 2],
        ]),
        2.6,
      );
  cap(pen);
}

function cap(pen: Pen): void {
  pen.form([crown, bandLow], 12);
  pen.line(
    [
      [664, 420],
      [774, 434],
      [884, 420],
    ],
    7,
  );
  pen.line(
    [
      [676, 352],
      [740, 372],
      [806, 368],
      [890, 352],
    ],
    6,
    { press: swell(0.2, 0.7) },
  );
  pen.form(peak, 10);
  pen.fine(
    [
      [688, 484],
      [716, 504],
      [772, 512],
      [826, 506],
      [862, 484],
    ],
    3,
  );
  // The depot's badge: a wheel between two sparks of the overhead line.
  pen.sheet.clear(badge);
  pen.ring(badge, 5);
  pen.ring(arc([774, 404], 11, 12, 0, Math.PI * 2, 24), 3.4);
  for (const side of [-1, 1]) {
    pen.fine(
      [
        [774 + side * 15, 396],
        [774 + side * 22, 404],
        [774 + side * 15, 412],
      ],
      3,
    );
    pen.fine(
      [
        [774 + side * 40, 396],
        [774 + side * 62, 390],
      ],
      4,
    );
    pen.fine(
      [
        [774 + side * 40, 410],
        [774 + side * 58, 408],
      ],
      4,
    );
  }
}

export function inkTheConductor(sheet: Sheet): void {
  const pen = new Pen(sheet);
  clothes(pen);
  satchel(pen);
  arms(pen);
  hands(pen);
  head(pen);
}
