import { z } from "zod";
import { type Before, type LinePoint, type Setter, type Station } from "./station";

export const hairsSchema = z.strictObject({
  kind: z.literal("hairs"),
  /** Hairs at each place. */
  hairs: z.int().min(1).max(48),
  /** Radius of the patch of roots, in radii of the brush. */
  spread: z.number().min(0).max(4),
  /** In sizes of the brush. */
  length: z.number().min(0.1).max(20),
  /** At the root, as a share of the size. */
  width: z.number().min(0.002).max(1),
  /** Where they lie: as the pen leans, along the stroke, out from the middle. */
  lean: z.enum(["tilt", "stroke", "outward"]),
  /** Turns by which hairs differ. */
  fan: z.number().min(0).max(0.5),
  /** Turns through which a hair bends from root to end. */
  curl: z.number().min(-2).max(2),
  /** Sway across, as a share of the length, and how often. */
  wave: z.number().min(0).max(1),
  waves: z.number().min(0).max(12),
  /** 0 each for itself … 1 ends drawn together in locks. */
  clump: z.number().min(0).max(1),
});

export type Hairs = z.infer<typeof hairsSchema>;

const STRAIGHT_PIECES = 6;
const MOST_PIECES = 18;
const A_LOCK = 6;
const DRAWS = 8;
/** Width at the root, as a share of the greatest: as it comes out of the skin. */
const ROOT = 0.12;
/** A hair's own share of unevenness in length, curl and strength. */
const UNEVEN = 0.35;

const piecesOf = ({ waves, curl }: Hairs): number =>
  Math.min(MOST_PIECES, STRAIGHT_PIECES + Math.ceil(waves * 3 + Math.abs(curl) * 6));

export const hairsMost = (hairs: Hairs): number => hairs.hairs * piecesOf(hairs);

/** Direction in which the hairs of a station lie, radians. */
function lie({ lean }: Hairs, { point, heading }: Station): number {
  if (lean === "tilt") return point.azimuth + Math.PI;
  return Math.atan2(heading.y, heading.x);
}

/**
 * A tuft: hairs from roots in a disc, each bending and swaying on its way, thin at its end.
 * @param roots where given, each hair takes the colour that lay at its root (Blend)
 */
export function hairs(laying: Hairs, station: Station, set: Setter, roots: Before | null): void {
  const { chance, draw, radius } = station;
  const size = radius * 2;
  const base = lie(laying, station);
  const count = piecesOf(laying);
  for (let i = 0; i < laying.hairs; i++) {
    const own = draw + 16 + i * DRAWS;
    const turn = chance.at(own) * 2 * Math.PI;
    const far = Math.sqrt(chance.at(own + 1)) * laying.spread * radius;
    const root = { x: station.x + Math.cos(turn) * far, y: station.y + Math.sin(turn) * far };
    const from = laying.lean === "outward" ? turn : base;
    const lock = draw + 900 + Math.floor(i / A_LOCK);
    const apart = (chance.at(own + 2) - 0.5) * 2;
    const together = (chance.at(lock) - 0.5) * 2;
    const fan = laying.fan * 2 * Math.PI;
    const angle = from + fan * (together * laying.clump + apart * (1 - laying.clump));
    const uneven = 1 + UNEVEN * 2 * (chance.at(own + 3) - 0.5);
    const flow = 1 - UNEVEN * chance.at(own + 5);
    if (roots) {
      const colour = roots(root.x, root.y);
      if (colour[3] < 0.02) continue;
      set.dip(colour);
    } else set.shade(own + 6);
    hair(laying, root, angle, size * uneven, count, chance.at(own + 4), flow, set);
  }
  set.dip(null);
}

function hair(
  { length, width, curl, wave, waves }: Hairs,
  root: { x: number; y: number },
  angle: number,
  size: number,
  count: number,
  phase: number,
  flow: number,
  set: Setter,
): void {
  const step = (length * size) / count;
  const bend = (curl * 2 * Math.PI) / count;
  const sway = (t: number): number =>
    wave === 0 ? 0 : wave * length * size * 0.12 * t * Math.sin((waves * t + phase) * 2 * Math.PI);
  let { x, y } = root;
  let a = angle + (bend * (phase - 0.5)) / 2;
  let last: LinePoint | null = null;
  for (let i = 0; i <= count; i++) {
    const t = i / count;
    const off = sway(t);
    const px = x - Math.sin(a) * off;
    const py = y + Math.cos(a) * off;
    // A hair grows out of its root and thins to nothing.
    const r = ((width * size) / 2) * Math.min(1, ROOT + t * 4.5) * (1 - t) ** 0.75;
    const dx = last ? px - last.x : Math.cos(a);
    const dy = last ? py - last.y : Math.sin(a);
    const d = Math.sqrt(dx * dx + dy * dy) || 1;
    const here: LinePoint = { x: px, y: py, r, tx: dx / d, ty: dy / d };
    if (last) set.piece(last, here, flow);
    last = here;
    a += bend;
    x += Math.cos(a) * step;
    y += Math.sin(a) * step;
  }
}
