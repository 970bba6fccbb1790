import { paperFrom } from "../engine/paper/paper-from";
import { readPng } from "../engine/file/png";
import { readShape } from "../engine/file/shape/read-shape";
import { readSvg } from "../engine/file/svg/read";
import { readAsPicture, readFitted, readFlat, readPages, readPin } from "./bring-in";
import { Refusal } from "../engine/picture/refusal";

/** A paper is made of a picture of this size at most, px a side: it is made smaller anyway. */
const LONGEST_PAPER = 4096;

/** Ways to read a file: each may take long, and runs in a thread of its own. */
export const readers = {
  picture: (bytes: Uint8Array) => readAsPicture(bytes),
  pages: (bytes: Uint8Array) => readPages(bytes),
  lines: (bytes: Uint8Array) => Promise.resolve(readSvg(bytes)),
  shape: (bytes: Uint8Array) => Promise.resolve(readShape(bytes)),
  flat: (bytes: Uint8Array) => readFlat(bytes),
  pin: (bytes: Uint8Array) => readPin(bytes),
  fitted: (bytes: Uint8Array, width: number, height: number) => readFitted(bytes, width, height),
  paper: async (bytes: Uint8Array) => {
    const { png } = await readFitted(bytes, LONGEST_PAPER, LONGEST_PAPER);
    return paperFrom(readPng(png));
  },
} satisfies Record<string, (bytes: Uint8Array, ...more: number[]) => Promise<unknown>>;

export type Readers = typeof readers;
export type ReaderName = keyof Readers;

/** What is asked of the thread that reads, and what it answers. */
export type ReadAsk = { reader: ReaderName; bytes: Uint8Array; more: number[] };
export type ReadAnswer = { ok: true; value: unknown } | { ok: false; why: string; known: boolean };

/** Reads as asked; what goes wrong is answered in words. */
export async function readAsked({ reader, bytes, more }: ReadAsk): Promise<ReadAnswer> {
  const read: (bytes: Uint8Array, ...more: number[]) => Promise<unknown> = readers[reader];
  try {
    return { ok: true, value: await read(bytes, ...more) };
  } catch (error) {
    const known = error instanceof Refusal || error instanceof RangeError;
    return { ok: false, why: error instanceof Error ? error.message : String(error), known };
  }
}
