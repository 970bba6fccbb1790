import { fingerprint, line, stroke, testEngine, testHeader, testWork } from "../engine.testing";
import { type Engine } from "../engine";
import { type Work } from "../command/work";
import { pixelOffset, TILE_BYTES, tileKey } from "../tiles/layout";
import { TAPE } from "../tiles/tape";
import { blendModes, type BlendMode } from "./blend-modes";
import { Compositor } from "./compositor";
import { blended, type Pixel, type Rgb, type Sheet, stacked } from "./reference.testing";

const grid: Rgb[] = [];
for (const r of [0, 0.25, 0.5, 1])
  for (const g of [0, 0.4, 1]) for (const b of [0, 0.6, 1]) grid.push([r, g, b]);
const alphaSteps = [0, 0.25, 0.5, 1];

function writePixel(engine: Engine, tile: number, index: number, colour: Rgb, alpha: number): void {
  const [x, y] = [index & 63, index >> 6];
  [...colour.map((v) => v * alpha), alpha].forEach((v, c) => {
    engine.store.heap.u16[(tile + pixelOffset(x, y, c)) >> 1] = Math.round(v * 32767);
  });
}

function readPixel(engine: Engine, tile: number, index: number): number[] {
  const [x, y] = [index & 63, index >> 6];
  return [0, 1, 2, 3].map(
    (c) => (engine.store.heap.u16[(tile + pixelOffset(x, y, c)) >> 1] as number) / 32767,
  );
}

/** Blends all pairs of the grid at the given alphas and returns the greatest difference. */
function worst(
  mode: BlendMode,
  inside: boolean,
  opacity: number,
  expected: (cb: Rgb, ab: number, cs: Rgb, as: number) => number[],
): number {
  const engine = testEngine();
  const { heap } = engine.store;
  const [dst, src] = [heap.allocate(TILE_BYTES), heap.allocate(TILE_BYTES)];
  let most = 0;
  for (const ab of alphaSteps)
    for (const as of alphaSteps)
      for (const cb of grid) {
        grid.forEach((cs, i) => {
          writePixel(engine, dst, i, cb, ab);
          writePixel(engine, src, i, cs, as);
        });
        engine.workforce.beginJob();
        engine.workforce.write(
          TAPE.blend,
          dst,
          src,
          blendModes.indexOf(mode),
          Math.round(opacity * 32767),
          inside ? 1 : 0,
        );
        engine.workforce.endJob();
        engine.workforce.run(false);
        grid.forEach((cs, i) => {
          const got = readPixel(engine, dst, i);
          expected(cb, ab, cs, as * opacity).forEach((v, c) => {
            most = Math.max(most, Math.abs(v - (got[c] as number)));
          });
        });
      }
  return most;
}

/** The modes of the standard; add has a formula of its own. */
const mixingModes = blendModes.filter((mode) => mode !== "add");

describe.each(mixingModes)("blend mode %s", (mode) => {
  it.each([1, 0.6])(
    "agrees with the reference within 1/255 over any backdrop, at opacity %d",
    (opacity) => {
      const difference = worst(mode, false, opacity, (cb, ab, cs, as) => {
        const mixed = blended[mode](cb, cs);
        const colour = mixed.map(
          (b, c) =>
            (1 - ab) * as * (cs[c] as number) + (1 - as) * ab * (cb[c] as number) + as * ab * b,
        );
        return [...colour, as + ab * (1 - as)];
      });
      expect(difference).toBeLessThan(1 / 255);
    },
  );

  it("clipped, stays inside the base's shape and blends with the base's own colour", () => {
    const difference = worst(mode, true, 1, (cb, ab, cs, as) => {
      const mixed = blended[mode](cb, cs);
      return [...mixed.map((b, c) => ab * ((1 - as) * (cb[c] as number) + as * b)), ab];
    });
    expect(difference).toBeLessThan(1 / 255);
  });
});

describe("blend mode add", () => {
  it.each([1, 0.6])("adds premultiplied values, to one at most, at opacity %d", (opacity) => {
    const sums = worst("add", false, opacity, (cb, ab, cs, as) => [
      ...cb.map((b, c) => Math.min(1, b * ab + (cs[c] as number) * as)),
      Math.min(1, ab + as),
    ]);
    expect(sums).toBeLessThan(1 / 255);
    const held = worst("add", true, opacity, (cb, ab, cs, as) => [
      ...cb.map((b, c) => ab * Math.min(1, b + (cs[c] as number) * as)),
      ab,
    ]);
    expect(held).toBeLessThan(1 / 255);
  });
});

describe("groups, clips and masks", () => {
  const engine = testEngine();
  const side = 64;
  /** Patterns that together bring many colours and alphas over one another. */
  const at = (n: number, x: number, y: number): Pixel => {
    const alpha = ((x * (n + 3) + y * 5 + n * 11) % 5) / 4;
    const rgb = [x * 3 + n * 40, y * 4 + n * 90, (x + y) * 2 + n * 150];
    return [...rgb.map((v) => ((v % 256) / 255) * alpha), alpha] as Pixel;
  };
  const held = (x: number, y: number): number => ((x + 2 * y) % 4) / 3;

  function fillPlane(
    work: Work,
    layer: string,
    plane: string,
    of: (x: number, y: number) => Pixel,
  ) {
    const tile = engine.store.create();
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++)
        of(x, y).forEach((v, c) => {
          const to = (tile.address + pixelOffset(x, y, c)) >> 1;
          engine.store.heap.u16[to] = Math.round(v * 32767);
        });
    work.picture.plane(layer, plane).set(0, tile);
  }

  const cases = [false, true].flatMap((through) =>
    [false, true].flatMap((clip) =>
      [false, true].map((masked) => ({ through, clip, masked, opacity: masked ? 0.7 : 1 })),
    ),
  );

  test.each(cases.flatMap((one) => blendModes.map((mode) => ({ mode, ...one }))))(
    "$mode, through: $through, clip: $clip, masked: $masked agree with the reference within 1/255",
    ({ mode, through, clip, masked, opacity }) => {
      const work = engine.open(testHeader({ width: side, height: side, ground: "#c0d8f0" }));
      const add = (id: string, more: object = {}): void =>
        void work.apply({ do: "layer.add", id, name: id, above: lastId(work), ...more });
      add("base");
      add("low");
      add("mid");
      add("g", { kind: "group" });
      add("top");
      work.apply({ do: "layer.move", id: "low", above: "base", group: "g" });
      work.apply({ do: "layer.move", id: "mid", above: "low", group: "g" });
      work.apply({ do: "layer.set", id: "mid", blend: mode, clip });
      work.apply({ do: "layer.set", id: "g", through, opacity });
      work.apply({ do: "layer.set", id: "top", blend: mode, opacity: 0.5, clip: clip && !through });
      ["base", "low", "mid", "top"].forEach((id, n) =>
        fillPlane(work, id, "colour", (x, y) => at(n, x, y)),
      );
      if (masked) {
        work.apply({ do: "mask.add", id: "g", from: { kind: "nothing" } });
        fillPlane(work, "g", "mask", (x, y) => [0, 0, 0, held(x, y)]);
      }
      const compositor = new Compositor(work.picture, engine.store, engine.workforce);
      let most = 0;
      compositor.compose([0], (_key, address) => {
        for (let y = 0; y < side; y++)
          for (let x = 0; x < side; x++) {
            const plain = { blend: "normal" as const, opacity: 1, clip: false, held: 0 };
            const group: Sheet = {
              ...plain,
              opacity,
              through,
              held: masked ? held(x, y) : 0,
              paint: [
                { ...plain, paint: at(1, x, y) },
                { ...plain, blend: mode, clip, paint: at(2, x, y) },
              ],
            };
            const top = { blend: mode, opacity: 0.5, clip: clip && !through, held: 0 };
            const wanted = stacked(
              [{ ...plain, paint: at(0, x, y) }, group, { ...top, paint: at(3, x, y) }],
              [0xc0 / 255, 0xd8 / 255, 0xf0 / 255, 1],
            );
            wanted.forEach((v, c) => {
              const got = engine.store.heap.u16[(address + pixelOffset(x, y, c)) >> 1] as number;
              most = Math.max(most, Math.abs(v - got / 32767));
            });
          }
      });
      compositor.free();
      work.release();
      expect(most).toBeLessThan(1 / 255);
    },
  );
});

const lastId = (work: Work): string | null => work.picture.structure.layers.at(-1)?.id ?? null;

describe("the stack", () => {
  /** All values of the composite of the whole picture. */
  function composite(engine: Engine, _work: Work, compositor: Compositor): Uint16Array {
    const keys = [0, 1, 2, 256, 257];
    const out = new Uint16Array(keys.length * 16384);
    let at = 0;
    compositor.compose(keys, (_key, address) => {
      out.set(engine.store.heap.u16.subarray(address >> 1, (address >> 1) + 16384), at);
      at += 16384;
    });
    return out;
  }

  /** Greatest difference of two composites, in steps of 1/32767. */
  function apart(one: Uint16Array, other: Uint16Array): number {
    let most = 0;
    one.forEach((v, i) => {
      most = Math.max(most, Math.abs(v - (other[i] as number)));
    });
    return most;
  }
  /** Merging layers first rounds in other places: a few steps, far below what 8 bits show. */
  const ROUNDING = 6;

  function manyLayers(): { engine: Engine; work: Work; ids: string[] } {
    const engine = testEngine();
    const work = engine.open(testHeader());
    const ids = ["l0", "l1", "l2", "l3", "l4", "l5", "l6"];
    ids.forEach((id, i) => {
      work.apply({ do: "layer.add", id, name: id, above: ids[i - 1] ?? null });
      work.apply(
        stroke(line([10, 20 * i + 10], [180, 150 - 15 * i]), {
          layer: id,
          size: 40,
          colour: ["#aa2200", "#0055aa", "#ddcc22", "#117733"][i % 4] as string,
        }),
      );
    });
    work.apply({ do: "layer.set", id: "l1", blend: "multiply", opacity: 0.7 });
    work.apply({ do: "layer.set", id: "l2", clip: true });
    work.apply({ do: "layer.set", id: "l5", blend: "overlay" });
    return { engine, work, ids };
  }

  it("looks the same whichever layer is worked on, and after work on it", () => {
    const { engine, work, ids } = manyLayers();
    const plain = new Compositor(work.picture, engine.store, engine.workforce);
    for (const id of ids) {
      const cached = new Compositor(work.picture, engine.store, engine.workforce);
      cached.setWorking(id);
      expect(
        apart(composite(engine, work, cached), composite(engine, work, plain)),
      ).toBeLessThanOrEqual(ROUNDING);
      work.apply(stroke(line([20, 100], [190, 30]), { layer: id, size: 14 }));
      plain.forgetAll();
      expect(
        apart(composite(engine, work, cached), composite(engine, work, plain)),
      ).toBeLessThanOrEqual(ROUNDING);
      work.apply({ do: "layer.set", id, opacity: 0.5 });
      expect(
        apart(composite(engine, work, cached), composite(engine, work, plain)),
      ).toBeLessThanOrEqual(ROUNDING);
      work.undo();
      work.undo();
      plain.forgetAll();
      expect(
        apart(composite(engine, work, cached), composite(engine, work, plain)),
      ).toBeLessThanOrEqual(ROUNDING);
      cached.free();
    }
  });

  it("leaves out hidden layers and what is clipped to them", () => {
    const { engine, work } = testWork();
    work.apply(stroke(line([10, 30], [200, 30]), { size: 30 }));
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    work.apply({ do: "layer.set", id: "a", visible: false });
    const bare = composite(engine, work, compositor);
    work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
    work.apply({ do: "layer.set", id: "b", clip: true });
    work.apply(stroke(line([10, 30], [200, 30]), { layer: "b", size: 50 }));
    expect(apart(composite(engine, work, compositor), bare)).toBe(0);
    expect(fingerprint(engine, work)).toContain("b ");
  });
});

describe("a tinted layer", () => {
  const tint = "#3060c0";
  const wanted = [0x30, 0x60, 0xc0];
  const seen = (colour: string, strength = 1, clip = false): number[] => {
    const { engine, work } = testWork({ ground: "#ffffff" });
    const across = { size: 120, strength, brush: "round-firm", colour };
    work.apply(stroke(line([10, 96], [246, 96], { pressure: () => 1 }), across));
    if (clip) {
      work.apply({ do: "layer.add", id: "c", name: "C", above: "a" });
      work.apply(
        stroke(line([10, 96], [246, 96], { pressure: () => 1 }), { ...across, layer: "c" }),
      );
      work.apply({ do: "layer.set", id: "c", clip: true, tint });
    } else work.apply({ do: "layer.set", id: "a", tint });
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    let out: number[] = [];
    compositor.compose([tileKey(2, 1)], (_key, address) => {
      out = [0, 1, 2].map((c) =>
        Math.round(
          ((engine.store.heap.u16[(address + pixelOffset(0, 32, c)) >> 1] as number) * 255) / 32767,
        ),
      );
    });
    compositor.free();
    return out;
  };
  const near = (got: number[], expected: number[]): void =>
    expected.forEach((v, c) => expect(Math.abs((got[c] as number) - v)).toBeLessThanOrEqual(1));

  it("shows dark paint in its tint, white as white", () => {
    near(seen("#000000"), wanted);
    near(seen("#ffffff"), [255, 255, 255]);
  });
  it("shows greys between, by how light they are", () => {
    const share = 0x80 / 255;
    near(
      seen("#808080"),
      wanted.map((v) => v + (255 - v) * share),
    );
  });
  it("keeps what is see-through so", () => {
    near(
      seen("#000000", 0.5),
      wanted.map((v) => (v + 255) / 2),
    );
  });
  it("may be clipped to another", () => {
    near(seen("#000000", 1, true), wanted);
  });
});

describe("what is only shown", () => {
  /** A red and a blue layer over white, each all over. */
  function stacked(): { engine: Engine; work: Work; seen: (compositor: Compositor) => number[] } {
    const { engine, work } = testWork({ width: 64, height: 64, ground: "#ffffff" });
    work.apply({ do: "layer.add", id: "b", name: "B", above: "a" });
    for (const [id, colour] of [
      ["a", [32767, 0, 0, 32767]],
      ["b", [0, 0, 32767, 32767]],
    ] as const)
      work.picture.plane(id).set(0, engine.store.plain(colour));
    const seen = (compositor: Compositor): number[] => {
      let pixel: number[] = [];
      compositor.pack([0], 0, (_key, address) => {
        pixel = [...engine.store.heap.u8.subarray(address, address + 3)];
      });
      return pixel;
    };
    return { engine, work, seen };
  }

  it("an opacity in the making is seen, and gone again, and the picture is as it was", () => {
    const { engine, work, seen } = stacked();
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    const before = fingerprint(engine, work);
    expect(seen(compositor)).toEqual([0, 0, 255]);
    for (const working of ["b", "a", null]) {
      compositor.setWorking(working);
      compositor.preview(new Map([["b", { opacity: 0 }]]));
      expect(seen(compositor)).toEqual([255, 0, 0]);
      compositor.preview(new Map([["b", { opacity: 0.5 }]]));
      expect(seen(compositor)).toEqual([127, 0, 128]);
      compositor.preview(null);
      expect(seen(compositor)).toEqual([0, 0, 255]);
    }
    expect(fingerprint(engine, work)).toBe(before);
    compositor.free();
  });

  it("other tiles stand in for a layer's own until it is told otherwise", () => {
    const { engine, work, seen } = stacked();
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    compositor.setWorking("b");
    expect(seen(compositor)).toEqual([0, 0, 255]);
    compositor.standIn("b", new Map());
    expect(seen(compositor)).toEqual([255, 0, 0]);
    compositor.standIn("b", new Map([[0, engine.store.plain([0, 32767, 0, 32767])]]));
    expect(seen(compositor)).toEqual([0, 255, 0]);
    compositor.standIn("b", null);
    expect(seen(compositor)).toEqual([0, 0, 255]);
    compositor.free();
  });
});
