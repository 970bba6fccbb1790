import { z } from "zod";
import { fromBase64 } from "../file/base64";
import { readPng } from "../file/png";
import { Refusal } from "../picture/refusal";

/**
 * Papers as height fields: 512 × 512, tileable, histogram-equalised (every height equally
 * common, mean ½), made by filtering white noise. Only sums, products and comparisons are
 * used, so every machine makes the same paper.
 */
export const PAPER_SIDE = 512;

export const paperKinds = {
  "cold-pressed": "Cold-pressed",
  "hot-pressed": "Hot-pressed",
  laid: "Laid",
  sugar: "Sugar paper",
} as const;

export type PaperKind = keyof typeof paperKinds;

/** Most that a paper's own picture may weigh in a log, as base64. */
const MOST_BASE64 = 4_000_000;

export const paperSchema = z
  .strictObject({
    kind: z.enum([...(Object.keys(paperKinds) as PaperKind[]), "picture"]),
    /** Size of the grain; 1 is the natural one at 300 ppi. */
    scale: z.number().min(0.25).max(16).default(1),
    /** For the kind “picture”: 512 × 512 px, the lighter the higher, as PNG in base64. */
    picture: z.base64().max(MOST_BASE64).optional(),
  })
  .refine(({ kind, picture }) => (kind === "picture") === (picture !== undefined), {
    message: "a paper made from a picture has one, and no other has",
    path: ["picture"],
  });

export type Paper = z.infer<typeof paperSchema>;

/** What a paper is called. */
export const paperName = ({ kind }: Paper): string =>
  kind === "picture" ? "From a picture" : paperKinds[kind];

const CELLS = PAPER_SIDE * PAPER_SIDE;
const wrap = (v: number): number => (v + PAPER_SIDE) & (PAPER_SIDE - 1);

/** White noise 0…1 from a small linear generator. */
function whiteNoise(seed: number): Float32Array {
  let state = seed >>> 0;
  const field = new Float32Array(CELLS);
  for (let i = 0; i < CELLS; i++) {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    let x = state ^ (state >>> 15);
    x = Math.imul(x, 0x2c1b3c6d);
    field[i] = ((x ^ (x >>> 12)) >>> 0) / 4294967296;
  }
  return field;
}

/** Three box blurs of these radii (near a Gaussian), wrapped; then unit variance, mean 0. */
function blurred(seed: number, radiusX: number, radiusY: number): Float32Array {
  let field = whiteNoise(seed);
  for (let pass = 0; pass < 3; pass++) {
    field = boxRow(field, radiusX, 1, PAPER_SIDE);
    field = boxRow(field, radiusY, PAPER_SIDE, 1);
  }
  return normalised(field);
}

/** Running mean of 2r + 1 cells along `step`; lines begin `line` apart. */
function boxRow(field: Float32Array, r: number, step: number, line: number): Float32Array {
  if (r === 0) return field;
  const out = new Float32Array(CELLS);
  const width = 2 * r + 1;
  for (let l = 0; l < PAPER_SIDE; l++) {
    const start = l * line;
    let sum = 0;
    for (let i = -r; i <= r; i++) sum += field[start + wrap(i) * step] as number;
    for (let i = 0; i < PAPER_SIDE; i++) {
      out[start + i * step] = sum / width;
      const coming = field[start + wrap(i + r + 1) * step] as number;
      sum += coming - (field[start + wrap(i - r) * step] as number);
    }
  }
  return out;
}

function normalised(field: Float32Array): Float32Array {
  let mean = 0;
  for (let i = 0; i < CELLS; i++) mean += field[i] as number;
  mean /= CELLS;
  let variance = 0;
  for (let i = 0; i < CELLS; i++) variance += ((field[i] as number) - mean) ** 2;
  const scale = 1 / Math.sqrt(variance / CELLS);
  for (let i = 0; i < CELLS; i++) field[i] = ((field[i] as number) - mean) * scale;
  return field;
}

/** Felt-marked: small bumps on a gently uneven sheet, with fibre between them. */
function coldPressed(): Float32Array {
  const bumps = blurred(11, 1, 1);
  const broad = blurred(12, 3, 3);
  const fibre = blurred(14, 0, 0);
  return bumps.map((v, i) => v * 0.75 + (broad[i] as number) * 0.4 + (fibre[i] as number) * 0.42);
}

/** Pressed between hot plates: a fine, shallow grain. */
function hotPressed(): Float32Array {
  const fine = blurred(21, 1, 1);
  const soft = blurred(22, 3, 3);
  const fibre = blurred(23, 0, 0);
  return fine.map((v, i) => v * 0.6 + (soft[i] as number) * 0.25 + (fibre[i] as number) * 0.6);
}

/** Wires of the mould close together one way, chains far apart the other. */
function laid(): Float32Array {
  const fibre = blurred(31, 2, 1);
  const waver = blurred(32, 24, 24);
  return fibre.map((v, i) => {
    const x = i & (PAPER_SIDE - 1);
    const y = i >> 9;
    const wire = triangle(y / 8 + (waver[i] as number) * 0.06);
    const chain = Math.max(0, 1 - Math.abs(((x + (waver[i] as number) * 1.5) % 128) - 64) / 3);
    return v * 0.9 + wire * 1.1 - chain * 1.1;
  });
}

/** Coarse pulp: short fibres lying every way. */
function sugar(): Float32Array {
  const along = blurred(41, 7, 1);
  const across = blurred(42, 1, 7);
  const pulp = blurred(43, 2, 2);
  return along.map((v, i) => Math.max(v, across[i] as number) + (pulp[i] as number) * 1.1);
}

const triangle = (t: number): number => 2 * Math.abs((((t % 1) + 1) % 1) * 2 - 1) - 1;

const makers: Record<PaperKind, () => Float32Array> = {
  "cold-pressed": coldPressed,
  "hot-pressed": hotPressed,
  laid,
  sugar,
};

/**
 * Replaces every height by its rank. A height's bits, made to grow with it, and its cell go
 * into one whole number below 2⁵³, so that the numbers sort without a comparing function.
 */
function equalised(field: Float32Array): Uint16Array {
  const bits = new Uint32Array(field.map((v) => v + 0).buffer);
  const keys = new Float64Array(CELLS);
  for (let cell = 0; cell < CELLS; cell++) {
    const own = bits[cell] as number;
    const growing = own >>> 31 ? ~own >>> 0 : own + 0x80000000;
    keys[cell] = growing * CELLS + cell;
  }
  keys.sort();
  const heights = new Uint16Array(CELLS);
  for (let rank = 0; rank < CELLS; rank++)
    heights[(keys[rank] as number) % CELLS] = (rank * 65535) / (CELLS - 1);
  return heights;
}

const made = new Map<string, Uint16Array>();
/** Papers from pictures that are kept made. */
const MOST_PICTURES = 6;

/** The heights 0…65535 of a paper, row by row. */
export function paperHeights(kind: PaperKind): Uint16Array {
  const known = made.get(kind);
  if (known) return known;
  const heights = equalised(makers[kind]());
  made.set(kind, heights);
  return heights;
}

/**
 * The heights of any paper.
 * @throws Refusal where its picture cannot be read, or is not 512 × 512 px
 */
export function heightsOf(paper: Paper): Uint16Array {
  if (paper.kind !== "picture") return paperHeights(paper.kind);
  const name = paper.picture ?? "";
  const known = made.get(name);
  if (known) return known;
  const { width, height, data } = readPng(fromBase64(name));
  if (width !== PAPER_SIDE || height !== PAPER_SIDE)
    throw new Refusal(
      `a paper's picture is ${PAPER_SIDE} × ${PAPER_SIDE} px, not ${width} × ${height}`,
    );
  const field = new Float32Array(CELLS);
  for (let i = 0; i < CELLS; i++) field[i] = data[i * 4] as number;
  const heights = equalised(field);
  const pictures = [...made.keys()].filter((key) => !(key in paperKinds));
  if (pictures.length >= MOST_PICTURES) made.delete(pictures[0] as string);
  made.set(name, heights);
  return heights;
}

/** A paper at its scale, as the kernels read it: `period` rows of `period + 16` heights. */
export function grainMap(paper: Paper): { period: number; heights: Uint16Array } {
  const source = heightsOf(paper);
  const period = Math.max(64, Math.round((PAPER_SIDE * paper.scale) / 64) * 64);
  const heights = new Uint16Array(period * (period + 16));
  const rows = between(0, period, PAPER_SIDE / period);
  const columns = between(-8, period + 8, PAPER_SIDE / period);
  for (let y = 0, at = 0; y < rows.low.length; y++) {
    const upper = (rows.low[y] as number) * PAPER_SIDE;
    const lower = (rows.high[y] as number) * PAPER_SIDE;
    const fy = rows.part[y] as number;
    for (let x = 0; x < columns.low.length; x++, at++) {
      const left = columns.low[x] as number;
      const right = columns.high[x] as number;
      const fx = columns.part[x] as number;
      const topLeft = source[upper + left] as number;
      const bottomLeft = source[lower + left] as number;
      const top = topLeft + ((source[upper + right] as number) - topLeft) * fx;
      const bottom = bottomLeft + ((source[lower + right] as number) - bottomLeft) * fx;
      heights[at] = top + (bottom - top) * fy;
    }
  }
  return { period, heights };
}

/** For each place from `first` to below `end`, the two cells around it and how far between. */
function between(
  first: number,
  end: number,
  step: number,
): { low: Uint16Array; high: Uint16Array; part: Float64Array } {
  const count = end - first;
  const low = new Uint16Array(count);
  const high = new Uint16Array(count);
  const part = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const at = (first + i) * step;
    const cell = Math.floor(at);
    low[i] = wrap(cell);
    high[i] = wrap(cell + 1);
    part[i] = at - cell;
  }
  return { low, high, part };
}
