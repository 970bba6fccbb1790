import { expect, test } from "@playwright/test";
import { Pen, swell } from "./pen";
import { openPortfolio, settled, tableReady } from "./table";

test("a sheet of studies: drawn in, compared with their values, the best carried over, the sheet kept", async ({
  page,
}) => {
  await openPortfolio(page);
  await page.getByRole("button", { name: "New picture" }).first().click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: /Own size/ }).click();
  await dialog.getByLabel("Unit").selectOption("px");
  await dialog.getByLabel("Width").fill("600");
  await dialog.getByLabel("Height").fill("400");
  await dialog.getByLabel("Title").fill("Bridge");
  await dialog.getByLabel("Begin with").selectOption("2");
  await dialog.getByRole("button", { name: "Lay out the sheet" }).click();
  await tableReady(page);
  await expect(page.getByText("Studies for Bridge")).toBeVisible();

  const frames = page.locator(".frames-overlay polygon");
  await expect(frames).toHaveCount(2);
  const box = await frames.last().boundingBox();
  if (!box) throw new Error("the second frame is not seen");
  const pen = await Pen.on(page);
  const y = box.y + box.height / 2;
  await pen.stroke(swell([box.x + 10, y], [box.x + box.width - 10, y]));
  await settled(page);
  // A stroke that begins in the second frame stays in it, and leaves the first as it was.
  await expect(page.getByLabel("Keep in frame")).toBeChecked();
  await pen.stroke(swell([box.x + 20, y + 20], [box.x - box.width, y + 20]));
  await settled(page);

  await page.getByRole("button", { name: "Studies", exact: true }).click();
  const large = page.getByRole("region", { name: "Study 2, large" });
  await expect(large.getByRole("img")).toHaveAccessibleName(/lights 9\d %/);
  await expect(
    page.getByRole("region", { name: "Study 1, large" }).getByRole("img"),
  ).toHaveAccessibleName(/lights 100 %/);
  await page.getByRole("button", { name: "Carry study 1 over" }).click();
  await expect(page.getByText("There is nothing in frame 1 yet. Draw in it first.")).toBeVisible();
  await page.getByRole("button", { name: "Carry study 2 over" }).click();
  await expect(page.getByText("600 × 400 px")).toBeVisible();
  await tableReady(page);
  await expect(page.getByRole("button", { name: "Studies", exact: true })).toBeHidden();
  await expect(page.getByRole("row", { name: /Drawing/ })).toBeVisible();

  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByText("Studies for Bridge", { exact: true })).toBeVisible();
  await expect(page.getByText("Bridge, study 2", { exact: true })).toBeVisible();
});
