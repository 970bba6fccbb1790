import { Refusal } from "../picture/refusal";
import { TILE_BYTES } from "../tiles/layout";

/** A colour and how far it is taken: `#rrggbb`, 0…1. */
export type Taken = readonly [colour: string, share: number];

/**
 * One strewn piece: a picture of a set, as it lies on the sheet. Never changed in place.
 * The picture spans −1…1 both ways; its place (u, v) lies at (x + a·u + c·v, y + b·u + d·v), px.
 */
export type Piece = Readonly<{
  id: number;
  /** Which lies over which; of two alike, the later one. */
  z: number;
  set: number;
  picture: number;
  x: number;
  y: number;
  matrix: readonly [a: number, b: number, c: number, d: number];
  /** Its colours times these, 0…2. */
  gain: readonly [r: number, g: number, b: number];
  /** Its light and dark in another colour. */
  tint: Taken;
  /** What lies between it and the eye. */
  air: Taken;
  opacity: number;
  /** 0 sharp … 1 a third of its size. */
  blur: number;
}>;

export const MOST_PIECES = 20_000;
const PIECE_BYTES = 64;
/** Pieces that one tile of bytes holds. */
export const A_CHUNK = TILE_BYTES / PIECE_BYTES;
/** Farthest from the sheet's corner, and widest, px. */
const FAR = 131_072;
export const MOST_PIECE = 8192;

const HERE = 1;
/** A gain of one, as a byte. */
const GAIN_ONE = 128;
const byte = (share: number): number => Math.round(Math.min(1, Math.max(0, share)) * 255);
const gainByte = (gain: number): number => Math.round(Math.min(255, Math.max(0, gain * GAIN_ONE)));
const packed = ([colour, share]: Taken): number =>
  ((parseInt(colour.slice(1), 16) << 8) | byte(share)) >>> 0;
const unpacked = (word: number): Taken => [
  `#${(word >>> 8).toString(16).padStart(6, "0")}`,
  (word & 255) / 255,
];

/** A piece as it can be kept: whatever is finer is rounded. */
export const settledPiece = (piece: Piece): Piece => ({
  ...piece,
  x: Math.fround(piece.x),
  y: Math.fround(piece.y),
  matrix: piece.matrix.map(Math.fround) as unknown as Piece["matrix"],
  gain: piece.gain.map((gain) => gainByte(gain) / GAIN_ONE) as unknown as Piece["gain"],
  tint: unpacked(packed(piece.tint)),
  air: unpacked(packed(piece.air)),
  opacity: byte(piece.opacity) / 255,
  blur: byte(piece.blur) / 255,
});

/** How large a piece is: the longest of its half-diagonals, px. */
export const reachOf = ({ matrix: [a, b, c, d] }: Piece): number =>
  Math.max(
    Math.sqrt((a + c) * (a + c) + (b + d) * (b + d)),
    Math.sqrt((a - c) * (a - c) + (b - d) * (b - d)),
  );

/** Whether a piece can be kept and drawn again. */
export function isSoundPiece(piece: Piece): boolean {
  const { x, y, matrix, z } = piece;
  const [a, b, c, d] = matrix;
  return (
    [x, y, z, ...matrix].every(Number.isFinite) &&
    Math.abs(x) <= FAR &&
    Math.abs(y) <= FAR &&
    reachOf(piece) <= MOST_PIECE &&
    Math.abs(a * d - b * c) > 1e-4
  );
}

/**
 * The pieces of a chunk as a tile's bytes, little-endian, one in the place of its number.
 * @param first number of the first place
 */
export function writePieces(pieces: Iterable<Piece>, first: number): Uint8Array {
  const bytes = new Uint8Array(TILE_BYTES);
  const view = new DataView(bytes.buffer);
  for (const piece of pieces) {
    const at = (piece.id - first) * PIECE_BYTES;
    [piece.x, piece.y, ...piece.matrix].forEach((value, i) =>
      view.setFloat32(at + 4 * i, value, true),
    );
    view.setInt32(at + 24, piece.z, true);
    view.setUint32(at + 28, packed(piece.tint), true);
    view.setUint32(at + 32, packed(piece.air), true);
    view.setUint16(at + 36, piece.set, true);
    bytes[at + 38] = piece.picture;
    bytes[at + 39] = HERE;
    bytes[at + 40] = byte(piece.opacity);
    bytes[at + 41] = byte(piece.blur);
    piece.gain.forEach((gain, i) => (bytes[at + 42 + i] = gainByte(gain)));
  }
  return bytes;
}

/**
 * The pieces of a chunk.
 * @throws Refusal where one of them cannot be
 */
export function readPieces(bytes: Uint8Array, first: number): Piece[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const pieces: Piece[] = [];
  for (let i = 0; i < A_CHUNK; i++) {
    const at = i * PIECE_BYTES;
    if (bytes[at + 39] === 0) continue;
    const real = (n: number): number => view.getFloat32(at + 4 * n, true);
    const gain = (n: number): number => (bytes[at + 42 + n] as number) / GAIN_ONE;
    const piece: Piece = {
      id: first + i,
      z: view.getInt32(at + 24, true),
      set: view.getUint16(at + 36, true),
      picture: bytes[at + 38] as number,
      x: real(0),
      y: real(1),
      matrix: [real(2), real(3), real(4), real(5)],
      gain: [gain(0), gain(1), gain(2)],
      tint: unpacked(view.getUint32(at + 28, true)),
      air: unpacked(view.getUint32(at + 32, true)),
      opacity: (bytes[at + 40] as number) / 255,
      blur: (bytes[at + 41] as number) / 255,
    };
    if (bytes[at + 39] !== HERE || !isSoundPiece(piece))
      throw new Refusal("the pieces of a layer cannot be read");
    pieces.push(piece);
  }
  return pieces;
}
