import { rgbToOklab } from "../colour/oklch";
import { type SunPin, towardLight } from "../sun/sun-pin";

/** A form of a picture that has a light side and a shade side. Places and sizes in px of what was looked at. */
export type LitForm = {
  /** Its middle. */
  at: readonly [x: number, y: number];
  /** Half its size. */
  reach: number;
  /** Where its light comes from on the sheet, radians clockwise from the right. */
  from: number;
  /** Its pixels, as places in the picture. */
  pixels: readonly number[];
};

/** How readily small parts grow together (OKLab · px). */
const BONUS = 1;
/** Forms are this share of the picture at least and at most, and so many px; what is larger is a place, no thing. */
const LEAST = 0.0015;
const MOST = 0.26;
const LEAST_PX = 40;
/** How far light and shade lie apart at least (OKLab lightness). */
const APART = 0.1;
/** How much of its lights and darks a plane of light must explain. */
const EXPLAINED = 0.3;
/** Of its box a form fills this at least and at most (walls and sheets fill it wholly), and of its rim this share at most lies at the picture's edge. */
const FILLED = 0.42;
const WHOLLY = 0.9;
const AT_EDGE = 0.12;
/** Two parts are light and shade of one form: how near their hues lie, and how much of the smaller one's rim they share. */
const ONE_HUE = 0.045;
const SHARED = 0.22;
/** How deep the rim is taken off before light is looked for, in roots of the area. */
const PEEL = 0.09;
/** A part of fewer px than so many times its rim is an outline. */
const THIN = 1.4;
/** Light nearer to the eye's own way than this falls on forms from the front: no side is wrong. */
const FRONTAL = 0.3;
/** How far a form's light may lie off the pin's, radians. */
const TOLERATED = (75 * Math.PI) / 180;

const { abs, max, min, sqrt } = Math;

type Field = { width: number; height: number; l: Float32Array; a: Float32Array; b: Float32Array };

/** OKLab of the pixels, a little smoothed so that grain is no edge. */
function fieldOf(pixels: Uint8ClampedArray, width: number, height: number): Field {
  const planes = [0, 1, 2].map(() => new Float32Array(width * height)) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  for (let i = 0; i < width * height; i++) {
    const at = i * 4;
    const lab = rgbToOklab([
      (pixels[at] as number) / 255,
      (pixels[at + 1] as number) / 255,
      (pixels[at + 2] as number) / 255,
    ]);
    for (let c = 0; c < 3; c++) (planes[c] as Float32Array)[i] = lab[c] as number;
  }
  const [l, a, b] = planes.map((plane) => smoothed(plane, width, height)) as typeof planes;
  return { width, height, l, a, b };
}

/** Means of three by three, twice. */
function smoothed(plane: Float32Array, width: number, height: number): Float32Array {
  let from = plane;
  for (let round = 0; round < 2; round++) {
    const out = new Float32Array(from.length);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        let [sum, count] = [0, 0];
        for (let v = max(0, y - 1); v <= min(height - 1, y + 1); v++)
          for (let u = max(0, x - 1); u <= min(width - 1, x + 1); u++) {
            sum += from[v * width + u] as number;
            count++;
          }
        out[y * width + x] = sum / count;
      }
    from = out;
  }
  return from;
}

/**
 * Parts of a picture, a number for each pixel: two become one where the least step between them is no greater than the
 * greatest within either and a bonus that shrinks as they grow (Felzenszwalb & Huttenlocher 2004).
 */
function partsOf({ width, height, l, a, b }: Field): Int32Array {
  const count = width * height;
  const step = (i: number, j: number): number => {
    const dl = (l[i] as number) - (l[j] as number);
    const da = (a[i] as number) - (a[j] as number);
    const db = (b[i] as number) - (b[j] as number);
    return sqrt(dl * dl + da * da + db * db);
  };
  // Steps to the right, then steps down.
  const steps = new Float32Array(2 * count).fill(Infinity);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width) steps[i] = step(i, i + 1);
      if (y + 1 < height) steps[count + i] = step(i, i + width);
    }
  const order = Int32Array.from({ length: 2 * count }, (_, e) => e)
    .filter((e) => (steps[e] as number) < Infinity)
    .sort((e, f) => (steps[e] as number) - (steps[f] as number) || e - f);
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  const size = new Int32Array(count).fill(1);
  const within = new Float32Array(count);
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) {
      parent[at] = parent[parent[at] as number] as number;
      at = parent[at] as number;
    }
    return at;
  };
  for (const e of order) {
    const i = e % count;
    const [one, other] = [root(i), root(e < count ? i + 1 : i + width)];
    if (one === other) continue;
    const w = steps[e] as number;
    const room = (part: number): number =>
      (within[part] as number) + BONUS / (size[part] as number);
    if (w > min(room(one), room(other))) continue;
    parent[one] = other;
    size[other] = (size[other] as number) + (size[one] as number);
    within[other] = w;
  }
  return parent.map((_, i) => root(i));
}

/** Leaves only parts of so many px; what lies between them goes to the nearest of them. −1 where there is none. */
function grown(parts: Int32Array, width: number, height: number, least: number): Int32Array {
  const sizes = new Map<number, number>();
  for (const part of parts) sizes.set(part, (sizes.get(part) ?? 0) + 1);
  const out = parts.map((part) => ((sizes.get(part) ?? 0) >= least ? part : -1));
  let edge: number[] = [];
  out.forEach((part, i) => part >= 0 && edge.push(i));
  while (edge.length > 0) {
    const next: number[] = [];
    for (const i of edge)
      for (const j of neighbours(i, width, height))
        if (out[j] === -1) {
          out[j] = out[i] as number;
          next.push(j);
        }
    edge = next;
  }
  return out;
}

function neighbours(i: number, width: number, height: number): number[] {
  const [x, y] = [i % width, Math.floor(i / width)];
  const near: number[] = [];
  if (x > 0) near.push(i - 1);
  if (x + 1 < width) near.push(i + 1);
  if (y > 0) near.push(i - width);
  if (y + 1 < height) near.push(i + width);
  return near;
}

type Part = { pixels: number[]; rim: number; atEdge: number; l: number; a: number; b: number };

const isThin = ({ pixels, rim }: Part): boolean => pixels.length < THIN * rim;

/** What is known of each part, and how long the rims are that two of them share. */
function surveyed(
  parts: Int32Array,
  { width, height, l, a, b }: Field,
): { byName: Map<number, Part>; shared: Map<string, number> } {
  const byName = new Map<number, Part>();
  const shared = new Map<string, number>();
  parts.forEach((name, i) => {
    if (name < 0) return;
    let part = byName.get(name);
    if (!part) byName.set(name, (part = { pixels: [], rim: 0, atEdge: 0, l: 0, a: 0, b: 0 }));
    part.pixels.push(i);
    part.l += l[i] as number;
    part.a += a[i] as number;
    part.b += b[i] as number;
    const near = neighbours(i, width, height);
    if (near.length < 4) {
      part.rim++;
      part.atEdge++;
    }
    for (const j of near) {
      const other = parts[j] as number;
      if (other === name) continue;
      part.rim++;
      if (other > name) {
        const key = `${name} ${other}`;
        shared.set(key, (shared.get(key) ?? 0) + 1);
      }
    }
  });
  for (const part of byName.values()) {
    const n = part.pixels.length;
    part.l /= n;
    part.a /= n;
    part.b /= n;
  }
  return { byName, shared };
}

/** Light and shade of one form, laid side by side, become one part. */
function joined(
  { byName, shared }: ReturnType<typeof surveyed>,
  most: number,
): Map<number, number> {
  const names = new Map<number, number>([...byName.keys()].map((name) => [name, name]));
  for (const [key, length] of shared) {
    const [first, second] = key.split(" ").map(Number) as [number, number];
    const [one, other] = [byName.get(first), byName.get(second)];
    if (!one || !other) continue;
    const isGround = [one, other].some(
      ({ atEdge, rim, pixels }) => atEdge > AT_EDGE * rim || pixels.length > most,
    );
    // Shade is of the light's hue, and duller the darker it is.
    const k = max(0.3, min(one.l, other.l) / max(one.l, other.l, 1e-6));
    const [bright, dark] = one.l > other.l ? [one, other] : [other, one];
    const off = sqrt((bright.a * k - dark.a) ** 2 + (bright.b * k - dark.b) ** 2);
    // The blur of an outline is a thin part of its own, and belongs to neither.
    if (isThin(one) || isThin(other)) continue;
    if (isGround || off > ONE_HUE || abs(one.l - other.l) < APART / 2) continue;
    if (length < SHARED * min(one.rim, other.rim)) continue;
    const [from, to] = [names.get(second) as number, names.get(first) as number];
    for (const [name, now] of names) if (now === from) names.set(name, to);
  }
  return names;
}

/** What is left of some pixels when their rim is taken off so many times: an outline's blur says nothing of light. */
function peeled(pixels: readonly number[], { width, height }: Field, times: number): number[] {
  let left = [...pixels];
  for (let i = 0; i < times; i++) {
    const there = new Set(left);
    left = left.filter((at) => {
      const near = neighbours(at, width, height);
      return near.length === 4 && near.every((next) => there.has(next));
    });
  }
  return left;
}

/** The form that some pixels are, with the way its light comes; null where they are none. */
function formOf(whole: readonly number[], field: Field): LitForm | null {
  const { width, l } = field;
  const pixels = peeled(whole, field, Math.max(1, Math.round(PEEL * sqrt(whole.length))));
  if (pixels.length < LEAST_PX / 2) return null;
  let [sx, sy, sl] = [0, 0, 0];
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const i of pixels) {
    const [x, y] = [i % width, Math.floor(i / width)];
    [left, right] = [min(left, x), max(right, x)];
    [top, bottom] = [min(top, y), max(bottom, y)];
    sx += x;
    sy += y;
    sl += l[i] as number;
  }
  const n = pixels.length;
  const box = (right - left + 1) * (bottom - top + 1);
  if (n < FILLED * box || n > WHOLLY * box) return null;
  const [mx, my, ml] = [sx / n, sy / n, sl / n];
  let [xx, xy, yy, xl, yl, ll] = [0, 0, 0, 0, 0, 0];
  for (const i of pixels) {
    const [x, y, v] = [(i % width) - mx, Math.floor(i / width) - my, (l[i] as number) - ml];
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xl += x * v;
    yl += y * v;
    ll += v * v;
  }
  const det = xx * yy - xy * xy;
  if (det < 1e-6 || ll < 1e-9) return null;
  const [gx, gy] = [(xl * yy - yl * xy) / det, (yl * xx - xl * xy) / det];
  const explained = (gx * xl + gy * yl) / ll;
  const lights = pixels.map((i) => l[i] as number).sort((p, q) => p - q);
  const range = (lights[Math.floor(n * 0.93)] as number) - (lights[Math.floor(n * 0.07)] as number);
  if (explained < EXPLAINED || range < APART) return null;
  return {
    at: [mx, my],
    reach: sqrt(box) / 2,
    from: Math.atan2(gy, gx),
    pixels: whole,
  };
}

/**
 * Forms of a picture with a light side and a shade side, and where their light comes from: parts of nearly one colour,
 * light and shade of one hue laid together; of each, the plane that fits its lightness best. What lies along the picture's edge is ground, and what is no compact shape is no form.
 * @param pixels RGBA, 0…255
 */
export function litForms(pixels: Uint8ClampedArray, width: number, height: number): LitForm[] {
  const field = fieldOf(pixels, width, height);
  const area = width * height;
  const least = max(LEAST_PX, LEAST * area);
  const parts = grown(partsOf(field), width, height, least / 3);
  const survey = surveyed(parts, field);
  const names = joined(survey, MOST * area);
  const whole = new Map<number, { pixels: number[]; rim: number; atEdge: number }>();
  for (const [name, part] of survey.byName) {
    const into = names.get(name) as number;
    const one = whole.get(into) ?? { pixels: [], rim: 0, atEdge: 0 };
    one.pixels.push(...part.pixels);
    one.rim += part.rim;
    one.atEdge += part.atEdge;
    whole.set(into, one);
  }
  const forms: LitForm[] = [];
  for (const part of whole.values()) {
    const count = part.pixels.length;
    if (count < least || count > MOST * area || part.atEdge > AT_EDGE * part.rim) continue;
    const form = formOf(part.pixels, field);
    if (form) forms.push(form);
  }
  return forms;
}

/** Where a pin's light comes from on the sheet, radians clockwise from the right; null where it comes from the front. */
export function lightOnSheet(pin: Pick<SunPin, "azimuth" | "height">): number | null {
  const [right, up] = towardLight(pin);
  return sqrt(right * right + up * up) < FRONTAL ? null : Math.atan2(-up, right);
}

/** Those forms whose light comes from elsewhere than the pin's. */
export const againstLight = (forms: readonly LitForm[], from: number): LitForm[] =>
  forms.filter((form) => {
    const off = Math.atan2(Math.sin(form.from - from), Math.cos(form.from - from));
    return abs(off) > TOLERATED;
  });
