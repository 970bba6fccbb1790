import { expect, test } from "@playwright/test";
import { swell } from "./pen";
import { exported, freshTable, middle, settled } from "./table";

test("two points of the history are wiped side by side, and the picture stays as it is", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  for (const dy of [-60, 0, 60]) {
    await pen.stroke(swell([x - 160, y + dy], [x + 160, y + dy]));
    await settled(page);
  }
  const whole = await exported(page, "PNG");
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Before and after", exact: true }).click();
  await page.keyboard.press("Escape");
  const wipe = page.getByTestId("wipe");
  await expect(wipe).toBeVisible();

  /** How many dark pixels the wipe shows left and right of the middle of the view. */
  const dark = (): Promise<[number, number]> =>
    wipe.locator("canvas").evaluate((node: HTMLCanvasElement) => {
      const { width, height } = node;
      const data = node.getContext("2d")?.getImageData(0, 0, width, height).data ?? [];
      const sums: [number, number] = [0, 0];
      for (let i = 0; i < width * height; i++)
        if ((data[i * 4] ?? 255) < 150 && (data[i * 4 + 3] ?? 0) > 200)
          sums[i % width < width / 2 ? 0 : 1]++;
      return sums;
    });
  await expect.poll(async () => (await dark())[1]).toBeGreaterThan(100);
  const [left, right] = await dark();
  expect(left).toBe(0);

  // After the first stroke, at both sides of the line: a third of it all.
  await page.getByLabel("After", { exact: true }).selectOption("1");
  await expect.poll(async () => (await dark())[1]).toBeLessThan(right * 0.6);
  await page.getByLabel("Before", { exact: true }).selectOption({ label: "As it is now" });
  await expect.poll(async () => (await dark())[0]).toBeGreaterThan(right * 0.5);

  const line = page.getByRole("slider", { name: "Line between before and after" });
  await page.mouse.move(x + 40, y + 150);
  await page.mouse.down();
  await page.mouse.move(x + 100, y + 150);
  await page.mouse.up();
  expect(Number(await line.getAttribute("aria-valuenow"))).toBeGreaterThan(55);
  await settled(page);
  expect(await exported(page, "PNG")).toEqual(whole);
  await page.getByRole("button", { name: "Undo paint" }).click();
  await expect(wipe).toBeHidden();
});
