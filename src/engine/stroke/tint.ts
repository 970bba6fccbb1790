import { hexToRgb, linearToRgb, oklabToLinear, rgbToOklab } from "../colour/oklch";
import { ONE } from "../tiles/layout";
import { type Brush } from "./brush";
import { evaluator, type Reading } from "./drives";
import { type Seen } from "./laying/station";
import { type Tint } from "./marks";

/** Chances of different parameters are kept apart by these. */
const SALT = { hue: 11, chroma: 12, value: 13, second: 14 };
const TURN = 2 * Math.PI;

const q15 = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * ONE);

/** Colours of marks: the chosen two, and how each mark's strays from them, in OKLab. */
export class Tints {
  #first: Tint;
  #stray: ((reading: Reading) => Tint) | null;
  #kept = new Map<number, Tint>();
  /** Whether a mark's colour is the same wherever on the stroke it lies. */
  #isByChance: boolean;

  constructor(colour: string, second: string, brush: Brush) {
    const one = hexToRgb(colour);
    const two = hexToRgb(second);
    this.#first = [...one.map(q15), ...two.map(q15)] as unknown as Tint;
    this.#stray = brush.colour && strayer(one, two, brush.colour, brush.tip.kind === "pictures");
    this.#isByChance = Object.values(brush.colour ?? {}).every(({ drives }) =>
      drives.every(({ by }) => by.startsWith("chance")),
    );
  }

  at(reading: Reading): Tint {
    return this.#stray ? this.#stray(reading) : this.#first;
  }

  /** As `at`, for a mark that comes again and again along the stroke (a strand). */
  again(reading: Reading): Tint {
    if (!this.#isByChance) return this.at(reading);
    const kept = this.#kept.get(reading.mark);
    if (kept) return kept;
    const tint = this.at(reading);
    this.#kept.set(reading.mark, tint);
    return tint;
  }

  /** What was seen somewhere, as the colour of a mark. */
  static of([r, g, b]: Seen): Tint {
    return [q15(r), q15(g), q15(b), ONE, ONE, ONE];
  }
}

type Rgb = [number, number, number];

function strayer(
  one: Rgb,
  two: Rgb,
  colour: NonNullable<Brush["colour"]>,
  twoTones: boolean,
): (r: Reading) => Tint {
  const hue = evaluator(colour.hue, SALT.hue);
  const chroma = evaluator(colour.chroma, SALT.chroma);
  const value = evaluator(colour.value, SALT.value);
  const second = evaluator(colour.second, SALT.second);
  const first = rgbToOklab(one);
  const other = rgbToOklab(two);
  const shifted = ([l, a, b]: Rgb, reading: Reading): number[] => {
    const turn = hue(reading) * TURN;
    const c = Math.max(0, chroma(reading));
    const cos = Math.cos(turn) * c;
    const sin = Math.sin(turn) * c;
    const light = Math.min(1, Math.max(0, l + value(reading)));
    return linearToRgb(oklabToLinear([light, a * cos - b * sin, a * sin + b * cos])).map(q15);
  };
  return (reading) => {
    const share = Math.min(1, Math.max(0, second(reading)));
    const mixed = first.map((v, i) => v + ((other[i] as number) - v) * share) as Rgb;
    const strayed = shifted(mixed, reading);
    // Only tips in two tones lay the second colour.
    const strayedOther = twoTones ? shifted(other, reading) : strayed;
    return [...strayed, ...strayedOther] as unknown as Tint;
  };
}
