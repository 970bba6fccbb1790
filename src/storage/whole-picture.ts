import { strFromU8, strToU8, zipSync, type Zippable } from "fflate";
import { z } from "zod";
import { type Command } from "../engine/command/commands";
import { type Work } from "../engine/command/work";
import { readWorkLog } from "../engine/command/work-log";
import { type Progress } from "../engine/compose/flatten";
import { type Engine } from "../engine/engine";
import { unpackArchive } from "../engine/file/archive";
import { isTooDeep } from "../engine/file/json";
import { limits } from "../engine/file/limits";
import { openRasterFiles } from "../engine/file/openraster/write";
import { type Header } from "../engine/picture/header";
import { firstFault, Refusal } from "../engine/picture/refusal";
import { type Painted, readPainted, writePainted } from "./painted";
import { pinRecord, type PinRecord } from "./records";

/**
 * A whole picture in one file: an OpenRaster file that every reader of those opens, and in a folder of
 * its own all that Pampas knows of the picture: the log, the tiles of every plane as they are, and the pins.
 * Opened here it is the same picture bit for bit; what another program has changed is told apart by a sum
 * over what that program reads.
 */
const FOLDER = "pampas/";
const HEADLINE = `${FOLDER}picture.json`;
const LOG = `${FOLDER}log.jsonl`;
const PAINTED = `${FOLDER}painted`;
const FORMAT = 1;
const MOST_PINS = 200;
/** What others read and would change: with it ours no longer holds. */
const SHOWN = ["stack.xml", "mergedimage.png"] as const;

const pinLine = pinRecord.omit({ png: true, picture: true, id: true });

const headline = z.strictObject({
  whole: z.literal(FORMAT),
  title: z.string().max(200),
  created: z.number(),
  /** Steps before the log's first that are gone: only the tiles hold them. */
  lost: z.int().min(0),
  pins: z.array(pinLine).max(MOST_PINS),
  /** Of what other programs read, SHA-256 as hex. */
  shown: z.string().length(64),
});

const newer = z.object({ whole: z.int().min(FORMAT + 1) });

export type Whole = {
  title: string;
  created: number;
  header: Header;
  lost: number;
  commands: Command[];
  painted: Painted;
  pins: Omit<PinRecord, "picture" | "id">[];
};

/** What goes into a file beside the picture itself. */
export type Beside = {
  title: string;
  created: number;
  lost: number;
  /** The log in force, without its header. */
  lines: readonly string[];
  pins: readonly PinRecord[];
};

const pinName = (i: number): string => `${FOLDER}pins/${i}.png`;

/** What is packed anyway stays as it is. */
const asItIs = (bytes: Uint8Array): [Uint8Array, { level: 0 }] => [bytes, { level: 0 }];

async function sumOf(files: readonly (Uint8Array | undefined)[]): Promise<string> {
  const bytes = new Uint8Array(files.reduce((sum, file) => sum + (file?.length ?? 0), 0));
  let at = 0;
  for (const file of files) {
    bytes.set(file ?? [], at);
    at += file?.length ?? 0;
  }
  const sum = new Uint8Array(await crypto.subtle.digest("SHA-256", bytes));
  return Array.from(sum, (byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** The bytes of an entry that is to be packed, however it is told. */
const bytesOf = (entry: Zippable[string] | undefined): Uint8Array | undefined =>
  entry instanceof Uint8Array ? entry : Array.isArray(entry) ? (entry[0] as Uint8Array) : undefined;

/**
 * The picture as a file of its own. What it holds is taken at once: what is done meanwhile is not in it.
 * @throws Refusal where the log is not that of the picture as it stands
 */
export async function writeWholePicture(
  engine: Engine,
  work: Work,
  { title, created, lost, lines, pins }: Beside,
  progress: Progress = () => undefined,
): Promise<Uint8Array> {
  if (work.place !== lost + lines.length)
    throw new Refusal(
      `the picture is at step ${work.place} and its log at ${lost + lines.length}: try again`,
    );
  const files: Zippable = openRasterFiles(engine, work.picture, progress, true);
  const thumbnail = bytesOf(files["Thumbnails/thumbnail.png"]) ?? new Uint8Array();
  const header = JSON.stringify(work.picture.header);
  const painted = await writePainted(engine, work, thumbnail);
  const head: z.infer<typeof headline> = {
    whole: FORMAT,
    title,
    created,
    lost,
    pins: pins.map(({ png: _, picture: _p, id: _i, ...pin }) => pin),
    shown: await sumOf(SHOWN.map((name) => bytesOf(files[name]))),
  };
  files[HEADLINE] = strToU8(JSON.stringify(head));
  files[LOG] = strToU8(`${[header, ...lines].join("\n")}\n`);
  files[PAINTED] = asItIs(painted);
  pins.forEach(({ png }, i) => (files[pinName(i)] = asItIs(png)));
  return zipSync(files);
}

const LIMITS: Record<string, number> = {
  [HEADLINE]: 2 ** 22,
  [LOG]: limits.fileBytes,
  [PAINTED]: limits.fileBytes,
  "stack.xml": limits.xmlBytes,
  "mergedimage.png": limits.layerBytes,
};

const limitOf = (name: string): number =>
  LIMITS[name] ?? (name.startsWith(`${FOLDER}pins/`) ? 64 * 2 ** 20 : 0);

function headOf(bytes: Uint8Array): z.infer<typeof headline> {
  const text = strFromU8(bytes);
  let value: unknown = null;
  try {
    value = isTooDeep(text) ? null : JSON.parse(text);
  } catch {
    // Refused below.
  }
  const parsed = headline.safeParse(value);
  if (parsed.success) return parsed.data;
  if (newer.safeParse(value).success)
    throw new Refusal("it was saved by a newer version of Pampas");
  throw new Refusal(firstFault(parsed.error));
}

function wanted(files: Record<string, Uint8Array>, name: string): Uint8Array {
  const file = files[name];
  if (!file) throw new Refusal(`${name} is not in it`);
  return file;
}

/**
 * What Pampas saved in an OpenRaster file; null where it saved nothing there.
 * @throws Refusal where it cannot be used: its layers can still be read
 */
export async function readWholePicture(bytes: Uint8Array): Promise<Whole | null> {
  const there = unpackArchive(bytes, (name) => (name === HEADLINE ? limitOf(name) : 0));
  const line = there[HEADLINE];
  if (!line) return null;
  const head = headOf(line);
  const files = unpackArchive(bytes, limitOf);
  if ((await sumOf(SHOWN.map((name) => files[name]))) !== head.shown)
    throw new Refusal("another program has changed its layers since");
  const { header, commands } = readWorkLog(strFromU8(wanted(files, LOG)));
  const painted = readPainted(wanted(files, PAINTED));
  if (painted.place !== head.lost + commands.length)
    throw new Refusal(
      `its tiles are of step ${painted.place} and its log has ${head.lost + commands.length}`,
    );
  return {
    title: head.title,
    created: head.created,
    header,
    lost: head.lost,
    commands,
    painted,
    pins: head.pins.map((pin, i) => ({ ...pin, png: wanted(files, pinName(i)) })),
  };
}
