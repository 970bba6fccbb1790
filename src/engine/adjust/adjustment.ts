import { z } from "zod";
import { greatestChroma, linearToRgb, oklchToLinear, type Rgb, rgbToOklch } from "../colour/oklch";
import { stopsAt, stopsSchema, TABLE_STEPS } from "../gradient/gradient";
import { curveSchema, monotoneCubic } from "../stroke/curve";

const share = z.number().min(0).max(1);
const either = z.number().min(-1).max(1);
const three = z.tuple([either, either, either]);

/** Corners a side of a cube of colours: `kernels/adjust.ts` knows the same. */
export const CUBE = 33;

/** Adjustments that change each pixel by its own colour alone. */
const pointwise = [
  z.strictObject({
    kind: z.literal("levels"),
    black: share.default(0),
    white: share.default(1),
    /** Above 1 the middle grows lighter. */
    middle: z.number().min(0.1).max(10).default(1),
    lowest: share.default(0),
    highest: share.default(1),
  }),
  z.strictObject({
    kind: z.literal("curves"),
    all: curveSchema,
    red: curveSchema,
    green: curveSchema,
    blue: curveSchema,
  }),
  z.strictObject({ kind: z.literal("brightness"), brightness: either, contrast: either }),
  z.strictObject({
    kind: z.literal("hue"),
    /** Degrees. */
    hue: z.number().min(-180).max(180),
    saturation: either,
    lightness: either,
  }),
  z.strictObject({
    kind: z.literal("balance"),
    /** Red, green and blue more or less, in darks, middles and lights. */
    darks: three,
    middles: three,
    lights: three,
  }),
  /** Lightness mapped through a gradient. */
  z.strictObject({ kind: z.literal("by value"), stops: stopsSchema }),
  z.strictObject({ kind: z.literal("invert") }),
  z.strictObject({ kind: z.literal("posterize"), steps: z.int().min(2).max(32) }),
] as const;

/** Adjustments that look at a pixel's neighbours, or at chance. */
const neighbourly = [
  z.strictObject({ kind: z.literal("blur"), radius: z.number().min(0.5).max(500) }),
  z.strictObject({
    kind: z.literal("sharpen"),
    radius: z.number().min(0.5).max(100),
    amount: z.number().min(0).max(5),
  }),
  z.strictObject({
    kind: z.literal("noise"),
    amount: share,
    grey: z.boolean(),
    seed: z.int().min(0).max(0xffffffff),
  }),
] as const;

/** Farthest that an adjustment layer may blur or sharpen: it is worked out anew under the pen. */
export const MOST_LAYER_RADIUS = 96;

export const adjustmentSchema = z.discriminatedUnion("kind", [...pointwise, ...neighbourly]);

/** An adjustment as a layer. */
export const layerToneSchema = adjustmentSchema.refine(
  (adjustment) => !("radius" in adjustment) || adjustment.radius <= MOST_LAYER_RADIUS,
  { message: `an adjustment layer blurs or sharpens by ${MOST_LAYER_RADIUS} px at most` },
);

export type Adjustment = z.infer<typeof adjustmentSchema>;
export type Tone = Exclude<Adjustment, { kind: "blur" | "sharpen" | "noise" }>;

export const isTone = (adjustment: Adjustment): adjustment is Tone =>
  adjustment.kind !== "blur" && adjustment.kind !== "sharpen" && adjustment.kind !== "noise";

/** How the kernels look a colour up. */
const BY = { channels: 0, value: 1, colour: 2 } as const;

export type ToneTable = { by: number; numbers: Float32Array };

/** What an adjustment is to the kernels: a table of colours, channels or light. */
export function toneTable(tone: Tone): ToneTable {
  switch (tone.kind) {
    case "by value":
      return { by: BY.value, numbers: valueTable(tone.stops) };
    case "hue":
      return { by: BY.colour, numbers: colourCube((rgb) => turned(rgb, tone)) };
    default:
      return { by: BY.channels, numbers: channelTable(channelsOf(tone)) };
  }
}

type Channel = (v: number) => number;
type ChannelTone = Exclude<Tone, { kind: "by value" | "hue" }>;

function channelsOf(tone: ChannelTone): [Channel, Channel, Channel] {
  const same = (channel: Channel): [Channel, Channel, Channel] => [channel, channel, channel];
  switch (tone.kind) {
    case "levels": {
      const { black, white, middle, lowest, highest } = tone;
      const span = Math.max(1e-4, white - black);
      return same((v) => {
        const t = Math.min(1, Math.max(0, (v - black) / span)) ** (1 / middle);
        return lowest + (highest - lowest) * t;
      });
    }
    case "curves": {
      const all = monotoneCubic(tone.all);
      const own = [tone.red, tone.green, tone.blue].map((curve) => monotoneCubic(curve));
      return own.map((channel) => (v: number) => channel(all(v))) as [Channel, Channel, Channel];
    }
    case "brightness": {
      // Contrast turns the line around the middle: flat at −1, upright at 1.
      const slope = Math.tan(((tone.contrast + 1) * Math.PI) / 4);
      return same((v) => (v - 0.5) * slope + 0.5 + tone.brightness * 0.5);
    }
    case "balance":
      return [0, 1, 2].map((c) => (v: number) => balanced(v, tone, c)) as [
        Channel,
        Channel,
        Channel,
      ];
    case "invert":
      return same((v) => 1 - v);
    case "posterize":
      return same((v) => Math.min(tone.steps - 1, Math.floor(v * tone.steps)) / (tone.steps - 1));
  }
}

/** How far a colour balance at its end moves a channel. */
const BALANCE = 0.3;

function balanced(v: number, tone: Extract<Tone, { kind: "balance" }>, c: number): number {
  const dark = (1 - v) ** 2;
  const light = v ** 2;
  const middle = 2 * v * (1 - v);
  const shift =
    (tone.darks[c] as number) * dark +
    (tone.middles[c] as number) * middle +
    (tone.lights[c] as number) * light;
  // Black and white stay where nothing pulls at them: the shift fades at both ends.
  return v + shift * BALANCE;
}

function turned(
  rgb: Rgb,
  { hue, saturation, lightness }: Extract<Tone, { kind: "hue" }>,
): readonly number[] {
  const { l, c, h } = rgbToOklch(rgb);
  const light = lightness < 0 ? l * (1 + lightness) : l + (1 - l) * lightness;
  const wanted = c * (saturation < 0 ? 1 + saturation : 1 + saturation * 2);
  const turn = (h + hue + 360) % 360;
  const chroma = wanted < 0.004 ? wanted : Math.min(wanted, greatestChroma(light, turn));
  return linearToRgb(oklchToLinear({ l: light, c: chroma, h: turn }));
}

function channelTable(channels: readonly Channel[]): Float32Array {
  const table = new Float32Array((TABLE_STEPS + 1) * 3);
  channels.forEach((channel, c) => {
    for (let i = 0; i <= TABLE_STEPS; i++)
      table[c * (TABLE_STEPS + 1) + i] = Math.min(1, Math.max(0, channel(i / TABLE_STEPS)));
  });
  return table;
}

function valueTable(stops: Extract<Tone, { kind: "by value" }>["stops"]): Float32Array {
  const table = new Float32Array((TABLE_STEPS + 1) * 3);
  const opaque = stops.map((stop) => ({ ...stop, alpha: 1 }));
  for (let i = 0; i <= TABLE_STEPS; i++)
    table.set(stopsAt(opaque, i / TABLE_STEPS).slice(0, 3), i * 3);
  return table;
}

function colourCube(change: (rgb: Rgb) => readonly number[]): Float32Array {
  const table = new Float32Array(CUBE ** 3 * 3);
  let at = 0;
  for (let r = 0; r < CUBE; r++)
    for (let g = 0; g < CUBE; g++)
      for (let b = 0; b < CUBE; b++, at += 3)
        table.set(change([r / (CUBE - 1), g / (CUBE - 1), b / (CUBE - 1)]), at);
  return table;
}
