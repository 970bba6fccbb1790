import { Refusal } from "../../picture/refusal";
import { MOST_FACES, type Solid } from "../../scene/solid";
import { fromBase64, toBase64 } from "../base64";

/** Bytes of a file with a shape at most. */
export const MOST_SHAPE_BYTES = 32 * 2 ** 20;

/** Corners x y z, y up, and three of them for each face, to the left as seen from outside. */
export type Triangles = { corners: number[]; faces: number[] };

/** A shape as a solid takes it: its mesh in a box of one, and how wide, high and deep it is, m. */
export type Shape = { mesh: NonNullable<Solid["mesh"]>; size: [number, number, number] };

/** The longest side of a shape that is put into a scene, m: files say nothing of metres that could be relied on. */
const LONGEST = 2;
/** Thinner than this, of its longest side, a shape is a sheet. */
const THINNEST = 1e-4;

/** @throws Refusal where there are more faces than a solid may have */
export function refuseFaces(count: number): void {
  if (count > MOST_FACES)
    throw new Refusal(
      `the file holds more than ${MOST_FACES.toLocaleString("en")} faces. Make the shape coarser first`,
    );
}

/**
 * Triangles as a shape: their box is brought to one wide, high and deep.
 * @throws Refusal where they make none
 */
export function shapeOf({ corners, faces }: Triangles): Shape {
  refuseFaces(faces.length / 3);
  if (faces.length === 0) throw new Refusal("the file holds no faces");
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const face of faces)
    for (let axis = 0; axis < 3; axis++) {
      const v = corners[face * 3 + axis];
      if (v === undefined || !Number.isFinite(v))
        throw new Refusal(`a face of the file names corner ${face}, which it does not hold`);
      low[axis] = Math.min(low[axis] as number, v);
      high[axis] = Math.max(high[axis] as number, v);
    }
  const spans = low.map((v, axis) => (high[axis] as number) - v);
  const longest = Math.max(...spans);
  if (!(longest > 0) || !Number.isFinite(longest))
    throw new Refusal("the shape in the file has no size");
  // Only corners that are used are kept.
  const places = new Map<number, number>();
  const points: number[] = [];
  const named = faces.map((face) => {
    const known = places.get(face);
    if (known !== undefined) return known;
    for (let axis = 0; axis < 3; axis++) {
      const span = spans[axis] as number;
      const share =
        span > 0 ? ((corners[face * 3 + axis] as number) - (low[axis] as number)) / span : 0.5;
      points.push(axis === 1 ? (span > 0 ? share : 0) : share - 0.5);
    }
    places.set(face, places.size);
    return places.size - 1;
  });
  const bytes = (of: Float32Array | Uint32Array): string => toBase64(new Uint8Array(of.buffer));
  return {
    mesh: { corners: bytes(Float32Array.from(points)), faces: bytes(Uint32Array.from(named)) },
    size: spans.map((span) => Math.max(span / longest, THINNEST) * LONGEST) as Shape["size"],
  };
}

/** Bytes that a data address holds. @throws Refusal where it is none */
export function dataOf(address: string): Uint8Array {
  const comma = address.indexOf(",");
  if (!address.startsWith("data:") || !address.slice(0, comma).endsWith(";base64"))
    throw new Refusal("the file names other files. Save it with everything in one (.glb)");
  return fromBase64(address.slice(comma + 1));
}
