import { INSTRUCTIONS, type Instruction, wordsOf } from "./instructions";

const names = Object.keys(INSTRUCTIONS) as Instruction[];

/** The numbers of the instructions by name: a tape is the list of what is to be done for one tile. */
export const TAPE = Object.fromEntries(names.map((name, i) => [name, i + 1])) as Readonly<
  Record<Instruction, number>
>;

const operandCounts = [0, ...names.map(wordsOf)];

/** @throws RangeError where this is no instruction, or not all of one */
export function checkInstruction(words: readonly number[]): void {
  const [code = 0] = words;
  const takes = operandCounts[code];
  if (takes === words.length - 1 && code > 0) return;
  const name = names[code - 1];
  if (!name)
    throw new RangeError(`there are instructions 1 to ${names.length}, and none is ${code}`);
  throw new RangeError(
    `“${name}” takes ${takes} numbers (${INSTRUCTIONS[name]}), and ${words.length - 1} were given`,
  );
}

/** How coverage is laid on a layer: see `kernels/lay.ts`. */
export const LAY = { paint: 0, lift: 1, paintInside: 2 } as const;

/** How an overtip changes the first tip: see `kernels/paint.ts`. */
export const OVERTIP = { multiply: 0, dodge: 1, subtract: 2, darken: 3 } as const;

/** How a colour is laid through bits, and how bit pictures are joined: see `kernels/region.ts`. */
export const THROUGH = { cover: 0, behind: 1, take: 2, inside: 3 } as const;
export const JOIN = { and: 0, or: 1, andNot: 2, either: 3 } as const;

/** Bytes of the region that a thread has for resampling: 192 × 192 px. */
export const REGION_SIDE = 192;
export const REGION_BYTES = REGION_SIDE * REGION_SIDE * 8;

/** Bytes of the samples that a thread has for scenes: 204 × 204, each with a mark. */
export const SAMPLES_BYTES = 368 * 1024;

/** A number as a tape holds it: the bits of an f32. */
export const realWord = (v: number): number =>
  new Int32Array(Float32Array.of(v).buffer)[0] as number;
