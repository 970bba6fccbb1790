import { testWork, line, writeStraight } from "../engine.testing";
import { pixelOffset, tileKey } from "../tiles/layout";
import { type Work } from "../command/work";
import { type Engine } from "../engine";

const SLOPE = 0.1;
const edgeAt = (x: number): number => 70 + SLOPE * x;

/** A sheet of two colours whose edge slants. */
function twoColours(): { engine: Engine; work: Work } {
  const made = testWork();
  writeStraight(made.work, "a", (x, y) => {
    const k = Math.min(1, Math.max(0, y - edgeAt(x) + 0.5));
    return [40 + 190 * k, 60 + 140 * k, 120, 255];
  });
  return made;
}

/** Red 0…1 between pixels. */
function redAt({ engine, work }: { engine: Engine; work: Work }, x: number, y: number): number {
  const plane = work.picture.plane("a");
  const at = (px: number, py: number): number => {
    const tile = plane.get(tileKey(px >> 6, py >> 6));
    if (!tile) return 0;
    const address = engine.store.address(tile) + pixelOffset(px & 63, py & 63, 0);
    return (engine.store.heap.u16[address >> 1] as number) / 32767;
  };
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const top = at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx;
  const low = at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx;
  return top * (1 - fy) + low * fy;
}

/** The greatest distance from a running mean, along lines beside the edge. */
function ripple(table: { engine: Engine; work: Work }, reach: number): number {
  let most = 0;
  for (let beside = -reach; beside < reach; beside++) {
    const along = Array.from({ length: 150 }, (_, i) =>
      redAt(table, 70 + i, edgeAt(70 + i) + beside),
    );
    for (let i = 20; i < along.length - 20; i++) {
      const near = along.slice(i - 20, i + 21);
      const mean = near.reduce((sum, v) => sum + v, 0) / near.length;
      most = Math.max(most, Math.abs((along[i] as number) - mean));
    }
  }
  return most;
}

// A slanting edge read between pixels varies by 4.5 % before anything is blended.
it.each([
  ["round-soft", 40, 0.024],
  ["round-firm", 40, 0.024],
  ["round-firm", 20, 0.03],
  ["round-bristle", 40, 0.045],
])("%s at %i px blends along a slanting edge without steps", (brush, size, most) => {
  const table = twoColours();
  table.work.apply({
    do: "stroke",
    layer: "a",
    brush,
    size,
    mode: "blend",
    seed: 3,
    samples: line([10, edgeAt(10) + 4], [246, edgeAt(246) + 4], { pressure: () => 0.6 }),
  });
  expect(ripple(table, size / 2)).toBeLessThan(most);
});
