/**
 * The instructions of a tape, by name (see `kernels/tape.ts` for their operands): a tape is
 * the list of what is to be done for one tile, written with `Workforce.write`.
 */
export const TAPE = {
  /** dst r g b a */
  fill: 1,
  /** dst src bytes */
  copy: 2,
  /** dst src mode opacity inside */
  blend: 3,
  /** cov px py marks count noise grain period */
  marks: 4,
  /** layer before cov mode r g b strength left top right bottom */
  lay: 5,
  /** dst stride src level */
  pack: 6,
  /** cov */
  clear: 7,
} as const;

/** How coverage is laid on a layer: see `kernels/lay.ts`. */
export const LAY = { paint: 0, lift: 1, paintInside: 2 } as const;
