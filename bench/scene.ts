import sharp from "sharp";
import { type Engine } from "../src/engine/engine";
import { writePicturePng } from "../src/engine/file/render";
import { headerSchema } from "../src/engine/picture/header";
import { paintScene } from "../src/engine/scene/passes";
import { previewOf } from "../src/engine/scene/preview";
import { newScene, passKinds, type Scene } from "../src/engine/scene/scene";
import { type Solid, solidSchema } from "../src/engine/scene/solid";
import { addHelpers } from "../src/node/helpers";
import { inTurnAsync, median, type Row } from "./measure";

const [WIDTH, HEIGHT] = [3000, 2000];
const KINDS = ["box", "ball", "cylinder", "cone", "wedge"] as const;

/** Two hundred solids in ten rows, of all kinds and heights. */
function yard(): Scene {
  const solids = Array.from({ length: 200 }, (_, i): Solid =>
    solidSchema.parse({
      ...{ id: `s${i}`, name: "Solid", kind: KINDS[i % 5], colour: "#a08060" },
      at: [(i % 20) * 0.9 - 9, 0, 3 - Math.floor(i / 20) * 1.4],
      turn: [0, Math.sin(i), 0, Math.cos(i)],
      size: [0.6, 0.5 + (i % 7) * 0.2, 0.6],
    }),
  );
  const scene = newScene(WIDTH, HEIGHT);
  return { ...scene, solids, camera: { ...scene.camera, at: [0, 3, 9] } };
}

/** All pictures of a scene, and their decoding as PNGs by a codec. */
async function passesRow(engine: Engine): Promise<Row> {
  const scene = yard();
  const options = { width: WIDTH, height: HEIGHT, lineWidth: 2, ink: "#000000" };
  const paint = (): void => {
    const made = paintScene(engine.store, engine.workforce, scene, {
      ...options,
      passes: passKinds,
      tell: () => undefined,
    });
    for (const tiles of made.values())
      for (const tile of tiles.values()) engine.store.release(tile);
  };
  const work = engine.open(headerSchema.parse({ pampas: 1, width: WIDTH, height: HEIGHT }));
  work.apply({ do: "scene.put", solids: scene.solids.map((solid) => ({ ...solid })) });
  work.apply({ do: "scene.set", camera: scene.camera });
  const pngs = passKinds.map((pass) => {
    work.apply({ do: "scene.paint", passes: [{ pass, layer: pass }], above: null });
    const png = writePicturePng(engine, work, { depth: 8, ground: false });
    work.undo();
    return png;
  });
  work.release();
  const { ms, ratio } = await inTurnAsync(
    async () => paint(),
    async () => {
      for (const png of pngs) await sharp(png).raw().toBuffer();
    },
    5,
  );
  return {
    what: "200 solids to five pictures, 3000 × 2000",
    reference: "decoding them as PNGs by sharp",
    wanted: { most: 8 },
    ratio: 1 / ratio,
    note: `${Math.round(ms)} ms`,
  };
}

/** A frame of the scene while a solid moves: all is drawn anew. */
function previewRow(engine: Engine): Row {
  const scene = yard();
  let at = 0;
  // As coarse as the table draws it where a whole frame takes longer.
  const onto = [640 / WIDTH, 0, 0, 640 / WIDTH, 0, 0] as const;
  const frame = (): void => {
    const [first, ...rest] = scene.solids;
    const moved = { ...(first as Solid), at: [at++ % 7, 0, 2] as [number, number, number] };
    const choice = { onto, width: 640, height: 400, fine: false };
    previewOf(engine.store, engine.workforce, { ...scene, solids: [moved, ...rest] }, choice);
  };
  const ms = median(frame, 9);
  return {
    what: "a solid moves among 200, 1280 × 800 at half its size",
    reference: "a frame of 33 ms",
    wanted: { most: 1 },
    ratio: ms / 33,
    note: `${ms.toFixed(1)} ms`,
  };
}

/** On two threads, as the table works. */
export async function sceneRows(engine: Engine): Promise<Row[]> {
  const done = await addHelpers(engine, 2);
  const rows = [await passesRow(engine), previewRow(engine)];
  await done();
  return rows;
}
