import { expect, type Page, test } from "@playwright/test";
import { monotoneCubic } from "../src/engine/stroke/curve";
import { Pen, swell } from "./pen";
import { exported, freshTable, middle, setting, settled, tableReady } from "./table";

async function openHands(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Pen", exact: true }).click();
  await page.getByRole("button", { name: "Pen and hands…" }).click();
  await expect(page.getByRole("dialog", { name: "Pen and hands" })).toBeVisible();
}

const closeDialog = (page: Page): Promise<void> =>
  page.getByRole("dialog").getByRole("button", { name: "Close" }).click();

/** The strokes in the picture's log. */
async function strokes(page: Page): Promise<{ mode?: string; samples: number[][] }[]> {
  const log = (await exported(page, "Work log")).toString().trim().split("\n");
  return log
    .map((line) => JSON.parse(line) as { do?: string; mode?: string; samples: number[][] })
    .filter((command) => command.do === "stroke");
}

const heaviest = ({ samples }: { samples: number[][] }): number =>
  Math.max(...samples.map((sample) => sample[3] ?? 0));

const touches = async (page: Page) => {
  const cdp = await page.context().newCDPSession(page);
  return (
    type: "touchStart" | "touchMove" | "touchEnd",
    points: { x: number; y: number; id?: number; radiusX?: number }[],
    timestamp?: number,
  ) => cdp.send("Input.dispatchTouchEvent", { type, touchPoints: points, timestamp });
};

const percent = (page: Page) => page.locator(".options").getByText(/^[\d.]+%$/);

test("a press is felt by the curve that was set, now and after a reload", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  const draw = async (by: Pen, down: number): Promise<void> => {
    await by.stroke(swell([x - 120, y + down], [x + 120, y + down]));
    await settled(page);
  };
  await draw(pen, -60);
  await openHands(page);
  await page.getByRole("button", { name: "Heavy hand" }).click();
  await closeDialog(page);
  await draw(pen, 0);
  await expect.poll(() => setting(page, "all")).toContain('"curve":[[0,0],[0.5');
  await page.reload();
  await tableReady(page);
  await draw(await Pen.on(page), 60);
  const [first, second, third] = (await strokes(page)).map(heaviest);
  const heavy = monotoneCubic([
    [0, 0],
    [0.5, 0.22],
    [1, 1],
  ]);
  expect(first).toBeCloseTo(0.9, 2);
  expect(second).toBeCloseTo(heavy(0.9), 2);
  expect(third).toBeCloseTo(heavy(0.9), 2);
});

test("the trial strip finds the range that a hand presses in, and makes it the whole", async ({
  page,
}) => {
  const pen = await freshTable(page);
  await openHands(page);
  const use = page.getByRole("button", { name: "Make that the whole range" });
  await expect(use).toBeDisabled();
  const box = await page.getByRole("img", { name: "Trial strip: draw here" }).boundingBox();
  if (!box) throw new Error("there is no trial strip");
  for (const down of [40, 90])
    await pen.stroke(
      swell([box.x + 20, box.y + down], [box.x + box.width - 20, box.y + down], 60, 0.6),
    );
  await expect(page.getByText(/You press from \d+ to (59|60) of 100\./)).toBeVisible();
  await use.click();
  await closeDialog(page);
  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 120, y], [x + 120, y], 24, 0.6));
  await settled(page);
  const [stroke] = await strokes(page);
  expect(stroke && heaviest(stroke)).toBeCloseTo(1, 2);
});

test("a pen’s button picks the colour under it, or lifts where it is to", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  const cdp = await page.context().newCDPSession(page);
  const press = (
    type: "mousePressed" | "mouseMoved" | "mouseReleased",
    at: number,
    force: number,
  ): Promise<unknown> =>
    cdp.send("Input.dispatchMouseEvent", {
      ...{ type, x: at, y, force, pointerType: "pen", button: "right" },
      buttons: type === "mouseReleased" ? 0 : 2,
      clickCount: 1,
    });
  const hex = page.getByLabel("Hex");
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder("What would you like to do?").fill("Brush: Even liner");
  await page.keyboard.press("Enter");
  await pen.stroke(swell([x - 150, y], [x + 150, y], 24, 1));
  await settled(page);
  const drawn = await hex.inputValue();
  await page.keyboard.press("x");
  await expect(hex).not.toHaveValue(drawn);
  await press("mousePressed", x, 0.5);
  await press("mouseReleased", x, 0);
  await expect(hex).toHaveValue(drawn);
  await openHands(page);
  await page.getByLabel("The lower button, held").selectOption("lifts off");
  await closeDialog(page);
  await press("mousePressed", x - 40, 0.7);
  for (let i = 1; i <= 8; i++) await press("mouseMoved", x - 40 + i * 10, 0.7);
  await press("mouseReleased", x + 40, 0);
  await settled(page);
  expect((await strokes(page)).map(({ mode }) => mode)).toEqual(["paint", "lift"]);
});

test("one finger does what it was told to; a palm’s wide contact does nothing", async ({
  page,
}) => {
  await freshTable(page);
  const touch = await touches(page);
  const { x, y } = await middle(page);
  const drag = async (radiusX?: number): Promise<void> => {
    await touch("touchStart", [{ x: x - 60, y, radiusX }]);
    for (const dx of [-30, 0, 40]) await touch("touchMove", [{ x: x + dx, y: y + 12, radiusX }]);
    await touch("touchEnd", []);
    await settled(page);
  };
  const undo = page.getByRole("button", { name: /^Undo/ });
  const choose = async (words: string): Promise<void> => {
    await openHands(page);
    await page.getByLabel("One finger").selectOption(words);
    await closeDialog(page);
  };
  await choose("draws");
  await drag(60);
  await expect(undo).toBeDisabled();
  await choose("nothing");
  await drag();
  await expect(undo).toBeDisabled();
  await choose("moves the sheet");
  await drag();
  await expect(undo).toBeDisabled();
  await choose("draws");
  await drag();
  await expect(undo).toBeEnabled();
});

test("two fingers that come together quickly fit the sheet", async ({ page }) => {
  await freshTable(page);
  const fitted = await percent(page).textContent();
  await page.getByRole("button", { name: "1 : 1" }).click();
  await expect(percent(page)).toHaveText("100%");
  const touch = await touches(page);
  const { x, y } = await middle(page);
  const now = Date.now() / 1000;
  const pair = (apart: number) => [
    { x: x - apart / 2, y, id: 1 },
    { x: x + apart / 2, y, id: 2 },
  ];
  await touch("touchStart", pair(300), now);
  for (const [i, apart] of [220, 140, 90].entries())
    await touch("touchMove", pair(apart), now + 0.03 * (i + 1));
  await touch("touchEnd", [], now + 0.15);
  await expect(percent(page)).toHaveText(fitted ?? "");
});

test("for the left hand the table is mirrored", async ({ page }) => {
  await freshTable(page);
  const layers = page
    .getByRole("complementary", { name: "Layers" })
    .or(page.locator(".layers-panel"));
  const leftOf = async (): Promise<number> => (await layers.boundingBox())?.x ?? -1;
  expect(await leftOf()).toBe(0);
  await openHands(page);
  await page.getByRole("radio", { name: "I draw with my left hand" }).click();
  await closeDialog(page);
  await expect.poll(leftOf).toBeGreaterThan(1000);
  await expect.poll(() => setting(page, "all")).toContain('"hand":"left"');
  await page.reload();
  await tableReady(page);
  expect(await leftOf()).toBeGreaterThan(1000);
});

test("the screen stays on while one draws, and may go dark when the table is left", async ({
  page,
}) => {
  await page.addInitScript(() => {
    const held = { asked: 0, given: 0 };
    Object.assign(window, { held });
    const request = (): Promise<unknown> => {
      held.asked++;
      const lock = new EventTarget();
      const release = (): Promise<void> => {
        held.given++;
        lock.dispatchEvent(new Event("release"));
        return Promise.resolve();
      };
      return Promise.resolve(Object.assign(lock, { release }));
    };
    Object.defineProperty(navigator, "wakeLock", { value: { request } });
  });
  const held = (): Promise<unknown> =>
    page.evaluate(() => (window as unknown as { held: unknown }).held);
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  for (const down of [0, 40]) {
    await pen.stroke(swell([x - 120, y + down], [x + 120, y + down]));
    await settled(page);
  }
  expect(await held()).toEqual({ asked: 1, given: 0 });
  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByRole("button", { name: "Storage" })).toBeVisible();
  await expect.poll(held).toEqual({ asked: 1, given: 1 });
});
