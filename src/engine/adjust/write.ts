import { Chance } from "../stroke/chance";
import { TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { tableAddress } from "../tiles/tables";
import { realWord, TAPE } from "../tiles/tape";
import { type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { type Adjustment, type Tone, toneTable } from "./adjustment";

/** How each tone that was met looks colours up; its numbers are in memory. */
const lookups = new WeakMap<Tone, { by: number; name: string }>();

/** Writes the instruction that changes a tile's colours by a tone. */
export function writeTone(
  { heap }: TileStore,
  workforce: Workforce,
  tone: Tone,
  into: number,
  from: number,
): void {
  let known = lookups.get(tone);
  if (!known) {
    const { by, numbers } = toneTable(tone);
    lookups.set(tone, (known = { by, name: `tone ${JSON.stringify(tone)}` }));
    tableAddress(heap, known.name, () => numbers);
  }
  const table = tableAddress(heap, known.name, () => toneTable(tone).numbers);
  workforce.write(TAPE.adjust, into, from, known.by, table);
}

type Of<K extends Adjustment["kind"]> = Extract<Adjustment, { kind: K }>;

/** Writes the instruction that puts noise into a tile's colours, by chance of the place alone. */
export function writeNoise(
  workforce: Workforce,
  { amount, grey, seed }: Of<"noise">,
  key: number,
  into: number,
  from: number,
): void {
  const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
  const chance = new Chance(seed).key;
  workforce.write(TAPE.noise, into, from, left, top, realWord(amount), grey ? 1 : 0, chance);
}

/** Writes the instruction that sharpens a tile by what its blurred one lacks of it. */
export function writeSharper(
  workforce: Workforce,
  { amount }: Of<"sharpen">,
  into: number,
  from: number,
  soft: number,
): void {
  workforce.write(TAPE.sharpen, into, from, soft, realWord(amount));
}
