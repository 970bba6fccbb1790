import { z } from "zod";
import { type Work } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { firstFault, Refusal } from "../engine/picture/refusal";
import { capture, encode, type Encoded } from "./captured";
import { plainStructure } from "./plain-structure";
import { structureRecord, tileRecord } from "./records";

/**
 * A picture painted beforehand, as one file: a line of JSON that says what follows, then the bytes it
 * tells of, in order. It holds the checkpoint that belongs to the whole of a log, so that a sample is
 * on the shelf without being painted again.
 */
const FORMAT = 1;
const MOST_TILES = 2_000_000;
const MOST_BYTES = 1 << 20;

const headline = z.strictObject({
  painted: z.literal(FORMAT),
  /** Commands of the log that it is the state after. */
  place: z.int().min(0),
  structure: structureRecord,
  /** Bytes of the thumbnail, a PNG. */
  thumbnail: z.int().min(1).max(MOST_BYTES),
  /** Layer, plane, key, and bytes of the tile or its one colour. */
  tiles: z
    .array(
      z.tuple([
        z.string(),
        z.string(),
        z.int().min(0),
        z.union([z.int().min(1).max(MOST_BYTES), tileRecord]),
      ]),
    )
    .max(MOST_TILES),
});

export type Painted = {
  place: number;
  structure: z.infer<typeof structureRecord>;
  thumbnail: Uint8Array;
  tiles: readonly Encoded[];
};

const LINE_END = 10;

/** The file of a painted log. @param thumbnail a PNG of the whole picture */
export async function writePainted(
  engine: Engine,
  work: Work,
  thumbnail: Uint8Array,
): Promise<Uint8Array> {
  const { picture, place } = work;
  const planes = [...picture.planes.keys()].flatMap((layer) =>
    picture
      .planesOf(layer)
      .map(([plane, tiles]) => ({ layer, plane, keys: [...tiles.keys()].sort((a, b) => a - b) })),
  );
  const encoded = await encode(engine.store, capture(engine.store, picture, planes), () =>
    Promise.resolve(),
  );
  const parts: Uint8Array[] = [thumbnail];
  const tiles = encoded.flatMap(({ layer, plane, key, record }) => {
    if (!record) return [];
    if (!(record instanceof Uint8Array)) return [[layer, plane, key, record]];
    parts.push(record);
    return [[layer, plane, key, record.length]];
  });
  const structure = plainStructure(picture.structure);
  const line = { painted: FORMAT, place, structure, thumbnail: thumbnail.length, tiles };
  parts.unshift(new TextEncoder().encode(`${JSON.stringify(line)}\n`));
  const file = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    file.set(part, at);
    at += part.length;
  }
  return file;
}

function lineOf(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    throw new Refusal("this is no painted picture");
  }
}

/**
 * Reads a painted picture.
 * @throws Refusal where it is not one, or is cut off
 */
export function readPainted(file: Uint8Array): Painted {
  const end = file.indexOf(LINE_END);
  if (end < 0) throw new Refusal("this is no painted picture");
  const parsed = headline.safeParse(lineOf(file.subarray(0, end)));
  if (!parsed.success) throw new Refusal(`this painted picture: ${firstFault(parsed.error)}`);
  const { place, structure, thumbnail, tiles } = parsed.data;
  let at = end + 1;
  const take = (bytes: number): Uint8Array => {
    if (at + bytes > file.length) throw new Refusal("this painted picture is cut off");
    return file.slice(at, (at += bytes));
  };
  return {
    place,
    structure,
    thumbnail: take(thumbnail),
    tiles: tiles.map(([layer, plane, key, what]) => ({
      layer,
      plane,
      key,
      record: typeof what === "number" ? take(what) : what,
    })),
  };
}
