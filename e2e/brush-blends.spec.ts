import { expect, type Page, test } from "@playwright/test";
import { decode } from "fast-png";
import { swell } from "./pen";
import { exported, freshTable, middle, settled } from "./table";

async function colour(page: Page, hex: string): Promise<void> {
  await page.getByLabel("Colour as hex").fill(hex);
  await page.getByLabel("Colour as hex").press("Enter");
}

const blendsAs = (page: Page) => page.getByLabel("Brush blends as");

test("a brush multiplies, paints behind, and each keeps the mode that it was given", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Colour", exact: true }).click();
  await page.getByRole("radio", { name: "Firm round" }).click();
  await page.getByLabel("Brush px").fill("40");
  await page.getByLabel("Brush px").press("Enter");
  await colour(page, "#e0b040");
  await pen.stroke(swell([x - 150, y], [x + 150, y]));
  await settled(page);
  await blendsAs(page).selectOption("multiply");
  await colour(page, "#4080c0");
  await pen.stroke(swell([x - 60, y - 100], [x - 60, y + 100]));
  await settled(page);
  await blendsAs(page).selectOption("behind");
  await colour(page, "#203040");
  await pen.stroke(swell([x + 60, y - 100], [x + 60, y + 100]));
  await settled(page);
  await page.getByRole("radio", { name: "Soft round" }).click();
  await expect(blendsAs(page)).toHaveValue("normal");
  await page.getByRole("radio", { name: "Firm round" }).click();
  await expect(blendsAs(page)).toHaveValue("behind");

  const { data, width, height, channels } = decode(await exported(page, "PNG"));
  /** How many pixels of a column are nearly of a colour. */
  const inColumn = (x0: number, wanted: number[]): number => {
    let count = 0;
    for (let y0 = 0; y0 < height; y0++) {
      const at = (y0 * width + x0) * channels;
      if (wanted.every((v, c) => Math.abs(v - (data[at + c] as number)) < 12)) count++;
    }
    return count;
  };
  const columns = Array.from({ length: width }, (_, x0) => x0);
  const most = (wanted: number[]): number =>
    columns.reduce((best, x0) => (inColumn(x0, wanted) > inColumn(best, wanted) ? x0 : best));
  const [gold, blue, dark] = [
    [224, 176, 64],
    [64, 128, 192],
    [32, 48, 64],
  ];
  // 224 · 64 / 255, 176 · 128 / 255, 64 · 192 / 255: where the two lines cross.
  const multiplied = most(blue);
  expect(inColumn(multiplied, [56, 88, 48])).toBeGreaterThan(8);
  expect(inColumn(multiplied, gold)).toBe(0);
  // Behind: the first line is on top where they cross.
  const behind = most(dark);
  expect(inColumn(behind, dark)).toBeGreaterThan(80);
  expect(inColumn(behind, gold)).toBeGreaterThan(8);
});
