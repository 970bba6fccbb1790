import sharp from "sharp";
import { type Engine } from "../src/engine/engine";
import { headerSchema } from "../src/engine/picture/header";
import { tilesIn } from "../src/engine/tiles/layout";
import { inTurnAsync, type Row } from "./measure";

const WIDTH = 6000;
const HEIGHT = 4500;
const TURN = (7 * Math.PI) / 180;
const SCALE = 1.1;

/** A full layer turned by 7° and scaled by 1.1, against the same with a raster library on one thread. */
export async function transformRow(engine: Engine): Promise<Row> {
  const { store } = engine;
  const work = engine.open(headerSchema.parse({ pampas: 1, width: WIDTH, height: HEIGHT }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  const box = { left: 0, top: 0, right: WIDTH, bottom: HEIGHT };
  tilesIn(box, WIDTH, HEIGHT).forEach((key, n) => {
    const tile = store.create();
    const at = store.address(tile) >> 1;
    const { u16 } = store.heap;
    for (let i = 0; i < 16384; i++) u16[at + i] = (i & 24) === 24 ? 32767 : ((i + n) * 37) & 32767;
    work.picture.plane("a").set(key, tile);
  });
  const c = Math.cos(TURN) * SCALE;
  const s = Math.sin(TURN) * SCALE;
  const [x, y] = [WIDTH / 2, HEIGHT / 2];
  const matrix = [c, -s, x - c * x + s * y, s, c, y - s * x - c * y, 0, 0, 1];
  const raw = Buffer.alloc(WIDTH * HEIGHT * 4, 127);
  const options = { raw: { width: WIDTH, height: HEIGHT, channels: 4 as const } };
  sharp.concurrency(1);
  const { ms, ratio } = await inTurnAsync(
    () => {
      work.apply({ do: "transform", layers: ["a"], warp: { kind: "matrix", matrix } });
      work.undo();
      return Promise.resolve();
    },
    async () => {
      await sharp(raw, options).affine([c, -s, s, c], { interpolator: "bicubic" }).raw().toBuffer();
    },
    5,
  );
  work.release();
  return {
    what: "transform of 6000 × 4500, 7°, 1.1 ×",
    reference: "sharp (peer), bicubic, one thread",
    wanted: { least: 0.7 },
    ratio,
    note: `${Math.round(ms)} ms at 15 bits, undone again each time`,
  };
}
