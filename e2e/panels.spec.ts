import { expect, type Page, test } from "@playwright/test";
import { fromItsLog, line, seen, takeBrush } from "./painter";
import { freshTable, middle, settled, tableReady } from "./table";

const isDark = async (page: Page, x: number, y: number, is: boolean): Promise<void> => {
  const light = async (): Promise<number> => Math.max(...(await seen(page, x, y)));
  if (is) await expect.poll(light).toBeLessThan(120);
  else await expect.poll(light).toBeGreaterThan(180);
};

const undoOf = (page: Page, what: string) =>
  page.getByRole("button", { name: `Undo ${what}`, exact: true });

test("a page is cut into panels, drawn in, changed and kept", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Panels of a comic page" }).click();
  await page.getByLabel("Margin").fill("4");
  await page.getByRole("button", { name: "Lay the page" }).click();
  await expect(page.getByText("1 panel", { exact: true })).toBeVisible();

  // Level across, then slanted through the upper tier.
  await pen.stroke(line([x - 380, y - 4], [x + 380, y + 4]));
  await expect(page.getByText("2 panels", { exact: true })).toBeVisible();
  await page.getByLabel("Even").uncheck();
  await pen.stroke(line([x + 60, y - 250], [x - 20, y]));
  await expect(page.getByText("3 panels", { exact: true })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Panel 3/ })).toBeVisible();
  await isDark(page, x, y, false);

  // A tap takes up a panel; its paint ends at its frame.
  await page.mouse.click(x - 200, y + 100);
  await takeBrush(page, "Even liner", 14, "#101018");
  await pen.stroke(line([x - 200, y - 120], [x - 200, y + 120]));
  await isDark(page, x - 200, y + 100, true);
  await isDark(page, x - 200, y - 100, false);

  // The gutter is pushed with both panels above it.
  await page.keyboard.press("Control+k");
  await page.keyboard.type("Panels: push");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("radio", { name: "Push" })).toBeChecked();
  const frames = page.getByTestId("panels-overlay");
  await expect(frames.locator("text")).toHaveText(["1", "2", "3"]);
  const gutter = await edgeBelow(page, x - 260, y - 40);
  await pen.stroke(line([x - 260, gutter], [x - 260, gutter - 50]));
  await expect(undoOf(page, "push a gutter")).toBeVisible();
  await isDark(page, x - 200, y, true);

  await settled(page);
  await page.reload();
  await tableReady(page);
  await isDark(page, x - 200, y, true);
  await isDark(page, x - 200, y - 160, false);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("Panels: join");
  await page.keyboard.press("Enter");
  await pen.stroke(line([x - 160, y - 160], [x + 160, y - 160]));
  await expect(page.getByText("2 panels", { exact: true })).toBeVisible();
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});

/** The first dark place below another: a frame's edge. */
async function edgeBelow(page: Page, x: number, y: number): Promise<number> {
  for (let at = y; at < y + 120; at++) if (Math.max(...(await seen(page, x, at))) < 120) return at;
  throw new Error(`no frame is seen below ${x}, ${y}`);
}

test("focus and speed lines are laid by a drag, changed by their amounts, and are lines", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Lines that stay editable" }).click();
  await takeBrush(page, "Even liner", 12, "#101018");
  await page.getByRole("button", { name: "Correct", exact: true }).click();
  await page.getByRole("radio", { name: "Focus", exact: true }).click();
  await pen.stroke(line([x, y], [x + 90, y]));
  await expect(undoOf(page, "focus lines")).toBeVisible();
  await isDark(page, x, y, false);
  await page.getByRole("radio", { name: "Choose", exact: true }).click();
  const all = page.getByRole("button", { name: "Choose all" });
  await all.click();
  const count = page.locator(".chosen-lines output");
  await expect(count).toHaveText(/^\d+ lines$/);
  const many = parseInt((await count.textContent()) ?? "", 10);

  // Twice as far apart there are half as many, and one undo takes all of them away.
  await page.getByRole("radio", { name: "Focus", exact: true }).click();
  await page.getByRole("slider", { name: "Apart" }).fill("30");
  await settled(page);
  await page.getByRole("radio", { name: "Choose", exact: true }).click();
  await expect
    .poll(async () => {
      await page.mouse.click(x, y);
      await all.click();
      return parseInt((await count.textContent()) ?? "", 10);
    })
    .toBeLessThan(0.6 * many);
  await page.keyboard.press("Control+z");
  await expect(undoOf(page, "focus lines")).toBeHidden();

  await page.getByRole("radio", { name: "Speed", exact: true }).click();
  await pen.stroke(line([x - 250, y], [x + 250, y - 40]));
  await expect(undoOf(page, "speed lines")).toBeVisible();
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});
