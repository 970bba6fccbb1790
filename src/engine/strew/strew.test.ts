import {
  alphaAt,
  alphas,
  fingerprint,
  line,
  pixel,
  stroke,
  sum,
  testWork,
} from "../engine.testing";
import { type Work } from "../command/work";
import { type Engine } from "../engine";
import { ONE, TILE_BYTES } from "../tiles/layout";
import { type Tile } from "../tiles/tile-store";
import { overEachOther } from "./heap-of-pieces";
import { boxOfPiece, layPieces } from "./lay";
import { A_CHUNK, type Piece, readPieces, settledPiece, writePieces } from "./piece";
import { rendered } from "./pictures/art";
import { nearness } from "./scatter";
import { madePictures } from "./pictures/made";
import { madeSets } from "./sets";
import {
  freely,
  idsOf,
  onePiece,
  plainly,
  strewing,
  strewnPieces,
  strewWork,
} from "./strew.testing";

const acrossTheSheet = line([60, 100], [580, 380], { steps: 40 });

/** A picture that is one colour all over, and the size it was cut at, as set 256. */
function collectBlock(work: Work, width: number, height: number): void {
  work.apply(stroke(line([20, 60], [220, 60]), { size: 150, colour: "#c04020" }));
  const box = { left: 60, top: 40, right: 60 + width, bottom: 40 + height };
  work.apply({ do: "select", shape: { kind: "box", box } });
  work.apply({ do: "strew.collect", layer: "a", set: 256, name: "Block" });
  work.apply({ do: "select.none" });
}

describe("a piece", () => {
  it("is its picture, turned and stretched: an independent sampling agrees at every pixel", () => {
    const { engine, work } = strewWork();
    work.apply(
      strewing(
        [[0, 300, 240, 1, 1.5, 0, 0]],
        { ...plainly, set: 4, only: 1, turns: 1, gap: 20 },
        {
          size: 90,
        },
      ),
    );
    const [piece] = strewnPieces(engine, work) as [Piece];
    // 126 texels and a ring of nothing around them.
    const side = 126;
    const texels = rendered(madePictures[4]?.[1] as never, side);
    const [a, b, c, d] = piece.matrix;
    const det = a * d - b * c;
    const texel = (u: number, v: number, k: number): number =>
      u < 0 || v < 0 || u >= side || v >= side ? 0 : (texels[(v * side + u) * 4 + k] as number);
    const seen = (x: number, y: number, k: number): number => {
      const [dx, dy] = [x - piece.x, y - piece.y];
      const u = (((d * dx - c * dy) / det + 1) * side) / 2 - 0.5;
      const v = (((a * dy - b * dx) / det + 1) * side) / 2 - 0.5;
      const [i, j] = [Math.floor(u), Math.floor(v)];
      const [s, t] = [u - i, v - j];
      return (
        (texel(i, j, k) * (1 - s) + texel(i + 1, j, k) * s) * (1 - t) +
        (texel(i, j + 1, k) * (1 - s) + texel(i + 1, j + 1, k) * s) * t
      );
    };
    const looks = [
      [-0.125, -0.375],
      [0.375, -0.125],
      [0.125, 0.375],
      [-0.375, 0.125],
    ] as const;
    let worst = 0;
    for (let y = 190; y < 290; y++)
      for (let x = 250; x < 350; x++)
        pixel(engine, work, "s", x, y).forEach((value, k) => {
          const mean =
            looks.reduce((all, [dx, dy]) => all + seen(x + 0.5 + dx, y + 0.5 + dy, k), 0) / 4;
          worst = Math.max(worst, Math.abs(value - mean));
        });
    expect(worst).toBeLessThan(12);
    expect(pixel(engine, work, "s", 300, 240)[3]).toBe(ONE);
  });

  it.each([
    { width: 60, height: 40, size: 100, turns: 0 },
    { width: 60, height: 40, size: 30, turns: 0 },
    { width: 40, height: 60, size: 150, turns: 1 },
  ])("of a block of $width × $height at $size px covers as much as that says", (one) => {
    const { width, height, size, turns } = one;
    const { engine, work } = strewWork();
    collectBlock(work, width, height);
    work.apply(onePiece(320, 250, { set: 256, turns }, { size, seed: 9 }));
    const scale = size / Math.max(width, height);
    const area = width * height * scale * scale;
    expect(sum(alphas(engine, work, "s")) / area).toBeGreaterThan(0.9);
    expect(sum(alphas(engine, work, "s")) / area).toBeLessThan(1.04);
    const [r = 0, , , a = 1] = pixel(engine, work, "s", 320, 250);
    expect(r / a).toBeCloseTo(0xc0 / 255, 2);
  });

  it("lies within its box, out of focus too, and keeps nearly all of its paint there", () => {
    const sharp = strewWork();
    const soft = strewWork();
    sharp.work.apply(onePiece(320, 240, { set: 4 }, { size: 120 }));
    soft.work.apply(onePiece(320, 240, { set: 4 }, { size: 120 }));
    soft.work.apply({ do: "strew.set", layer: "s", pieces: [1], blur: 0.7 });
    const [before, after] = [
      alphas(sharp.engine, sharp.work, "s"),
      alphas(soft.engine, soft.work, "s"),
    ];
    expect(sum(after) / sum(before)).toBeGreaterThan(0.97);
    expect(sum(after) / sum(before)).toBeLessThan(1.02);
    const { left, top, right, bottom } = boxOfPiece(
      strewnPieces(soft.engine, soft.work)[0] as Piece,
    );
    const outside = after.filter((_, i) => {
      const [x, y] = [i % 640, Math.floor(i / 640)];
      return x < left || x >= right || y < top || y >= bottom;
    });
    expect(sum(outside)).toBe(0);
    // The edge of a stone was hard and is not any more.
    const steepest = (of: Float64Array): number =>
      of.reduce((most, alpha, i) => Math.max(most, Math.abs(alpha - (of[i - 1] ?? 0))), 0);
    expect(steepest(before)).toBeGreaterThan(0.5);
    expect(steepest(after)).toBeLessThan(0.05);
  });

  it("takes a colour, air and opacity as they are said", () => {
    const { engine, work } = strewWork();
    collectBlock(work, 60, 60);
    const at = (): number[] => pixel(engine, work, "s", 320, 240).map((v) => v / ONE);
    work.apply(onePiece(320, 240, { set: 256 }, { size: 100 }));
    work.apply({ do: "strew.set", layer: "s", pieces: [1], opacity: 0.5 });
    expect(at()[3]).toBeCloseTo(0.5, 2);
    work.apply({ do: "strew.set", layer: "s", pieces: [1], opacity: 1, air: ["#336699", 1] });
    [0x33, 0x66, 0x99].forEach((v, k) => expect(at()[k]).toBeCloseTo(v / 255, 3));
    // Its lightness in another hue: darker than 0.6, so the hue darkens in proportion.
    work.apply({
      do: "strew.set",
      layer: "s",
      pieces: [1],
      air: ["#336699", 0],
      tint: ["#336699", 1],
    });
    const light = (0xc0 * 0.3 + 0x40 * 0.59 + 0x20 * 0.11) / 255;
    [0x33, 0x66, 0x99].forEach((v, k) => expect(at()[k]).toBeCloseTo((v / 255) * (light / 0.6), 2));
  });

  it("is read again from its bytes as it was settled, and nothing else is", () => {
    const piece = settledPiece({
      id: A_CHUNK + 3,
      z: -2,
      set: 300,
      picture: 7,
      x: 12.34567,
      y: -8.2,
      matrix: [3.3, 0.1, -0.2, 4.4],
      gain: [1.2, 0.9, 1],
      tint: ["#123456", 0.3],
      air: ["#fedcba", 0.7],
      opacity: 0.77,
      blur: 0.2,
    });
    const bytes = writePieces([piece], A_CHUNK);
    expect(readPieces(bytes, A_CHUNK)).toEqual([piece]);
    bytes[3 * 64 + 39] = 9;
    expect(() => readPieces(bytes, A_CHUNK)).toThrow("cannot be read");
    const flat = writePieces([{ ...piece, matrix: [1, 1, 1, 1] }], A_CHUNK);
    expect(() => readPieces(flat, A_CHUNK)).toThrow("cannot be read");
  });
});

describe("strewing", () => {
  it("what is seen while it goes on is about what stays, and live is as the command is", () => {
    const { engine, work } = strewWork();
    const { samples, ...start } = strewing(acrossTheSheet, freely);
    work.beginStroke(start);
    for (let i = 0; i < samples.length; i += 3) work.extendStroke(samples.slice(i, i + 3) as never);
    const shown = sum(alphas(engine, work, "s"));
    const command = work.endStroke();
    const kept = sum(alphas(engine, work, "s"));
    expect(shown / kept).toBeGreaterThan(0.85);
    const other = strewWork();
    other.work.apply(command);
    expect(fingerprint(engine, work)).toBe(fingerprint(other.engine, other.work));
    expect(strewnPieces(engine, work).length).toBeGreaterThan(30);
  });

  it("the first piece lies under the pen as it comes down", () => {
    const { engine, work } = strewWork();
    const { samples: _, ...start } = strewing([], { ...plainly, set: 4 });
    work.beginStroke(start);
    work.extendStroke([[0, 200, 200, 0.5, 1.5, 0, 0]]);
    expect(alphaAt(engine, work, "s", 200, 200)).toBe(1);
    work.abandonStroke();
    expect(alphaAt(engine, work, "s", 200, 200)).toBe(0);
  });

  it("spaces pieces by their size along the stroke", () => {
    const { engine, work } = strewWork();
    work.apply(strewing(line([100, 200], [500, 200]), { ...plainly, gap: 0.5 }, { size: 40 }));
    const places = strewnPieces(engine, work).map(({ x }) => x);
    expect(places.length).toBe(21);
    places.forEach((x, i) => expect(x).toBeCloseTo(100 + 20 * i, 1));
  });

  it("lays them along the stroke where that is asked", () => {
    const { engine, work } = strewWork();
    work.apply(
      strewing(line([100, 400], [340, 80]), { ...plainly, turn: "along", gap: 0.5 }, { size: 40 }),
    );
    for (const { matrix } of strewnPieces(engine, work)) {
      // Up in the picture is −v: 240 px to the right and 320 px up, half of 40 px long.
      expect(-matrix[2]).toBeCloseTo(20 * 0.6, 2);
      expect(-matrix[3]).toBeCloseTo(20 * -0.8, 2);
    }
  });

  it("falls within its spread, evenly over it, and as large as chance may make it", () => {
    const { engine, work } = strewWork();
    const samples = line([300, 240], [340, 240], { steps: 40 });
    work.apply(
      strewing(samples, { ...plainly, gap: 0.05, spread: 5, sizes: 1, turn: "any" }, { size: 20 }),
    );
    const pieces = strewnPieces(engine, work);
    const off = pieces.map(({ x, y }) => Math.hypot(x - Math.min(340, Math.max(300, x)), y - 240));
    expect(Math.max(...off)).toBeLessThanOrEqual(100);
    expect(Math.max(...off)).toBeGreaterThan(70);
    const halves = pieces.map(({ matrix: [a, b] }) => Math.hypot(a, b));
    expect(Math.max(...halves)).toBeLessThanOrEqual(10);
    expect(Math.min(...halves)).toBeGreaterThanOrEqual(10 * 0.15 - 1e-6);
  });

  it("is smaller and paler towards the horizon, as far as it lies", () => {
    const { engine, work } = strewWork();
    const depth = { horizon: 120, amount: 1, air: "#aabbcc" };
    work.apply(strewing(line([320, 470], [320, 140]), { ...plainly, depth }, { size: 30 }));
    const pieces = strewnPieces(engine, work);
    expect(pieces.length).toBeGreaterThan(15);
    for (const { y, matrix, air } of pieces) {
      const near = (y - 120) / 360;
      expect(matrix[0]).toBeCloseTo(Math.max(0.5, 15 * near), 2);
      expect(air[1]).toBeCloseTo((1 - near) * 0.85, 2);
    }
    expect(nearness(60, 120, 480)).toBe(0.5);
    expect(nearness(300, -50, 300)).toBe(1);
  });

  it("keeps inside the selection", () => {
    const { engine, work } = strewWork();
    const box = { left: 200, top: 0, right: 400, bottom: 480 };
    work.apply({ do: "select", shape: { kind: "box", box } });
    work.apply(strewing(acrossTheSheet, freely));
    const pieces = strewnPieces(engine, work);
    expect(pieces.length).toBeGreaterThan(10);
    for (const { x } of pieces) expect(x >= 200 && x < 400).toBe(true);
  });

  it("takes away what a lifting stroke goes over, and undo brings it back", () => {
    const { engine, work } = strewWork();
    work.apply(strewing(line([40, 240], [600, 240]), { ...plainly, gap: 1 }, { size: 20 }));
    const all = idsOf(engine, work).length;
    const before = fingerprint(engine, work);
    work.apply(stroke(line([300, 240], [400, 240]), { layer: "s", mode: "lift", size: 10 }));
    const left = strewnPieces(engine, work);
    expect(left.length).toBeLessThan(all - 4);
    expect(left.every(({ x }) => x < 298 || x > 402)).toBe(true);
    work.undo();
    expect(fingerprint(engine, work)).toBe(before);
    // A weaker one thins out.
    work.apply(
      stroke(line([40, 240], [600, 240]), { layer: "s", mode: "lift", size: 10, strength: 0.5 }),
    );
    const thinned = strewnPieces(engine, work).length / all;
    expect(thinned).toBeGreaterThan(0.25);
    expect(thinned).toBeLessThan(0.75);
  });

  it("refuses in words what cannot be", () => {
    const { work } = strewWork();
    const samples = line([60, 60], [90, 90]);
    expect(() => work.apply(stroke(samples, { layer: "s" }))).toThrow("holds strewn pieces, not");
    expect(() => work.apply(stroke(samples, { layer: "s", mode: "blend" }))).toThrow("not blended");
    expect(() => work.apply(strewing(samples, plainly, { layer: "a" }))).toThrow(
      "a layer of their own",
    );
    expect(() => work.apply(strewing(samples, { ...plainly, set: 300 }))).toThrow("no set 300");
    expect(() => work.apply(strewing(samples, { ...plainly, gap: 0 }))).toThrow("gap");
    work.apply({ do: "strew.place", layer: "s" });
    expect(() => work.apply({ do: "strew.remove", layer: "s", pieces: [1] })).toThrow("not strewn");
  });
});

describe("strewn pieces", () => {
  const strewn = (): { engine: Engine; work: Work } => {
    const made = strewWork();
    made.work.apply(strewing(acrossTheSheet, freely));
    return made;
  };

  it("moved, sent behind, thinned out and doubled are what laying them all at once gives", () => {
    const { engine, work } = strewn();
    const ids = idsOf(engine, work);
    const turn = [0.8, -0.6, 150, 0.6, 0.8, -60, 0, 0, 1];
    work.apply({
      do: "strew.move",
      layer: "s",
      pieces: ids.slice(0, 9),
      warp: { kind: "matrix", matrix: turn as never },
    });
    work.apply({ do: "strew.order", layer: "s", pieces: ids.slice(4, 12), to: "back" });
    work.apply({ do: "strew.thin", layer: "s", pieces: ids.slice(0, 20), keep: 0.3, seed: 4 });
    expect(idsOf(engine, work).length).toBe(ids.length - 14);
    work.apply({ do: "strew.duplicate", layer: "s", pieces: [ids[25] as number], by: [30, 4] });
    work.apply({ do: "strew.remove", layer: "s", pieces: ids.slice(30, 34) });
    const pieces = strewnPieces(engine, work);
    expect(pieces).toEqual([...pieces].sort(overEachOther));
    const keys = new Set(work.picture.plane("s").keys());
    const laid = layPieces(engine.bench, work.picture, "s", keys, pieces, "nothing");
    for (const { before, after } of laid) {
      const [a, b] = [before, after].map((tile) => engine.store.address(tile as Tile));
      const { u8 } = engine.store.heap;
      const bytes = (at = 0): Buffer => Buffer.from(u8.subarray(at, at + TILE_BYTES));
      expect(bytes(a).equals(bytes(b))).toBe(true);
    }
    expect(laid.length).toBeGreaterThan(10);
  });

  it("moved there and back lie as they lay", () => {
    const { engine, work } = strewn();
    const before = alphas(engine, work, "s");
    const by = (dx: number): never => [1, 0, dx, 0, 1, 0, 0, 0, 1] as never;
    for (const dx of [64, -64])
      work.apply({
        do: "strew.move",
        layer: "s",
        pieces: idsOf(engine, work).slice(10, 14),
        warp: { kind: "matrix", matrix: by(dx) },
      });
    expect(alphas(engine, work, "s")).toEqual(before);
  });

  it("are not lost beyond the sheet's edge, and grow with it", () => {
    const { engine, work } = strewn();
    const before = strewnPieces(engine, work);
    work.apply({ do: "sheet.crop", left: 200, top: 100, width: 200, height: 150 });
    work.apply({ do: "sheet.crop", left: -200, top: -100, width: 640, height: 480 });
    const [back, was] = [alphas(engine, work, "s"), strewn()];
    expect(sum(back)).toBeCloseTo(sum(alphas(was.engine, was.work, "s")), 2);
    work.apply({ do: "sheet.resize", width: 1280, ppi: 300 });
    strewnPieces(engine, work).forEach(({ x, matrix }, i) => {
      expect(x).toBeCloseTo(2 * (before[i] as Piece).x, 2);
      expect(matrix[3]).toBeCloseTo(2 * (before[i] as Piece).matrix[3], 2);
    });
  });

  it("placed before and behind look as they did where nothing lies between", () => {
    const { engine, work } = strewWork();
    work.apply(strewing(line([60, 240], [580, 240]), { ...plainly, gap: 1.2 }, { size: 40 }));
    const seen = alphas(engine, work, "s");
    const ids = idsOf(engine, work);
    work.apply({ do: "layer.add", id: "hill", name: "Hill", above: "s" });
    work.apply({
      do: "strew.place",
      layer: "s",
      before: { pieces: ids.slice(0, 5), id: "near", name: "Near", above: "hill" },
    });
    expect(work.picture.structure.layers.map(({ id, kind }) => [id, kind])).toEqual([
      ["a", "paint"],
      ["s", "paint"],
      ["hill", "paint"],
      ["near", "paint"],
    ]);
    const [near, far] = [alphas(engine, work, "near"), alphas(engine, work, "s")];
    expect(near.map((alpha, i) => alpha + (far[i] as number))).toEqual(seen);
    expect(sum(near)).toBeGreaterThan(1000);
    // They are paint now: painted on like any.
    work.apply(stroke(line([60, 60], [90, 90]), { layer: "near" }));
  });

  it("of a set of one's own go with it; the set goes when none lies about", () => {
    const { engine, work } = testWork({ width: 640, height: 480 });
    work.apply({ do: "layer.add", id: "s", name: "Strewn", above: "a", kind: "strewn" });
    expect(() => work.apply({ do: "strew.collect", layer: "a", set: 256, name: "Own" })).toThrow(
      "Select what is to be strewn",
    );
    collectBlock(work, 40, 40);
    work.apply(onePiece(320, 240, { set: 256 }));
    expect(() => work.apply({ do: "strew.forget", set: 256 })).toThrow("still lie on “Strewn”");
    work.apply({ do: "strew.place", layer: "s" });
    const before = fingerprint(engine, work);
    work.apply({ do: "strew.forget", set: 256 });
    expect(work.picture.structure.strewn).toBeUndefined();
    work.undo();
    expect(fingerprint(engine, work)).toBe(before);
    expect(() => work.apply({ do: "strew.collect", layer: "a", set: 256, name: "" })).toThrow();
  });
});

it("every set that comes with Pampas has something in it, and no colour beyond its cover", () => {
  expect(madeSets.length).toBe(12);
  expect(madePictures.map(({ length }) => length)).toEqual(madeSets.map((set) => set.pictures));
  for (const pictures of madePictures)
    for (const art of pictures) {
      const texels = rendered(art, 32);
      let [cover, beyond] = [0, 0];
      for (let i = 0; i < 32 * 32; i++) {
        const alpha = texels[i * 4 + 3] as number;
        cover += alpha;
        if ([0, 1, 2].some((c) => (texels[i * 4 + c] as number) > alpha + 1)) beyond++;
      }
      expect(beyond).toBe(0);
      expect(cover / ONE).toBeGreaterThan(2);
    }
});
