import { type ScreenKind } from "./halftone";
import { ENTRIES, periodsOf, screenTable } from "./screen";

/** Px of a dot in a sample. */
const DOT = 9;
/** Looks a pixel and side. */
const LOOKS = 3;
const INK = 34;
const PAPER = 240;

/** A small picture of a screen, light at the left and dark at the right: straight RGBA of eight bits. */
export function swatchOf(
  kind: ScreenKind,
  width: number,
  height: number,
): Uint8ClampedArray<ArrayBuffer> {
  const table = screenTable(kind);
  const out = new Uint8ClampedArray(width * height * 4);
  const scale = ENTRIES / (DOT * periodsOf(kind));
  const turned = kind === "round" || kind === "square" || kind === "diamond" || kind === "ellipse";
  for (let y = 0, to = 0; y < height; y++)
    for (let x = 0; x < width; x++, to += 4) {
      const density = 0.08 + (0.84 * x) / width;
      let inked = 0;
      for (let i = 0; i < LOOKS * LOOKS; i++) {
        const px = x + ((i % LOOKS) + 0.5) / LOOKS;
        const py = y + (Math.floor(i / LOOKS) + 0.5) / LOOKS;
        const u = turned ? (px + py) * Math.SQRT1_2 : px;
        const v = turned ? (py - px) * Math.SQRT1_2 : py;
        const column = Math.floor(u * scale) & (ENTRIES - 1);
        const row = Math.floor(v * scale) & (ENTRIES - 1);
        if (table[(row * ENTRIES + column) * 4]! < density) inked++;
      }
      const light = PAPER + ((INK - PAPER) * inked) / (LOOKS * LOOKS);
      out[to] = out[to + 1] = out[to + 2] = light;
      out[to + 3] = 255;
    }
  return out;
}
