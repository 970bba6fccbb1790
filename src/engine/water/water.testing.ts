import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { line, stroke, testWork } from "../engine.testing";
import { type Sample } from "../stroke/sample";
import { pixelOffset, TILE_BYTES, tileKey } from "../tiles/layout";
import { PAINTS, REST, WATER } from "./wash-planes";

/** A sheet of watercolour paper and what is painted on it. */
export type Sheet = { engine: Engine; work: Work };

/** A paint that stains, and one that granulates (see the paint box). */
export const STAINING = "#0f4a6b";
export const GRANULATING = "#2d3f9c";

export function sheet(width = 512, height = 384): Sheet {
  return testWork({ width, height, ppi: 300, paper: { kind: "cold-pressed", scale: 1 } });
}

/** A brush drawn to and fro over a box. */
export function over(x: number, y: number, width: number, height: number, apart = 20): Sample[] {
  const rows = Math.ceil(height / apart);
  const samples: Sample[] = [];
  for (let row = 0; row <= rows; row++) {
    const at = y + (height * row) / rows;
    const [from, to] = row % 2 ? [x + width, x] : [x, x + width];
    for (const [t, ...rest] of line([from, at], [to, at], { pressure: () => 0.8, steps: 12 }))
      samples.push([row * 200 + t / 10, ...rest] as Sample);
  }
  return samples;
}

export const lay = (
  { work }: Sheet,
  samples: Sample[],
  changes: Parameters<typeof stroke>[1] = {},
): void =>
  void work.apply(
    stroke(samples, { brush: "wash-round", size: 50, colour: STAINING, seed: 5, ...changes }),
  );

/** So many seconds pass. */
export const wait = ({ work }: Sheet, seconds: number): void =>
  void work.apply({ do: "time", steps: Math.round(seconds * 30) });

/** Waits until nothing is wet any more. */
export function dry(s: Sheet): void {
  for (let i = 0; i < 60 && (s.work.picture.planes.get("a")?.get(WATER)?.size ?? 0) > 0; i++)
    wait(s, 4);
}

/** Planes of a state: see `kernels/water/film.ts`. */
export const OF = { water: 0, cover: 1, moist: 2, vapour: 3, resist: 6 } as const;

/** A number of a cell: of the water, or (`paint`) how much of a paint hangs and has settled. */
export function cell(s: Sheet, what: keyof typeof OF | number, x: number, y: number): number {
  const { store } = s.engine;
  const read = (name: string, plane: number): number => {
    const tile = s.work.picture.planes
      .get("a")
      ?.get(name)
      ?.get(tileKey(x >> 6, y >> 6));
    if (!tile) return 0;
    const at = store.address(tile) + plane * 4096 + (((y & 63) >> 1) * 32 + ((x & 63) >> 1)) * 4;
    return store.heap.f32[at >> 2] as number;
  };
  if (typeof what !== "number") return read(WATER, OF[what]) || read(REST, OF[what]);
  const name = PAINTS[what >> 2] as string;
  return read(name, what & 3) + read(name, 4 + (what & 3));
}

/** All of a paint. */
export function amount(s: Sheet, slot: number): number {
  const { store } = s.engine;
  let sum = 0;
  for (const tile of s.work.picture.plane("a", PAINTS[slot >> 2] as string).values()) {
    const first = store.address(tile);
    if (first + TILE_BYTES > store.heap.u8.length) throw new RangeError("no such tile");
    for (const plane of [slot & 3, 4 + (slot & 3)])
      for (let i = 0; i < 1024; i++)
        sum += store.heap.f32[((first + plane * 4096) >> 2) + i] as number;
  }
  return sum;
}

/** How dense the film is at a place: −ln of the light it lets through, mean of red, green and blue over a box. */
export function density(s: Sheet, x: number, y: number, width = 1, height = 1): number {
  const { store } = s.engine;
  let sum = 0;
  for (let v = y; v < y + height; v++)
    for (let u = x; u < x + width; u++) {
      const tile = s.work.picture.plane("a").get(tileKey(u >> 6, v >> 6));
      if (!tile) continue;
      const address = store.address(tile);
      const c = (n: number): number =>
        (store.heap.u16[(address + pixelOffset(u & 63, v & 63, n)) >> 1] as number) / 32767;
      for (let n = 0; n < 3; n++) sum -= Math.log(Math.max(1e-4, c(n) + 1 - c(3))) / 3;
    }
  return sum / (width * height);
}
