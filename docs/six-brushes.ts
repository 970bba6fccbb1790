import { writeFileSync } from "node:fs";
import sharp from "sharp";
import { writePicturePng } from "../src/engine/file/render";
import { headerSchema } from "../src/engine/picture/header";
import { type Sample } from "../src/engine/stroke/sample";
import { loadEngine } from "../src/node/load-engine";

/**
 * Makes docs/sheets/six-brushes.png (`npx tsx docs/six-brushes.ts`): a row for each brush,
 * drawn light to heavy, flat to upright and slow to fast, enlarged three times.
 */
const brushes = [
  ["pencil-2b", 9],
  ["charcoal-stick", 22],
  ["pastel-oil", 20],
  ["pen-sprung", 12],
  ["marker-chisel", 20],
  ["hair-straight", 34],
] as const;
const ROW = 62;
const COLUMN = 176;
const TIMES = 3;
const UPRIGHT = Math.PI / 2;

type Change = (u: number) => { pressure: number; altitude: number; pace: number };
const changes: Change[] = [
  (u) => ({ pressure: 0.06 + 0.9 * u, altitude: 1.2, pace: 1 }),
  (u) => ({ pressure: 0.6, altitude: 0.35 + (UPRIGHT - 0.35) * u, pace: 1 }),
  (u) => ({ pressure: 0.6, altitude: 1.2, pace: 0.15 + 4 * u }),
];

function samples(left: number, middle: number, change: Change): Sample[] {
  let time = 0;
  return Array.from({ length: 49 }, (_, i): Sample => {
    const u = i / 48;
    const { pressure, altitude, pace } = change(u);
    time += 8 / pace;
    const y = middle + Math.sin(u * Math.PI * 2) * 9;
    return [time, left + u * (COLUMN - 36), y, pressure, altitude, 0.6, 0];
  });
}

const engine = await loadEngine();
const header = headerSchema.parse({
  pampas: 1,
  width: COLUMN * 3 + 16,
  height: ROW * brushes.length + 8,
  ground: "#f1ede2",
  paper: { kind: "cold-pressed", scale: 0.75 },
});
const work = engine.open(header);
work.apply({ do: "layer.add", id: "a", name: "Strokes", above: null });
brushes.forEach(([brush, size], row) =>
  changes.forEach((change, column) => {
    const place = samples(26 + column * COLUMN, 36 + row * ROW, change);
    const seed = row * 3 + column + 1;
    work.apply({ do: "stroke", layer: "a", brush, size, colour: "#2a2a33", seed, samples: place });
  }),
);
const png = writePicturePng(engine, work, { depth: 8, ground: true });
const enlarged = await sharp(png)
  .resize({ width: header.width * TIMES, kernel: "nearest" })
  .png({ palette: true })
  .toBuffer();
writeFileSync("docs/sheets/six-brushes.png", enlarged);
