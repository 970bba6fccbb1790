import { type Contact } from "./material";
import { type Heap } from "../tiles/heap";

/** How a stroke's contact is laid; numbers in the order in which `kernels/dry.ts` reads them. */
const WORDS = 35;
export const DRY_BYTES = WORDS * 4;

const HOW = { lay: 0, lift: 1, inside: 2 } as const;

/** A sheet that is wholly smooth takes this of a contact everywhere. */
const SMOOTH = 0.62;

export type DryLaying = {
  contact: Contact;
  how: keyof typeof HOW;
  /** 0…1 */
  strength: number;
  /** Straight colour, 0…1. */
  colour: readonly [number, number, number];
  /** Radius of the tip where it lies, px at 300 ppi: a point follows the tooth, a side rides over it. */
  radius: number;
  roughness: number;
  /** Share of what is laid that water takes up again. */
  dissolves: number;
  /** Address of the particles' noise, and a number by chance: where in it the stroke begins. */
  grit: number;
  place: number;
};

/** How much of the broad tooth a tip of this radius follows. */
const follows = (radius: number): number => 0.3 + (0.85 * radius) / (radius + 4);

/** Writes a stroke's laying into memory. */
export function writeLaying(heap: Heap, address: number, laying: DryLaying): void {
  const { contact, roughness, strength, colour } = laying;
  const { f32, i32 } = heap;
  const at = address >> 2;
  f32.fill(0, at, at + WORDS);
  f32[at] = contact.tooth * follows(laying.radius);
  f32[at + 1] = contact.fineTooth;
  f32[at + 2] = contact.fills;
  f32[at + 3] = contact.foot;
  f32[at + 4] = contact.soft * contact.soft;
  f32[at + 5] = 1 / (1 - contact.foot);
  f32[at + 6] = 0.9 * (1 + contact.steep);
  f32[at + 7] = 2 - contact.steep;
  f32[at + 8] = contact.steep - 1;
  const rough = Math.min(1, roughness);
  f32[at + 9] = rough;
  f32[at + 10] = SMOOTH * (1 - rough);
  f32[at + 11] = contact.valley;
  f32[at + 12] = contact.gives.base * (0.6 + 0.4 * rough);
  f32[at + 13] = contact.dust;
  f32[at + 14] = contact.press;
  f32[at + 15] = 0.8 * (1 - contact.wax);
  f32[at + 16] = contact.grit;
  f32[at + 18] = contact.most;
  f32[at + 19] = contact.covers;
  f32[at + 20] = contact.clear;
  f32[at + 21] = contact.loose;
  f32[at + 22] = contact.wax;
  f32[at + 23] = contact.relief;
  f32[at + 24] = contact.crumbs;
  f32[at + 25] = contact.shine;
  f32[at + 26] = strength;
  colour.forEach((v, c) => {
    f32[at + 27 + c] = v;
  });
  i32[at + 30] = HOW[laying.how];
  i32[at + 31] = laying.grit;
  i32[at + 32] = ((laying.place & 255) << 16) | ((laying.place >>> 8) & 255);
  f32[at + 33] = contact.pulls.base * strength;
  f32[at + 34] = laying.dissolves;
}
