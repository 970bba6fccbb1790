import sharp from "sharp";
import { type Work } from "../src/engine/command/work";
import { writePicturePng } from "../src/engine/file/render";
import { type PaperKind } from "../src/engine/paper/bands";
import { headerSchema } from "../src/engine/picture/header";
import { type Sample } from "../src/engine/stroke/sample";
import { loadEngine } from "../src/node/load-engine";

/**
 * Makes docs/sheets/dry-media.png (`npx tsx docs/dry-media.ts`): a row for each material, on
 * cold-pressed paper and on smooth board, and pieces of it three times as large.
 */
const materials = [
  ["pencil-2h", 5, "#303236"],
  ["pencil-hb", 6, "#303236"],
  ["pencil-6b", 11, "#303236"],
  ["pencil-coloured", 9, "#2b50a0"],
  ["charcoal-vine", 22, "#26262a"],
  ["charcoal-stick", 24, "#1c1c1e"],
  ["chalk", 20, "#8a3030"],
  ["pastel-soft", 30, "#c8662c"],
  ["pastel-oil", 28, "#2c6a48"],
  ["crayon-wax", 18, "#2b50a0"],
] as const;
const ROW = 124;
const WIDTH = 1180;
const UPRIGHT = Math.PI / 2;

type Place = readonly [x: number, y: number, pressure: number];

const engine = await loadEngine();

/** The hand, with one brush in it. */
class Hand {
  #seed = 1;
  constructor(
    readonly work: Work,
    readonly brush: string,
    readonly size: number,
    readonly colour: string,
  ) {}

  draw(places: readonly Place[], tilt = 0, tool = this.brush, size = this.size): void {
    const altitude = UPRIGHT * (1 - tilt);
    const samples = places.map(([x, y, p], i): Sample => [i * 8, x, y, p, altitude, -1.2, 0]);
    const stroke = { do: "stroke", layer: "a", brush: tool, size, colour: this.colour } as const;
    this.work.apply({ ...stroke, seed: this.#seed++, samples });
  }

  line(from: Place, to: Place, tilt = 0, tool = this.brush, size = this.size): void {
    const places = Array.from({ length: 30 }, (_, i): Place => {
      const u = i / 29;
      return [
        from[0] + (to[0] - from[0]) * u,
        from[1] + (to[1] - from[1]) * u,
        from[2] + (to[2] - from[2]) * u,
      ];
    });
    this.draw(places, tilt, tool, size);
  }

  hatch(x: number, y: number, across: number, down: number, pressure: number): void {
    for (let k = 0; k <= down; k += this.size * 0.6)
      this.line(
        [x + k * 0.15, y + k + 3, pressure * 0.9],
        [x + across + k * 0.15, y + k, pressure],
      );
  }
}

function row(work: Work, y: number, [brush, size, colour]: (typeof materials)[number]): void {
  const hand = new Hand(work, brush, size, colour);
  [0.1, 0.25, 0.5, 0.9].forEach((pressure, i) => hand.hatch(24 + i * 104, y, 74, 92, pressure));
  hand.line([452, y + 14, 0.03], [650, y + 20, 1]);
  hand.line([452, y + 48, 0.45], [650, y + 52, 0.45], 0.5);
  hand.line([452, y + 88, 0.55], [650, y + 90, 0.55], 0.9);
  [1, 2, 3, 4].forEach((passes, i) => {
    for (let pass = 0; pass < passes; pass++) hand.hatch(690 + i * 72, y, 44, 92, 0.15);
  });
  hand.draw(
    Array.from({ length: 60 }, (_, i): Place => [
      1020 + 40 * Math.sin(i * 1.1),
      y + 6 + i * 1.5,
      0.5,
    ]),
  );
  hand.hatch(1090, y, 64, 92, 0.5);
  hand.line([1084, y + 26, 0.7], [1164, y + 30, 0.7], 0, "stump", 30);
  hand.line([1092, y + 84, 0.8], [1160, y + 56, 0.8], 0, "eraser-kneaded", 20);
}

async function sheet(kind: PaperKind): Promise<Buffer> {
  const header = {
    pampas: 1,
    width: WIDTH,
    height: ROW * materials.length + 20,
    ground: "#f4efe6",
  };
  const work = engine.open(headerSchema.parse({ ...header, paper: { kind, scale: 1 } }));
  work.apply({ do: "layer.add", id: "a", name: "Strokes", above: null });
  materials.forEach((material, i) => row(work, 16 + i * ROW, material));
  const png = writePicturePng(engine, work, { depth: 8, ground: true });
  work.release();
  return Buffer.from(png);
}

const enlarged = (png: Buffer, left: number, top: number): Promise<Buffer> =>
  sharp(png)
    .extract({ left, top, width: 196, height: 120 })
    .resize({ width: 588, kernel: "nearest" })
    .toBuffer();

const rough = await sheet("cold-pressed");
const smooth = await sheet("board");
const height = ROW * materials.length + 20;
/** Pieces to look at closely: a material's row, and where in it. */
const closely = [
  [1, 128],
  [2, 452],
  [4, 452],
  [5, 984],
  [5, 128],
  [7, 128],
  [8, 452],
  [9, 128],
] as const;
const pieces = await Promise.all(closely.map(([i, left]) => enlarged(rough, left, 8 + i * ROW)));
await sharp({
  create: { width: WIDTH * 2, height: height + 752, channels: 3, background: "#f4efe6" },
})
  .composite([
    { input: rough, left: 0, top: 0 },
    { input: smooth, left: WIDTH, top: 0 },
    ...pieces.map((input, i) => ({
      input,
      left: (i % 4) * 591,
      top: height + 8 + Math.floor(i / 4) * 372,
    })),
  ])
  .resize({ width: WIDTH * 2 })
  .png({ palette: true, quality: 90 })
  .toFile("docs/sheets/dry-media.png");
process.exit(0);
