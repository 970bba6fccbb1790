import "fake-indexeddb/auto";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { type CommandInput } from "../engine/command/commands";
import { before, everySample } from "../engine/command/every-command.testing";
import { fingerprint, testEngine, testHeader } from "../engine/engine.testing";
import { type Work } from "../engine/command/work";
import { composedByOthers, shareWithin } from "../engine/file/openraster/reader.testing";
import { decode } from "fast-png";
import { writePng } from "../engine/file/png";
import { Connection } from "./connection";
import { type Database, logRange, openDatabase } from "./database";
import { Keeper } from "./keeper";
import { type PinRecord } from "./records";
import { type Beside, readWholePicture, type Whole, writeWholePicture } from "./whole-picture";

const engine = testEngine();
const header = testHeader({ ground: "#f4efe6" });
let db: Database;
let next = 0;

beforeAll(async () => {
  db = await openDatabase();
});

function painted(commands: readonly CommandInput[]): { work: Work; lines: string[] } {
  const work = engine.open(header);
  const lines = commands.map((command) => JSON.stringify(work.apply(command)));
  return { work, lines };
}

const beside = (lines: readonly string[], more: Partial<Beside> = {}): Beside => ({
  title: "Kettle & lamp",
  created: 1700,
  lost: 0,
  lines,
  pins: [],
  ...more,
});

/** Puts what was read on the shelf, and opens it from there. */
async function opened(whole: Whole, withLog: boolean): Promise<{ work: Work; notes: string[] }> {
  const id = `whole${next++}`;
  const record = {
    ...{ id, title: whole.title, width: 256, height: 192, ppi: 300, created: whole.created },
    ...{ touched: 1, bytes: 0, thumbnail: null, thrownAway: null, sample: null },
  };
  await Keeper.create(db, whole.header, record, whole.commands, whole.painted, whole.lost);
  if (!withLog) await db.delete("log", logRange(id));
  const keeper = new Keeper(new Connection(() => Promise.resolve(db)), id, () => undefined);
  return keeper.open(engine, {}, () => undefined);
}

async function readBack(file: Uint8Array): Promise<Whole> {
  const whole = await readWholePicture(file);
  if (!whole) throw new Error("expected a file of ours");
  return whole;
}

/** What leaves planes of its own behind: paint of each medium, pieces, lines, masks, the slab. */
const MAKES =
  /^(stroke|strew\.collect|line\.add|slab\.squeeze|mask\.add|stencil\.add|time|scene\.put)/;
const making = everySample.filter(([name]) => MAKES.test(name));

it.each(making)("after %s a picture comes back from its file as it is", async (_n, more) => {
  const { work, lines } = painted([...before, ...more]);
  const is = fingerprint(engine, work);
  const whole = await readBack(await writeWholePicture(engine, work, beside(lines)));
  expect(whole.commands.map((command) => JSON.stringify(command))).toEqual(lines);
  const back = await opened(whole, false);
  expect(back.notes).toEqual([]);
  expect(fingerprint(engine, back.work)).toBe(is);
  for (const one of [work, back.work]) one.release();
});

it("other programs read it as any OpenRaster file, and see what we show", async () => {
  const { work, lines } = painted(before);
  const file = await writeWholePicture(engine, work, beside(lines));
  work.release();
  const merged = decode(unzipSync(file)["mergedimage.png"] as Uint8Array).data;
  expect(shareWithin(composedByOthers(file), Uint8Array.from(merged), 2)).toBeGreaterThan(0.999);
  // The first entry says what it is, unpacked, as the standard asks.
  expect(strFromU8(file.subarray(30, 38 + 16))).toBe("mimetypeimage/openraster");
});

it("title, the day it was begun, and pins come back", async () => {
  const { work, lines } = painted(before);
  const png = Uint8Array.from(
    writePng({ width: 2, height: 1, data: Uint8Array.of(9, 8, 7, 255, 1, 2, 3, 255) }),
  );
  const pin: PinRecord = {
    ...{ id: "one", picture: "p", name: "Lamp", png, width: 2, height: 1, x: -5, y: 12.5 },
    ...{ across: 150, zoom: 2, middleX: 0.25, middleY: 0.5, mirrored: true, grey: false, made: 3 },
  };
  const file = await writeWholePicture(engine, work, beside(lines, { pins: [pin] }));
  work.release();
  const { id: _, picture: _p, ...kept } = pin;
  expect(await readBack(file)).toMatchObject({
    title: "Kettle & lamp",
    created: 1700,
    pins: [kept],
  });
});

it("a picture whose first steps are gone comes back from its tiles", async () => {
  const { work, lines } = painted(before);
  const is = fingerprint(engine, work);
  const half = Math.floor(lines.length / 2);
  const some = beside(lines.slice(half), { lost: half });
  const whole = await readBack(await writeWholePicture(engine, work, some));
  expect(whole.lost).toBe(half);
  const back = await opened(whole, true);
  expect(back.notes).toEqual([]);
  expect(back.work.place).toBe(lines.length);
  expect(fingerprint(engine, back.work)).toBe(is);
  for (const one of [work, back.work]) one.release();
});

it("a log that is not the picture's is not written", async () => {
  const { work, lines } = painted(before);
  await expect(writeWholePicture(engine, work, beside(lines.slice(1)))).rejects.toThrow(
    /at step \d+ and its log at \d+/,
  );
  work.release();
});

describe("a file that is not as we left it", () => {
  let file: Uint8Array;
  beforeAll(async () => {
    const { work, lines } = painted(before);
    file = await writeWholePicture(engine, work, beside(lines));
    work.release();
  });

  const changed = (name: string, change: (bytes: Uint8Array) => Uint8Array | null): Uint8Array => {
    const files = unzipSync(file);
    const entry = change(files[name] as Uint8Array);
    if (entry) files[name] = Uint8Array.from(entry);
    else delete files[name];
    return zipSync(files);
  };
  const inText = (from: string, to: string) => (bytes: Uint8Array) =>
    strToU8(strFromU8(bytes).replace(from, to));

  it.each<[string, () => Uint8Array, RegExp]>([
    [
      "another program moved a layer",
      () => changed("stack.xml", inText('name="', 'name="Moved ')),
      /another program has changed its layers/,
    ],
    [
      "a newer Pampas saved it",
      () => changed("pampas/picture.json", inText('"whole":1', '"whole":2')),
      /newer version of Pampas/,
    ],
    [
      "its headline is broken",
      () => changed("pampas/picture.json", inText('"lost":0', '"lost":-1')),
      /lost/,
    ],
    ["its log is gone", () => changed("pampas/log.jsonl", () => null), /log.jsonl is not in it/],
    [
      "its log breaks off",
      () => changed("pampas/log.jsonl", (bytes) => bytes.slice(0, bytes.lastIndexOf(10, -2) + 1)),
      /tiles are of step \d+ and its log has \d+/,
    ],
    [
      "its tiles are cut off",
      () => changed("pampas/painted", (bytes) => bytes.slice(0, -9)),
      /cut off/,
    ],
  ])("%s: it is said why ours cannot be used", async (_name, make, why) => {
    await expect(readWholePicture(make())).rejects.toThrow(why);
  });

  it("without our folder it is a picture of layers like any other", async () => {
    const files = unzipSync(file);
    const foreign = zipSync(
      Object.fromEntries(Object.entries(files).filter(([name]) => !name.startsWith("pampas/"))),
    );
    expect(await readWholePicture(foreign)).toBeNull();
  });
});
