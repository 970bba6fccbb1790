import { tableAddress } from "../tiles/tables";
import { TAPE } from "../tiles/tape";
import { type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { type Tone, toneTable } from "./adjustment";

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
