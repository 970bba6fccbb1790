import { hexToQ15 } from "../colour/srgb";
import { TILE_SIDE, tileColumn, tileRow } from "../tiles/layout";
import { tableAddress } from "../tiles/tables";
import { realWord, TAPE } from "../tiles/tape";
import { type TileStore } from "../tiles/tile-store";
import { type Workforce } from "../tiles/workforce";
import { type Halftone } from "./halftone";
import { periodsOf, screenTable, shareTable, toneTable } from "./screen";

/** As in `kernels/halftone.ts`. */
const OWN = 1;
const WHITE = 2;
const MEAN = 4;
const FINE = 8;
/** Dots of fewer px a side have a table of what a pixel is inked. */
const FINE_BELOW = 16;
/** Px that a dot takes at least: finer ones no pixels can show. */
const SMALLEST_DOT = 2;
/** Px of the screen that a dot takes at least to be told from its neighbours. */
const SEEN_DOT = 3;
const TURN = 4_294_967_296;
/** Begins a little off the sheet's corner: a dot whose middle is a pixel's has neighbours all alike. */
const SHIFT = 0.137;

/** Px from dot to dot on a sheet of `ppi`. */
export const dotSide = ({ lpi }: Halftone, ppi: number): number =>
  Math.max(SMALLEST_DOT, ppi / lpi);

/**
 * Whether dots can be told apart where a px of the picture takes `scale` px of the screen: at 1:1 and nearer always.
 */
export const isResolved = (halftone: Halftone, ppi: number, scale: number): boolean =>
  scale >= 1 || dotSide(halftone, ppi) * scale >= SEEN_DOT;

/** cos and sin of degrees, by + − × alone, so that they are the same on every machine; exact at quarter turns. */
export function directionOf(degrees: number): [number, number] {
  const quarters = Math.round(degrees / 90);
  const t = ((degrees - quarters * 90) * Math.PI) / 180;
  const t2 = t * t;
  const cos =
    1 -
    (t2 / 2) *
      (1 - (t2 / 12) * (1 - (t2 / 30) * (1 - (t2 / 56) * (1 - (t2 / 90) * (1 - t2 / 132)))));
  const sin =
    t *
    (1 -
      (t2 / 6) *
        (1 - (t2 / 20) * (1 - (t2 / 42) * (1 - (t2 / 72) * (1 - (t2 / 110) * (1 - t2 / 156))))));
  const turned: [number, number][] = [
    [cos, sin],
    [-sin, cos],
    [-cos, -sin],
    [sin, -cos],
  ];
  return turned[quarters & 3] as [number, number];
}

/** A share of a period as a whole number that wraps as phases do. */
const phase = (share: number): number => Math.round((share - Math.floor(share)) * TURN) | 0;

/** Bytes as the words that tables are kept in. */
const asWords = ({ buffer }: Uint8Array): Float32Array => new Float32Array(buffer as ArrayBuffer);

/**
 * Writes to the tape a tile of paint at `from` as a halftone, into `into`.
 * @param isSeen whether the dots are shown, or the mean that they leave
 */
export function writeHalftone(
  store: TileStore,
  workforce: Workforce,
  halftone: Halftone,
  ppi: number,
  isSeen: boolean,
  key: number,
  into: number,
  from: number,
): void {
  const { screen, angle, density, steps, ink, paper } = halftone;
  const side = dotSide(halftone, ppi);
  const pixel = 1 / (side * periodsOf(screen));
  const isFine = side < FINE_BELOW;
  const least = 2 / (side * side);
  const [cos, sin] = directionOf(angle);
  const [x, y] = [halftone.x + SHIFT, halftone.y + 2 * SHIFT];
  const across = [phase(cos * pixel), phase(-sin * pixel)] as const;
  const down = [phase(sin * pixel), phase(cos * pixel)] as const;
  const [px, py] = [tileColumn(key) * TILE_SIDE, tileRow(key) * TILE_SIDE];
  const first = [phase(-(x * cos + y * sin) * pixel), phase(-(y * cos - x * sin) * pixel)] as const;
  const begin = (i: 0 | 1): number =>
    (first[i] + Math.imul(px, across[i]) + Math.imul(py, down[i])) | 0;
  const { heap } = store;
  const table = isFine
    ? tableAddress(heap, `shares ${screen} ${side} ${angle}`, () =>
        asWords(shareTable(screen, pixel, cos, sin)),
      )
    : tableAddress(heap, `screen ${screen}`, () => screenTable(screen));
  const tones = isFine
    ? 0
    : tableAddress(heap, `tones ${screen} ${side}`, () => toneTable(screen, pixel, least));
  const how =
    (isFine ? FINE : 0) | (ink ? 0 : OWN) | (paper === "white" ? WHITE : 0) | (isSeen ? 0 : MEAN);
  const [r, g, b] = hexToQ15(ink ?? "#000000");
  workforce.write(
    TAPE.halftone,
    into,
    from,
    table,
    tones,
    begin(0),
    begin(1),
    ...across,
    ...down,
    realWord(pixel),
    realWord(least),
    realWord(density),
    steps,
    r,
    g,
    b,
    how,
  );
}
