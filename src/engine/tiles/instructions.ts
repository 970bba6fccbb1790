/**
 * The instructions of a tape, in the order of their numbers from 1 on, with their operands: each a word of 32 bits,
 * with `*9` nine of them. This list makes both sides: `tape.ts` for who writes them, and by `scripts/make-codes.ts`
 * the numbers that `kernels/tape.ts` reads.
 */
export const INSTRUCTIONS = {
  /** One colour all over. */
  fill: "dst r g b a",
  /** Bytes copied. */
  copy: "dst src bytes",
  /** A tile blended over another. */
  blend: "dst src mode opacity inside",
  /** Marks into coverage. */
  marks: "cov px py marks count noise grain period",
  /** Coverage laid on a layer. */
  lay: "layer before cov mode r g b strength left top right bottom",
  /** A tile packed to RGBA8. */
  pack: "dst stride src level",
  /** Bytes set to none. */
  clear: "plane bytes",
  /** Marks with colours into paint. */
  paintMarks: "paint px py marks count noise grain period",
  /** Paint laid on a layer. */
  layPaint: "layer before paint weight mode strength left top right bottom",
  /** What an overtip leaves. */
  combine: "dst plane over mode painted",
  /** A tile seen in one colour. */
  tint: "dst src r g b",
  /** This thread's region set to none. */
  clearRegion: "bytes",
  /** Part of a tile into the region. */
  unweave: "offset stride tile b0 b1 y0 y1",
  /** The region resampled over a tile. */
  warp: "dst nodes stride weights taps",
  /** A tile at half its size. */
  halve: "dst src qx qy",
  /** Bits of the pixels near a colour. */
  nearBits: "dst stride tile seed",
  /** Bits of the pixels with alpha. */
  alphaBits: "dst stride tile least",
  /** Bits grown by a disc. */
  growBits: "dst src words rows y0 y1 r reach onto",
  /** Bits grown by a step within bounds. */
  spreadBits: "dst src within without words rows y0 y1 x0 x1 eight",
  /** A colour through bits. */
  layBits: "tile bits stride how r g b",
  /** Numbered regions in colours. */
  layLabels: "tile labels stride palette",
  /** A change kept inside a mask. */
  keepInside: "dst before mask left top right bottom",
  /** What a mask holds back, or lets through. */
  holdBack: "dst src mask outside",
  /** Alpha raised through bits. */
  raiseBits: "tile bits stride amount",
  /** A mask from light or dark. */
  lightMask: "dst src dark",
  /** Two masks together. */
  joinMasks: "dst src how",
  /** A column of tiles blurred. */
  blurColumn: "from to count length buffer r0 r1 r2",
  /** A row of tiles blurred. */
  blurRow: "from to count length buffer r0 r1 r2",
  /** Colours changed by a table. */
  adjust: "dst src kind table",
  /** A gradient. */
  gradient: "dst px py kind shape table noise",
  /** Partly back to what was. */
  mix: "dst before share",
  /** A mask in one colour. */
  colourMask: "tile r g b",
  /** This thread's region on another scale of light. */
  lightRegion: "bytes table",
  /** A tile on another scale of light. */
  light: "dst src table",
  /** The same, at half its size. */
  halveLight: "dst src qx qy table",
  /** A tile laid under another. */
  under: "dst src",
  /** A tile sharpened. */
  sharpen: "dst src soft amount",
  /** A tile with noise. */
  noise: "dst src left top amount grey key",
  /** A dry tip's marks into contact. */
  contact: "contact px py marks count paper period",
  /** Contact laid on a layer. */
  layContact:
    "layer before powder before contact soil dry paper period px py left top right bottom",
  /** Loose powder bound, but for a share. */
  bind: "dst src left",
  /** A rub that carries powder. */
  smudge: "tile powder soils px py mark patch side ox oy paper period rate melts right bottom",
  /** Rows of what is carried, spread. */
  spreadCarried: "from to side spans grown y0 y1",
  /** A blending mark. */
  smear:
    "paint px py mark patch side ox oy strength pick fill keep below paper period right bottom beside share above share",
  /** A tile's colours as paint. */
  encodePaint: "paint tile",
  /** Paint closed, but for a mask. */
  closePaint: "paint mask",
  /** What has become of the paint. */
  showPaint: "tile paint",
  /** Wet paint unpacked. */
  wakePaint: "wet skin more bulk more thinner relief isWet px py paper period rough",
  /** Wet paint closed, but for a mask. */
  closeWet: "wet mask",
  /** Bristles swept over wet paint. */
  sweep: "wet px py sweeps list count sums",
  /** What has become of wet paint. */
  showWet: "tile relief under wet left top right bottom what",
  /** Wet paint packed. */
  restPaint: "wet skin more bulk more thinner",
  /** Paint that stands up, in the light. */
  lightRelief: "dst src reliefs*9 x y z depth gloss",
  /** A knife drawn over wet paint. */
  knife: "wet px py step cells count",
  /** Paint creeps along its edge. */
  knifeCreep: "cells count px marbles way seed",
  /** Relief of paint that has dried. */
  dryRelief: "dst src",
  /** How thinned paint would run, into a tile's field. */
  thinField: "wet field",
  /** The same, smoothed with what lies around. */
  thinAround: "fields*9 px py",
  /** Paint that runs between neighbours. */
  thinRun: "wet other field otherField direction odd gravity",
  /** A step of a wash. */
  washStep: "from to states*9 slots px py width height paper side numbers stats",
  /** What is seen of a wash. */
  developWash: "tile under states*9 slots px py paper side numbers top bottom",
  /** A brush in a wash. */
  washMarks:
    "state covered px py marks count what slot rub mask slots numbers paper side cells dissolving dissolves",
  /** What a wash holds. */
  lookAtWash: "state stats",
  /** Where wax holds water off. */
  waxResists: "state powder",
  /** What is dry below a wash, rubbed by a thirsty brush. */
  liftUnder: "dst src covered by",
  /** A tile as dots, lines or grain. */
  halftone: "dst src screen tones u v ux vx uy vy pixel least gain steps r g b how",
  /** What of a tile falls into another, moved by whole px. */
  shift: "dst src dx dy",
  /** A tile in black and white. */
  packBits: "dst stride src",
  /** What a square of a scene shows, into the region. */
  rasterScene: "scene list count px py side samples",
  /** A tile of the region's scene in its light. */
  colourScene: "dst scene px py pad samples",
  /** Its depths, ids or where its surfaces face. */
  flatScene: "dst scene px py pad samples what",
  /** Part of a tile with its lines. */
  lineScene: "dst scene px py left top side pad samples width r g b",
  /** Pieces strewn over a tile. */
  strew: "dst px py pieces list count",
  /** Where masking fluid holds water off. */
  fluidResists: "state film",
  /** Paint that has gathered along its rim. */
  fringe: "dst src tiles*9 how*12",
  /** How far what a picture of facing surfaces shows faces a light. */
  facingMask: "dst src right up front",
  /** What water can take up of a tile's dry marks. */
  solubleOf: "cells powder pixels paints count",
  /** What is left of them. */
  dissolveUnder: "dst src powder powderBefore covered state by",
  /** What of a stroke water takes up again. */
  markSoluble: "dst powder after before r g b share",
  /** A layer's powder laid on that below, where they are merged. */
  mergeDust: "below colour powder mask opacity covers",
  /** Light that wet paper gives back, on the table. */
  shineWash: "tile states*9 px py paper side",
} as const;

export type Instruction = keyof typeof INSTRUCTIONS;

/** How many words the operands of an instruction are. */
export const wordsOf = (instruction: Instruction): number =>
  INSTRUCTIONS[instruction]
    .split(" ")
    .reduce((sum, one) => sum + Number(one.split("*")[1] ?? 1), 0);
