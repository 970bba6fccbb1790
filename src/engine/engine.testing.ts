import { readFileSync } from "node:fs";
import { join } from "node:path";
import { type CommandInput } from "./command/commands";
import { type Work } from "./command/work";
import { Engine } from "./engine";
import { toBase64 } from "./file/base64";
import { writePng } from "./file/png";
import { newHeader, type Header } from "./picture/header";
import { pixelOffset, TILE_BYTES, tileKey } from "./tiles/layout";
import { type Sample } from "./stroke/sample";
import { type Tile, type TileStore } from "./tiles/tile-store";

/** What tests of the engine share: an engine on this thread, a picture, and ways to look at pixels. */
export const testKernels = (name: string): WebAssembly.Module =>
  new WebAssembly.Module(readFileSync(join(process.cwd(), "kernels", "build", name)));

const kernels = testKernels("kernels.wasm");

export const testEngine = (): Engine => new Engine(kernels);

export const testHeader = (changes: Partial<Header> = {}): Header =>
  newHeader({ width: 256, height: 192, ground: "#ffffff", ...changes });

/** An engine and a picture with one layer, “a”. */
export function testWork(changes: Partial<Header> = {}): { engine: Engine; work: Work } {
  const engine = testEngine();
  const work = engine.open(testHeader(changes));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  return { engine, work };
}

/** A straight row of samples from one point to another. */
export function line(
  from: [number, number],
  to: [number, number],
  {
    steps = 20,
    pressure = (): number => 0.8,
    altitude = 1.3,
    azimuth = 0.5,
    ms = 8,
  }: {
    steps?: number;
    pressure?: (u: number) => number;
    altitude?: number;
    azimuth?: number;
    ms?: number;
  } = {},
): Sample[] {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const u = i / steps;
    return [
      i * ms,
      from[0] + (to[0] - from[0]) * u,
      from[1] + (to[1] - from[1]) * u,
      pressure(u),
      altitude,
      azimuth,
      0,
    ];
  });
}

export const stroke = (
  samples: Sample[],
  changes: Partial<Extract<CommandInput, { do: "stroke" }>> = {},
): CommandInput => ({
  do: "stroke",
  layer: "a",
  brush: "pen-even",
  size: 10,
  colour: "#000000",
  seed: 1,
  samples,
  ...changes,
});

/** Premultiplied Q15 r g b a of a layer's pixel. */
export function pixel(engine: Engine, work: Work, layer: string, x: number, y: number): number[] {
  const tile = work.picture.plane(layer).get(tileKey(x >> 6, y >> 6));
  if (!tile) return [0, 0, 0, 0];
  if (tile.colour) return [...tile.colour];
  const at = engine.store.address(tile);
  return [0, 1, 2, 3].map(
    (c) => engine.store.heap.u16[(at + pixelOffset(x & 63, y & 63, c)) >> 1] as number,
  );
}

/** Straight r g b a, 0…255, of a layer's pixel. */
export function pixelAt(engine: Engine, work: Work, layer: string, x: number, y: number): number[] {
  const [r = 0, g = 0, b = 0, a = 0] = pixel(engine, work, layer, x, y);
  const straight = (v: number): number => (a === 0 ? 0 : Math.round((v * 255) / a));
  return [straight(r), straight(g), straight(b), Math.round((a * 255) / 32767)];
}

export const alphaAt = (engine: Engine, work: Work, layer: string, x: number, y: number): number =>
  (pixel(engine, work, layer, x, y)[3] as number) / 32767;

/** Puts straight 8-bit pixels on all of a layer. */
export function writeStraight(
  work: Work,
  layer: string,
  at: (x: number, y: number) => readonly number[],
): void {
  const { width, height } = work.picture;
  const data = new Uint8Array(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set(at(x, y), (y * width + x) * 4);
  const png = toBase64(writePng({ width, height, data }));
  work.apply({ do: "place", layer, x: 0, y: 0, png });
}

/** Alpha of every pixel of a layer, 0…1, row by row. */
export function alphas(engine: Engine, work: Work, layer = "a"): Float64Array {
  const { width, height } = work.picture;
  const out = new Float64Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      out[y * width + x] = (pixel(engine, work, layer, x, y)[3] as number) / 32767;
  return out;
}

export const sum = (values: ArrayLike<number>): number => {
  let total = 0;
  for (let i = 0; i < values.length; i++) total += values[i] as number;
  return total;
};

const ordered = (_key: string, value: unknown): unknown =>
  value && typeof value === "object" && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value;

/** A text that changes with any pixel of any plane, and with any property of a picture. */
export function fingerprint({ store }: Pick<Engine, "store">, work: Work): string {
  const { picture } = work;
  const parts: string[] = [JSON.stringify(picture.structure, ordered)];
  const known = new Set(picture.structure.layers.map(({ id }) => id));
  for (const owner of [...picture.planes.keys()].sort()) {
    // Planes of removed layers stay for the history.
    if (!known.has(owner) && !owner.startsWith("(")) continue;
    const planes = [...picture.planesOf(owner)].sort(([a], [b]) => (a < b ? -1 : 1));
    for (const [name, plane] of planes)
      for (const key of [...plane.keys()].sort((a, b) => a - b)) {
        const tile = plane.get(key);
        if (tile && !store.isEmpty(tile))
          parts.push(`${owner} ${name} ${key} ${hashOf(store, tile)}`);
      }
  }
  return parts.join("\n");
}

/** Looked up once: globals are slow to come by where tests run. */
const { imul } = Math;

/** FNV-1a over a tile's words of 32 bits. */
function hashOf(store: TileStore, tile: Tile): number {
  const at = store.address(tile) >> 2;
  const words = store.heap.i32.subarray(at, at + TILE_BYTES / 4);
  let hash = 0x811c9dc5;
  for (const word of words) hash = imul(hash ^ word, 0x01000193);
  return hash >>> 0;
}
