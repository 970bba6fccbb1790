import { arc, box, mix, type Point, type Shape } from "./kit/shape";
import { fade, Sheet, swell, type Tool } from "./kit/sheet";

/** References for the pinboard, painted small: a wet street, a brass lamp, a wool coat. */
const WIDTH = 480;
const HEIGHT = 360;

const sheetOf = (title: string, ground: string, seed: number, height = HEIGHT): Sheet => {
  const sheet = new Sheet(
    { title, width: WIDTH, height, ppi: 150, ground, paper: { kind: "hot-pressed", scale: 0.5 } },
    seed,
  );
  sheet.layer("paint", "Paint");
  return sheet;
};
const firm = (colour: string, size: number, strength = 1): Tool => ({
  brush: "round-firm",
  colour,
  size,
  strength,
});
const soft = (colour: string, size: number, strength: number): Tool => ({
  brush: "round-soft",
  colour,
  size,
  strength,
});
const steady = { press: () => 0.9, wobble: 0.3 };

/** A street after rain: lamps, and under each its long broken reflection. */
export function wetStreet(): string {
  const sheet = sheetOf("Wet street", "#1d2436", 51);
  sheet.block(box(0, 0, WIDTH, 170), firm("#232c42", 46), { vary: 0.02, edge: false });
  sheet.block(box(0, 170, WIDTH, 190), firm("#171d2c", 40), { vary: 0.015, edge: false });
  const houses: [number, number, number][] = [
    [-20, 40, 120],
    [90, 66, 84],
    [176, 92, 70],
    [300, 84, 66],
    [362, 52, 140],
  ];
  for (const [x, top, width] of houses) {
    sheet.block(box(x, top, width, 180 - top), firm("#10141f", 22), { vary: 0.012 });
    for (let k = 0; k < 5; k++) {
      const at: Point = [x + 16 + (k % 2) * width * 0.42, top + 24 + Math.floor(k / 2) * 34];
      if (k % 3 !== 1 && at[0] < x + width - 12)
        sheet.draw([at, [at[0] + 1, at[1] + 13]], firm("#d99b4a", 9, 0.85), steady);
    }
  }
  const lamps: [number, number, string][] = [
    [140, 70, "#f4c877"],
    [262, 112, "#f0b45c"],
    [338, 92, "#f7d38c"],
    [238, 138, "#c9553c"],
  ];
  for (const [x, y, colour] of lamps) {
    sheet.draw(
      [
        [x, y],
        [x + 1, y + 1],
      ],
      soft(colour, 92, 0.32),
      steady,
    );
    sheet.draw(
      [
        [x, y],
        [x + 1, y + 1],
      ],
      soft(colour, 42, 0.6),
      steady,
    );
    sheet.draw(
      [
        [x, y],
        [x, y + 5],
      ],
      firm("#fff0cc", 10),
      steady,
    );
    sheet.draw(
      [
        [x, y + 8],
        [x, 178],
      ],
      firm("#0c0f18", 3),
      steady,
    );
    for (let k = 0; k < 13; k++) {
      const u = k / 12;
      const wide = mix(7, 26, u) * sheet.chance(0.5, 1.2);
      const cx = x + sheet.chance(-4, 4);
      const cy = mix(190, 352, u);
      sheet.draw(
        [
          [cx - wide, cy],
          [cx, cy + 1.5],
          [cx + wide, cy],
        ],
        firm(colour, mix(4, 9, u), mix(0.8, 0.25, u)),
        { press: swell(0.2, 0.9), wobble: 0.8 },
      );
    }
  }
  for (const [from, to] of [
    [
      [150, 360],
      [236, 182],
    ],
    [
      [330, 360],
      [262, 182],
    ],
  ] as [Point, Point][])
    sheet.draw([from, to], firm("#7d86a0", 4, 0.8), { press: fade(1, 0.2), wobble: 0.3 });
  sheet.dots({ x: 0, y: 190, w: WIDTH, h: 168 }, 60, firm("#8d97b5", 3, 0.5), [1, 3]);
  return sheet.log;
}

/** A hand lamp of brass: round, polished, one light from the upper right. */
export function brassLamp(): string {
  const sheet = sheetOf("Brass lamp", "#4c4a47", 52, 480);
  sheet.block(box(0, 370, WIDTH, 110), firm("#3b3936", 40), { vary: 0.02, edge: false });
  sheet.draw(
    [
      [150, 420],
      [250, 428],
      [360, 418],
    ],
    soft("#1f1d1b", 70, 0.8),
    steady,
  );
  const body: Shape = [
    [170, 180],
    [310, 180],
    [326, 396],
    [154, 396],
  ];
  sheet.block(body, firm("#8f6a2c", 26), { vary: 0.03, angle: 1.5 });
  sheet.block(
    [
      [170, 182],
      [206, 182],
      [196, 394],
      [156, 394],
    ],
    firm("#553c17", 18),
    { vary: 0.03, angle: 1.5 },
  );
  sheet.block(
    [
      [262, 184],
      [288, 184],
      [300, 392],
      [268, 392],
    ],
    firm("#d3a552", 14),
    { vary: 0.03, angle: 1.55 },
  );
  sheet.draw(
    [
      [282, 200],
      [290, 384],
    ],
    firm("#fbe9b4", 6),
    { press: swell(0.3, 1), wobble: 0.3 },
  );
  sheet.draw(
    [
      [182, 200],
      [174, 384],
    ],
    soft("#b98d55", 12, 0.5),
    steady,
  );
  const glass = arc([238, 278], 52, 64);
  sheet.block(glass, firm("#f3d695", 22), { vary: 0.02, edge: false });
  sheet.draw(
    [
      [240, 290],
      [240, 266],
      [244, 246],
    ],
    soft("#fffbe6", 46, 0.95),
    { press: fade(1, 0.5), wobble: 0 },
  );
  sheet.draw(glass, firm("#4a3413", 8), { press: () => 0.9, wobble: 0.2 });
  sheet.draw(arc([238, 278], 60, 72, -0.9, 0.7), firm("#e8c172", 5), {
    press: swell(0.2, 0.9),
    wobble: 0.2,
  });
  for (const y of [182, 392]) {
    sheet.draw(
      [
        [158, y],
        [240, y + 9],
        [322, y],
      ],
      firm("#6d4e1f", 18),
      steady,
    );
    sheet.draw(
      [
        [206, y + 5],
        [270, y + 5],
        [316, y - 1],
      ],
      firm("#e4bd6c", 5),
      { press: swell(0.2, 1), wobble: 0.3 },
    );
  }
  sheet.block(
    [
      [196, 176],
      [284, 176],
      [262, 132],
      [218, 132],
    ],
    firm("#7c5a25", 18),
    { vary: 0.03 },
  );
  sheet.draw(
    [
      [262, 138],
      [276, 172],
    ],
    firm("#e9c579", 6),
    { press: swell(0.3, 0.9), wobble: 0.2 },
  );
  sheet.draw(arc([240, 138], 64, 74, Math.PI, Math.PI * 2), firm("#5d431c", 11), steady);
  sheet.draw(arc([240, 138], 64, 74, Math.PI * 1.5, Math.PI * 1.95), firm("#d9b064", 4), {
    press: swell(0.2, 0.9),
    wobble: 0.2,
  });
  return sheet.log;
}

/** A heavy coat: its weave, a lapel, buttons, where the folds turn from the light. */
export function woolCoat(): string {
  const sheet = sheetOf("Wool coat", "#2b3350", 53);
  sheet.block(box(0, 0, WIDTH, HEIGHT), firm("#2c3557", 44), {
    vary: 0.025,
    angle: 1.3,
    edge: false,
  });
  const folds: [Shape, string][] = [
    [
      [
        [20, 0],
        [90, 0],
        [130, 360],
        [40, 360],
      ],
      "#1b2138",
    ],
    [
      [
        [150, 0],
        [176, 0],
        [216, 360],
        [180, 360],
      ],
      "#394573",
    ],
    [
      [
        [392, 0],
        [430, 0],
        [452, 360],
        [404, 360],
      ],
      "#1e2540",
    ],
    [
      [
        [440, 0],
        [462, 0],
        [478, 360],
        [462, 360],
      ],
      "#3d4a79",
    ],
  ];
  for (const [shape, colour] of folds)
    sheet.block(shape, { ...soft(colour, 34, 0.7) }, { vary: 0.02, angle: 1.4, edge: false });
  const lapel: Shape = [
    [210, 0],
    [330, 0],
    [300, 120],
    [340, 140],
    [262, 300],
  ];
  sheet.block(lapel, firm("#313c62", 26), { vary: 0.02, angle: 1.1 });
  sheet.draw(
    [
      [212, 0],
      [262, 300],
    ],
    firm("#141929", 7, 0.9),
    steady,
  );
  sheet.draw(
    [
      [330, 0],
      [300, 120],
      [340, 140],
      [262, 300],
    ],
    firm("#161b2d", 6, 0.9),
    steady,
  );
  sheet.draw(
    [
      [322, 0],
      [294, 116],
    ],
    soft("#5a689b", 9, 0.7),
    steady,
  );
  sheet.draw(
    [
      [262, 300],
      [268, 360],
    ],
    firm("#12172a", 7),
    steady,
  );
  // The weave: short chalk threads both ways, light on light, dark on dark.
  for (let i = 0; i < 230; i++) {
    const x = sheet.chance(0, WIDTH);
    const y = sheet.chance(0, HEIGHT);
    const up = i % 2 === 0;
    sheet.draw(
      [
        [x, y],
        [x + (up ? 9 : 4), y + (up ? -5 : 8)],
      ],
      { brush: "pencil-6b", size: 4, colour: i % 3 === 0 ? "#5a689b" : "#141a2e", strength: 0.7 },
      { press: swell(0.3, 0.8), wobble: 0.4 },
    );
  }
  for (const [x, y] of [
    [322, 214],
    [330, 306],
    [222, 330],
  ] as const) {
    sheet.draw(
      [
        [x + 3, y + 5],
        [x + 4, y + 6],
      ],
      soft("#0d1120", 46, 0.8),
      steady,
    );
    sheet.block(arc([x, y], 17, 17), firm("#a8823d", 10), { vary: 0.04 });
    sheet.draw(arc([x, y], 16, 16), firm("#5b431a", 4), steady);
    sheet.draw(arc([x, y], 9, 9, -1.6, 0.4), firm("#f0d494", 4), {
      press: swell(0.3, 1),
      wobble: 0.2,
    });
  }
  return sheet.log;
}
