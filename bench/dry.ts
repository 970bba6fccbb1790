import { PLAIN_RUB } from "../src/engine/dry/dry.testing";
import { DRY_BYTES, writeLaying } from "../src/engine/dry/laying";
import { type Engine } from "../src/engine/engine";
import { findBrush } from "../src/engine/media";
import { headerSchema } from "../src/engine/picture/header";
import { dryOf } from "../src/engine/stroke/brush";
import { Marks } from "../src/engine/stroke/marks";
import { CONTACT_BYTES, TILE_BYTES, TILE_SIDE } from "../src/engine/tiles/layout";
import { TAPE } from "../src/engine/tiles/tape";
import { median, type Row } from "./measure";

/** What a pixel may take on one thread of a core at 2.5 GHz, ns: swept over by a tip, and laid. */
const SWEEP = 3.6;
const LAY = 9.4;
/** Half as much again at most. */
const WANTED = 1 / 1.5;
const TILES = 256;
const PIXELS = TILE_SIDE * TILE_SIDE;

/** A broad tip that goes over all of a tile at once. */
const BROAD = { ...PLAIN_RUB, fromY: 32, toX: 64, toY: 32, long: 90, short: 90, pressure: 0.4 };

/** A dry tip over the pixels of a tile, and what it leaves laid on a layer: ns a pixel on one thread. */
export function dryRows(engine: Engine): Row[] {
  const { bench } = engine;
  const { store, workforce } = bench;
  const { heap } = store;
  const contact = dryOf(findBrush("pencil-2b") ?? { laying: { kind: "line" } });
  if (!contact) throw new Error("there is no pencil");
  const paper = bench.paper(
    engine.open(headerSchema.parse({ pampas: 1, width: 64, height: 64 })).picture,
  );
  const [swept, before, after, powder, dry] = [
    CONTACT_BYTES,
    TILE_BYTES,
    TILE_BYTES,
    TILE_BYTES,
    DRY_BYTES,
  ].map((bytes) => heap.allocate(bytes)) as [number, number, number, number, number];
  heap.u8.fill(0, before, before + TILE_BYTES);
  writeLaying(heap, dry, {
    ...{ contact, how: "lay", strength: 1, colour: [0.2, 0.2, 0.2], radius: 5 },
    ...{ roughness: 1, dissolves: 0, grit: bench.grit(contact.particle), place: 1 },
  });
  const marks = new Marks(heap, false, true);
  marks.rub(BROAD);
  const each = (write: () => void): number =>
    median(() => {
      for (let i = 0; i < TILES; i++) {
        if (workforce.isFull) workforce.run(false);
        workforce.beginJob();
        write();
        workforce.endJob();
      }
      workforce.run(false);
    });
  const sweep = each(() => {
    workforce.write(TAPE.clear, swept, CONTACT_BYTES);
    workforce.write(TAPE.contact, swept, 0, 0, marks.address, 1, paper.address, paper.period);
  });
  const lay = each(() =>
    workforce.write(
      ...[TAPE.layContact, after, before, powder, before, swept, 0, dry],
      ...[paper.address, paper.period, 0, 0, 0, 0, 8, 64],
    ),
  );
  marks.free();
  heap.free(swept, CONTACT_BYTES);
  for (const address of [before, after, powder]) heap.free(address, TILE_BYTES);
  heap.free(dry, DRY_BYTES);
  const row = (what: string, ms: number, ns: number): Row => ({
    what: `${what}, a pixel, one thread`,
    reference: `${ns} ns, as the recipe took on a core at 2.5 GHz`,
    wanted: { least: WANTED },
    ratio: ns / ((ms * 1e6) / (TILES * PIXELS)),
    note: `${((ms * 1e6) / (TILES * PIXELS)).toFixed(1)} ns`,
  });
  return [row("a dry tip sweeps", sweep, SWEEP), row("its contact is laid", lay, LAY)];
}
