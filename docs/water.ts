import sharp from "sharp";
import { writePicturePng } from "../src/engine/file/render";
import { newHeader } from "../src/engine/picture/header";
import { type Sample } from "../src/engine/stroke/sample";
import { loadEngine } from "../src/node/load-engine";

/**
 * Makes docs/sheets/water.png (`npx tsx docs/water.ts`): every brush of the Water kit on cold-pressed paper, and
 * what washes do: rims, grain, wet in wet, back-runs, glazes, lifting, tilt, salt, spray, spatter, wax.
 */
const WIDTH = 1180;
const HEIGHT = 1400;
const engine = await loadEngine();
const work = engine.open(
  newHeader({
    width: WIDTH,
    height: HEIGHT,
    ground: "#faf7f0",
    paper: { kind: "cold-pressed", scale: 1 },
  }),
);
work.apply({ do: "layer.add", id: "a", name: "Washes", above: null });

type Place = readonly [x: number, y: number, pressure: number];
const line = (from: Place, to: Place, steps = 40): Place[] =>
  Array.from({ length: steps + 1 }, (_, i) => {
    const at = (k: 0 | 1 | 2): number => from[k] + ((to[k] - from[k]) * i) / steps;
    return [at(0), at(1), at(2)];
  });

function draw(
  brush: string,
  size: number,
  colour: string,
  places: readonly Place[],
  more: object = {},
): void {
  const samples = places.map(([x, y, p], i): Sample => [i * 8, x, y, p, 1.2, 0.6, 0]);
  work.apply({ do: "stroke", layer: "a", brush, size, colour, seed: 7, samples, ...more });
}

/** To and fro, so that a box is covered. */
const over = (x: number, y: number, width: number, height: number, apart: number): Place[] => {
  const rows = Math.ceil(height / apart);
  return Array.from({ length: rows + 1 }, (_, row) => {
    const at = y + (height * row) / rows;
    const [from, to] = row % 2 ? [x + width, x] : [x, x + width];
    return line([from, at, 0.9], [to, at, 0.9], 14);
  }).flat();
};
const wash = (
  x: number,
  y: number,
  width: number,
  height: number,
  colour: string,
  more: object = {},
): void => draw("wash-mop", 50, colour, over(x + 24, y + 24, width - 48, height - 48, 30), more);
const wait = (seconds: number): void =>
  void work.apply({ do: "time", steps: Math.round(seconds * 30) });
const dry = (): void => {
  for (let i = 0; i < 40 && work.picture.plane("a", "wash water").size > 0; i++) wait(4);
};
const wave = (x: number, y: number, wide: number): Place[] =>
  Array.from({ length: 50 }, (_, i) => {
    const u = i / 49;
    return [x + wide * u, y + 14 * Math.sin(u * 6), 0.15 + 0.85 * Math.sin(u * Math.PI)];
  });
const set = (edge: number, pace = 1): void =>
  void work.apply({ do: "wash.set", layer: "a", edge, pace });

// Wax first: it keeps what comes.
draw("crayon-wax", 26, "#f6f2e4", line([812, 800, 0.8], [1090, 830, 0.9]));

set(0.4);
// Every brush, light to heavy to light.
const kit = ["round", "flat", "mop", "rigger", "hake", "dry"] as const;
const sizes = [40, 44, 60, 8, 60, 40];
const colours = ["#2e3f9e", "#b3263a", "#2e6f8e", "#3a3a46", "#3a6a4a", "#6a3a22"];
kit.forEach((name, i) =>
  draw(`wash-${name}`, sizes[i] as number, colours[i] as string, wave(30, 50 + i * 64, 300)),
);
// A stain, grains, between; strong and thinned.
for (const [i, colour] of ["#0f4a6b", "#2d3f9c", "#8a4a24"].entries()) {
  wash(360 + i * 130, 20, 120, 170, colour, { strength: 0.55 });
  wash(360 + i * 130, 200, 120, 170, colour);
}
// Wet in wet: on dry, in wet; charged; two that meet.
draw("wash-round", 26, "#b3263a", line([780, 40, 0.6], [1140, 40, 0.6]));
draw("wash-clear", 60, "#000000", over(800, 90, 320, 60, 30));
draw("wash-round", 26, "#b3263a", line([800, 120, 0.6], [1120, 126, 0.6]));
wash(780, 190, 170, 180, "#f0c62a");
draw("wash-charge", 34, "#b3263a", line([820, 240, 0.6], [830, 250, 0.6], 6));
draw("wash-charge", 34, "#1f2f6e", line([830, 320, 0.5], [910, 300, 0.5]));
wash(970, 190, 95, 180, "#f0c62a");
wash(1055, 190, 95, 180, "#2e6f8e");
// What is to be dropped into, lifted, salted, sprayed.
wash(30, 440, 250, 190, "#0f4a6b", { strength: 0.45 });
wash(300, 440, 200, 190, "#1f3f8e");
wash(520, 440, 200, 190, "#2c6a48");
wash(740, 440, 200, 190, "#8a4a24", { strength: 0.8 });
wash(960, 440, 190, 190, "#0f4a6b", { strength: 0.8 });
wait(2);
draw("wash-salt", 150, "#000000", line([340, 480, 1], [460, 540, 1]));
draw("wash-salt", 150, "#000000", line([340, 590, 1], [460, 580, 1]));
wait(2.2);
draw("wash-spray", 150, "#000000", line([560, 490, 1], [690, 580, 1]));
draw("wash-bloom", 56, "#0f4a6b", line([100, 530, 0.9], [102, 530, 0.9], 3));
draw("wash-bloom", 30, "#0f4a6b", line([210, 490, 0.9], [211, 490, 0.9], 3));
draw("wash-bloom", 20, "#0f4a6b", line([220, 580, 0.9], [221, 580, 0.9], 3));
draw("wash-thirsty", 34, "#000000", line([770, 480, 0.7], [910, 480, 0.9]), { mode: "lift" });
dry();
draw("wash-thirsty", 30, "#000000", line([770, 560, 0.7], [910, 560, 0.9]), { mode: "lift" });
draw("wash-thirsty", 30, "#000000", line([990, 540, 0.7], [1120, 540, 0.9]), { mode: "lift" });
dry();
// Glazes over what is dry, spatter, wax.
wash(30, 680, 180, 130, "#f0c62a");
wash(240, 680, 240, 170, "#2e6f8e", { strength: 0.7 });
dry();
wash(110, 740, 180, 130, "#b3263a");
wash(800, 690, 330, 190, "#b0502a");
draw("wash-spatter", 190, "#1f2f6e", line([560, 740, 1], [740, 800, 1]));
// A hard edge softened by clear water.
draw("wash-round", 36, "#3a2f6e", line([540, 870, 0.8], [760, 870, 0.8]));
draw("wash-clear", 34, "#000000", line([540, 896, 0.6], [760, 896, 0.6]), { water: 0.5 });
dry();
// Rims from none to strong.
for (const [i, edge] of [0, 0.2, 0.4, 0.65, 0.85, 1].entries()) {
  set(edge);
  wash(30 + i * 190, 940, 170, 130, "#2e8fbe", { strength: 0.7 });
  dry();
}
// A tilted sheet.
set(0.4);
work.apply({ do: "tilt.set", tilt: { x: 0, y: 0.6 } });
wash(30, 1100, 330, 110, "#2f5a5a", { water: 1.6 });
wash(400, 1100, 330, 110, "#8a4a24", { water: 2.2 });
draw("wash-round", 40, "#2e3f9e", line([780, 1130, 0.9], [1130, 1130, 0.9]), { water: 2.6 });
dry();

const png = Buffer.from(writePicturePng(engine, work, { depth: 8, ground: true }));
const enlarged = (left: number, top: number): Promise<Buffer> =>
  sharp(png)
    .extract({ left, top, width: 130, height: 100 })
    .resize({ width: 390, kernel: "nearest" })
    .toBuffer();
const places = [
  [20, 20],
  [480, 200],
  [790, 90],
  [1010, 240],
  [40, 480],
  [330, 480],
  [560, 480],
  [60, 1200],
  [860, 770],
] as const;
const pieces = await Promise.all(places.map(([x, y]) => enlarged(x, y)));
await sharp({ create: { width: WIDTH, height: HEIGHT + 920, channels: 3, background: "#777777" } })
  .composite([
    { input: png, left: 0, top: 0 },
    ...pieces.map((input, i) => ({
      input,
      left: (i % 3) * 395,
      top: HEIGHT + 5 + Math.floor(i / 3) * 305,
    })),
  ])
  .png({ palette: true, quality: 92 })
  .toFile("docs/sheets/water.png");
process.exit(0);
