import { testEngine } from "../engine.testing";
import { ontoTiles } from "./onto-tiles";
import { pixelOffset, TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";

const { store } = testEngine();

/** Every colour under every alpha, 256 × 256 px. */
const every = new Uint8Array(256 * 256 * 4);
for (let a = 0; a < 256; a++)
  for (let c = 0; c < 256; c++) every.set([c, 255 - c, (c * 7) & 255, a], (a * 256 + c) * 4);

// Beside the grid of tiles some pixels are read one by one, others eight at a time.
it.each([0, 3, 8])("every colour and alpha is multiplied and rounded to nearest, %i px in", (x) => {
  const image = { width: 256, height: 256, data: every };
  const sheet = { x, y: x, width: 300, height: 300 };
  let wrong = 0;
  let seen = 0;
  for (const [key, tile] of ontoTiles(store, image, sheet, new Map())) {
    const [left, top] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
    const at = store.address(tile);
    for (let i = 0; i < 4096; i++) {
      const [px, py] = [(i & 63) + left - x, (i >> 6) + top - x];
      if (px < 0 || py < 0 || px >= 256 || py >= 256) continue;
      seen++;
      const a = every[(py * 256 + px) * 4 + 3] as number;
      for (let c = 0; c < 4; c++) {
        const v = every[(py * 256 + px) * 4 + c] as number;
        const wanted = c < 3 ? Math.round((v * a * 32767) / 65025) : Math.round((v * 32767) / 255);
        if (store.heap.u16[(at + pixelOffset(i & 63, i >> 6, c)) >> 1] !== wanted) wrong++;
      }
    }
    store.release(tile);
  }
  expect(seen).toBe(256 * 256);
  expect(wrong).toBe(0);
});
