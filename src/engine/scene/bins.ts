import { type Heap } from "../tiles/heap";

/** Numbers of the triangles that may be seen in each square of the sheet. */
export type Bins = { across: number; starts: Int32Array; list: Int32Array };

/**
 * Sorts triangles into squares of a sheet.
 * @param boxes left, top, right, bottom of each triangle, px; empty where it is not seen
 * @param side of a square, px
 * @param pad px around a square that are looked at too
 */
export function binsOf(
  boxes: Int32Array,
  side: number,
  pad: number,
  width: number,
  height: number,
): Bins {
  const across = Math.ceil(width / side);
  const down = Math.ceil(height / side);
  const starts = new Int32Array(across * down + 1);
  const each = (visit: (square: number, triangle: number) => void): void => {
    for (let i = 0; i < boxes.length; i += 4) {
      if (boxes[i]! >= boxes[i + 2]!) continue;
      const left = Math.max(0, Math.floor((boxes[i]! - pad) / side));
      const top = Math.max(0, Math.floor((boxes[i + 1]! - pad) / side));
      const right = Math.min(across, Math.ceil((boxes[i + 2]! + pad) / side));
      const bottom = Math.min(down, Math.ceil((boxes[i + 3]! + pad) / side));
      for (let row = top; row < bottom; row++)
        for (let column = left; column < right; column++) visit(row * across + column, i >> 2);
    }
  };
  each((square) => starts[square + 1]!++);
  for (let i = 1; i < starts.length; i++) starts[i]! += starts[i - 1]!;
  const list = new Int32Array(starts.at(-1) as number);
  const next = starts.slice();
  each((square, triangle) => (list[next[square]!++] = triangle));
  return { across, starts, list };
}

/** A list of numbers in the kernels' memory, of a size that comes up again. */
export function listIn(heap: Heap, list: Int32Array): { address: number; bytes: number } {
  const bytes = 2 ** Math.ceil(Math.log2(Math.max(64, list.byteLength)));
  const address = heap.allocate(bytes);
  heap.i32.set(list, address >>> 2);
  return { address, bytes };
}
