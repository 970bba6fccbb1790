import { type Engine } from "../src/engine/engine";
import { headerSchema } from "../src/engine/picture/header";
import { layPieces } from "../src/engine/strew/lay";
import { piecesOf } from "../src/engine/strew/heap-of-pieces";
import { madeSets } from "../src/engine/strew/sets";
import { type Sample } from "../src/engine/stroke/sample";
import { inTurn, type Row } from "./measure";

const [WIDTH, HEIGHT] = [3000, 2000];
const PIECES = 5000;

/** One of many strewn leaves moves; beside that all of them are laid once. */
export function strewRow(engine: Engine): Row {
  const work = engine.open(headerSchema.parse({ pampas: 1, width: WIDTH, height: HEIGHT }));
  const layer = "s";
  work.apply({ do: "layer.add", id: layer, name: "Leaves", above: null, kind: "strewn" });
  const manner = { ...madeSets[0]!.manner, gap: 0.5, spread: 3 };
  for (let row = 0; piecesOf(engine.store, work.picture, layer).pieces.length < PIECES; row++) {
    const y = 60 + (row % 20) * 95;
    const samples: Sample[] = [0, 1].map((u) => [u * 400, 40 + u * 2900, y, 0.6, 1.5, 0, 0]);
    const stroke = { do: "stroke", layer, brush: "pen-even", size: 40, seed: row, samples };
    work.apply({ ...stroke, strew: { ...manner, set: 0 } });
  }
  const { pieces } = piecesOf(engine.store, work.picture, layer);
  const keys = new Set(work.picture.plane(layer).keys());
  let side = 1;
  const move = (): void => {
    const matrix = [1, 0, 25 * (side = -side), 0, 1, 0, 0, 0, 1];
    const id = pieces[2500]?.id;
    work.apply({ do: "strew.move", layer, pieces: [id], warp: { kind: "matrix", matrix } });
  };
  const layAll = (): void => {
    const laid = layPieces(engine.bench, work.picture, layer, keys, pieces, "nothing");
    for (const { after } of laid) engine.store.release(after);
  };
  const { ms, ratio } = inTurn(move, layAll, 9);
  work.release();
  return {
    what: `one of ${pieces.length} strewn pieces moves, 3000 × 2000`,
    reference: "laying all of them once",
    wanted: { most: 0.02 },
    ratio: 1 / ratio,
    note: `${ms.toFixed(1)} ms`,
  };
}
