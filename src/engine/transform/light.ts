import { linearToSrgb, srgbToLinear } from "../colour/oklch";
import { type Heap } from "../tiles/heap";
import { ONE } from "../tiles/layout";
import { tableAddress } from "../tiles/tables";

/** From one scale of light to the other, for every Q15 number: IEC 61966-2-1. */
const scaled = (to: (v: number) => number): Float32Array =>
  Float32Array.from({ length: ONE + 1 }, (_, v) => to(v / ONE) * ONE);

/** Addresses of the tables by which pixels go to linear light and back (`kernels/light.ts`). */
export type Light = { toLinear: number; toSrgb: number };

export const lightTables = (heap: Heap): Light => ({
  toLinear: tableAddress(heap, "sRGB to linear light", () => scaled(srgbToLinear)),
  toSrgb: tableAddress(heap, "linear light to sRGB", () => scaled(linearToSrgb)),
});
