import { TAPE } from "../tiles/tape";
import { TILE_BYTES, TILE_SIDE } from "../tiles/layout";
import { type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { lightTables } from "../transform/light";
import { binsOf, listIn } from "./bins";
import { type Onto } from "./camera";
import { type Scene } from "./scene";
import { stageOf } from "./stage";

export type PreviewChoice = {
  /** From the sheet to the pixels that it is shown on. */
  onto: Onto;
  width: number;
  height: number;
  /** With soft edges and shadows; otherwise as quickly as it can. */
  fine: boolean;
};

const FINE = { error: 0.3, samples: 3, pad: 1 };
const QUICK = { error: 1.2, samples: 1, pad: 0 };

/** A scene as it is seen through the camera, RGBA bytes, straight, row by row; bare where it shows nothing. */
export function previewOf(
  store: TileStore,
  workforce: Workforce,
  scene: Scene,
  { onto, width, height, fine }: PreviewChoice,
): Uint8ClampedArray<ArrayBuffer> {
  const { heap } = store;
  const { error, samples, pad } = fine ? FINE : QUICK;
  const shadows = fine && scene.light.shadows;
  const view = { left: -pad, top: -pad, right: width + pad, bottom: height + pad };
  const stage = stageOf(heap, scene, { error, shadows, view, onto });
  const bins = binsOf(stage.boxes, TILE_SIDE, pad, width, height);
  const list = listIn(heap, bins.list);
  const row = bins.across * TILE_BYTES;
  const tiles = heap.allocate(row);
  const bytes = heap.allocate(width * TILE_SIDE * 4);
  const { toSrgb } = lightTables(heap);
  const out = new Uint8ClampedArray(width * height * 4);
  try {
    for (let top = 0, square = 0; top < height; top += TILE_SIDE) {
      const rows = Math.min(TILE_SIDE, height - top);
      const drawn: number[] = [];
      for (let left = 0; left < width; left += TILE_SIDE, square++) {
        const count = bins.starts[square + 1]! - bins.starts[square]!;
        if (count === 0 && !stage.hasGround) continue;
        const tile = tiles + (left / TILE_SIDE) * TILE_BYTES;
        const at = list.address + bins.starts[square]! * 4;
        const side = TILE_SIDE + 2 * pad;
        workforce.beginJob();
        workforce.write(
          ...[TAPE.rasterScene, stage.address, at, count],
          ...[left - pad, top - pad, side, samples],
        );
        workforce.write(TAPE.colourScene, tile, stage.address, left, top, pad, samples);
        workforce.write(TAPE.light, tile, tile, toSrgb);
        workforce.endJob();
        drawn.push(left);
      }
      workforce.run(true);
      heap.u8.fill(0, bytes, bytes + width * rows * 4);
      for (const left of drawn) {
        const tile = tiles + (left / TILE_SIDE) * TILE_BYTES;
        const columns = Math.min(TILE_SIDE, width - left);
        store.kernels.packStraight(bytes + left * 4, width * 4, tile, columns, rows, 0, 1);
      }
      out.set(heap.u8.subarray(bytes, bytes + width * rows * 4), top * width * 4);
    }
  } finally {
    heap.free(bytes, width * TILE_SIDE * 4);
    heap.free(tiles, row);
    heap.free(list.address, list.bytes);
    stage.release();
  }
  return out;
}
