import { line, testEngine, testHeader } from "../engine.testing";
import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { COLOUR } from "../picture/picture";
import { type Sample } from "../stroke/sample";
import { TILE_BYTES } from "../tiles/layout";

const SHEET = { width: 3328, height: 960, ppi: 200, paper: { kind: "board", scale: 1 } } as const;
const even = { pressure: () => 0.7, altitude: 1.57, steps: 132 };
const samples = line([200, 480], [3130, 480], even).map(([, x, y, ...rest], i): Sample => [
  i * 15,
  x,
  y,
  ...rest,
]);

type Drawn = { engine: Engine; work: Work; told: Set<number> };

/** A live stroke of a broad flat; what is told of it is noted. */
function begun(): Drawn {
  const engine = testEngine();
  const told = new Set<number>();
  const work = engine.open(testHeader(SHEET), {
    damaged: ({ keys }) => keys.forEach((key) => told.add(key)),
  });
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  const stroke = { brush: "oil-flat", size: 900, mode: "paint", colour: "#2a4fc0", seed: 5 };
  work.beginStroke({ do: "stroke", layer: "a", ...stroke });
  return { engine, work, told };
}

/** The bytes of what is seen of layer “a”, tile by tile. */
function seenTiles({ engine, work }: Drawn): Map<number, Buffer> {
  const { store } = engine;
  const tiles = work.picture.plane("a", COLOUR);
  return new Map(
    [...tiles].map(([key, tile]) => {
      const at = store.address(tile);
      return [key, Buffer.from(store.heap.u8.slice(at, at + TILE_BYTES))];
    }),
  );
}

/** How many blocks of eight pixels have paint: their alphas are last in each block. */
function painted(tile: Buffer): number {
  let count = 0;
  for (let at = 48; at < TILE_BYTES; at += 64)
    if ((tile.readBigUInt64LE(at) | tile.readBigUInt64LE(at + 8)) > 0n) count++;
  return count;
}

const blank = Buffer.alloc(TILE_BYTES);
const differing = (a: Map<number, Buffer>, b: Map<number, Buffer>): number[] =>
  [...b].filter(([key, tile]) => !(a.get(key) ?? blank).equals(tile)).map(([key]) => key);

describe("a broad stroke in oil, over more tiles than are kept unpacked", () => {
  const passing = begun();
  const whole = begun();
  let before = seenTiles(passing);
  const untold: number[] = [];
  let late = 0;
  let there = 0;
  let leftOut = 0;
  for (let i = 0; i < samples.length; i += 12) {
    const some = samples.slice(i, i + 12);
    for (let k = 0; k < some.length; k += 3) passing.work.extendStroke(some.slice(k, k + 3));
    for (let k = 0; k < some.length; k += 3) {
      whole.work.extendStroke(some.slice(k, k + 3));
      whole.work.showStroke();
    }
    const now = seenTiles(passing);
    const all = seenTiles(whole);
    untold.push(...differing(before, now).filter((key) => !passing.told.has(key)));
    for (const [key, tile] of now) late += painted(all.get(key) as Buffer) - painted(tile);
    for (const tile of all.values()) there += painted(tile);
    leftOut += differing(now, all).length;
    passing.told.clear();
    before = now;
  }
  passing.work.showStroke();

  it("tells of every tile that is seen to change", () => {
    expect(before.size).toBeGreaterThan(640);
    expect(untold).toEqual([]);
  });

  it("leaves out, in passing, only what changes where there is paint already", () => {
    expect(leftOut).toBeGreaterThan(0);
    // The first breath of paint may be too thin to be seen.
    expect(late / there).toBeLessThan(0.005);
  });

  it("is seen as it is as soon as the hand rests, and once it has ended", () => {
    expect(differing(seenTiles(passing), seenTiles(whole))).toEqual([]);
    passing.work.endStroke();
    whole.work.endStroke();
    expect(differing(seenTiles(passing), seenTiles(whole))).toEqual([]);
  });
});
