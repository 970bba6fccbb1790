import { z } from "zod";
import { fromBase64, toBase64 } from "../../engine/file/base64";
import { isTooDeep } from "../../engine/file/json";
import { Refusal } from "../../engine/picture/refusal";
import { listedTile } from "../tile-list";

/**
 * A copy of everything that this browser keeps, as one archive that is written and read piece by piece:
 * records as they are in store, readable by this version or not, so that what is brought back is the same
 * bit for bit. Files that pictures are saved in are not in it: no other browser may write there.
 */
export const FORMAT = 1;
export const HEADLINE = "everything.json";
const MOST_PICTURES = 100_000;

export const named = z.object({
  title: z.string().catch("A picture"),
  touched: z.number().catch(0),
});
export const listed = named.extend({ id: z.string().min(1).max(64) });

export const headline = z.strictObject({
  everything: z.literal(FORMAT),
  made: z.number(),
  pictures: z.array(listed).max(MOST_PICTURES),
});

/** A picture's records but its log and its tiles, and in how many parts those are. */
export const pictureFile = z.strictObject({
  record: z.looseObject({}),
  head: z.looseObject({}).nullable(),
  pins: z.array(z.looseObject({ id: z.string() })),
  parts: z.int().min(0).max(100_000),
});

export const partLine = z.strictObject({ tiles: z.array(listedTile).max(2_000_000) });
export const keyed = z.array(z.tuple([z.string(), z.unknown()]));
export const withId = z.looseObject({ id: z.string().min(1).max(64) });

/** Says how far it has come, 0…1. @throws to stop */
export type Progress = (label: string, share: number) => void;

const bytesAsText = (_key: string, value: unknown): unknown =>
  value instanceof Uint8Array ? { base64: toBase64(value) } : value;
const isBytes = z.strictObject({ base64: z.string() });
const bytesFromText = (_key: string, value: unknown): unknown => {
  const parsed = isBytes.safeParse(value);
  return parsed.success ? fromBase64(parsed.data.base64) : value;
};

export const asText = (value: unknown): string => JSON.stringify(value, bytesAsText);
export const folder = (i: number): string => `pictures/${i}`;

/** Entries of a log as it is in a copy: `[place,command]` a line. */
export function linesOf(log: string): [place: number, text: string][] {
  if (log === "") return [];
  return log.split("\n").map((line): [number, string] => {
    const comma = line.indexOf(",");
    const place = Number(line.slice(1, comma));
    if (!line.startsWith("[") || !line.endsWith("]") || !Number.isInteger(place) || comma < 2)
      throw new Refusal("its log in the copy cannot be read");
    return [place, line.slice(comma + 1, -1)];
  });
}

export function inJson(text: string): unknown {
  try {
    if (!isTooDeep(text)) return JSON.parse(text, bytesFromText);
  } catch {
    // Refused below.
  }
  throw new Refusal("a part of the copy is no JSON");
}
