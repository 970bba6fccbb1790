import { readFile, rename, writeFile } from "node:fs/promises";
import { extname } from "node:path";
import { parseArgs } from "node:util";
import { readWorkLog, scaleWorkLog, type WorkLog } from "../engine/command/work-log";
import { limits } from "../engine/file/limits";
import { countOra, readOpenRaster } from "../engine/file/openraster/read";
import { readPng } from "../engine/file/png";
import { type Tones, tones } from "../engine/file/print/tones";
import { paintLog, type PngChoice, type RenderFormat, writePicture } from "../engine/file/render";
import { Refusal } from "../engine/picture/refusal";
import { otherEngine } from "../engine/revision";
import { addHelpers } from "../node/helpers";
import { loadEngine } from "../node/load-engine";

const usage = `pampas: the engine from the shell

  render LOG OUT.png|.tif|.pdf|.ora|.svg                  paint a work log
    --threads N     on so many threads (1 to 64)
    --scale S       so many times as large, drawn anew (0.05 to 16)
    --tones T       colour, grey or black-and-white (one bit; dots as they are screened)
    --depth D       8 or 16 bits (png, tif)
    --clear         without the ground (png, tif)
    --greys         halftones as the greys that they stand for
  info FILE                                               what a log or picture holds
  check FILE                                              whether it can be read; says what is wrong`;

type Read = { kind: string; lines: string[] };

const describeLog = ({ header, commands }: WorkLog): Read => {
  const counts = new Map<string, number>();
  for (const command of commands) counts.set(command.do, (counts.get(command.do) ?? 0) + 1);
  return {
    kind: "work log",
    lines: [
      `${header.width} × ${header.height} px at ${header.ppi} ppi, ${header.mode}`,
      `ground ${header.ground}, paper ${header.paper.kind} × ${header.paper.scale}`,
      ...[...counts].map(([name, count]) => `${count} × ${name}`),
    ],
  };
};

async function readAny(path: string): Promise<Read> {
  const bytes = new Uint8Array(await readFile(path));
  if (bytes.length > limits.fileBytes) throw new Refusal("the file is too large");
  if (bytes[0] === 0x89) {
    const { width, height } = readPng(bytes);
    return { kind: "PNG picture", lines: [`${width} × ${height} px`] };
  }
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const ora = readOpenRaster(bytes);
    return {
      kind: "OpenRaster picture",
      lines: [`${ora.width} × ${ora.height} px`, `${countOra(ora.layers)} layers`, ...ora.notes],
    };
  }
  return describeLog(readWorkLog(new TextDecoder().decode(bytes)));
}

function formatOf(path: string): RenderFormat {
  const extension = extname(path).toLowerCase();
  if (extension === ".png") return "png";
  if (extension === ".ora") return "ora";
  if (extension === ".svg") return "svg";
  if (extension === ".pdf") return "pdf";
  if (extension === ".tif" || extension === ".tiff") return "tiff";
  throw new Refusal(`the result is a .png, .tif, .pdf, .ora or .svg file, not “${extension}”`);
}

function wholeNumber(name: string, text: string, most: number): number {
  const value = Number(text);
  if (Number.isInteger(value) && value >= 1 && value <= most) return value;
  throw new Refusal(`--${name} is a whole number from 1 to ${most}, not “${text}”`);
}

function scaleFrom(text: string): number {
  const value = Number(text);
  if (value >= 0.05 && value <= 16) return value;
  throw new Refusal(`--scale is a number from 0.05 to 16, not “${text}”`);
}

function tonesFrom(text: string): Tones {
  const found = tones.find((one) => one === text);
  if (found) return found;
  throw new Refusal(`--tones is one of ${tones.join(", ")}, not “${text}”`);
}

function depthFrom(text: string): 8 | 16 {
  if (text === "8" || text === "16") return text === "8" ? 8 : 16;
  throw new Refusal(`--depth is 8 or 16, not “${text}”`);
}

async function render(
  from: string,
  to: string,
  threads: number,
  scale: number,
  choice: PngChoice,
): Promise<void> {
  const format = formatOf(to);
  const read = readWorkLog(await readFile(from, "utf8"));
  const other = otherEngine(read.header.engine);
  if (other) console.error(other);
  const log = scale === 1 ? read : scaleWorkLog(read, scale);
  const engine = await loadEngine();
  const release = await addHelpers(engine, threads);
  try {
    const work = await paintLog(engine, log, async () => undefined);
    // Written whole or not at all.
    await writeFile(`${to}.part`, await writePicture(engine, work, format, undefined, choice));
    await rename(`${to}.part`, to);
  } finally {
    await release();
  }
}

async function main(): Promise<void> {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: {
      threads: { type: "string", default: "1" },
      scale: { type: "string", default: "1" },
      tones: { type: "string", default: "colour" },
      depth: { type: "string", default: "8" },
      clear: { type: "boolean", default: false },
      greys: { type: "boolean", default: false },
    },
  });
  const [verb, first, second] = positionals;
  if (verb === "render" && first && second)
    return render(
      first,
      second,
      wholeNumber("threads", values.threads, 64),
      scaleFrom(values.scale),
      {
        tones: tonesFrom(values.tones),
        depth: depthFrom(values.depth),
        ground: !values.clear,
        dots: !values.greys,
      },
    );
  if ((verb === "info" || verb === "check") && first && !second) {
    const { kind, lines } = await readAny(first);
    console.log(verb === "check" ? `${first}: a good ${kind}` : [kind, ...lines].join("\n"));
    return;
  }
  throw new Refusal(usage);
}

main().catch((error: unknown) => {
  const isOurs = error instanceof Refusal || (error instanceof Error && "code" in error);
  console.error(isOurs ? (error as Error).message : error);
  process.exitCode = 1;
});
