import { z } from "zod";
import { type Work } from "../engine/command/work";
import { type Engine } from "../engine/engine";
import { firstFault, Refusal } from "../engine/picture/refusal";
import { capture, encode } from "./captured";
import { plainStructure } from "./plain-structure";
import { structureRecord } from "./records";
import {
  lineAndBytes,
  listedTile,
  listTile,
  openLineAndBytes,
  type StoredTile,
  takeTiles,
} from "./tile-list";

/**
 * A picture painted beforehand, as one file (`tile-list.ts`). It holds the checkpoint that belongs to the
 * whole of a log, so that a sample is on the shelf without being painted again.
 */
const FORMAT = 1;
const MOST_TILES = 2_000_000;
const MOST_THUMBNAIL = 1 << 20;
const WHAT = "painted picture";

const headline = z.strictObject({
  painted: z.literal(FORMAT),
  /** Commands of the log that it is the state after. */
  place: z.int().min(0),
  structure: structureRecord,
  /** Bytes of the thumbnail, a PNG. */
  thumbnail: z.int().min(1).max(MOST_THUMBNAIL),
  tiles: z.array(listedTile).max(MOST_TILES),
});

export type Painted = {
  place: number;
  structure: z.infer<typeof structureRecord>;
  thumbnail: Uint8Array;
  tiles: readonly StoredTile[];
};

/** The file of a painted log. @param thumbnail a PNG of the whole picture */
export async function writePainted(
  engine: Engine,
  work: Work,
  thumbnail: Uint8Array,
): Promise<Uint8Array> {
  const { picture, place } = work;
  const planes = [...picture.planes.keys()].flatMap((layer) =>
    picture
      .planesOf(layer)
      .map(([plane, tiles]) => ({ layer, plane, keys: [...tiles.keys()].sort((a, b) => a - b) })),
  );
  const encoded = await encode(engine.store, capture(engine.store, picture, planes), () =>
    Promise.resolve(),
  );
  const parts: Uint8Array[] = [thumbnail];
  const tiles = encoded.flatMap(({ record, ...tile }) =>
    record ? [listTile({ ...tile, record }, parts)] : [],
  );
  const structure = plainStructure(picture.structure);
  return lineAndBytes(
    { painted: FORMAT, place, structure, thumbnail: thumbnail.length, tiles },
    parts,
  );
}

/**
 * Reads a painted picture.
 * @throws Refusal where it is not one, or is cut off
 */
export function readPainted(file: Uint8Array): Painted {
  const { line, take } = openLineAndBytes(file, WHAT);
  const parsed = headline.safeParse(line);
  if (!parsed.success) throw new Refusal(`this ${WHAT}: ${firstFault(parsed.error)}`);
  const { place, structure, thumbnail, tiles } = parsed.data;
  return { place, structure, thumbnail: take(thumbnail), tiles: takeTiles(tiles, take) };
}
