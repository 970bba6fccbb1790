import { type Brush, type Overtip } from "./brush";
import { type Tip, type TipPicture, tonesOf } from "./tip";
import { type TipTones } from "./tip-tones";
import { type JoinedTip, type TipPixels, tipPixels } from "./tip-shelf";

/** Side of the picture that a round tip is made into, px. */
const SIDE = 256;
/** Most pairs of a tip and an overtip. */
const MOST_PAIRS = 32;

/** How much of a tip there is at a place, 0…1; its middle is 0, 0, its rim at 1. */
type Cover = (u: number, v: number) => number;

/** What an overtip leaves of coverage c where it has o, in 0…1. */
const leaves: Record<Overtip["mode"], (c: number, o: number) => number> = {
  multiply: (c, o) => c * o,
  dodge: (c, o) => (o >= 1 ? Math.min(1, Math.ceil(c)) : Math.min(1, c / (1 - o))),
  subtract: (c, o) => Math.max(0, c - o),
  darken: (c, o) => Math.min(c, o),
};

/** A round tip as the kernels draw it: see `disc` in `kernels/mark.ts`. */
const roundCover =
  (hardness: number): Cover =>
  (u, v) => {
    const rim = 1 - hardness;
    const t = Math.min(1, Math.max(0, (1 - u * u - v * v) / Math.max(1e-3, rim * (2 - rim))));
    return t + rim * (t * t - t);
  };

const coverOfPixel = ({ data }: TipPixels, i: number, tones: TipTones): number => {
  const [r, g, b, a] = [0, 1, 2, 3].map((c) => (data[i * 4 + c] as number) / 255);
  const light = 0.2126 * (r as number) + 0.7152 * (g as number) + 0.0722 * (b as number);
  return (a as number) * (tones === "coverage" ? 1 - light : 1);
};

/** A picture's coverage, read between its pixels. */
function pictureCover(pixels: TipPixels, tones: TipTones): Cover {
  const { width, height } = pixels;
  const longer = Math.max(width, height);
  const at = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height ? 0 : coverOfPixel(pixels, y * width + x, tones);
  return (u, v) => {
    const x = (u * longer + width) / 2 - 0.5;
    const y = (v * longer + height) / 2 - 0.5;
    const [x0, y0] = [Math.floor(x), Math.floor(y)];
    const [fx, fy] = [x - x0, y - y0];
    const top = at(x0, y0) + (at(x0 + 1, y0) - at(x0, y0)) * fx;
    const low = at(x0, y0 + 1) + (at(x0 + 1, y0 + 1) - at(x0, y0 + 1)) * fx;
    return top + (low - top) * fy;
  };
}

type Part = { key: string; tones: TipTones; pixels: () => TipPixels; cover: () => Cover };

const keyOf = (picture: TipPicture): string =>
  "made" in picture ? picture.made : `${picture.tones} ${picture.png}`;

function partsOf(tip: Tip): Part[] {
  if (tip.kind === "round")
    return [
      {
        key: `round ${tip.hardness}`,
        tones: "coverage",
        pixels: () => ({ width: SIDE, height: SIDE, data: new Uint8Array(SIDE * SIDE * 4) }),
        cover: () => roundCover(tip.hardness),
      },
    ];
  return tip.pictures.map((picture) => ({
    key: keyOf(picture),
    tones: tonesOf(picture),
    pixels: () => tipPixels(picture),
    cover: () => pictureCover(tipPixels(picture), tonesOf(picture)),
  }));
}

function joined(tip: Part, over: Part, overtip: Overtip, size: number): TipPixels {
  const { width, height, data } = tip.pixels();
  const [own, other] = [tip.cover(), over.cover()];
  const leave = leaves[overtip.mode];
  const turn = overtip.angle.base * 2 * Math.PI;
  const [cos, sin] = [Math.cos(turn) / size, Math.sin(turn) / size];
  const flow = overtip.flow.base;
  const out = Uint8Array.from(data);
  const longer = Math.max(width, height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const u = (2 * (x + 0.5) - width) / longer;
      const v = (2 * (y + 0.5) - height) / longer;
      const before = own(u, v);
      const after = leave(before, flow * other(u * cos + v * sin, v * cos - u * sin));
      // Colours stay: only how much of the tip there is changes. Bare coverage is said in alpha.
      if (tip.tones === "coverage") out.set([0, 0, 0, Math.round(after * 255)], i * 4);
      else
        out[i * 4 + 3] =
          before > 0
            ? Math.min(255, Math.round(((data[i * 4 + 3] as number) * after) / before))
            : 0;
    }
  return { width, height, data: out };
}

/** Whether a brush's overtip goes along with each mark, rather than lying over the stroke. */
export const travels = ({ overtip, laying }: Brush): boolean =>
  !!overtip?.travels && (laying.kind === "marks" || laying.kind === "spray");

/** A brush whose overtip travels, as a plain one with tips of their own for each pair of both. */
export function withJoinedTips(brush: Brush): { brush: Brush; tips: JoinedTip[] } {
  const overtip = brush.overtip as Overtip;
  const size = overtip.diameter.base / Math.max(0.01, brush.diameter.base);
  const { mode, angle, flow } = overtip;
  const said = `${mode} ${size} ${angle.base} ${flow.base}`;
  const tips = partsOf(brush.tip)
    .flatMap((tip) =>
      partsOf(overtip.tip).map((over) => ({
        key: `${tip.key} under ${over.key} ${said}`,
        tones: tip.tones,
        make: () => joined(tip, over, overtip, Math.max(0.01, size)),
      })),
    )
    .slice(0, MOST_PAIRS);
  const own = brush.tip.kind === "pictures" ? brush.tip : overtip.tip;
  const flip = own.kind === "pictures" ? own.flip : { across: 0, along: 0 };
  // The pictures themselves are on the shelf; the tip says how they are chosen and turned over.
  const tip: Tip = { kind: "pictures", pictures: [], choice: "by chance", flip };
  return { brush: { ...brush, tip, overtip: null }, tips };
}
