import sharp from "sharp";
import { writePicturePng } from "../src/engine/file/render";
import { newHeader } from "../src/engine/picture/header";
import { type Sample } from "../src/engine/stroke/sample";
import { loadEngine } from "../src/node/load-engine";

/**
 * Makes docs/sheets/media-together.png (`npx tsx docs/media-together.ts`): bands of nine media on one layer, and
 * over them clear water, a blue wash, a brush that softens, and a stump.
 */
const MEDIA = [
  ["Graphite, 6B", "pencil-6b", 11, "#33312f"],
  ["Coloured pencil", "pencil-coloured", 10, "#2e6f8e"],
  ["Water-soluble pencil", "pencil-soluble", 10, "#c23b22"],
  ["Vine charcoal", "charcoal-vine", 14, "#1c1a19"],
  ["Soft pastel", "pastel-soft", 16, "#d59a2c"],
  ["Wax crayon", "crayon-wax", 14, "#6a4a9e"],
  ["Waterproof ink", "pen-even", 7, "#23306b"],
  ["Ink for writing", "pen-soluble", 7, "#23306b"],
  ["Gouache", "gouache-round", 16, "#2f6f5e"],
] as const;
const [LEFT, WIDTH, ROW] = [170, 780, 62];
const HEIGHT = MEDIA.length * ROW + 30;

const engine = await loadEngine();
const paper = { kind: "cold-pressed", scale: 1 } as const;
const work = engine.open(newHeader({ width: WIDTH, height: HEIGHT, ground: "#faf7f0", paper }));
work.apply({ do: "layer.add", id: "a", name: "Together", above: null });

type Place = readonly [x: number, y: number];
function draw(
  brush: string,
  size: number,
  [from, to]: readonly [Place, Place],
  more: object,
): void {
  const samples = Array.from({ length: 50 }, (_, i): Sample => {
    const at = (k: 0 | 1): number => from[k] + ((to[k] - from[k]) * i) / 49;
    return [i * 8, at(0), at(1), 0.7, 1.3, 0.6, 0];
  });
  work.apply({ do: "stroke", layer: "a", brush, size, seed: 7, samples, ...more });
}

MEDIA.forEach(([, brush, size, colour], row) => {
  for (let pass = 0; pass < 3; pass++) {
    const y = 28 + row * ROW + (pass - 1) * size * 0.75;
    draw(
      brush,
      size,
      [
        [LEFT + 10, y],
        [WIDTH - 20, y],
      ],
      { colour, seed: 3 + pass },
    );
  }
});
const down = (x: number): readonly [Place, Place] => [
  [x, 4],
  [x, HEIGHT - 12],
];
draw("wash-clear", 70, down(250), {});
draw("wash-round", 70, down(390), { colour: "#5a8fb0" });
draw("wash-clear", 50, down(520), { mode: "blend" });
for (let i = 0; i < 80; i++) work.apply({ do: "time", steps: 120 });
draw("stump", 34, down(650), {});

const words = MEDIA.map(
  ([name], row) =>
    `<text x="12" y="${33 + row * ROW}" font-size="15" fill="#4a4238">${name}</text>`,
);
const labels = `<svg width="${WIDTH}" height="${HEIGHT}" font-family="sans-serif">${words.join("")}</svg>`;
await sharp(Buffer.from(writePicturePng(engine, work, { depth: 8, ground: true })))
  .composite([{ input: Buffer.from(labels) }])
  .png({ palette: true, quality: 92 })
  .toFile("docs/sheets/media-together.png");
process.exit(0);
