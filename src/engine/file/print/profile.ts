/**
 * The profile of sRGB (IEC 61966-2-1), in colour and in grey, as ICC.1:2010 (4.3) has it: a matrix and the curve as
 * a formula. It is made here, so that nobody's file is shipped.
 */
const HEAD_BYTES = 128;
const D50 = [0.9642, 1, 0.8249];
/** sRGB's primaries adapted to D50 (Bradford). */
const PRIMARIES = {
  rXYZ: [0.43607, 0.22249, 0.01392],
  gXYZ: [0.38515, 0.71687, 0.09708],
  bXYZ: [0.14307, 0.06061, 0.7141],
};
const ADAPTED = [
  1.04788, 0.02292, -0.05022, 0.02958, 0.99048, -0.01707, -0.00925, 0.01508, 0.75168,
];
/** Exponent, slope and offset above the knee; slope below it; the knee. */
const CURVE = [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045];

const ascii = (text: string): number[] => [...text].map((sign) => sign.charCodeAt(0));
const u32 = (v: number): number[] => [(v >>> 24) & 255, (v >>> 16) & 255, (v >>> 8) & 255, v & 255];
const fixed = (v: number): number[] => u32(Math.round(v * 65536));

const xyz = (v: readonly number[]): number[] => [...ascii("XYZ "), ...u32(0), ...v.flatMap(fixed)];
const curve = [...ascii("para"), ...u32(0), 0, 3, 0, 0, ...CURVE.flatMap(fixed)];
const text = (words: string): number[] => [
  ...ascii("mluc"),
  ...u32(0),
  ...u32(1),
  ...u32(12),
  ...ascii("enUS"),
  ...u32(words.length * 2),
  ...u32(28),
  ...[...words].flatMap((sign) => [0, sign.charCodeAt(0)]),
];

function profile(space: "RGB " | "GRAY", name: string): Uint8Array {
  const tags: [string, number[]][] = [
    ["desc", text(name)],
    ["cprt", text("No copyright, use freely")],
    ["wtpt", xyz(D50)],
    ["chad", [...ascii("sf32"), ...u32(0), ...ADAPTED.flatMap(fixed)]],
    ...(space === "GRAY"
      ? ([["kTRC", curve]] as [string, number[]][])
      : [
          ...Object.entries(PRIMARIES).map(([tag, v]): [string, number[]] => [tag, xyz(v)]),
          ...["rTRC", "gTRC", "bTRC"].map((tag): [string, number[]] => [tag, curve]),
        ]),
  ];
  const table: number[] = [...u32(tags.length)];
  const body: number[] = [];
  const placed = new Map<number[], number>();
  const start = HEAD_BYTES + 4 + tags.length * 12;
  for (const [tag, data] of tags) {
    // Curves that are the same are kept once.
    const at = placed.get(data) ?? start + body.length;
    if (!placed.has(data)) {
      placed.set(data, at);
      body.push(...data, ...new Array<number>((4 - (data.length % 4)) % 4).fill(0));
    }
    table.push(...ascii(tag), ...u32(at), ...u32(data.length));
  }
  const head = [
    ...u32(start + body.length),
    ...u32(0),
    ...u32(0x04300000),
    ...ascii("mntr"),
    ...ascii(space),
    ...ascii("XYZ "),
    // Made on the first of January 2026, at midnight: the same bytes every time.
    ...[2026, 1, 1, 0, 0, 0].flatMap((v) => [v >> 8, v & 255]),
    ...ascii("acsp"),
    ...new Array<number>(28).fill(0),
    ...D50.flatMap(fixed),
  ];
  const zeros = new Array<number>(HEAD_BYTES - head.length).fill(0);
  return Uint8Array.from([...head, ...zeros, ...table, ...body]);
}

/** The profile of sRGB. */
export const srgbProfile = (): Uint8Array => profile("RGB ", "sRGB");
/** A grey with sRGB's curve. */
export const greyProfile = (): Uint8Array => profile("GRAY", "Grey with the curve of sRGB");
