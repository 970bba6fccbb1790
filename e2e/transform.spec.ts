import { expect, type Page, test } from "@playwright/test";
import { swell } from "./pen";
import { exported, freshTable, middle, settled } from "./table";
import { decode } from "fast-png";

/** How much paint there is, and the middle of it, in the exported picture. */
async function paint(page: Page): Promise<{ amount: number; x: number; y: number }> {
  const { data, width, height, channels } = decode(await exported(page, "PNG"));
  let amount = 0;
  let x = 0;
  let y = 0;
  for (let i = 0; i < width * height; i++) {
    const dark = 255 - (data[i * channels] as number);
    if (dark < 40) continue;
    amount += dark;
    x += dark * (i % width);
    y += dark * Math.floor(i / width);
  }
  return { amount, x: x / amount, y: y / amount };
}

const grip = (page: Page, name: string) =>
  page.getByRole("button", {
    name: `Transform: ${name}. Drag, or use the arrow keys`,
    exact: true,
  });

async function pull(page: Page, name: string, dx: number, dy: number): Promise<void> {
  const box = await grip(page, name).boundingBox();
  if (!box) throw new Error(`there is no ${name}`);
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx / 2, y + dy / 2);
  await page.mouse.move(x + dx, y + dy);
  await page.mouse.up();
  await expect(page.locator("canvas.piece")).toBeAttached();
  await settled(page);
}

test("what is drawn is moved, scaled by number, turned and bent, each seen at once, all one undo", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 90, y - 40], [x + 60, y + 50]));
  await settled(page);
  const before = await paint(page);

  await page.keyboard.press("y");
  await expect(grip(page, "lower right corner")).toBeVisible();
  await pull(page, "move", 50, -30);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await settled(page);
  const zoom = Number((await page.getByTestId("view").getAttribute("data-matrix"))?.split(" ")[0]);
  const moved = await paint(page);
  expect(moved.amount).toBe(before.amount);
  expect(moved.x - before.x).toBeCloseTo(Math.round(50 / zoom), 5);
  expect(moved.y - before.y).toBeCloseTo(Math.round(-30 / zoom), 5);

  await page.keyboard.press("y");
  await page.getByLabel("Turn, °").fill("90");
  await page.getByLabel("Turn, °").press("Enter");
  await settled(page);
  const wide = Number(await page.getByLabel("Wide, px").inputValue());
  const high = Number(await page.getByLabel("High, px").inputValue());
  await page.getByRole("button", { name: "Keep proportions" }).click();
  await page.getByLabel("Wide, px").fill(String(wide * 2));
  await page.getByLabel("Wide, px").press("Enter");
  await expect
    .poll(async () => Number(await page.getByLabel("High, px").inputValue()))
    .toBeCloseTo(high * 2, 0);
  await page.getByLabel("Wide, px").fill(String(wide));
  await page.getByLabel("Wide, px").press("Enter");
  await page.getByRole("button", { name: "Keep proportions" }).click();
  await page.getByLabel("Wide, px").fill(String(wide * 1.5));
  await page.getByLabel("Wide, px").press("Enter");
  await settled(page);
  await page.getByRole("radio", { name: "Mesh" }).click();
  await pull(page, "mesh point 6", 20, 25);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await settled(page);
  const bent = await paint(page);
  expect(bent.amount / moved.amount).toBeGreaterThan(1.2);

  await page.keyboard.press("Control+z");
  await settled(page);
  expect(await paint(page)).toEqual(moved);
  await page.keyboard.press("Control+z");
  await settled(page);
  expect(await paint(page)).toEqual(before);
});

test("a transform is thrown away by Escape, and one of a box leaves the rest", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 120, y], [x - 60, y]));
  await pen.stroke(swell([x + 60, y], [x + 120, y]));
  await settled(page);
  const before = await paint(page);
  await page.keyboard.press("y");
  await pull(page, "turn", 80, 60);
  await page.keyboard.press("Escape");
  await settled(page);
  expect(await paint(page)).toEqual(before);

  await page.keyboard.press("y");
  await page.getByRole("button", { name: "Only a box" }).click();
  await page.mouse.move(x + 20, y - 60);
  await page.mouse.down();
  await page.mouse.move(x + 160, y + 60, { steps: 3 });
  await page.mouse.up();
  await expect(grip(page, "move")).toBeVisible();
  await grip(page, "move").focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Enter");
  await settled(page);
  const after = await paint(page);
  expect(after.amount).toBe(before.amount);
  expect(after.x).toBeCloseTo(before.x, 5);
  expect(after.y - before.y).toBeGreaterThan(10);
  expect(after.y - before.y).toBeLessThan(30);

  await page.getByRole("button", { name: "Add layer", exact: true }).click();
  await expect(page.getByRole("row", { name: /Layer 2/ })).toHaveAttribute("aria-selected", "true");
  await page.keyboard.press("y");
  await expect(page.getByText("There is nothing on this layer yet")).toBeVisible();
});

test("what is drawn leans as its lower side is slid, and its upper side stays", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await pen.stroke(swell([x, y - 70], [x, y + 70]));
  await settled(page);
  const before = await paint(page);
  await page.keyboard.press("y");
  await pull(page, "lean", 60, 0);
  expect(Number(await page.getByLabel("Skew, °").inputValue())).toBeGreaterThan(15);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await settled(page);
  const zoom = Number((await page.getByTestId("view").getAttribute("data-matrix"))?.split(" ")[0]);
  const leant = await paint(page);
  expect(Math.abs(leant.x - before.x - 30 / zoom)).toBeLessThan(4);
  expect(Math.abs(leant.y - before.y)).toBeLessThan(2);
  await page.keyboard.press("Control+z");
  await settled(page);
  expect(await paint(page)).toEqual(before);
});
