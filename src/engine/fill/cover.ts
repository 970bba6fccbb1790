import { type Applying } from "../command/command";
import { type Bits, type Regions } from "../region/regions";
import { hexToQ15 } from "../colour/srgb";
import { COLOUR, type Plane } from "../picture/picture";
import { Inside, isWhole } from "../select/inside";
import { TILE_BYTES, tileKey, WHOLE_TILE } from "../tiles/layout";
import { TAPE, THROUGH } from "../tiles/tape";

/** How a colour is laid: over what is there, behind it, only where something is, or as a hole. */
export type Through = keyof typeof THROUGH;

/**
 * Exchanges tiles of a layer for ones that are written by tape instructions, kept inside the
 * selection where there is one and off what stencils cover. Tiles that come out empty are taken away.
 */
export function rewriteTiles(
  { picture, bench, swap }: Applying,
  layer: string,
  keys: readonly number[],
  write: (key: number, address: number, before: number) => void,
  plane = COLOUR,
): void {
  const { store, workforce } = bench;
  const inside = new Inside(bench, picture, layer);
  const made = new Map<number, ReturnType<typeof store.create>>();
  for (const key of keys) {
    if (!inside.reaches(key)) continue;
    const known = picture.plane(layer, plane).get(key);
    const before = known ? store.address(known) : store.nothing;
    const tile = store.create();
    made.set(key, tile);
    if (workforce.isFull) workforce.run(true);
    workforce.beginJob();
    workforce.write(TAPE.copy, tile.address, before, TILE_BYTES);
    write(key, tile.address, before);
    inside.keep(key, tile.address, before);
    workforce.endJob();
  }
  workforce.run(true);
  for (const [key, tile] of made) {
    store.settle(tile);
    if (!store.isEmpty(tile)) swap(layer, key, tile, plane);
    else {
      store.release(tile);
      if (picture.plane(layer, plane).has(key)) swap(layer, key, null, plane);
    }
  }
  store.trim();
}

/** Keys of the tiles in which any bit is set. */
export function tilesWithBits(regions: Regions, bits: Bits): number[] {
  const { i32 } = regions.bench.store.heap;
  const { words, tileRows } = regions;
  const keys: number[] = [];
  for (let row = 0; row < tileRows; row++)
    for (let column = 0; column < words; column++) {
      let at = regions.at(bits, column, row) >> 2;
      let any = 0;
      for (let y = 0; y < 64; y++, at += words * 2)
        any |= (i32[at] as number) | (i32[at + 1] as number);
      if (any !== 0) keys.push(tileKey(column, row));
    }
  return keys;
}

/** Lays a colour through bits; as far as a mask lets it, where one is given that lies on them all. */
export function cover(
  applying: Applying,
  regions: Regions,
  bits: Bits,
  layer: string,
  colour: string,
  through: Through,
  mask?: Plane,
): void {
  const { store, workforce } = applying.bench;
  const [r, g, b] = hexToQ15(colour);
  rewriteTiles(applying, layer, tilesWithBits(regions, bits), (key, address, before) => {
    const at = regions.at(bits, key & 255, key >> 8);
    workforce.write(TAPE.layBits, address, at, regions.stride, THROUGH[through], r, g, b);
    const part = mask?.get(key);
    if (part && !isWhole(part))
      workforce.write(TAPE.keepInside, address, before, store.address(part), ...WHOLE_TILE);
  });
}
