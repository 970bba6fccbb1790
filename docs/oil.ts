import sharp from "sharp";
import { writePicturePng } from "../src/engine/file/render";
import { headerSchema } from "../src/engine/picture/header";
import { type Sample } from "../src/engine/stroke/sample";
import { loadEngine } from "../src/node/load-engine";

/**
 * Makes docs/sheets/oil.png (`npx tsx docs/oil.ts`): every brush and knife in oil on canvas, wet over wet and over
 * dry, clean, firm and light, and pieces of it three times as large.
 */
const WIDTH = 1180;
const HEIGHT = 1330;
type Place = readonly [x: number, y: number, pressure: number];
type Look = { mode?: "paint" | "blend" | "lift"; strength?: number; altitude?: number };

const engine = await loadEngine();
const work = engine.open(
  headerSchema.parse({
    ...{ pampas: 1, width: WIDTH, height: HEIGHT, ppi: 200, ground: "#c4ae88" },
    paper: { kind: "canvas", scale: 1 },
  }),
);
work.apply({ do: "layer.add", id: "a", name: "Strokes", above: null });

let seed = 1;
function draw(
  brush: string,
  size: number,
  colour: string,
  places: readonly Place[],
  { altitude = Math.PI / 2, ...look }: Look = {},
): void {
  const samples = places.map(([x, y, p], i): Sample => [i * 8, x, y, p, altitude, -1.2, 0]);
  work.apply({ do: "stroke", layer: "a", brush, size, colour, seed: seed++, samples, ...look });
}

const line = (from: Place, to: Place, steps = 60): Place[] =>
  Array.from({ length: steps }, (_, i) => {
    const u = i / (steps - 1);
    const at = (k: 0 | 1 | 2): number => from[k] + (to[k] - from[k]) * u;
    return [at(0), at(1), at(2)];
  });

const wave = (x: number, y: number, wide: number, pressure = 0.85): Place[] =>
  Array.from({ length: 60 }, (_, i) => {
    const u = i / 59;
    const press = 0.12 + pressure * Math.sin(Math.min(1, u * 1.1) * Math.PI);
    return [x + wide * u, y + 22 * Math.sin(u * 7), press];
  });

// Every brush, light to heavy to light; then flat on its side, and a row of dabs.
const colours = [
  "#20409c",
  "#c02018",
  "#2c6a48",
  "#8a2a5a",
  "#3a3a6a",
  "#4a6a20",
  "#151518",
  "#7a4a2a",
];
const brushes = ["flat", "round", "filbert", "sable", "blender", "fan", "rigger", "house"];
const sizes = [44, 40, 44, 24, 60, 60, 8, 80];
brushes.forEach((name, i) => {
  const [y, size, colour] = [54 + i * 84, sizes[i] as number, colours[i] as string];
  draw(`oil-${name}`, size, colour, wave(40, y, 350));
  draw(`oil-${name}`, size, colour, line([430, y, 0.5], [610, y, 0.5]), { altitude: 0.5 });
  for (const [n, p] of [0.3, 0.6, 0.95].entries())
    draw(`oil-${name}`, size, colour, line([650 + n * 70, y, p], [651 + n * 70, y, p], 6));
});

// Running dry, from full loads and from a quarter.
draw("oil-round", 50, "#20409c", line([860, 40, 0.6], [1150, 40, 0.6]), { strength: 0.4 });
draw("oil-flat", 50, "#4a2a20", line([860, 110, 0.6], [1150, 110, 0.6]), { strength: 0.25 });
draw("oil-flat", 50, "#f4f2ea", line([860, 180, 0.3], [1150, 180, 0.3]), { strength: 0.15 });

// Blue, white and a clean brush through wet yellow and red.
draw("oil-flat", 40, "#e8b020", line([920, 240, 0.7], [920, 470, 0.7]));
draw("oil-flat", 40, "#c02018", line([1030, 240, 0.7], [1030, 470, 0.7]));
draw("oil-round", 40, "#20409c", line([850, 280, 0.6], [1150, 280, 0.6]));
draw("oil-round", 40, "#f6f4ee", line([850, 350, 0.6], [1150, 350, 0.6]));
draw("oil-round", 40, "#000000", line([850, 420, 0.6], [1150, 420, 0.6]), { mode: "blend" });

// Two wet grounds: clean brushes from a caress to firm, a soft one, wiped, scratched.
for (let k = 0; k < 3; k++)
  draw("oil-house", 70, "#f0c090", line([860, 520 + k * 38, 0.7], [1150, 520 + k * 38, 0.7]));
for (let k = 0; k < 3; k++)
  draw("oil-house", 70, "#485488", line([860, 634 + k * 38, 0.7], [1150, 634 + k * 38, 0.7]));
for (const [n, p] of [0.15, 0.3, 0.5, 0.85].entries())
  draw("oil-round", 40, "#000000", line([890 + n * 50, 520, p], [890 + n * 50, 710, p]), {
    mode: "blend",
  });
draw("oil-sable", 50, "#000000", line([1115, 520, 0.2], [1115, 710, 0.2]), { mode: "blend" });

// Over paint that has dried; scratched to it; wiped off it.
for (let k = 0; k < 4; k++)
  draw("oil-house", 80, "#285a48", line([60, 770 + k * 44, 0.6], [540, 770 + k * 44, 0.6]));
work.apply({ do: "paint.dry", layers: ["a"] });
for (let k = 0; k < 3; k++)
  draw("oil-house", 80, "#e0b050", line([70, 780 + k * 44, 0.6], [530, 780 + k * 44, 0.6]));
draw("oil-house", 60, "#000000", line([90, 790, 0.7], [510, 800, 1]), { mode: "blend" });
draw("oil-flat", 50, "#000000", line([110, 870, 0.7], [400, 880, 0.7]), { mode: "lift" });
draw("oil-round", 34, "#f6f4ee", line([430, 870, 0.5], [640, 850, 0.5]));

// Knives: loaded light and firm, clean through wet colours, scraped, loaded over wet.
draw("knife-trowel", 60, "#f4f2ec", line([620, 760, 0.2], [1140, 760, 0.2]));
draw("knife-flat", 70, "#c02018", line([620, 840, 0.6], [1140, 840, 0.6]));
for (const [k, colour] of ["#c02018", "#e8b020", "#20409c", "#f4f2ec"].entries())
  draw("oil-flat", 60, colour, line([90 + k * 52, 970, 0.7], [90 + k * 52, 1150, 0.7]));
draw("knife-trowel", 90, "#000000", line([50, 1020, 0.3], [560, 1030, 0.3]), { mode: "blend" });
draw("knife-trowel", 60, "#f4f2ec", line([50, 1110, 0.1], [560, 1110, 0.1]));
for (let k = 0; k < 4; k++)
  draw("oil-house", 80, "#905030", line([640, 940 + k * 54, 0.6], [1140, 940 + k * 54, 0.6]));
draw("knife-flat", 60, "#000000", line([670, 960, 0.7], [1100, 960, 0.7]), { mode: "lift" });
draw("knife-trowel", 50, "#f8f6f0", wave(670, 1070, 440, 0.3));

const png = Buffer.from(writePicturePng(engine, work, { depth: 8, ground: true }));
const enlarged = (left: number, top: number): Promise<Buffer> =>
  sharp(png)
    .extract({ left, top, width: 130, height: 110 })
    .resize({ width: 390, kernel: "nearest" })
    .toBuffer();
const pieces = await Promise.all(
  (
    [
      [300, 20],
      [880, 250],
      [1000, 590],
      [90, 760],
      [180, 980],
      [800, 730],
    ] as const
  ).map(([x, y]) => enlarged(x, y)),
);
await sharp({ create: { width: WIDTH, height: HEIGHT + 560, channels: 3, background: "#c4ae88" } })
  .composite([
    {
      input: await sharp(png).extract({ left: 0, top: 0, width: WIDTH, height: 1190 }).toBuffer(),
      left: 0,
      top: 0,
    },
    ...pieces.map((input, i) => ({
      input,
      left: (i % 3) * 395,
      top: 1200 + Math.floor(i / 3) * 335,
    })),
  ])
  .png({ palette: true, quality: 92 })
  .toFile("docs/sheets/oil.png");
process.exit(0);
