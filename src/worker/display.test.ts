import { Compositor } from "../engine/compose/compositor";
import { toValues } from "../engine/crit/values";
import { line, stroke, testEngine, testHeader, writeStraight } from "../engine/engine.testing";
import { type Work } from "../engine/command/work";
import { TestCanvas, TestImage } from "./canvas.testing";
import { Display, levelFor } from "./display";

const engine = testEngine();
const [width, height] = [300, 200];
const globals = globalThis as unknown as { OffscreenCanvas: unknown; ImageData: unknown };
const known = { ...globals };

beforeAll(() => {
  globals.OffscreenCanvas = TestCanvas;
  globals.ImageData = TestImage;
});
afterAll(() =>
  Object.assign(globals, { OffscreenCanvas: known.OffscreenCanvas, ImageData: known.ImageData }),
);

/** What is put at a place of the picture: every place has a colour of its own. */
const own = (x: number, y: number): number[] => [x & 255, y & 255, (x * 3 + y * 5) & 255, 255];

type Shown = { work: Work; screen: TestCanvas; display: Display };

function shown(
  screenWidth = 320,
  screenHeight = 240,
  sheet = { width, height },
  busy?: (isBusy: boolean) => void,
): Shown {
  const screen = new TestCanvas(screenWidth, screenHeight);
  const work: Work = engine.open(testHeader({ ...sheet, ground: "#ffffff" }), {
    damaged: ({ layer, keys: damaged }) => {
      compositor.forget(layer, damaged);
      display.paint(damaged);
    },
  });
  const compositor = new Compositor(work.picture, engine.store, engine.workforce);
  const display = new Display(
    screen as unknown as OffscreenCanvas,
    work.picture,
    compositor,
    engine.store.heap,
    busy,
  );
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  writeStraight(work, "a", own);
  return { work, screen, display };
}

/** Waits until all in view is up to date. */
async function settled({ display }: Shown): Promise<void> {
  while (!display.isSettled) await new Promise((resolve) => setImmediate(resolve));
}

/** A view with a place of the picture in the middle of the screen. */
const view = (x: number, y: number, zoom = 1, more: object = {}) => ({
  x,
  y,
  zoom,
  angle: 0,
  mirrored: false,
  ...more,
});

test("the level of detail has a pixel for every pixel shown, and no finer one", () => {
  expect([4, 1, 0.6, 0.5, 0.3, 0.25, 1 / 64, 1e-4].map(levelFor)).toEqual([0, 0, 0, 1, 1, 2, 6, 6]);
});

test("at one to one the screen shows the very pixels, and the surround beside them", async () => {
  const table = shown();
  table.display.setSurround("#336699");
  table.display.setView(view(150, 100));
  await settled(table);
  // The screen's middle (160, 120) shows the picture's (150, 100).
  for (const [x, y] of [
    [0, 0],
    [63, 64],
    [150, 100],
    [299, 199],
  ] as const)
    expect(table.screen.at(x + 10, y + 20)).toEqual(own(x, y).slice(0, 3));
  expect(table.screen.at(3, 3)).toEqual([0x33, 0x66, 0x99]);
  expect(table.screen.at(315, 238)).toEqual([0x33, 0x66, 0x99]);
  table.display.stop();
  table.work.release();
});

test("mirrored it is seen the other way round, and zoomed in as squares", async () => {
  const table = shown();
  table.display.setView(view(150, 100, 1, { mirrored: true }));
  await settled(table);
  expect(table.screen.at(160 + 20, 120)).toEqual(own(150 - 21, 100).slice(0, 3));
  table.display.setView(view(40, 30, 8));
  await settled(table);
  const square = own(40, 30).slice(0, 3);
  for (const off of [0, 3, 7]) expect(table.screen.at(160 + off, 120 + off)).toEqual(square);
  expect(table.screen.context.imageSmoothingEnabled).toBe(false);
  table.display.stop();
  table.work.release();
});

test("a stroke is on the screen when it has been applied, and only its part is drawn again", async () => {
  const table = shown();
  table.display.setView(view(150, 100));
  await settled(table);
  table.screen.context.drawn = 0;
  table.work.apply(stroke(line([20, 30], [60, 30]), { size: 12, colour: "#ff0000" }));
  expect(table.screen.at(40 + 10, 30 + 20)).toEqual([255, 0, 0]);
  expect(table.screen.at(200 + 10, 100 + 20)).toEqual(own(200, 100).slice(0, 3));
  // One tile of 64 px and a pixel around it, however often it is drawn.
  expect(table.screen.context.drawn).toBeGreaterThan(0);
  expect(table.screen.context.drawn).toBeLessThan(66 * 66 * 40);
  table.work.undo();
  expect(table.screen.at(40 + 10, 30 + 20)).toEqual(own(40, 30).slice(0, 3));
  table.display.stop();
  table.work.release();
});

test("what changes out of view is right when it comes into view", async () => {
  const table = shown(80, 80);
  table.display.setView(view(40, 40));
  await settled(table);
  table.work.apply(stroke(line([250, 150], [290, 150]), { size: 20, colour: "#00ff00" }));
  table.display.setView(view(270, 150));
  await settled(table);
  expect(table.screen.at(40, 40)).toEqual([0, 255, 0]);
  table.display.stop();
  table.work.release();
});

test("from afar a pixel is the mean of what it covers", async () => {
  const table = shown(200, 160);
  writeStraight(table.work, "a", (x) => (x % 2 === 0 ? [0, 0, 0, 255] : [200, 100, 50, 255]));
  table.display.setView(view(150, 100, 0.5));
  await settled(table);
  const [r = 0, g = 0, b = 0] = table.screen.at(100, 80);
  expect([r, g, b].map((v, i) => Math.abs(v - ([100, 50, 25][i] as number)) <= 1)).toEqual([
    true,
    true,
    true,
  ]);
  table.display.stop();
  table.work.release();
});

test("a change of the whole view is shown at once, and never half", async () => {
  const sheet = { width: 640, height: 420 };
  const table = shown(640, 420, sheet);
  table.display.setView(view(320, 210));
  await settled(table);
  const isOld = (x: number, y: number): boolean =>
    table.screen.at(x, y).every((v, c) => v === own(x, y)[c]);
  const places = [10, 200, 400, 630].flatMap((x) => [10, 200, 410].map((y) => [x, y] as const));
  const old = (): number => places.filter(([x, y]) => isOld(x, y)).length;
  expect(old()).toBe(places.length);
  table.work.apply({ do: "layer.set", id: "a", visible: false });
  table.display.repaintAll();
  let rounds = 0;
  for (; !table.display.isSettled; rounds++) {
    expect(old()).toBe(places.length);
    await new Promise((resolve) => setImmediate(resolve));
  }
  expect(rounds).toBeGreaterThan(1);
  expect(places.every(([x, y]) => table.screen.at(x, y)[0] === 255)).toBe(true);
  table.display.stop();
  table.work.release();
});

test("the whole picture is drawn small from what is shown, where all of it is", async () => {
  const table = shown(300, 200);
  table.display.setView(view(150, 100));
  await settled(table);
  const small = new TestCanvas(150, 100);
  const onto = small.context as unknown as OffscreenCanvasRenderingContext2D;
  expect(table.display.drawWhole(onto, 150, 100)).toBe(true);
  expect(small.at(75, 50)).toEqual(own(151, 101).slice(0, 3));
  table.display.setView(view(150, 100, 2));
  expect(table.display.drawWhole(onto, 150, 100)).toBe(false);
  table.display.stop();
  table.work.release();
});

test("a look changes what is on the screen and not the picture, and is taken off again", async () => {
  const table = shown();
  table.display.setView(view(150, 100));
  await settled(table);
  const before = table.work.place;
  table.display.setLook((pixels) => toValues(pixels, 0));
  await settled(table);
  const [r, g, b] = table.screen.at(100, 100) as [number, number, number];
  expect(r === g && g === b).toBe(true);
  table.display.setLook(null);
  await settled(table);
  expect(table.screen.at(100, 100)).toEqual(own(90, 80).slice(0, 3));
  expect(table.work.place).toBe(before);
  table.display.stop();
  table.work.release();
});

test("a small picture is seen until the view is there, and no longer", async () => {
  const table = shown();
  const small = new TestCanvas(30, 20);
  const green = [0x20, 0x90, 0x40];
  const context = small.getContext() as unknown as OffscreenCanvasRenderingContext2D;
  context.fillStyle = "#209040";
  context.fillRect(0, 0, 30, 20);
  table.display.beginWith(small as unknown as OffscreenCanvas);
  // The size of the screen alone does not say what is looked at.
  table.display.resize(320, 240);
  await new Promise((resolve) => setImmediate(resolve));
  table.display.setSurround("#336699");
  // The sheet's corner is in the screen's middle as long as no view is set.
  expect(table.screen.at(161, 121)).toEqual(green);
  table.display.setView(view(150, 100));
  await settled(table);
  expect(table.screen.at(160, 120)).toEqual(own(150, 100).slice(0, 3));
  await new Promise((resolve) => setImmediate(resolve));
  table.display.stop();
  table.display.setSurround("#336699");
  expect(table.screen.at(160, 120)).toEqual([255, 255, 255]);
});

test("a view that takes its time to come is told of, and so is its coming", async () => {
  const told: boolean[] = [];
  const table = shown(320, 240, { width, height }, (isBusy) => told.push(isBusy));
  const clock = jest.spyOn(performance, "now");
  // Every look at the clock finds a second gone.
  let now = performance.now();
  clock.mockImplementation(() => (now += 1000));
  try {
    table.display.setView(view(150, 100));
    await settled(table);
    await new Promise((resolve) => setImmediate(resolve));
  } finally {
    clock.mockRestore();
  }
  expect(told).toEqual([true, false]);
  table.display.stop();
});
