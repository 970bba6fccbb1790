import { zipSync, strToU8 } from "fflate";
import UTIF from "utif2";
import { chances } from "../engine/chances.testing";
import { line, stroke, testWork } from "../engine/engine.testing";
import { readWorkLog, writeWorkLog } from "../engine/command/work-log";
import { writeKit, readKit } from "../engine/file/kit";
import { writeOpenRaster } from "../engine/file/openraster/write";
import { readDeepPng, writePng } from "../engine/file/png";
import { readSvg } from "../engine/file/svg/read";
import { readShape } from "../engine/file/shape/read-shape";
import { bin, BOX, described, glb } from "../engine/file/shape/shape.testing";
import { writeSvg } from "../engine/file/svg/write";
import { readTiff } from "../engine/file/tiff";
import { brushes } from "../engine/media";
import { Refusal } from "../engine/picture/refusal";
import { writeWholePicture } from "../storage/whole-picture";
import { readAsPicture } from "./bring-in";

/** Broken files of each format; 3 000 in a campaign (`npm run campaign:files`). */
const FILES = Number(process.env.FUZZ ?? 200);
/** What a broken file of a few kB may take, bytes. */
const MOST_MEMORY = 512 * 2 ** 20;

/** A file with some of its bytes changed, left out, doubled or cut off. */
function mutated(bytes: Uint8Array, seed: number): Uint8Array {
  const chance = chances(seed);
  const at = (): number => Math.floor(chance() * chance() * bytes.length);
  let out = bytes.slice();
  for (let n = 1 + Math.floor(chance() * 6); n > 0; n--) {
    const how = Math.floor(chance() * 6);
    const i = Math.min(at(), out.length - 1);
    if (how === 0) out[i] = Math.floor(chance() * 256);
    else if (how === 1) out[i] = (out[i] as number) ^ (1 << Math.floor(chance() * 8));
    else if (how === 2) out.fill(chance() < 0.5 ? 0 : 255, i, i + 1 + Math.floor(chance() * 4));
    else if (how === 3) out = out.slice(0, Math.max(1, out.length - Math.floor(chance() * 200)));
    else if (how === 4) {
      const more = out.slice(i, i + Math.floor(chance() * 40));
      out = Uint8Array.from([...out.subarray(0, i), ...more, ...out.subarray(i)]);
    } else
      new DataView(out.buffer).setUint32(
        Math.min(i, Math.max(0, out.length - 4)),
        Math.floor(chance() * 2 ** 32),
      );
    if (out.length < 4) return out;
  }
  return out;
}

function picture() {
  const made = testWork({ width: 96, height: 80 });
  made.work.apply(stroke(line([10, 20], [80, 60]), { size: 12 }));
  made.work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
  made.work.apply(stroke(line([10, 60], [80, 20]), { layer: "b", size: 9, colour: "#c04020" }));
  return made;
}

const pixels = Uint8Array.from({ length: 40 * 30 * 4 }, (_, i) => (i * 37) & 255);
const made = picture();
const log = writeWorkLog(made.work.picture.header, [
  { do: "layer.add", id: "a", name: "A", above: null },
  stroke(line([10, 20], [80, 60], { steps: 6 }), { size: 12 }),
  { do: "fill", layer: "a", at: [[40, 40]], colour: "#336699" },
]);

const lines = testWork({ width: 96, height: 80 });
lines.work.apply({ do: "layer.add", id: "l", name: "L", above: null, kind: "lines" });
lines.work.apply(stroke(line([10, 20], [80, 60], { steps: 8 }), { layer: "l", size: 6 }));

const ours = testWork({ width: 96, height: 80 });
const added = ours.work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });

async function whole(): Promise<Uint8Array> {
  const { engine, work } = ours;
  const lines = [{ do: "layer.add", id: "a", name: "A", above: null }, added];
  return writeWholePicture(engine, work, {
    ...{ title: "Kettle", created: 1, lost: 0, pins: [] },
    lines: lines.map((line) => JSON.stringify(line)),
  });
}

const formats: [string, Uint8Array | Promise<Uint8Array>, (bytes: Uint8Array) => unknown][] = [
  ["png", writePng({ width: 40, height: 30, data: pixels }), readDeepPng],
  ["tiff", new Uint8Array(UTIF.encodeImage(pixels.slice(), 40, 30)), readTiff],
  ["openraster", writeOpenRaster(made.engine, made.work.picture), readAsPicture],
  ["whole picture", whole(), readAsPicture],
  ["kit", writeKit({ name: "Kit", author: "", brushes: brushes.slice(0, 4) }), readKit],
  ["log", strToU8(log), (bytes) => readWorkLog(new TextDecoder().decode(bytes))],
  ["svg", writeSvg(lines.engine, lines.work.picture), readSvg],
  [
    "plain svg",
    strToU8(
      '<svg width="90mm" height="60mm" viewBox="0 0 900 600"><g transform="rotate(8) scale(1.1)"><path d="M10 20c30-9 60 8 90 0a20 30 0 0 1 40 9z" stroke="#102030"/><rect x="3" y="4" width="80" height="60" rx="9"/><circle r="30" cx="90" cy="80"/><polyline points="0,0 40,10 80,0"/></g></svg>',
    ),
    readSvg,
  ],
  ["obj", strToU8(BOX), readShape],
  ["gltf", glb(described(), bin()), readShape],
  ["archive", zipSync({ mimetype: strToU8("image/openraster") }), readAsPicture],
];

it.each(formats)(
  "broken %s files are read or refused in words, and take no memory to speak of",
  async (name, file, read) => {
    const bytes = await file;
    let refusals = 0;
    for (let seed = 1; seed <= FILES; seed++) {
      try {
        await read(mutated(bytes, seed));
      } catch (error) {
        if (!(error instanceof Refusal)) throw new Error(`${name} ${seed}: ${String(error)}`);
        refusals++;
      }
    }
    expect(refusals).toBeGreaterThan(FILES / 10);
    expect(process.memoryUsage().rss).toBeLessThan(MOST_MEMORY + baseline);
  },
  4 * 3_600_000,
);

const baseline = process.memoryUsage().rss;
