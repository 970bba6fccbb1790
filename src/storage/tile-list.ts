import { z } from "zod";
import { Refusal } from "../engine/picture/refusal";
import { type PlaneName } from "../engine/picture/picture";
import { tileRecord, type TileRecord } from "./records";

/**
 * Tiles in a file: a line of JSON that lists them and says what else there is, then the bytes it tells of,
 * in order. One that is of one colour has no bytes.
 */
const MOST_BYTES = 1 << 20;
const LINE_END = 10;

/** Layer, plane, key, and bytes of the tile or its one colour. */
export const listedTile = z.tuple([
  z.string(),
  z.string(),
  z.int().min(0),
  z.union([z.int().min(1).max(MOST_BYTES), tileRecord]),
]);
export type ListedTile = z.infer<typeof listedTile>;

/** A tile as it is stored, and where. */
export type StoredTile = { layer: string; plane: PlaneName; key: number; record: TileRecord };

/** Lists a tile; its bytes, if it has any, go to `parts`. */
export function listTile(
  { layer, plane, key, record }: StoredTile,
  parts: Uint8Array[],
): ListedTile {
  if (!(record instanceof Uint8Array)) return [layer, plane, key, record];
  parts.push(record);
  return [layer, plane, key, record.length];
}

/** A line of JSON and the bytes that it tells of, as one file. */
export function lineAndBytes(line: unknown, parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const head = new TextEncoder().encode(`${JSON.stringify(line)}\n`);
  const file = new Uint8Array(parts.reduce((sum, part) => sum + part.length, head.length));
  file.set(head);
  let at = head.length;
  for (const part of parts) {
    file.set(part, at);
    at += part.length;
  }
  return file;
}

/**
 * Takes such a file apart.
 * @param what what the file should be, for the words of a refusal
 * @returns the line, not checked yet, and a function that takes the next so many bytes
 */
export function openLineAndBytes(
  file: Uint8Array,
  what: string,
): { line: unknown; take: (bytes: number) => Uint8Array } {
  const end = file.indexOf(LINE_END);
  let at = end + 1;
  const take = (bytes: number): Uint8Array => {
    if (at + bytes > file.length) throw new Refusal(`this ${what} is cut off`);
    return file.slice(at, (at += bytes));
  };
  try {
    if (end >= 0)
      return { line: JSON.parse(new TextDecoder().decode(file.subarray(0, end))), take };
  } catch {
    // Refused below.
  }
  throw new Refusal(`this is no ${what}`);
}

/** The tiles that a list tells of. */
export const takeTiles = (
  tiles: readonly ListedTile[],
  take: (bytes: number) => Uint8Array,
): StoredTile[] =>
  tiles.map(([layer, plane, key, what]) => ({
    layer,
    plane,
    key,
    record: typeof what === "number" ? take(what) : what,
  }));
