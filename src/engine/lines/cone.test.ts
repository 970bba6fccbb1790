import { Marks } from "../stroke/marks";
import { testEngine } from "../engine.testing";
import { COVERAGE_BYTES, ONE } from "../tiles/layout";

const engine = testEngine();

type Piece = [x0: number, y0: number, r0: number, x1: number, y1: number, r1: number];

/** Coverage of a tile of 64 × 64 px, row by row, by pieces of one line. */
function covered(pieces: readonly Piece[]): Float64Array {
  const { heap, kernels } = engine.store;
  const marks = new Marks(heap, true, true);
  for (const [x0, y0, r0, x1, y1, r1] of pieces) {
    marks.lacksRoomFor(1);
    marks.cone({ x0, y0, r0, x1, y1, r1, flow: 1 });
  }
  const plane = heap.allocate(COVERAGE_BYTES);
  heap.u8.fill(0, plane, plane + COVERAGE_BYTES);
  const { workforce } = engine;
  workforce.beginJob();
  workforce.write(4, plane, 0, 0, marks.address, marks.count, engine.bench.noise, 0, 1);
  workforce.endJob();
  workforce.run(false);
  expect(kernels).toBeDefined();
  const out = Float64Array.from(
    { length: 4096 },
    (_, i) => (heap.u16[(plane >> 1) + i] as number) / ONE,
  );
  heap.free(plane, COVERAGE_BYTES);
  marks.free();
  return out;
}

const inkOf = (coverage: Float64Array): number => coverage.reduce((sum, v) => sum + v, 0);

/** Whether a place lies in the hull of two discs: found along the axis by small steps, not by a formula. */
function isInside([x0, y0, r0, x1, y1, r1]: Piece, x: number, y: number): boolean {
  for (let i = 0; i <= 400; i++) {
    const t = i / 400;
    const r = r0 + (r1 - r0) * t;
    if ((x - x0 - (x1 - x0) * t) ** 2 + (y - y0 - (y1 - y0) * t) ** 2 <= r * r) return true;
  }
  return false;
}

describe("round cones", () => {
  it.each([0, 7, 20, 31, 45, 58, 73, 90])(
    "a hair of 0.3 px holds its ink at %i degrees",
    (degrees) => {
      const angle = (degrees * Math.PI) / 180;
      const [dx, dy] = [22 * Math.cos(angle), 22 * Math.sin(angle)];
      for (const [ox, oy] of [
        [32, 32],
        [32.3, 32.7],
        [32.5, 32.5],
        [32.81, 32.13],
      ] as const) {
        const ink = inkOf(covered([[ox - dx, oy - dy, 0.15, ox + dx, oy + dy, 0.15]]));
        // Its band, and half a disc at each end.
        const area = 44 * 0.3 + Math.PI * 0.15 ** 2;
        expect(ink / area).toBeGreaterThan(0.97);
        expect(ink / area).toBeLessThan(1.03);
      }
    },
  );

  it.each<[string, Piece]>([
    ["a stout one", [14.2, 20.7, 9, 47.9, 41.3, 4]],
    ["a slim one", [10.5, 50.1, 0.6, 52.2, 12.8, 2.4]],
    ["one that is hardly longer than it is wide", [30, 30, 8, 34, 31, 5.5]],
  ])("%s covers what 16 × 16 samples a pixel say", (_name, piece) => {
    const coverage = covered([piece]);
    let square = 0;
    let most = 0;
    let edges = 0;
    for (let y = 0; y < 64; y++)
      for (let x = 0; x < 64; x++) {
        const got = coverage[y * 64 + x] as number;
        let inside = 0;
        // Deep inside and far outside nothing is to be counted.
        const corners = [0.02, 0.98].flatMap((v) =>
          [0.02, 0.98].map((u) => isInside(piece, x + u, y + v)),
        );
        if (corners.every((one) => one === corners[0])) inside = corners[0] ? 256 : 0;
        else
          for (let v = 0; v < 16; v++)
            for (let u = 0; u < 16; u++)
              if (isInside(piece, x + (u + 0.5) / 16, y + (v + 0.5) / 16)) inside++;
        const off = Math.abs(got - inside / 256);
        if (inside > 0 && inside < 256) {
          edges++;
          square += off * off;
        }
        most = Math.max(most, off);
      }
    expect(edges).toBeGreaterThan(20);
    expect(Math.sqrt(square / edges)).toBeLessThan(0.035);
    expect(most).toBeLessThan(0.12);
  });

  it("a swell has the same shape in two pieces or in forty", () => {
    const swell = (pieces: number): Float64Array =>
      covered(
        Array.from({ length: pieces }, (_, i): Piece => {
          const at = (k: number): [number, number, number] => {
            const t = k / pieces;
            return [8 + 48 * t, 40 - 14 * t, 1 + 9 * t];
          };
          return [...at(i), ...at(i + 1)];
        }),
      );
    const [few, many] = [swell(2), swell(40)];
    for (let i = 0; i < 4096; i++)
      expect(Math.abs((few[i] as number) - (many[i] as number))).toBeLessThan(0.01);
  });

  it("where one disc holds the other it is that disc, and a place alone is a dot", () => {
    const disc = inkOf(covered([[32, 32, 7, 34, 32, 2]]));
    expect(disc).toBeCloseTo(Math.PI * 49, 0);
    expect(inkOf(covered([[34, 32, 2, 32, 32, 7]]))).toBeCloseTo(disc, 6);
    expect(inkOf(covered([[20.3, 20.6, 3, 20.3, 20.6, 3]]))).toBeCloseTo(Math.PI * 9, 0);
  });
});
