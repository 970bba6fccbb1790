import {
  alphas,
  fingerprint,
  line,
  pixel,
  stroke,
  testEngine,
  testHeader,
  testWork,
} from "../engine.testing";
import { type Work } from "../command/work";
import { ONE } from "../tiles/layout";
import { cameraFrom, projectionOf, rayThrough, seenAt, vanishingPoints } from "./camera";
import { idColour } from "./ids";
import { met } from "./reference.testing";
import { newScene, type PassKind, type Scene } from "./scene";
import { solid } from "./scene.testing";
import { type Solid } from "./solid";
import { stageOf, wayToSun } from "./stage";
import { dot, length, minus, plus, times, turnAbout, type Vector } from "./vector";

const WIDTH = 128;
const HEIGHT = 96;
const engine = testEngine();

/** Solids that closed forms know, standing before and behind each other. */
const known: readonly Solid[] = [
  solid({
    id: "box",
    size: [2, 1.4, 1],
    at: [-1.6, 0, -0.5],
    turn: [...turnAbout([0, 1, 0], 0.5)],
  }),
  solid({
    id: "leaning",
    size: [0.5, 2, 0.5],
    at: [0.4, 0.3, -2],
    turn: [...turnAbout([0, 0, 1], 0.4)],
  }),
  solid({ id: "ball", kind: "ball", size: [1.2, 1.2, 1.2], at: [0, 0, 0.6] }),
  solid({ id: "egg", kind: "ball", size: [0.6, 1, 0.6], at: [-0.8, 0, 1.6] }),
  solid({ id: "drum", kind: "cylinder", size: [0.9, 1.1, 0.9], at: [1.5, 0, 0] }),
  solid({ id: "cone", kind: "cone", size: [0.9, 1.3, 0.9], at: [1.1, 0, 1.7] }),
];

function paintedWith(
  solids: readonly Solid[],
  passes: readonly PassKind[],
  own: Partial<Scene> = {},
): Work {
  const work = engine.open(testHeader({ width: WIDTH, height: HEIGHT }));
  const shown = { ...scene, ...own };
  work.apply({ do: "scene.put", solids: solids.map((one) => ({ ...one })) });
  work.apply({
    ...{ do: "scene.set", camera: shown.camera, light: shown.light, ground: shown.ground },
  });
  const layers = passes.map((pass) => ({ pass, layer: pass }));
  work.apply({ do: "scene.paint", passes: layers, above: null });
  return work;
}

/** What closed forms see through the middle of a pixel, and whether it is so all around within a share of a pixel. */
function lookAt(solids: readonly Solid[], scene: Scene, x: number, y: number, around: number) {
  const projection = projectionOf(scene.camera);
  const at = (dx: number, dy: number) =>
    met(
      solids,
      projection.eye,
      rayThrough(projection, { x: x + 0.5 + dx, y: y + 0.5 + dy }),
      scene.ground !== null,
    );
  const here = at(0, 0);
  const same = (
    [
      [-around, 0],
      [around, 0],
      [0, -around],
      [0, around],
    ] as const
  ).every(([dx, dy]) => {
    const there = at(dx, dy);
    if (there?.id !== here?.id) return false;
    return !there || !here || dot(there.facing, here.facing) > 0.9;
  });
  return { here, same };
}

/** Near enough for the solids to fill the sheet, in a low sun. */
const first = newScene(WIDTH, HEIGHT);
const scene: Scene = {
  ...first,
  camera: { ...first.camera, at: [0.3, 1.9, 5.5], to: [0, 0.6, 0] },
  light: { ...first.light, height: 0.5 },
};

/** Whether a surface is seen so flatly that a hair's breadth turns it. */
const isGrazed = (facing: Vector, x: number, y: number): boolean => {
  const way = rayThrough(projectionOf(scene.camera), { x: x + 0.5, y: y + 0.5 });
  return -dot(facing, way) / length(way) < 0.35;
};

describe("what is seen", () => {
  const work = paintedWith(known, ["id", "depth", "normal"]);
  const stage = stageOf(
    engine.store.heap,
    { ...scene, solids: known },
    {
      error: 0.12,
      shadows: false,
      view: { left: -24, top: -24, right: WIDTH + 24, bottom: HEIGHT + 24 },
    },
  );
  const { nearest, farthest } = stage;
  stage.release();
  const colours = new Map(known.map(({ id }, i) => [id, idColour(i)]));

  test("is the solid that closed forms meet, at every pixel that no edge touches", () => {
    let looked = 0;
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const { here, same } = lookAt(known, scene, x, y, 0.15);
        if (!same) continue;
        looked++;
        const got = pixel(engine, work, "id", x, y);
        const wanted = !here ? [0, 0, 0, 0] : [...(colours.get(here.id) ?? [0, 0, 0]), ONE];
        expect([x, y, ...got]).toEqual([x, y, ...wanted]);
      }
    expect(looked).toBeGreaterThan(WIDTH * HEIGHT * 0.93);
  });

  test("lies as deep as closed forms say, within three thousandths of the whole depth", () => {
    const { depth } = projectionOf(scene.camera);
    let looked = 0;
    for (let y = 1; y < HEIGHT; y += 3)
      for (let x = 1; x < WIDTH; x += 3) {
        const { here, same } = lookAt(known, scene, x, y, 0.5);
        if (!same || !here || here.id === "" || isGrazed(here.facing, x, y)) continue;
        const way = rayThrough(projectionOf(scene.camera), { x: x + 0.5, y: y + 0.5 });
        const far = here.far * dot(depth, way);
        const share = (far - nearest) / (farthest - nearest);
        expect(
          Math.abs((pixel(engine, work, "depth", x, y)[0] as number) / ONE - share),
        ).toBeLessThan(0.003);
        looked++;
      }
    expect(looked).toBeGreaterThan(200);
  });

  test("faces where closed forms say", () => {
    const { right, up, back } = projectionOf(scene.camera);
    for (let y = 1; y < HEIGHT; y += 3)
      for (let x = 1; x < WIDTH; x += 3) {
        const { here, same } = lookAt(known, scene, x, y, 0.5);
        if (!same || !here || isGrazed(here.facing, x, y)) continue;
        const [r = 0, g = 0, b = 0] = pixel(engine, work, "normal", x, y);
        const [u, v, w] = [r, g, b].map((c) => (c / ONE) * 2 - 1) as [number, number, number];
        const got = plus(plus(times(right, u), times(up, v)), times(back, w));
        expect(dot(got, here.facing)).toBeGreaterThan(0.99);
      }
  });

  test("is chosen as it is seen: a mask of a solid is its own pixels", () => {
    work.apply({ do: "select", shape: { kind: "solids", ids: ["ball"] } });
    const own = colours.get("ball");
    const mask = alphas(engine, work, "(selection)");
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const [r, g, b, a] = pixel(engine, work, "id", x, y);
        const is = a !== 0 && r === own?.[0] && g === own?.[1] && b === own?.[2];
        // The middle sample is one of nine.
        if (is) expect(mask[y * WIDTH + x]).toBeGreaterThan(0.1);
        else expect(mask[y * WIDTH + x]).toBeLessThan(0.9);
      }
    work.undo();
  });
});

test("no two of five hundred solids have one colour in the picture of ids", () => {
  const all = Array.from({ length: 500 }, (_, i) => idColour(i).join(" "));
  expect(new Set(all).size).toBe(500);
});

describe("shadows", () => {
  test("fall where closed forms meet something on the way to the sun", () => {
    const work = paintedWith(known, ["colour"]);
    const unlit = paintedWith(known, ["colour"], { light: { ...scene.light, strength: 0 } });
    const projection = projectionOf(scene.camera);
    const sun = wayToSun(scene.light);
    const shaded = (x: number, y: number): boolean | null => {
      const way = rayThrough(projection, { x, y });
      const here = met(known, projection.eye, way, true);
      if (!here) return null;
      if (dot(here.facing, sun) <= 0.02) return dot(here.facing, sun) < -0.02 ? true : null;
      const at = plus(projection.eye, times(way, here.far));
      return met(known, plus(at, times(here.facing, 1e-4)), sun, false) !== null;
    };
    let [dark, light] = [0, 0];
    for (let y = 1; y < HEIGHT; y += 2)
      for (let x = 1; x < WIDTH; x++) {
        const { same } = lookAt(known, scene, x, y, 0.5);
        const here = shaded(x + 0.5, y + 0.5);
        const around = [-1.5, 1.5].every(
          (d) => shaded(x + 0.5 + d, y + 0.5) === here && shaded(x + 0.5, y + 0.5 + d) === here,
        );
        if (!same || here === null || !around) continue;
        const [lit, bare] = [
          pixel(engine, work, "colour", x, y),
          pixel(engine, unlit, "colour", x, y),
        ];
        expect([x, y, (lit[0] as number) > (bare[0] as number) + 40]).toEqual([x, y, !here]);
        if (here) dark++;
        else light++;
      }
    expect(dark).toBeGreaterThan(150);
    expect(light).toBeGreaterThan(500);
  });

  test("are left away where they are not wanted", () => {
    const light = { ...scene.light, shadows: false };
    const [work, shadowed] = [
      paintedWith(known, ["colour"], { light }),
      paintedWith(known, ["colour"]),
    ];
    expect(fingerprint(engine, work)).not.toBe(fingerprint(engine, shadowed));
    // The ground is evenly lit without them.
    const grounds = new Set<string>();
    for (let x = 0; x < WIDTH; x += 3)
      grounds.add(pixel(engine, work, "colour", x, HEIGHT - 1).join(" "));
    expect(grounds.size).toBe(1);
  });
});

describe("the camera", () => {
  const { camera } = scene;
  const turnedTo = (x: number, y: number, z: number, roll = 0, lens = 35) => ({
    ...camera,
    ...{ at: [x, y, z] as [number, number, number], roll, lens },
  });
  test.each([
    turnedTo(5, 1.7, 6),
    turnedTo(-4, 3, 7, 0.2, 50),
    turnedTo(7, 0.4, 3, -0.4, 24),
    turnedTo(3, 6, 3),
  ])("vanishes where its guides say (%j)", (own) => {
    const projection = projectionOf(own);
    const points = vanishingPoints(own, 1e6);
    expect(points.length).toBeGreaterThanOrEqual(2);
    [[1, 0, 0] as Vector, [0, 0, -1] as Vector].forEach((way, i) => {
      for (const from of [[0, 0, 0] as Vector, [2, 1, -3] as Vector]) {
        const sign = Math.sign(dot(projection.depth, way));
        const far = seenAt(projection, plus(from, times(way, sign * 1e7)));
        expect(Math.abs((far?.x ?? NaN) - (points[i]?.x ?? 0))).toBeLessThan(0.1);
        expect(Math.abs((far?.y ?? NaN) - (points[i]?.y ?? 0))).toBeLessThan(0.1);
      }
    });
    // And takes them back: the same lens and roll, and vanishing points within a tenth of a pixel.
    const [a, b] = points;
    const back = a && b && cameraFrom({ ...own, lens: 80, roll: 0.01 }, [a, b]);
    expect(back?.lens).toBeCloseTo(own.lens, 6);
    expect(back?.roll).toBeCloseTo(own.roll, 6);
    const again = vanishingPoints(back as typeof own, 1e6);
    for (const at of [a, b])
      expect(
        Math.min(...again.map(({ x, y }) => Math.hypot(x - (at?.x ?? 0), y - (at?.y ?? 0)))),
      ).toBeLessThan(0.1);
  });

  test("cannot be taken from points on one side", () => {
    expect(
      cameraFrom(camera, [
        { x: 500, y: 60 },
        { x: 900, y: 60 },
      ]),
    ).toBeNull();
  });

  test("sees through a pixel what is projected onto it, mirrored and turned views too", () => {
    const own = turnedTo(2, 3, 5, 0.3);
    const onto = [-0.8, 0.3, 0.2, 0.9, 40, 12] as const;
    const projection = projectionOf(own, onto);
    const at: Vector = [0.4, 0.9, -1.2];
    const seen = seenAt(projection, at);
    const onSheet = seenAt(projectionOf(own), at);
    expect(seen?.x).toBeCloseTo(onto[0] * onSheet!.x + onto[2] * onSheet!.y + onto[4], 8);
    expect(seen?.y).toBeCloseTo(onto[1] * onSheet!.x + onto[3] * onSheet!.y + onto[5], 8);
    const way = rayThrough(projection, seen!);
    const between = minus(at, projection.eye);
    expect(dot(way, between) / length(way) / length(between)).toBeCloseTo(1, 10);
    expect(dot(way, projection.depth)).toBeCloseTo(1, 10);
  });
});

describe("layers", () => {
  test("are painted again as the scene is; what a hand has painted on stays", () => {
    const { engine: own, work } = testWork();
    const put = (width: number): void => {
      work.apply({ do: "scene.put", solids: [solid({ size: [width, 1, 1] })] });
    };
    const paint = (layer: string): void => {
      work.apply({ do: "scene.paint", passes: [{ pass: "colour", layer }], above: "a" });
    };
    put(1);
    paint("s");
    const narrow = fingerprint(own, work);
    put(3);
    paint("s");
    expect(work.picture.structure.layers.map(({ id }) => id)).toEqual(["a", "s"]);
    expect(fingerprint(own, work)).not.toBe(narrow);
    work.apply(stroke(line([20, 40], [230, 150]), { layer: "s", size: 30 }));
    expect(work.picture.layer("s").pass).toBeUndefined();
    expect(() => paint("s")).toThrow(/“Scene, colour” is not the scene’s/);
    work.undo();
    expect(work.picture.layer("s").pass).toEqual({ kind: "colour" });
    work.undo();
    work.undo();
    expect(fingerprint(own, work)).toBe(narrow);
  });

  test("follow the sheet: cut by whole px, a scene paints what was there", () => {
    const work = paintedWith(known, ["colour"]);
    work.apply({ do: "sheet.crop", left: 23, top: 11, width: 90, height: 70 });
    const cut = (layer: string) => (x: number, y: number) => pixel(engine, work, layer, x, y);
    work.apply({ do: "scene.paint", passes: [{ pass: "colour", layer: "anew" }], above: null });
    let apart = 0;
    for (let y = 0; y < 70; y++)
      for (let x = 0; x < 90; x++) {
        const [a, b] = [cut("colour")(x, y), cut("anew")(x, y)];
        if (a.some((v, c) => Math.abs(v - (b[c] as number)) > 400)) apart++;
      }
    expect(apart / (90 * 70)).toBeLessThan(0.001);
    expect(work.picture.layer("colour").pass).toEqual({ kind: "colour" });
  });

  test("hold lines as wide as they are asked for, darkest at outlines", () => {
    for (const lineWidth of [1, 2, 6]) {
      const work = engine.open(testHeader({ width: WIDTH, height: HEIGHT }));
      work.apply({
        do: "scene.put",
        solids: [solid({ kind: "plane", size: [40, 1, 40], at: [0, 0, -25] })],
      });
      work.apply({ do: "scene.set", ground: null });
      const passes = [{ pass: "line" as const, layer: "l" }];
      work.apply({ do: "scene.paint", passes, above: null, lineWidth });
      // Down one column through the far edge, which is level there.
      let ink = 0;
      for (let y = 0; y < HEIGHT / 2; y++)
        ink += (pixel(engine, work, "l", 64, y)[3] as number) / ONE;
      expect(Math.abs(ink - lineWidth)).toBeLessThan(0.5);
      work.release();
    }
  });
});

describe("is refused in words", () => {
  const { work } = testWork();
  const put = (own: object) => () =>
    work.apply({ do: "scene.put", solids: [{ ...solid(), ...own }] as never });
  test.each([
    ["a tube without a path", { kind: "tube" }, /the tube “One” needs a path/],
    ["a mesh without corners", { kind: "mesh" }, /“One” needs its corners and faces/],
    ["a size of nothing", { size: [1, 0, 1] }, /size\.1/],
    ["a turn without a length", { turn: [0, 0, 0, 0] }, /a turn has a length/],
    [
      "a mesh with corners outside its box",
      { kind: "mesh", mesh: { corners: "AABIQgAAAAAAAAAA", faces: "AAAAAAAAAAAAAAAA" } },
      /“One” has corners outside its box/,
    ],
    [
      "a mesh with a corner that is not there",
      { kind: "mesh", mesh: { corners: "AAAAAAAAAAAAAAAA", faces: "AAAAAAAAAAAJAAAA" } },
      /“One” has no corner/,
    ],
    [
      "a mesh cut off",
      { kind: "mesh", mesh: { corners: "AAAAAAAAAAA=", faces: "AAAAAAAAAAAAAAAA" } },
      /“One”: corners and faces come in threes/,
    ],
  ])("%s", (_n, own, why) => {
    expect(put(own)).toThrow(why);
    expect(work.picture.structure.scene).toBeUndefined();
  });

  test("what the scene does not hold", () => {
    expect(() => work.apply({ do: "scene.remove", ids: ["one"] })).toThrow(/no solid "one"/);
    const passes = [{ pass: "colour" as const, layer: "s" }];
    expect(() => work.apply({ do: "scene.paint", passes, above: null })).toThrow(/scene is empty/);
    expect(() => work.apply({ do: "select", shape: { kind: "solids", ids: ["one"] } })).toThrow(
      /no scene/,
    );
    const many = Array.from({ length: 500 }, (_, i) => solid({ id: `s${i}` }));
    work.apply({ do: "scene.put", solids: many.map((one) => ({ ...one })) });
    expect(put({ id: "more" })).toThrow(/at most 500 solids/);
    work.undo();
  });
});
