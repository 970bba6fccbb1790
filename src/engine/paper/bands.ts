import { type Field, FieldMaker, FIELD_SIDE, type Fibres } from "./fields";

/**
 * A paper in two bands, each 1024 × 1024 heights that repeat without a seam, every height as
 * common as the others: `coarse` is the tooth that is seen, `fine` (under 4 px) what lies in it.
 * Wavelengths in px at 300 ppi.
 */
export type Bands = {
  coarse: Uint8Array;
  fine: Uint8Array;
  /** How deep its tooth is: 0 glass … 1 cold-pressed. */
  roughness: number;
};

type Maker = { roughness: number; coarse: (make: FieldMaker) => Field };

/** Fibres as they lie in most sheets, and the pulp of old ropes and sacks. */
const SHORT: Fibres = { count: 70_000, short: 12, long: 34, halfWidth: 1.2 };
const LONG: Fibres = { count: 26_000, short: 16, long: 60, halfWidth: 1.9 };

let mat: Float32Array | null = null;

/** The mat of short fibres, which every sheet has: it takes longest to make, so it is kept. */
function matOfShort(make: FieldMaker): Field {
  if (mat) return make.of(mat);
  const made = make.fibreMat(SHORT, 3);
  mat = make.values(make.copy(made));
  return made;
}

const short = (make: FieldMaker, finer: number, broader: number): Field =>
  make.between(matOfShort(make), finer, broader);

/** Felts press broad, rounded bumps into it, with fibres between them. */
function coldPressed(make: FieldMaker): Field {
  const bumps = make.unit(make.folded(make.band(16, 22)));
  const ridges = make.unit(make.sum([0.55, make.band(13, 21)], [0.8, bumps]));
  const fibres = short(make, 0.9, 7);
  return make.sum(
    [0.5, make.band(6.8, 23)],
    [0.62, fibres],
    [0.62, ridges],
    [0.16, make.low(14, 24)],
  );
}

/** Pressed between hot plates: a shallow, close grain. */
const hotPressed = (make: FieldMaker): Field =>
  make.sum(
    [0.7, make.band(5, 31)],
    [0.35, make.band(11, 32)],
    [0.35, short(make, 1.3, 5)],
    [0.15, make.low(16, 33)],
  );

/** Smooth board: hardly any tooth at all. */
const board = (make: FieldMaker): Field =>
  make.sum([0.6, make.band(4.2, 41)], [0.5, short(make, 1.2, 4)], [0.12, make.low(9, 42)]);

/** The mould's wires lie close together one way, its chains far apart the other. */
const laid = (make: FieldMaker): Field => make.wires(make.band(5.5, 52), make.low(24, 51), 96, 256);

/** Coarse grey pulp: long thick fibres lying every way. */
const sugar = (make: FieldMaker): Field =>
  make.sum(
    [0.6, make.between(make.fibreMat(LONG, 5), 1.2, 8)],
    [0.55, make.band(7.5, 61)],
    [0.3, make.low(11, 62)],
  );

/** Round threads, over and under each other, no two quite alike. */
const canvas = (make: FieldMaker): Field =>
  make.weave(make.band(4, 73), make.low(7, 71), make.low(10, 72), 8);

const makers = {
  "cold-pressed": { roughness: 1, coarse: coldPressed },
  "hot-pressed": { roughness: 0.55, coarse: hotPressed },
  board: { roughness: 0.3, coarse: board },
  laid: { roughness: 0.85, coarse: laid },
  sugar: { roughness: 0.95, coarse: sugar },
  canvas: { roughness: 1.15, coarse: canvas },
} as const satisfies Record<string, Maker>;

/** The papers that ship. */
export type PaperKind = keyof typeof makers;

/** How deep the tooth of a paper from a picture is. */
const FROM_PICTURE = 1;

/** What lies in the tooth of every sheet. */
const fine = (make: FieldMaker): Field =>
  make.blurred(
    make.sum(
      [0.7, short(make, 0, 2.3)],
      [0.65, make.band(4, 11)],
      [0.25, make.unit(make.white(12))],
    ),
    0.45,
  );

/** The bands that can be made beforehand: every paper's coarse one, and the fine one of them all. */
export type BandName = PaperKind | "fine";

export const bandNames: readonly BandName[] = ["fine", ...(Object.keys(makers) as PaperKind[])];

/** Makes a band: 1024 × 1024 heights 0…255. It takes a fifth of a second to a whole one. */
export function makeBand(name: BandName): Uint8Array {
  const make = new FieldMaker();
  return make.ranked(name === "fine" ? fine(make) : makers[name].coarse(make));
}

/** Where bands that were made beforehand are kept; null where one is not there. */
export type BandStore = (name: BandName) => Uint8Array | null;

let store: BandStore = () => null;
const held = new Map<BandName, Uint8Array>();

/** From here on bands come from a store; what it does not have is made. */
export function takeBandsFrom(from: BandStore): void {
  store = from;
}

function band(name: BandName): Uint8Array {
  const known = held.get(name);
  if (known) return known;
  const stored = store(name);
  if (stored && stored.length !== FIELD_SIDE * FIELD_SIDE)
    throw new RangeError(
      `the band ${name} has ${FIELD_SIDE * FIELD_SIDE} heights, not ${stored.length}`,
    );
  const taken = stored ?? makeBand(name);
  held.set(name, taken);
  return taken;
}

/** The bands of a paper that ships; taken from the store, or made at the first call. */
export const bandsOf = (kind: PaperKind): Bands => ({
  coarse: band(kind),
  fine: band("fine"),
  roughness: makers[kind].roughness,
});

/**
 * The bands of a paper from a picture.
 * @param heights a square of whole numbers that repeats, its side a divisor of 1024
 */
export function bandsFrom(heights: Uint8Array, side: number): Bands {
  const make = new FieldMaker();
  const tiled = new Uint8Array(FIELD_SIDE * FIELD_SIDE);
  for (let y = 0; y < FIELD_SIDE; y++) {
    const row = heights.subarray((y % side) * side, ((y % side) + 1) * side);
    for (let x = 0; x < FIELD_SIDE; x += side) tiled.set(row, y * FIELD_SIDE + x);
  }
  return { coarse: make.ranked(make.of(tiled)), fine: band("fine"), roughness: FROM_PICTURE };
}
