import { z } from "zod";
import { type Before, type Heading, type LinePoint, type Setter, type Station } from "./station";

export const strandsSchema = z.strictObject({
  kind: z.literal("strands"),
  strands: z.int().min(1).max(96),
  /** Of one strand, as a share of the size. */
  width: z.number().min(0.002).max(1),
  /** How much wider they spread at full speed: 1 is twice as wide. */
  opens: z.number().min(0).max(4),
  /** Sway across, as a share of the radius, and how often in ten sizes. */
  wave: z.number().min(0).max(1),
  waves: z.number().min(0).max(40),
  /** 0 evenly side by side … 1 drawn together in locks. */
  clump: z.number().min(0).max(1),
  /** Share of the way that strands leave bare; less where the pen presses. */
  breaks: z.number().min(0).max(1),
});

export type Strands = z.infer<typeof strandsSchema>;

const A_LOCK = 5;
/** Numbers kept for a strand: x, y, r, the heading there (x, y), and whether it has begun. */
const KEPT = 6;
/** How far strands are from standing side by side in order: 0 as teeth of a comb … 1 anywhere. */
const LOOSE = 0.45;
/** Sizes over which a strand's breaks come and go. */
const BREAK_LENGTH = 0.7;
/** Counters for what stays the same along the stroke. */
const FIXED = 0x7f000000;

/** A turn sharper than this between two stations is gone round on the spot, radians. */
const SHARP = 0.6;
/** How far the tuft turns at a time where it does so. */
const A_TURN = 0.3;
const MOST_TURNS = Math.ceil(Math.PI / A_TURN);

export const strandsMost = ({ strands }: Strands): number => strands * (MOST_TURNS + 1);
export const strandsMemory = ({ strands }: Strands): number => strands * KEPT;

/** Smooth chance along a strand: 0…1, new every `BREAK_LENGTH` sizes. */
function alongStrand(station: Station, strand: number, sizes: number): number {
  const at = sizes / BREAK_LENGTH;
  const i = Math.floor(at);
  const t = at - i;
  const s = t * t * (3 - 2 * t);
  const a = station.chance.at(FIXED + 4096 + strand * 8192 + i);
  const b = station.chance.at(FIXED + 4096 + strand * 8192 + i + 1);
  return a + (b - a) * s;
}

/** Where strand i lies across, −1…1. */
function across({ strands, clump }: Strands, { chance }: Station, i: number): number {
  const even = (i + chance.at(FIXED + i)) / strands;
  const own = (even + (chance.at(FIXED + 1024 + i) - even) * LOOSE) * 2 - 1;
  const lock = Math.floor(i / A_LOCK);
  const middle = (((lock + 0.5) * A_LOCK) / strands) * 2 - 1;
  return own + (Math.min(1, middle) - own) * clump;
}

/**
 * Headings on the way round a sharp turn, none where it is not sharp; `side` is 1 where it goes
 * clockwise on the screen. A tuft turns about its middle there, so that each strand goes round
 * in an arc of its own instead of cutting the corner.
 */
export function turnsBetween(
  from: Heading,
  to: Heading,
): { headings: Heading[]; side: 1 | -1 } | null {
  if ((from.x === 0 && from.y === 0) || (to.x === 0 && to.y === 0)) return null;
  const angle = Math.atan2(from.x * to.y - from.y * to.x, from.x * to.x + from.y * to.y);
  if (Math.abs(angle) < SHARP) return null;
  const steps = Math.ceil(Math.abs(angle) / A_TURN);
  const headings = Array.from({ length: steps }, (_, i) => {
    const turn = (angle * (i + 1)) / steps;
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    return { x: from.x * cos - from.y * sin, y: from.x * sin + from.y * cos };
  });
  return { headings, side: angle > 0 ? 1 : -1 };
}

/**
 * Strands that run with the stroke, each its own line. `kept` holds where each one stood.
 * @param pressure closes breaks
 * @param sizes length of the stroke so far, in sizes
 * @param turning where the tuft turns on the spot: 1 clockwise on the screen, −1 the other way; else 0
 * @param roots where given, strands carry the colour that lay where they began (Blend)
 */
export function strands(
  laying: Strands,
  station: Station,
  pressure: number,
  sizes: number,
  kept: Float64Array,
  set: Setter,
  turning: 1 | -1 | 0,
  roots: ((strand: number, x: number, y: number) => ReturnType<Before>) | null,
): void {
  const { heading, chance, radius } = station;
  if (heading.x === 0 && heading.y === 0) return;
  const spread = radius * (1 + laying.opens * station.speed);
  for (let i = 0; i < laying.strands; i++) {
    const phase = chance.at(FIXED + 2048 + i);
    const sway = laying.wave * Math.sin(2 * Math.PI * ((sizes * laying.waves) / 10 + phase));
    const off = (across(laying, station, i) + sway) * spread;
    const x = station.x - heading.y * off;
    const y = station.y + heading.x * off;
    const bare = laying.breaks * (1.25 - pressure);
    const there = Math.min(1, Math.max(0, (alongStrand(station, i, sizes) - bare) * 6 + 0.5));
    const r = laying.width * radius * (0.35 + 1.3 * phase) * there;
    const at = i * KEPT;
    const began = kept[at + 5] === 1;
    // On the inside of a bend that is too tight for it a strand would run back: it waits there.
    if (
      began &&
      turning === 0 &&
      (x - (kept[at] as number)) * heading.x + (y - (kept[at + 1] as number)) * heading.y < 0
    )
      continue;
    // A piece begins square to the heading that the piece before ended with: so their ends are one
    // and the same line, and no pixel is left bare or laid twice.
    const [wasX, wasY] = [kept[at + 3] as number, kept[at + 4] as number];
    // Turning, strands on one side go forward and those on the other back.
    const way = turning === 0 ? 1 : off * turning > 0 ? -1 : 1;
    const [tx, ty] = [heading.x * way, heading.y * way];
    // One that turns back begins anew.
    const isBack = wasX * tx + wasY * ty < 0;
    const from: LinePoint = {
      x: kept[at] as number,
      y: kept[at + 1] as number,
      r: kept[at + 2] as number,
      tx: isBack ? tx : wasX,
      ty: isBack ? ty : wasY,
    };
    kept[at] = x;
    kept[at + 1] = y;
    kept[at + 2] = r;
    kept[at + 3] = tx;
    kept[at + 4] = ty;
    kept[at + 5] = 1;
    if (!began || (r <= 0.02 && from.r <= 0.02)) continue;
    if (roots) {
      // A stroke begins narrow: roots lie where its full width would have them.
      const root = (off * station.full) / Math.max(0.01, radius);
      const colour = roots(i, station.x - heading.y * root, station.y + heading.x * root);
      if (colour[3] < 0.02) continue;
      set.dip(colour);
    } else set.shadeAgain(FIXED + 3072 + i);
    set.piece(from, { x, y, r, tx, ty }, 1 - 0.3 * phase);
  }
  set.dip(null);
}
