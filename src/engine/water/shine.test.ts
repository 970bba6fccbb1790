import { fingerprint, line } from "../engine.testing";
import { Compositor } from "../compose/compositor";
import { tilesIn } from "../tiles/layout";
import { shineOver } from "./shine";
import { dry, lay, over, type Sheet, sheet, wait } from "./water.testing";

/** What a table shows of a sheet: bytes of each tile, with what is wet shining or as it is painted. */
function shown({ engine, work }: Sheet, shines: boolean): Map<number, Uint8Array> {
  const { store, workforce, bench } = engine;
  const { width, height } = work.picture;
  const compositor = new Compositor(work.picture, store, workforce, true, true);
  const tiles = new Map<number, Uint8Array>();
  const keys = tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height);
  const take = (key: number, at: number): void =>
    void tiles.set(key, store.heap.u8.slice(at, at + 64 * 64 * 4));
  compositor.pack(keys, 0, take, 1, shines ? shineOver(bench, work.picture) : undefined);
  compositor.free();
  return tiles;
}

/** How many pixels are lighter for their shine, and how many darker, by more than a step of 255. */
function shining(s: Sheet): { lighter: number; darker: number } {
  const plain = shown(s, false);
  let [lighter, darker] = [0, 0];
  for (const [key, bytes] of shown(s, true)) {
    const own = plain.get(key) as Uint8Array;
    for (let i = 0; i < bytes.length; i += 4) {
      const more = (bytes[i] as number) - (own[i] as number);
      if (more > 1) lighter++;
      if (more < -1) darker++;
    }
  }
  return { lighter, darker };
}

it("is all over a wash that is wet, breaks up as it sinks into the tooth, and is gone when it is dry", () => {
  const s = sheet();
  lay(s, over(60, 60, 160, 80));
  const painted = fingerprint(s.engine, s.work);
  const first = shining(s).lighter;
  expect(first).toBeGreaterThan(9000);
  expect(fingerprint(s.engine, s.work)).toBe(painted);
  const seen = [first];
  for (let i = 0; i < 4; i++) {
    wait(s, 2);
    seen.push(shining(s).lighter);
  }
  // At first it still spreads.
  const later = seen.slice(1);
  expect(later.toSorted((a, b) => b - a)).toEqual(later);
  // On the way some of it shines and some does not.
  expect(seen.some((now) => now > 0.1 * first && now < 0.8 * first)).toBe(true);
  dry(s);
  expect(shining(s)).toEqual({ lighter: 0, darker: 0 });
  s.work.release();
});

it("shows where clean water stands on white paper: its lower banks turn from the light", () => {
  const s = sheet();
  lay(s, over(60, 60, 160, 80), { brush: "wash-clear" });
  const { darker } = shining(s);
  expect(darker).toBeGreaterThan(50);
  s.work.release();
});

it("goes with the brush, before its stroke has ended, and stays out of what is hidden", () => {
  const s = sheet();
  s.work.beginStroke({
    do: "stroke",
    layer: "a",
    brush: "wash-round",
    size: 60,
    colour: "#203060",
  });
  s.work.extendStroke(line([60, 90], [180, 90]));
  expect(shining(s).lighter).toBeGreaterThan(2000);
  s.work.endStroke();
  expect(shining(s).lighter).toBeGreaterThan(2000);
  s.work.apply({ do: "layer.set", id: "a", visible: false });
  expect(shining(s)).toEqual({ lighter: 0, darker: 0 });
  s.work.release();
});
