import { line, pixel, stroke, testEngine, testHeader, writeStraight } from "../engine.testing";
import { type Work } from "../command/work";
import { readWorkLog, scaleWorkLog, writeWorkLog } from "../command/work-log";
import { pixelOffset, tileKey, tilesIn } from "../tiles/layout";
import { Compositor } from "./compositor";
import { seen as seenOf, worst } from "./seen.testing";

const engine = testEngine();
const [WIDTH, HEIGHT] = [420, 300];
const ALL = tilesIn({ left: 0, top: 0, right: WIDTH, bottom: HEIGHT }, WIDTH, HEIGHT);

/** A sheet of bars and a half-clear disc, with something in every corner. */
const bars = (x: number, y: number): readonly number[] => {
  if (Math.hypot(x - 210, y - 150) < 70) return [200, 60, 30, 128];
  if ((x >> 5) % 3 === 0) return [20, 40 + (y >> 1), 160, 255];
  return y > 250 ? [250, 240, 90, 255] : [0, 0, 0, 0];
};

function sheet(): Work {
  const work = engine.open(testHeader({ width: WIDTH, height: HEIGHT, ground: "#e8d8b8" }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  writeStraight(work, "a", bars);
  return work;
}

const blur = (radius: number) => ({ kind: "blur" as const, radius });
const sharpen = { kind: "sharpen" as const, radius: 6, amount: 1.5 };
const noise = { kind: "noise" as const, amount: 0.4, grey: false, seed: 9 };

function add(work: Work, tone: object, how: object = {}): void {
  work.apply({ do: "layer.add", id: "soft", name: "Soft", above: "a", kind: "adjustment", tone });
  if (Object.keys(how).length > 0) work.apply({ do: "layer.set", id: "soft", ...how });
}

const seen = (work: Work, compositor?: Compositor): Uint16Array => seenOf(engine, work, compositor);

describe("an adjustment layer that looks at neighbours", () => {
  it.each([blur(3), blur(24), blur(96), sharpen])(
    "%j does to all that lies below what the adjustment does to it on one layer",
    (tone) => {
      const one = sheet();
      add(one, tone);
      const layered = seen(one);
      const other = sheet();
      // Ground and paint as one layer, changed for good.
      const flat = seen(other);
      other.apply({ do: "layer.add", id: "flat", name: "Flat", above: "a" });
      for (const key of ALL) {
        const tile = engine.store.create();
        const { u16 } = engine.store.heap;
        const [left, top] = [(key & 255) * 64, (key >> 8) * 64];
        for (let y = top; y < top + 64; y++)
          for (let x = left; x < left + 64; x++)
            for (let c = 0; c < 4; c++)
              u16[(tile.address + pixelOffset(x & 63, y & 63, c)) >> 1] =
                x < WIDTH && y < HEIGHT ? (flat[(y * WIDTH + x) * 4 + c] as number) : 0;
        other.picture.plane("flat").set(key, tile);
      }
      other.apply({ do: "adjust", layers: ["flat"], adjustment: tone });
      expect(worst(layered, seen(other))).toBeLessThanOrEqual(2);
      one.release();
      other.release();
    },
  );

  it("changes nothing of the paint, and what is over it stays crisp", () => {
    const work = sheet();
    const before = pixel(engine, work, "a", 100, 100);
    add(work, blur(20));
    work.apply({ do: "layer.add", id: "top", name: "Top", above: "soft" });
    work.apply(stroke(line([60, 60], [360, 60]), { layer: "top", size: 12, colour: "#000000" }));
    expect(pixel(engine, work, "a", 100, 100)).toEqual(before);
    const all = seen(work);
    const at = (x: number, y: number): number => all[(y * WIDTH + x) * 4] as number;
    expect(at(200, 60)).toBe(0);
    expect(at(200, 68)).toBeGreaterThan(3000);
    work.release();
  });

  it("in a group of its own it blurs what lies in the group alone", () => {
    const grouped = sheet();
    grouped.apply({ do: "layer.group", id: "g", name: "G", layers: ["a"] });
    grouped.apply({
      do: "layer.add",
      id: "soft",
      name: "Soft",
      above: "a",
      group: "g",
      kind: "adjustment",
      tone: blur(24),
    });
    const done = sheet();
    done.apply({ do: "adjust", layers: ["a"], adjustment: blur(24) });
    expect(worst(seen(grouped), seen(done))).toBeLessThanOrEqual(2);
    grouped.release();
    done.release();
  });

  it("clipped, it stays inside the shape of what it is clipped to", () => {
    const clipped = sheet();
    add(clipped, blur(24), { clip: true });
    const done = sheet();
    done.apply({ do: "layer.set", id: "a", lockTransparency: true });
    done.apply({ do: "adjust", layers: ["a"], adjustment: blur(24) });
    expect(worst(seen(clipped), seen(done))).toBeLessThanOrEqual(2);
    clipped.release();
    done.release();
  });

  it("half as opaque, it lies half way; behind a mask it does nothing", () => {
    const work = sheet();
    const crisp = seen(work);
    add(work, blur(24));
    const soft = seen(work);
    work.apply({ do: "layer.set", id: "soft", opacity: 0.5 });
    const half = seen(work);
    const between = crisp.map((v, i) => Math.round((v + (soft[i] as number)) / 2));
    expect(worst(half, between)).toBeLessThanOrEqual(2);
    work.apply({ do: "mask.add", id: "soft", from: { kind: "all" } });
    expect(worst(seen(work), crisp)).toBeLessThanOrEqual(1);
    work.release();
  });

  it.each(["a", "top"])(
    "follows what is painted below it, tile by tile, while “%s” is worked on",
    (working) => {
      const work = sheet();
      add(work, blur(40));
      work.apply({
        do: "layer.add",
        id: "higher",
        name: "Sharper",
        above: "soft",
        kind: "adjustment",
        tone: sharpen,
      });
      work.apply({ do: "layer.add", id: "top", name: "Top", above: "higher" });
      const compositor = new Compositor(work.picture, engine.store, engine.workforce);
      compositor.setWorking(working);
      const shown = seen(work, compositor);
      const reached: number[] = [];
      work.events.damaged = ({ layer, keys }) => {
        const tiles = compositor.reach(layer, keys);
        reached.push(...tiles);
        compositor.forget(layer, tiles);
      };
      work.apply(stroke(line([70, 90], [150, 120]), { layer: "a", size: 30, colour: "#ff0000" }));
      const after = seen(work, compositor);
      expect(worst(after, seen(work))).toBe(0);
      // What was not said to change has not changed.
      const told = new Set(reached);
      for (let y = 0; y < HEIGHT; y += 3)
        for (let x = 0; x < WIDTH; x += 3) {
          if (told.has(tileKey(x >> 6, y >> 6))) continue;
          const i = (y * WIDTH + x) * 4;
          if (after[i] !== shown[i]) throw new Error(`${x}, ${y} changed unsaid`);
        }
      expect(told.size).toBeLessThan(ALL.length);
      compositor.free();
      work.release();
    },
  );

  it("gives its memory back", () => {
    const work = sheet();
    add(work, blur(40));
    const compositor = new Compositor(work.picture, engine.store, engine.workforce);
    compositor.compose(ALL, () => undefined);
    compositor.free();
    const before = engine.store.heap.memory.buffer.byteLength;
    for (let i = 0; i < 60; i++) {
      const again = new Compositor(work.picture, engine.store, engine.workforce);
      again.compose(ALL, () => undefined);
      again.free();
    }
    expect(engine.store.heap.memory.buffer.byteLength).toBe(before);
    work.release();
  });
});

it("noise as a layer is the noise that it would be on the paint", () => {
  const grouped = sheet();
  grouped.apply({ do: "layer.group", id: "g", name: "G", layers: ["a"] });
  grouped.apply({
    do: "layer.add",
    id: "soft",
    name: "Noise",
    above: "a",
    group: "g",
    kind: "adjustment",
    tone: noise,
  });
  const done = sheet();
  const bare = seen(done);
  done.apply({ do: "adjust", layers: ["a"], adjustment: noise });
  expect(worst(seen(grouped), seen(done))).toBeLessThanOrEqual(1);
  expect(worst(seen(done), bare)).toBeGreaterThan(3000);
  grouped.release();
  done.release();
});

it("on a larger sheet it reaches farther, as far as a layer may; farther is refused", () => {
  const added = {
    do: "layer.add" as const,
    id: "s",
    name: "S",
    above: null,
    kind: "adjustment" as const,
  };
  const log = readWorkLog(writeWorkLog(testHeader(), [{ ...added, tone: blur(40) }]));
  expect(scaleWorkLog(log, 2).commands[0]).toMatchObject({ tone: blur(80) });
  expect(scaleWorkLog(log, 4).commands[0]).toMatchObject({ tone: blur(96) });
  const work = sheet();
  expect(() => work.apply({ ...added, tone: blur(97) })).toThrow(/96 px at most/);
  work.release();
});
