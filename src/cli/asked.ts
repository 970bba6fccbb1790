import { parseArgs } from "node:util";
import { type Tones, tones } from "../engine/file/print/tones";
import { type PngChoice, type RenderFormat } from "../engine/file/render";

export const usage = `pampas: the engine from the shell

  render LOG OUT.png|.tif|.pdf|.ora|.svg                  paint a work log
  render LOG… --into FOLDER                               paint several, each named after its log
    --as KIND       png, tif, pdf, ora or svg (png where it is not said)
    --jobs N        so many at once (1 to 64)
    --threads N     each on so many threads (1 to 64)
    --scale S       so many times as large, drawn anew (0.05 to 16)
    --tones T       colour, grey or black-and-white (one bit; dots as they are screened)
    --depth D       8 or 16 bits (png, tif)
    --clear         without the ground (png, tif)
    --greys         halftones as the greys that they stand for
  info FILE…                                              what logs and pictures hold
  check FILE…                                             whether they can be read; says what is wrong

  --json            answers as a line of JSON for each file
  --help, --version

Files may be patterns such as "logs/**/*.jsonl". Ends with 0 where all went well, with 1 where a file could
not be read, painted or written, with 2 where it was called wrongly.`;

/** What is wrong with how the command was called. */
export class Miscalled extends Error {
  override name = "Miscalled";
}

/** How a log is painted. */
export type Manner = { threads: number; scale: number; choice: PngChoice };

export type Asked =
  | { verb: "help" | "version" }
  | { verb: "info" | "check"; files: string[]; json: boolean }
  | { verb: "render"; from: string; to: string; manner: Manner; json: boolean }
  | {
      verb: "batch";
      files: string[];
      into: string;
      kind: RenderFormat;
      jobs: number;
      /** The options of `render` as they were given, for each of them. */
      options: string[];
      json: boolean;
    };

const kinds: Readonly<Record<string, RenderFormat>> = {
  png: "png",
  ora: "ora",
  svg: "svg",
  pdf: "pdf",
  tif: "tiff",
  tiff: "tiff",
};

/** The format that a file's ending, without its dot, stands for. @throws Miscalled */
export function formatOf(ending: string): RenderFormat {
  const found = Object.hasOwn(kinds, ending) ? kinds[ending] : undefined;
  if (found) return found;
  throw new Miscalled(`the result is a .png, .tif, .pdf, .ora or .svg file, not “.${ending}”`);
}

function wholeNumber(name: string, text: string, most: number): number {
  const value = Number(text);
  if (Number.isInteger(value) && value >= 1 && value <= most) return value;
  throw new Miscalled(`--${name} is a whole number from 1 to ${most}, not “${text}”`);
}

function scaleFrom(text: string): number {
  const value = Number(text);
  if (value >= 0.05 && value <= 16) return value;
  throw new Miscalled(`--scale is a number from 0.05 to 16, not “${text}”`);
}

function tonesFrom(text: string): Tones {
  const found = tones.find((one) => one === text);
  if (found) return found;
  throw new Miscalled(`--tones is one of ${tones.join(", ")}, not “${text}”`);
}

function depthFrom(text: string): 8 | 16 {
  if (text === "8" || text === "16") return text === "8" ? 8 : 16;
  throw new Miscalled(`--depth is 8 or 16, not “${text}”`);
}

/** What each verb may be told beside what all may. */
const options = {
  threads: { type: "string" },
  scale: { type: "string" },
  tones: { type: "string" },
  depth: { type: "string" },
  clear: { type: "boolean" },
  greys: { type: "boolean" },
  into: { type: "string" },
  as: { type: "string" },
  jobs: { type: "string" },
  json: { type: "boolean" },
  help: { type: "boolean", short: "h" },
  version: { type: "boolean", short: "v" },
} as const;
const forAll = ["json", "help", "version"];
const forSeveral = ["into", "as", "jobs"];

type Given = ReturnType<typeof parse>["values"];

function parse(args: readonly string[]) {
  try {
    return parseArgs({ args: [...args], allowPositionals: true, options });
  } catch (error) {
    throw new Miscalled(error instanceof Error ? error.message : String(error));
  }
}

const mannerFrom = (given: Given): Manner => ({
  threads: wholeNumber("threads", given.threads ?? "1", 64),
  scale: scaleFrom(given.scale ?? "1"),
  choice: {
    tones: tonesFrom(given.tones ?? "colour"),
    depth: depthFrom(given.depth ?? "8"),
    ground: !given.clear,
    dots: !given.greys,
  },
});

/** The options that are not for several at once, as they would be typed again. */
const typedAgain = (given: Given): string[] =>
  Object.entries(given)
    .filter(([name]) => !forAll.includes(name) && !forSeveral.includes(name))
    .flatMap(([name, value]) => (value === true ? [`--${name}`] : [`--${name}`, String(value)]));

function renderFrom(given: Given, files: string[]): Asked {
  const manner = mannerFrom(given);
  const json = given.json ?? false;
  if (given.into === undefined) {
    const [from, to] = files;
    if (files.length !== 2 || from === undefined || to === undefined)
      throw new Miscalled(
        `render takes a log and a result, or logs and --into; it was given ${files.length} files`,
      );
    const alone = forSeveral.find((name) => name in given);
    if (alone) throw new Miscalled(`--${alone} goes with --into`);
    formatOf(endingOf(to));
    return { verb: "render", from, to, manner, json };
  }
  if (files.length === 0) throw new Miscalled("render takes at least one log");
  return {
    ...{ verb: "batch", files, into: given.into, json },
    kind: formatOf(given.as ?? "png"),
    jobs: wholeNumber("jobs", given.jobs ?? "1", 64),
    options: typedAgain(given),
  };
}

/** What a path ends in after its last dot, in small letters. */
export function endingOf(path: string): string {
  const name = path.slice(path.lastIndexOf("/") + 1);
  const dot = name.lastIndexOf(".");
  return dot < 0 ? "" : name.slice(dot + 1).toLowerCase();
}

/**
 * Reads what was typed after `pampas`.
 * @throws Miscalled with what was expected and what was found
 */
export function readAsked(args: readonly string[]): Asked {
  const { values, positionals } = parse(args);
  if (values.help) return { verb: "help" };
  if (values.version) return { verb: "version" };
  const [verb, ...files] = positionals;
  if (verb === "render") return renderFrom(values, files);
  if (verb === "info" || verb === "check") {
    const stray = Object.keys(values).find((name) => !forAll.includes(name));
    if (stray) throw new Miscalled(`--${stray} is not for ${verb}`);
    if (files.length === 0) throw new Miscalled(`${verb} takes at least one file`);
    return { verb, files, json: values.json ?? false };
  }
  if (verb === undefined) throw new Miscalled(usage);
  throw new Miscalled(`there is no “${verb}”; there are render, info and check`);
}
