import { testEngine } from "../engine.testing";
import { TILE_BYTES, tileColumn, tileKey, tileRow, tilesIn } from "./layout";
import { blueNoise } from "./noise";
import { type Tile } from "./tile-store";

const engine = testEngine();
const { store } = engine;

function filled(seed: number): Tile {
  const tile = store.create();
  const at = tile.address >> 1;
  for (let i = 0; i < 16384; i++)
    store.heap.u16[at + i] = (Math.imul(i + seed, 40503) >>> 3) & 32767;
  return tile;
}
const contents = (tile: Tile): Uint16Array => {
  const at = store.address(tile);
  return store.heap.u16.slice(at >> 1, (at + TILE_BYTES) >> 1);
};

describe("tiles", () => {
  it("come back from being squeezed as they were", () => {
    for (const seed of [1, 999]) {
      const tile = filled(seed);
      const before = contents(tile);
      store.squeeze(tile);
      expect(tile.address).toBe(0);
      expect(contents(tile)).toEqual(before);
    }
  });

  it("that are smooth squeeze to little", () => {
    const tile = store.create();
    const at = tile.address >> 1;
    for (let i = 0; i < 16384; i++) store.heap.u16[at + i] = 1000 + (i >> 6);
    store.squeeze(tile);
    expect(tile.squeezed?.length).toBeLessThan(TILE_BYTES / 8);
  });

  it("come back from their filtered form", () => {
    const tile = filled(5);
    expect(contents(store.fromFiltered(store.filtered(tile)))).toEqual(contents(tile));
    expect(() => store.fromFiltered(new Uint8Array(10))).toThrow(/32768/);
  });

  it("of one colour give their memory back and still read as that colour", () => {
    const tile = store.create();
    store.kernels.fillTile(tile.address, 1, 2, 3, 4);
    const resident = store.residentBytes;
    store.settle(tile);
    expect(tile.colour).toEqual([1, 2, 3, 4]);
    expect(store.residentBytes).toBe(resident - TILE_BYTES);
    expect([...contents(tile).slice(0, 32)].filter((_, i) => i % 8 === 0)).toEqual([1, 2, 3, 4]);
  });

  it("are copies once copied", () => {
    const tile = filled(8);
    const copy = store.copy(tile);
    store.kernels.fillTile(store.address(copy), 0, 0, 0, 0);
    expect(contents(tile)[5]).not.toBe(0);
  });

  it("beyond the limit are squeezed, longest unused first", () => {
    const own = testEngine().store;
    own.residentLimit = 10 * TILE_BYTES;
    const tiles = Array.from({ length: 20 }, () => {
      const tile = own.create();
      own.kernels.fillTile(tile.address, 5, 5, 5, 5);
      return tile;
    });
    own.trim();
    expect(own.residentBytes).toBeLessThanOrEqual(10 * TILE_BYTES);
    expect(tiles[0]?.address).toBe(0);
    expect(tiles[19]?.address).not.toBe(0);
  });
});

it("memory that was freed is used again", () => {
  const first = store.heap.allocate(5000);
  store.heap.free(first, 5000);
  expect(store.heap.allocate(5000)).toBe(first);
});

it("tile keys name columns and rows, and boxes name their tiles", () => {
  const key = tileKey(200, 31);
  expect([tileColumn(key), tileRow(key)]).toEqual([200, 31]);
  expect(tilesIn({ left: -5, top: 60, right: 65, bottom: 64 }, 500, 500)).toEqual([0, 1]);
  expect(tilesIn({ left: 480, top: 0, right: 900, bottom: 10 }, 500, 500)).toEqual([7]);
});

describe("blue noise", () => {
  const noise = blueNoise();
  it("has every value equally often", () => {
    const counts = new Array<number>(256).fill(0);
    noise.forEach((v) => {
      counts[v] = (counts[v] as number) + 1;
    });
    expect(new Set(counts)).toEqual(new Set([16]));
  });

  it("has neighbours that differ more than chance would have them", () => {
    let difference = 0;
    for (let i = 0; i < 4095; i++)
      difference += Math.abs((noise[i] as number) - (noise[i + 1] as number));
    expect(difference / 4095).toBeGreaterThan(92);
  });
});
