import { type Point, type Shape, smooth } from "../kit/shape";
import { type Sheet, type Tool } from "../kit/sheet";
import { arm, capShape, coat, face } from "./figure";
import {
  at,
  BAYS,
  bench,
  BENCHES,
  FAR,
  FLOOR,
  lamps,
  LEFT,
  NEAR,
  RIGHT,
  SILL,
  wallBetween,
} from "./tram";

/** The first step of shade and the second: cool, against the lamps' warmth. */
const FIRST = "#9b93bd";
/** What the lamp makes of blue wool. */
const CLOTH = "#7ba3c4";
const SECOND = "#8079ad";
const air = (size: number, colour: string, strength: number): Tool => ({
  brush: "spray-air",
  size,
  colour,
  strength,
});

/** What passes outside: selected by the colour of the panes, so that nothing lands on the walls. */
export function nightOutside(sheet: Sheet, flats: string): void {
  sheet.commands.push({
    do: "select",
    shape: {
      kind: "colour",
      layer: flats,
      at: [...BAYS_SEEN],
      borders: "layer",
      tolerance: 0.02,
    },
  });
  sheet.layer("outside", "Night outside", { clip: true });
  const hills: Shape = [
    [0, 640],
    [120, 560],
    [330, 596],
    [520, 520],
    [760, 560],
    [960, 520],
    [1300, 560],
    [1430, 530],
    [1600, 560],
    [1760, 500],
    [1900, 540],
    [2000, 500],
    [2000, 760],
    [0, 760],
  ];
  sheet.lasso("#141b3a", smooth(hills));
  // Windows of a hamlet, small and warm, in twos and threes.
  for (const [x, y] of [
    [60, 566],
    [84, 572],
    [210, 590],
    [478, 560],
    [1846, 540],
    [1872, 546],
    [1960, 566],
    [1680, 566],
  ] as const)
    sheet.lasso("#f2c766", [
      [x, y],
      [x + 11, y + 1],
      [x + 11, y + 15],
      [x, y + 14],
    ]);
  const snow: Tool = { brush: "pen-fine", size: 4, colour: "#dfe3f2" };
  for (let i = 0; i < 150; i++) {
    const left = i % 2 === 0;
    // Spread evenly, by the golden section: snow does not fall in heaps.
    const across = (i * 0.618 + sheet.chance(0, 0.04)) % 1;
    const x = left ? across * 700 : 1400 + across * 600;
    const y = 200 + ((i * 0.7548 + sheet.chance(0, 0.05)) % 1) * 520;
    const long = sheet.chance(8, 40);
    const lean = left ? 0.16 : -0.16;
    sheet.draw(
      [
        [x, y],
        [x + long, y + long * lean + 5],
      ],
      { ...snow, size: sheet.chance(2, 5.5) },
      { press: () => 0.8, wobble: 0 },
    );
  }
  sheet.commands.push({ do: "select.none" });
  // What the lamps throw back from the glass.
  sheet.layer("glints", "Glints", { clip: true, opacity: 0.16 });
  for (const [wall, bays] of [
    [LEFT, BAYS.slice(0, 2)],
    [RIGHT, BAYS.slice(0, 3)],
  ] as const)
    for (const [from, to] of bays) {
      const z = (u: number): number => from + 0.06 + (to - from - 0.12) * u;
      sheet.lasso("#cfe0ff", [
        at(wall, -0.4, z(0.55)),
        at(wall, -0.4, z(0.75)),
        at(wall, 0.18, z(0.4)),
        at(wall, 0.18, z(0.2)),
      ]);
      sheet.lasso("#cfe0ff", [
        at(wall, -0.4, z(0.82)),
        at(wall, -0.4, z(0.88)),
        at(wall, 0.18, z(0.53)),
        at(wall, 0.18, z(0.47)),
      ]);
    }
}
const BAYS_SEEN: Point = [150, 420];
const FOCAL_POOL = 1500;

/** The shadow that the conductor throws on what is behind him, away from the nearest lamp. */
const thrown = [coat, arm, capShape, smooth(face)].map((shape) =>
  shape.map(([x, y]): Point => [(x - 774) * 1.12 + 470, (y - 640) * 1.05 + 690]),
);

/** The corner that no lamp reaches. */
const corner = smooth([
  [0, 0],
  [230, 0],
  [120, 420],
  [84, 900],
  [200, 1500],
  [0, 1500],
]);

/** Shade of the tram in two steps, and light in three. */
export function shadeTheTram(sheet: Sheet): void {
  sheet.layer("tram-shade", "Shade 1", { clip: true, blend: "multiply" });
  sheet.lasso(
    FIRST,
    wallBetween(LEFT, SILL + 0.07, FLOOR),
    wallBetween(RIGHT, SILL + 0.07, FLOOR),
    [at(LEFT, -0.85, NEAR), at(-1.3, -0.85, NEAR), at(-1.5, -0.85, FAR), at(LEFT, -0.85, FAR)],
    ...thrown,
    [at(-1.05, FLOOR, NEAR), at(-1.05, FLOOR, FAR), at(LEFT, FLOOR, FAR), at(LEFT, FLOOR, NEAR)],
  );
  sheet.layer("tram-shade-2", "Shade 2", { clip: true, blend: "multiply" });
  for (const z of BENCHES)
    sheet.lasso(SECOND, [
      at(0.12, FLOOR, z),
      at(RIGHT, FLOOR, z),
      at(RIGHT, FLOOR, z + 1),
      at(0.12, FLOOR, z + 0.7),
    ]);
  sheet.lasso(
    SECOND,
    wallBetween(LEFT, SILL + 0.07, SILL + 0.17),
    wallBetween(RIGHT, SILL + 0.07, SILL + 0.17),
    corner,
    smooth([
      [-200, 1240],
      [120, 1226],
      [300, 1250],
      [430, 1340],
      [520, 1512],
      [-200, 1512],
    ]),
  );
  sheet.layer("tram-light", "Lamplight", { clip: true, blend: "soft-light", opacity: 0.8 });
  for (const { x, y, r } of lamps) {
    for (const size of [11, 6])
      sheet.draw(
        [
          [x, y],
          [x + 3, y + 2],
          [x, y],
        ],
        air(Math.min(1900, r * size), "#ffdf94", 0.9),
        { press: () => 1, wobble: 0 },
      );
  }
  for (const z of [2.9, 4.4, 6.4])
    sheet.draw(
      [at(-0.5, FLOOR, z), at(-0.1, FLOOR, z)],
      air((FOCAL_POOL * 1.1) / z, "#ffdf94", 0.8),
      {
        press: () => 1,
      },
    );
  sheet.commands.push({ do: "shade.steps", layer: "tram-light", steps: 3 });
}

export function shadeTheBenches(sheet: Sheet): void {
  sheet.layer("bench-shade", "Shade 1", { clip: true, blend: "multiply" });
  for (const z of BENCHES)
    for (const [side, from, to] of [
      ["right", 0.25, RIGHT],
      ["left", LEFT, -1.05],
    ] as const) {
      sheet.clear(bench(side, z).back);
      const low = [at(from, 1.0, z), at(to, 1.0, z), at(to, 1.26, z), at(from, 1.26, z)];
      sheet.lasso(FIRST, [at(from, 0.62, z), at(from + 0.3, 1.0, z), at(from, 1.0, z)], low);
    }
  sheet.lasso(FIRST, ...thrown);
  sheet.layer("bench-shade-2", "Shade 2", { clip: true, blend: "multiply" });
  for (const z of BENCHES) {
    sheet.clear(bench("right", z).back);
    sheet.lasso(SECOND, [
      at(0.25, 1.13, z),
      at(RIGHT, 1.13, z),
      at(RIGHT, 1.26, z),
      at(0.25, 1.26, z),
    ]);
  }
  sheet.lasso(SECOND, corner);
}

/** Shade of the conductor in two steps: the lamp hangs to the right of him and above. */
export function shadeTheConductor(sheet: Sheet): void {
  sheet.layer("figure-shade", "Shade 1", { clip: true, blend: "multiply" });
  sheet.lasso(
    FIRST,
    // Cap, face and ear away from the lamp; what the cap throws over the brow.
    smooth([
      [640, 300],
      [760, 296],
      [716, 340],
      [706, 400],
      [716, 440],
      [700, 470],
      [730, 520],
      [640, 520],
    ]),
    smooth([
      [660, 490],
      [720, 520],
      [800, 530],
      [884, 490],
      [884, 512],
      [812, 548],
      [772, 544],
      [754, 584],
      [768, 604],
      [720, 604],
      [716, 640],
      [640, 600],
    ]),
    // The scarf under the moustache, and its end.
    smooth([
      [652, 640],
      [720, 664],
      [790, 664],
      [850, 646],
      [892, 624],
      [880, 652],
      [800, 690],
      [716, 690],
      [720, 900],
      [640, 900],
    ]),
    // The coat: the side away, what the arms throw on it, the skirt in folds.
    smooth([
      [690, 690],
      [640, 680],
      [540, 760],
      [480, 1000],
      [460, 1512],
      [716, 1512],
      [700, 1380],
      [716, 1240],
      [690, 1120],
      [740, 1090],
      [880, 1096],
      [906, 1150],
      [920, 1070],
      [1010, 1040],
      [960, 1062],
      [760, 1062],
      [700, 1000],
      [640, 960],
      [640, 900],
      [672, 800],
    ]),
    smooth([
      [884, 1300],
      [912, 1290],
      [940, 1420],
      [930, 1512],
      [852, 1512],
      [880, 1420],
    ]),
    smooth([
      [1010, 1300],
      [1032, 1300],
      [1070, 1512],
      [1016, 1512],
    ]),
    smooth([
      [880, 800],
      [908, 900],
      [898, 952],
      [836, 962],
      [826, 1044],
      [908, 1068],
      [984, 1058],
      [1020, 1030],
      [960, 1030],
      [900, 1020],
      [930, 960],
      [936, 880],
    ]),
    // Hands and ticket.
    smooth([
      [712, 990],
      [760, 1000],
      [800, 1010],
      [790, 1046],
      [712, 1050],
    ]),
    smooth([
      [818, 1000],
      [850, 1016],
      [872, 1010],
      [850, 1050],
      [820, 1046],
    ]),
    [
      [744, 866],
      [780, 910],
      [800, 912],
      [762, 924],
    ],
    smooth([
      [770, 640],
      [740, 620],
      [700, 630],
      [664, 622],
      [676, 650],
      [740, 646],
      [774, 624],
      [810, 646],
      [860, 648],
      [830, 634],
      [800, 626],
    ]),
  );
  sheet.layer("figure-shade-2", "Shade 2", { clip: true, blend: "multiply" });
  sheet.lasso(
    SECOND,
    smooth([
      [636, 320],
      [690, 312],
      [668, 352],
      [668, 410],
      [676, 450],
      [690, 500],
      [636, 500],
    ]),
    smooth([
      [668, 492],
      [716, 522],
      [774, 532],
      [830, 524],
      [874, 496],
      [830, 534],
      [774, 544],
      [716, 534],
    ]),
    smooth([
      [664, 676],
      [720, 700],
      [790, 704],
      [856, 690],
      [884, 668],
      [880, 712],
      [790, 732],
      [740, 724],
      [664, 716],
    ]),
    smooth([
      [600, 690],
      [552, 764],
      [504, 900],
      [508, 1010],
      [560, 1066],
      [640, 1074],
      [722, 1046],
      [640, 1046],
      [576, 1022],
      [552, 960],
      [570, 820],
    ]),
    smooth([
      [640, 1068],
      [722, 1048],
      [836, 1050],
      [910, 1072],
      [900, 1092],
      [850, 1082],
      [720, 1086],
      [700, 1110],
      [660, 1100],
    ]),
    smooth([
      [708, 1140],
      [730, 1150],
      [736, 1340],
      [700, 1366],
      [500, 1352],
      [484, 1322],
      [600, 1346],
      [706, 1338],
    ]),
    smooth([
      [470, 1360],
      [540, 1372],
      [560, 1440],
      [552, 1512],
      [460, 1512],
    ]),
    smooth([
      [486, 1220],
      [530, 1250],
      [560, 1320],
      [540, 1334],
      [486, 1322],
    ]),
    smooth([
      [528, 1244],
      [600, 1260],
      [672, 1250],
      [660, 1276],
      [600, 1284],
      [540, 1272],
    ]),
  );
  sheet.layer("figure-light", "Lamplight", { clip: true, opacity: 0.55 });
  sheet.lasso(
    "#ffcb8c",
    // The rim that faces the lamp.
    smooth([
      [868, 512],
      [880, 520],
      [860, 588],
      [846, 606],
      [854, 570],
    ]),
    smooth([
      [786, 534],
      [794, 566],
      [794, 588],
      [784, 580],
      [782, 556],
    ]),
    smooth([
      [866, 616],
      [888, 634],
      [886, 664],
      [868, 682],
      [876, 650],
    ]),
    smooth([
      [560, 1138],
      [640, 1132],
      [690, 1146],
      [688, 1160],
      [630, 1150],
      [564, 1152],
    ]),
    smooth([
      [846, 948],
      [868, 950],
      [874, 984],
      [864, 990],
      [856, 966],
    ]),
    [
      [800, 830],
      [846, 815],
      [868, 884],
      [852, 888],
    ],
  );
  // On the shoulders, the cloth that the lamp grazes.
  sheet.lasso(
    CLOTH,
    smooth([
      [890, 690],
      [930, 700],
      [970, 748],
      [950, 750],
      [912, 716],
    ]),
    smooth([
      [846, 310],
      [902, 346],
      [906, 384],
      [886, 420],
      [872, 410],
      [886, 372],
      [872, 344],
    ]),
    smooth([
      [930, 690],
      [1000, 764],
      [1040, 896],
      [1036, 980],
      [1018, 1010],
      [1020, 900],
      [980, 790],
    ]),
    smooth([
      [1030, 1060],
      [1056, 1230],
      [1090, 1512],
      [1066, 1512],
      [1040, 1260],
      [1014, 1080],
    ]),
  );
}

/** The air about the lamps. */
export function glow(sheet: Sheet): void {
  sheet.layer("glow", "Glow", { blend: "screen", opacity: 0.7 });
  for (const { x, y, r } of lamps)
    for (const [size, strength] of [
      [12, 0.28],
      [6, 0.4],
      [3.2, 0.5],
    ] as const)
      sheet.draw(
        [
          [x, y],
          [x + 2, y + 1],
          [x, y],
        ],
        air(r * size, "#c9873c", strength),
        { press: () => 1, wobble: 0 },
      );
}
