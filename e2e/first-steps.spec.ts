import { expect, test } from "@playwright/test";
import { line } from "./painter";
import { Pen } from "./pen";
import { middle, newPicture, openPortfolio, settled, tableReady } from "./table";

test("three first steps are taken by doing them, and never come again", async ({ page }) => {
  await openPortfolio(page, true);
  await newPicture(page, { width: 700, height: 500 });
  const pen = await Pen.on(page);
  const { x, y } = await middle(page);
  const steps = page.getByRole("region", { name: "First steps" });
  const now = steps.locator("[aria-current=step]");
  await expect(now).toHaveText(/Draw/);
  await pen.stroke(line([x - 100, y], [x + 100, y]));
  await expect(now).toHaveText(/Take away/);
  // A stroke that paints is not what was asked for.
  await pen.stroke(line([x - 100, y + 40], [x + 100, y + 40]));
  await settled(page);
  await expect(now).toHaveText(/Take away/);
  await page.getByRole("radio", { name: "Lift" }).click();
  await pen.stroke(line([x - 50, y], [x + 50, y]));
  await expect(now).toHaveText(/Find anything/);
  await page.keyboard.press("Control+k");
  await expect(steps).toBeHidden();
  await page.keyboard.press("Escape");
  await settled(page);
  await page.reload();
  await tableReady(page);
  await expect(steps).toBeHidden();
  // Who wants to see them again finds them, and may skip them.
  await page.keyboard.press("Control+k");
  await page.keyboard.type("First steps");
  await page.keyboard.press("Enter");
  await expect(now).toHaveText(/Draw/);
  await steps.getByRole("button", { name: "Next" }).click();
  await expect(now).toHaveText(/Take away/);
  await steps.getByRole("button", { name: "Skip" }).click();
  await expect(steps).toBeHidden();
});
