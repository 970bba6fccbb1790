import { expect, type Page, test } from "@playwright/test";
import { checkpointed, pictureOf } from "./abuse";
import { fromItsLog, line, seen, takeBrush } from "./painter";
import { freshTable, middle, settled, tableReady } from "./table";
import { type PenPoint } from "./pen";

async function openWater(page: Page): Promise<void> {
  await page.getByRole("tab", { name: "Paint", exact: true }).click();
  await page.getByRole("tab", { name: "Water", exact: true }).click();
}

/** A brush drawn to and fro over a box, so that it is covered. */
const fill = (x: number, y: number, width: number, height: number, apart = 16): PenPoint[] =>
  Array.from({ length: Math.ceil(height / apart) + 1 }, (_, row): PenPoint[] => {
    const [from, to] = row % 2 ? [x + width, x] : [x, x + width];
    const across = y + row * apart;
    return line([from, across], [to, across]).filter((_point, i) => i % 4 === 0);
  }).flat();

/** The layer's row says whether it is wet. */
const isWet = (page: Page, is: boolean) =>
  expect(page.getByRole("row", { name: /^Layer 1/ })).toHaveAccessibleName(
    is ? /wet/ : /^(?!.*wet)/,
    { timeout: 60_000 },
  );

test("a colour dropped into a wet wash runs into it; once dry it stays, byte by byte as its log paints it", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openWater(page);
  await takeBrush(page, "Wash round", 50, "#f0c62a");
  await pen.stroke(fill(x - 160, y - 80, 130, 100));
  await isWet(page, true);
  await takeBrush(page, "Charging brush", 30, "#2e3f9e");
  await pen.stroke(line([x - 130, y - 30], [x - 60, y - 30]));
  const spot = (): Promise<[number, number, number]> => seen(page, x - 95, y - 30);
  // The layer that was worked on is in hand again, not the topmost one.
  await expect(page.getByRole("row", { name: /^Layer 1/ })).toHaveAttribute(
    "aria-selected",
    "true",
  );
  const beside = async (): Promise<number> => (await seen(page, x - 95, y - 4))[0];
  await expect.poll(async () => Math.max(...(await spot()))).toBeLessThan(120);
  const before = await beside();
  // The blue comes where the pen has never been.
  await expect.poll(beside, { timeout: 30_000 }).toBeLessThan(before - 12);
  await page.getByRole("button", { name: "Dry now" }).click();
  await isWet(page, false);
  const [r, g, b] = await spot();
  expect(g).toBeGreaterThan(Math.max(r, b) - 12);

  // What comes over it does not move it.
  const dry = await seen(page, x - 140, y - 60);
  await takeBrush(page, "Wash round", 40, "#b3263a");
  await pen.stroke(line([x - 40, y - 40], [x + 120, y - 40]));
  await page.getByRole("button", { name: "Dry now" }).click();
  await isWet(page, false);
  expect(await seen(page, x - 140, y - 60)).toEqual(dry);
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});

test("a wash goes on where a reload broke it off, and is undone with its stroke", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openWater(page);
  await takeBrush(page, "Mop", 90, "#2e6f8e");
  await pen.stroke(fill(x - 100, y - 40, 200, 80, 30));
  await settled(page);
  await page.reload();
  await tableReady(page);
  await isWet(page, true);
  await page.getByLabel("Washes dry").selectOption("soon, in the sun");
  await isWet(page, false);
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
  // Another is taken back with all that followed it.
  const place = [x + 130, y + 110] as const;
  await expect(page.locator(".modal-backdrop")).toHaveCount(0);
  const bare = await seen(page, ...place);
  await pen.stroke(line([x + 60, y + 110], [x + 200, y + 110]));
  await isWet(page, true);
  await isWet(page, false);
  expect(await seen(page, ...place)).not.toEqual(bare);
  await page.getByRole("button", { name: "Undo paint" }).click();
  await settled(page);
  expect(await seen(page, ...place)).toEqual(bare);
});

test("a tilted sheet lets a wash run down", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openWater(page);
  await takeBrush(page, "Mop", 70, "#3a5a40");
  const level = page.getByRole("button", { name: /^Tilt of the sheet/ });
  await expect(level).toHaveAccessibleName(/lies flat/);
  const box = await level.boundingBox();
  if (!box) throw new Error("there is no level");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height - 2, { steps: 4 });
  await page.mouse.up();
  await expect(level).toHaveAccessibleName(/runs down/);
  await page.getByLabel("Water", { exact: true }).fill("200");
  const below = async (): Promise<number> => (await seen(page, x, y + 36))[1];
  const bare = await below();
  await pen.stroke(line([x - 90, y - 20], [x + 90, y - 20]));
  await expect.poll(below, { timeout: 30_000 }).toBeLessThan(bare - 25);
  await page.getByRole("button", { name: "Dry now" }).click();
  await level.dblclick();
  await expect(level).toHaveAccessibleName(/lies flat/);
});

test("wet paint shines until it is dry, and no longer where that is not wanted", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openWater(page);
  await takeBrush(page, "Mop", 120, "#20402a");
  await pen.stroke(line([x - 90, y], [x + 90, y]));
  await isWet(page, true);
  // Time stands, so that nothing but the shine changes.
  await page.getByLabel("Washes dry").selectOption("0");
  await expect(page.getByLabel("Washes dry")).toHaveValue("0");
  await settled(page);
  const at = async (): Promise<number> => (await seen(page, x, y))[0];
  const shining = await at();
  await page.getByLabel("Shines while wet").uncheck();
  await expect.poll(at).toBeLessThan(shining - 8);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
  await page.getByLabel("Shines while wet").check();
  await expect.poll(at).toBe(shining);
  await page.getByRole("button", { name: "Dry now" }).click();
  await isWet(page, false);
  const dry = await at();
  await page.getByLabel("Shines while wet").uncheck();
  await settled(page);
  expect(await at()).toBe(dry);
});

test("masking fluid keeps paper bare under a wash, is not exported, and is rubbed off", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Masking fluid" }).click();
  await expect(page.getByText("Masking fluid: Paint lays it")).toBeVisible();
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await takeBrush(page, "Even liner", 30, "#ffffff");
  const bare = await seen(page, x, y);
  await pen.stroke(line([x - 160, y], [x + 160, y]));
  await expect.poll(() => seen(page, x, y)).not.toEqual(bare);

  await page.getByRole("row", { name: /^Layer 1/ }).click();
  await openWater(page);
  await takeBrush(page, "Wash flat", 110, "#2e3f9e");
  await pen.stroke(fill(x - 120, y - 60, 240, 120, 60));
  await isWet(page, true);
  await page.getByRole("button", { name: "Dry now" }).click();
  await isWet(page, false);
  await settled(page);
  await page.reload();
  await tableReady(page);
  const beside = async (): Promise<number> => (await seen(page, x, y - 60))[0];
  await expect.poll(beside).toBeLessThan(150);
  // The file has neither the film nor paint where it lay; the log paints the same.
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
  await page.getByRole("row", { name: /^Masking fluid/ }).click();
  await page.getByRole("button", { name: "Rub all off" }).click();
  await expect(page.getByRole("row", { name: /^Masking fluid/ })).toHaveCount(0);
  await expect.poll(() => seen(page, x, y)).toEqual(bare);
  await settled(page);
  const after = await fromItsLog(page);
  expect(after.shown.equals(shown)).toBe(true);
});

test("a wet brush goes on pouring, and drops on falling, while the pen is held still", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openWater(page);
  for (const [brush, at] of [
    ["Wash round", x - 120],
    ["Wet spatter", x + 60],
  ] as const) {
    await takeBrush(page, brush, 60, brush === "Wet spatter" ? "#2e3f9e" : "#c8d8e8");
    const shade = async (): Promise<number> => (await seen(page, at, y))[0];
    await pen.stroke(line([at - 20, y - 60], [at + 20, y - 60]));
    await pen.down({ x: at, y, pressure: 0.5 });
    await pen.move({ x: at, y: y + 1, pressure: 0.5 });
    if (brush === "Wash round") {
      await expect.poll(shade).toBeLessThan(235);
      const before = await shade();
      await expect.poll(shade, { timeout: 30_000 }).toBeLessThan(before - 40);
    } else await expect.poll(shade, { timeout: 30_000 }).toBeLessThan(200);
    await pen.up({ x: at, y: y + 1, pressure: 0 });
  }
  await page.getByRole("button", { name: "Dry now" }).click();
  await isWet(page, false);
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});

test("water takes up a pencil that dissolves, and leaves graphite as it is", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  for (const [brush, at] of [
    ["Water-soluble pencil", y - 60],
    ["9B pencil", y + 60],
  ] as const) {
    await takeBrush(page, brush, 30, "#b3263a");
    for (const up of [0, 8, 16]) await pen.stroke(line([x - 150, at + up], [x + 150, at + up]));
  }
  const below = (at: number): Promise<[number, number, number]> => seen(page, x + 60, at + 34);
  const bare = [await below(y - 60), await below(y + 60)];
  await openWater(page);
  await takeBrush(page, "Clear water", 60, "#000000");
  await pen.stroke(line([x + 60, y - 80], [x + 60, y + 130]));
  await page.getByRole("button", { name: "Dry now" }).click();
  await isWet(page, false);
  const [run, kept] = [await below(y - 60), await below(y + 60)];
  expect((bare[0]?.[1] ?? 0) - run[1]).toBeGreaterThan(10);
  expect((bare[1]?.[1] ?? 0) - kept[1]).toBeLessThan(8);
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});

test("a picture that is left while it is wet is on the shelf as it was, and goes on from there as its log does", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 900, height: 640, title: "Left wet" });
  const { x, y } = await middle(page);
  const picture = pictureOf(page);
  await openWater(page);
  await takeBrush(page, "Wash round", 80, "#2d5f8c");
  await pen.stroke(fill(x - 200, y - 100, 320, 180, 30));
  await isWet(page, true);
  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByRole("link", { name: "Open Left wet" })).toBeVisible();
  await checkpointed(page, picture);
  await page.getByRole("link", { name: "Open Left wet" }).click();
  await tableReady(page);
  await isWet(page, true);
  await page.getByRole("button", { name: "Dry now" }).click();
  await isWet(page, false);
  const { shown, painted } = await fromItsLog(page);
  expect(shown.equals(painted)).toBe(true);
});
