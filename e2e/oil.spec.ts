import { expect, test } from "@playwright/test";
import { fromItsLog, line, openOil, seen, takeBrush } from "./painter";
import { freshTable, middle, settled, tableReady } from "./table";

test("oil mixes while it is wet, is kept wet over a reload, dries when it is told to, and paints the same in Node", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openOil(page);
  await takeBrush(page, "Hog flat", 70, "#f2d024");
  await expect(page.getByText(/^Oil stays wet/)).toBeVisible();
  await pen.stroke(line([x - 200, y], [x + 200, y]));
  const row = page.getByRole("row", { name: /^Layer 1/ });
  await expect(row).toContainText("wet");
  await settled(page);
  await page.reload();
  await tableReady(page);
  await expect(row).toContainText("wet");

  await openOil(page);
  await takeBrush(page, "Hog round", 40, "#2a4fc0");
  // It was said once, for good.
  await expect(page.getByText(/^Oil stays wet/)).toBeHidden();
  await page.getByLabel("Strength").fill("25");
  await pen.stroke(line([x - 150, y], [x + 150, y]));
  await settled(page);
  const [r, g, b] = await seen(page, x + 110, y);
  expect(g).toBeGreaterThan(r + 10);
  expect(g).toBeGreaterThan(b);

  const { shown, painted } = await fromItsLog(page);
  expect(shown.equals(painted)).toBe(true);

  await page.getByRole("button", { name: "Dry now" }).click();
  await expect(row).not.toContainText("wet");
  await page.getByRole("button", { name: "Undo dry" }).click();
  await expect(row).toContainText("wet");
  await page.getByLabel("Dries").selectOption("after 5 min");
  await expect(page.getByRole("button", { name: "Undo set layer dry after" })).toBeEnabled();
  await page.getByRole("slider", { name: "Depth of the relief" }).fill("0");
  await expect(page.getByRole("button", { name: "Undo set layer relief" })).toBeEnabled();
});

test("a knife spreads, Blend stirs and Lift wipes what is wet", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openOil(page);
  await takeBrush(page, "Hog flat", 90, "#b02018");
  await pen.stroke(line([x - 200, y - 40], [x + 200, y - 40]));
  await takeBrush(page, "Trowel knife", 60, "#f4f2ec");
  await pen.stroke(line([x - 200, y + 60], [x + 60, y + 60]));
  await settled(page);
  const red = await seen(page, x, y - 40);
  expect(red[0]).toBeGreaterThan(red[1] + 60);

  await page.getByRole("radio", { name: "Blend", exact: true }).click();
  await takeBrush(page, "Hog round", 50, "#000000");
  await pen.stroke(line([x - 150, y - 60], [x - 150, y + 90]));
  await settled(page);
  const dragged = await seen(page, x - 150, y + 55);
  expect(dragged[0]).toBeGreaterThan(dragged[1] + 12);

  await page.getByRole("radio", { name: "Lift", exact: true }).click();
  await pen.stroke(line([x, y - 40], [x + 190, y - 40]));
  await settled(page);
  const wiped = await seen(page, x + 100, y - 40);
  expect(wiped[1]).toBeGreaterThan(red[1] + 25);
});

test("gouache is dry by the next stroke, and what moves wet paint says so where nothing is wet", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Paint", exact: true }).click();
  await page.getByRole("tab", { name: "Gouache and acrylic", exact: true }).click();
  await takeBrush(page, "Gouache flat", 70, "#f2d024");
  await pen.stroke(line([x - 200, y], [x + 200, y]));
  await settled(page);
  await expect(page.getByRole("row", { name: /^Layer 1/ })).not.toContainText("wet");
  await takeBrush(page, "Gouache flat", 50, "#2a4fc0");
  await pen.stroke(line([x - 150, y], [x + 150, y]));
  await settled(page);
  const [r, g, b] = await seen(page, x - 60, y);
  expect(b).toBeGreaterThan(r + 80);
  expect(b).toBeGreaterThan(g + 60);

  await page.getByRole("tab", { name: "Oil", exact: true }).click();
  await page.getByRole("radio", { name: "Hog round", exact: true }).click();
  await page.getByRole("radio", { name: "Blend", exact: true }).click();
  await pen.stroke(line([x - 150, y], [x + 150, y]));
  await expect(page.getByText(/^No paint is wet there/)).toBeVisible();
});

test("thinned paint runs down while nobody draws, over a reload too, and is undone with its stroke", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openOil(page);
  await takeBrush(page, "Hog flat", 90, "#203a90");
  await page.getByLabel("Thinner").fill("70");
  await pen.stroke(line([x - 200, y - 60], [x + 120, y - 60]));
  await pen.stroke(line([x - 200, y - 50], [x + 120, y - 50]));
  // It comes down below its own edge.
  const below = async (): Promise<number> => (await seen(page, x - 60, y + 6))[0];
  const first = await below();
  await expect.poll(below).toBeLessThan(first - 12);
  await page.reload();
  await tableReady(page);
  const kept = await below();
  expect(kept).toBeLessThan(first - 6);
  await openOil(page);
  await takeBrush(page, "Hog round", 20, "#a03020");
  await pen.stroke(line([x + 180, y + 100], [x + 220, y + 100]));

  // A sheet that is at rest: both files tell of the same moment.
  await page.getByRole("button", { name: "Dry now" }).click();
  await settled(page);
  const { shown, painted, log } = await fromItsLog(page);
  expect(log).toContain('"do":"time"');
  expect(shown.equals(painted)).toBe(true);
  await page.getByRole("button", { name: "Undo dry" }).click();
  await page.getByRole("button", { name: "Undo paint" }).click();
  await expect(page.getByRole("button", { name: "Redo paint" })).toBeEnabled();
});
