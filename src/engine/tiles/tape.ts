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
  /** plane bytes */
  clear: 7,
  /** paint px py marks count noise grain period */
  paintMarks: 8,
  /** layer before paint weight mode strength left top right bottom */
  layPaint: 9,
  /** dst plane over mode painted */
  combine: 10,
  /** dst src r g b */
  tint: 11,
  /** bytes */
  clearRegion: 12,
  /** offset stride tile b0 b1 y0 y1 */
  unweave: 13,
  /** dst nodes stride weights taps */
  warp: 14,
  /** dst src qx qy */
  halve: 15,
  /** dst stride tile seed */
  nearBits: 16,
  /** dst stride tile least */
  alphaBits: 17,
  /** dst src words rows y0 y1 r reach onto */
  growBits: 18,
  /** dst src within without words rows y0 y1 x0 x1 eight */
  spreadBits: 19,
  /** tile bits stride how r g b */
  layBits: 20,
  /** tile labels stride palette */
  layLabels: 21,
  /** dst before mask */
  keepInside: 22,
  /** dst src mask outside */
  holdBack: 23,
  /** tile bits stride amount */
  raiseBits: 24,
  /** dst src dark */
  lightMask: 25,
  /** dst src how */
  joinMasks: 26,
  /** from to count length buffer r0 r1 r2 */
  blurColumn: 27,
  /** from to count length buffer r0 r1 r2 */
  blurRow: 28,
  /** dst src kind table */
  adjust: 29,
  /** dst px py kind shape table noise */
  gradient: 30,
  /** dst before share */
  mix: 31,
  /** tile r g b */
  colourMask: 32,
  /** bytes table */
  lightRegion: 33,
  /** dst src table */
  light: 34,
  /** dst src qx qy table */
  halveLight: 35,
  /** dst src */
  under: 36,
  /** dst src soft amount */
  sharpen: 37,
  /** dst src left top amount grey key */
  noise: 38,
  /** contact px py marks count paper period */
  contact: 39,
  /** layer before powder before contact dry paper period px py left top right bottom */
  layContact: 40,
  /** dst src left */
  bind: 41,
  /** tile powder px py mark patch side ox oy paper period rate right bottom */
  smudge: 42,
  /** from to side spans grown y0 y1 */
  spreadCarried: 43,
  /** paint px py mark patch side ox oy strength pick fill keep below paper period right bottom beside share above share */
  smear: 44,
  /** paint tile */
  encodePaint: 45,
  /** paint mask */
  closePaint: 46,
  /** tile paint */
  showPaint: 47,
  /** wet skin more bulk more thinner relief isWet px py paper period rough */
  wakePaint: 48,
  /** wet mask */
  closeWet: 49,
  /** wet px py sweeps list count sums */
  sweep: 50,
  /** tile relief under wet left top right bottom whole */
  showWet: 51,
  /** wet skin more bulk more thinner */
  restPaint: 52,
  /** dst src nine reliefs, light x y z depth gloss */
  lightRelief: 53,
  /** wet px py step cells count */
  knife: 54,
  /** cells count px marbles way seed */
  knifeCreep: 55,
  /** dst src */
  dryRelief: 56,
  /** wet field */
  thinField: 57,
  /** nine fields, px py */
  thinAround: 58,
  /** wet other field otherField direction odd gravity */
  thinRun: 59,
  /** from to nine states, slots px py width height paper side numbers stats */
  washStep: 60,
  /** tile under nine states, slots px py paper side numbers top bottom */
  developWash: 61,
  /** state covered px py marks count what slot rub mask slots numbers paper side */
  washMarks: 62,
  /** state stats */
  lookAtWash: 63,
  /** state powder */
  waxResists: 64,
  /** dst src covered by */
  liftUnder: 65,
  /** dst src screen tones u v ux vx uy vy pixel least gain steps r g b how */
  halftone: 66,
  /** dst src dx dy */
  shift: 67,
  /** dst stride src */
  packBits: 68,
  /** scene list count px py side samples */
  rasterScene: 69,
  /** dst scene px py pad samples */
  colourScene: 70,
  /** dst scene px py pad samples what */
  flatScene: 71,
  /** dst scene px py left top side pad samples width r g b */
  lineScene: 72,
  /** dst px py pieces list count */
  strew: 73,
} as const;

/** How coverage is laid on a layer: see `kernels/lay.ts`. */
export const LAY = { paint: 0, lift: 1, paintInside: 2 } as const;

/** How an overtip changes the first tip: see `kernels/paint.ts`. */
export const OVERTIP = { multiply: 0, dodge: 1, subtract: 2, darken: 3 } as const;

/** How a colour is laid through bits, and how bit pictures are joined: see `kernels/region.ts`. */
export const THROUGH = { cover: 0, behind: 1, take: 2, inside: 3 } as const;
export const JOIN = { and: 0, or: 1, andNot: 2, either: 3 } as const;

/** Bytes of the region that a thread has for resampling: 192 × 192 px. */
export const REGION_SIDE = 192;
export const REGION_BYTES = REGION_SIDE * REGION_SIDE * 8;

/** Bytes of the samples that a thread has for scenes: 204 × 204, each with a mark. */
export const SAMPLES_BYTES = 368 * 1024;

/** A number as a tape holds it: the bits of an f32. */
export const realWord = (v: number): number =>
  new Int32Array(Float32Array.of(v).buffer)[0] as number;
