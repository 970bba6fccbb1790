import sharp from "sharp";
import { type Engine } from "../src/engine/engine";
import { type CommandInput } from "../src/engine/command/commands";
import { type Work } from "../src/engine/command/work";
import { oraCommands, type OraLayer, readOpenRaster } from "../src/engine/file/openraster/read";
import { writeOpenRaster } from "../src/engine/file/openraster/write";
import { toBase64 } from "../src/engine/file/base64";
import { writePicturePng } from "../src/engine/file/render";
import { headerSchema } from "../src/engine/picture/header";
import { inTurnAsync, type Row } from "./measure";

/** As the engine packs: the same level, and a filter chosen row by row. */
const PACKING = { compressionLevel: 4, adaptiveFiltering: true };
const COLOURS = ["#204060", "#c02040", "#20c0a0", "#e0c090"];

export function sheet(engine: Engine, width: number, height: number, layers: number): Work {
  const work = engine.open(headerSchema.parse({ pampas: 1, width, height }));
  for (let i = 0; i < layers; i++) {
    const id = `l${i}`;
    work.apply({ do: "layer.add", id, name: id, above: null });
    const stops = [
      { at: 0, colour: COLOURS[i % COLOURS.length] as string, alpha: i === 0 ? 1 : 0.5 },
      { at: 1, colour: "#808080", alpha: i === 0 ? 1 : 0 },
    ];
    const to: [number, number] = [width, (height * i) / layers];
    const paint = {
      kind: "gradient" as const,
      shape: "linear" as const,
      from: [0, 0] as [number, number],
      to,
      stops,
    };
    work.apply({ do: "gradient", layer: id, paint });
  }
  work.history.forgetAll();
  return work;
}

async function pngOut(engine: Engine): Promise<Row> {
  const work = sheet(engine, 4000, 3000, 3);
  let png: Uint8Array = new Uint8Array(0);
  const write = (): Promise<void> => {
    png = writePicturePng(engine, work, { depth: 8, ground: true });
    return Promise.resolve();
  };
  await write();
  const raw = { width: 4000, height: 3000, channels: 3 as const };
  const data = await sharp(png).removeAlpha().raw().toBuffer();
  const code = async (): Promise<void> => {
    await sharp(data, { raw }).png(PACKING).toBuffer();
  };
  const { ms, ratio } = await inTurnAsync(write, code, 3);
  work.release();
  return {
    what: "PNG out, 4000 × 3000, three gradients",
    reference: "sharp, level 4, filter by row",
    wanted: { least: 0.6 },
    ratio,
    note: `${Math.round(ms)} ms with compositing, ${Math.round(png.length / 1e5) / 10} MB`,
  };
}

async function pngIn(engine: Engine): Promise<Row> {
  const [width, height] = [12_000, 9_000];
  const data = Buffer.alloc(width * height * 3);
  let state = 1;
  for (let i = 0; i < data.length; i += 3) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    data[i] = 40 + ((i / 3) % width) / 70 + (state >>> 31);
    data[i + 1] = 90 + ((state >>> 30) & 1);
    data[i + 2] = 200 - i / 3 / width / 60;
  }
  const png = await sharp(data, { raw: { width, height, channels: 3 } })
    .png(PACKING)
    .toBuffer();
  const command: CommandInput = { do: "place", layer: "l0", x: 0, y: 0, png: toBase64(png) };
  const bring = (): Promise<void> => {
    const work = engine.open(headerSchema.parse({ pampas: 1, width, height }));
    work.history.limit = 0;
    work.apply({ do: "layer.add", id: "l0", name: "Picture", above: null });
    work.apply(command);
    work.release();
    return Promise.resolve();
  };
  const { heap, kernels } = engine.store;
  const tiles = heap.allocate(width * 64 * 8);
  const decode = async (): Promise<void> => {
    await sharp(png, { limitInputPixels: false }).ensureAlpha().raw().toBuffer();
    // Each row of tiles is written once, at the depth that tiles have.
    for (let y = 0; y < height; y += 64) kernels.fillBytes(tiles, 1, width * 64 * 8);
  };
  const { ms, ratio } = await inTurnAsync(bring, decode, 2);
  heap.free(tiles, width * 64 * 8);
  return {
    what: "PNG in, 12000 × 9000, onto a layer",
    reference: "sharp's decoding, and filling its tiles",
    wanted: { least: 0.3 },
    ratio,
    note: `${Math.round(ms)} ms`,
  };
}

async function openRaster(engine: Engine): Promise<Row[]> {
  const work = sheet(engine, 3000, 2250, 8);
  let file: Uint8Array = new Uint8Array(0);
  const write = (): Promise<void> => {
    file = writeOpenRaster(engine, work.picture);
    return Promise.resolve();
  };
  await write();
  const layers = readOpenRaster(file).layers as OraLayer[];
  const raw = { width: 3000, height: 2250, channels: 4 as const };
  const pixels = await Promise.all(layers.map(({ png }) => sharp(png).raw().toBuffer()));
  // The merged picture is one more.
  const code = async (): Promise<void> => {
    for (const data of [...pixels, pixels[0] as Buffer])
      await sharp(data, { raw }).png(PACKING).toBuffer();
  };
  const out = await inTurnAsync(write, code, 2);
  const read = (): Promise<void> => {
    let n = 0;
    const commands = oraCommands(readOpenRaster(file).layers, () => `n${n++}`);
    const made = engine.open(work.picture.header);
    made.history.limit = 0;
    for (const command of commands) made.apply(command);
    made.release();
    return Promise.resolve();
  };
  const decode = async (): Promise<void> => {
    for (const { png } of layers) await sharp(png).ensureAlpha().raw().toBuffer();
  };
  const back = await inTurnAsync(read, decode, 3);
  work.release();
  const note = `${layers.length} layers with the ground, ${Math.round(file.length / 1e6)} MB`;
  return [
    {
      what: "OpenRaster out, 8 layers 3000 × 2250",
      reference: "sharp coding the same layers",
      wanted: { least: 0.5 },
      ratio: out.ratio,
      note: `${Math.round(out.ms)} ms, ${note}`,
    },
    {
      what: "OpenRaster in, the same",
      reference: "sharp decoding the same layers",
      wanted: { least: 0.5 },
      ratio: back.ratio,
      note: `${Math.round(back.ms)} ms`,
    },
  ];
}

/** Files in and out, against a native coder. */
export async function fileRows(engine: Engine): Promise<Row[]> {
  return [await pngOut(engine), await pngIn(engine), ...(await openRaster(engine))];
}
