import { expect, type Page, test } from "@playwright/test";
import { decode } from "fast-png";
import { type PenPoint } from "./pen";
import { fromItsLog, line, takeBrush } from "./painter";
import { freshTable, middle, settled } from "./table";

/** What is seen at a place of the page: the mean of a few pixels, r g b. */
async function seen(page: Page, x: number, y: number): Promise<number[]> {
  const side = 4;
  const shot = await page.screenshot({ clip: { x: x - 2, y: y - 2, width: side, height: side } });
  const { data, channels } = decode(shot);
  return [0, 1, 2].map((c) => {
    let sum = 0;
    for (let i = c; i < data.length; i += channels) sum += data[i] as number;
    return sum / (side * side);
  });
}

const light = async (page: Page, x: number, y: number): Promise<number> =>
  (await seen(page, x, y)).reduce((sum, v) => sum + v, 0) / 3;

async function find(page: Page, name: string): Promise<void> {
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder("What would you like to do?").fill(name);
  await page.keyboard.press("Enter");
  await settled(page);
}

const blob = (x: number, y: number): PenPoint[] =>
  Array.from({ length: 24 }, (_, i) => ({ x: x - 40 + i * 3.5, y: y + (i % 2) * 8, pressure: 1 }));

test("a gradient is seen as it is drawn, in what is selected; opacity and blend mode go by key", async ({
  page,
}) => {
  await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByLabel("Colour as hex").fill("#101010");
  await find(page, "select: box");
  await page.mouse.move(x - 120, y - 80);
  await page.mouse.down();
  await page.mouse.move(x + 120, y + 80, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId("ants")).toBeVisible();

  await find(page, "fill: gradient");
  await page.mouse.move(x - 100, y);
  await page.mouse.down();
  await page.mouse.move(x + 100, y, { steps: 6 });
  const dark = (): Promise<number> => light(page, x - 90, y + 40);
  await expect.poll(dark).toBeLessThan(80);
  const before = await Promise.all([light(page, x + 90, y + 40), light(page, x, y + 120)]);
  expect(before[0]).toBeGreaterThan(200);
  // Beside the selection the ground stays.
  expect(before[1]).toBeGreaterThan(230);
  const preview = await seen(page, x + 20, y + 40);
  await page.mouse.up();
  await settled(page);
  await expect(page.getByRole("button", { name: "Undo gradient" })).toBeEnabled();
  const laid = await seen(page, x + 20, y + 40);
  laid.forEach((v, i) => expect(Math.abs(v - (preview[i] as number))).toBeLessThanOrEqual(2));

  const row = page.getByRole("row", { name: /^Layer 1/ });
  for (let i = 0; i < 4; i++) await page.keyboard.press("Comma");
  await expect(row).toContainText("80");
  await page.keyboard.press("Period");
  await expect(row).toContainText("85");
  await page.keyboard.press("Quote");
  await expect(row).toContainText("multiply");
  await page.keyboard.press("Semicolon");
  await expect(row).toContainText("normal");
});

test("a blur is seen as it is chosen, and leaves nothing behind when it is thrown away", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByLabel("Colour as hex").fill("#101010");
  await page.getByRole("radio", { name: "Firm round" }).click();
  await pen.stroke(blob(x, y));
  await settled(page);
  const crisp = await light(page, x, y + 60);
  const undo = page.getByRole("button", { name: /^Undo/ });
  const label = await undo.getAttribute("aria-label");
  await find(page, "adjust: blur");
  const panel = page.getByRole("region", { name: "Blur" });
  await panel.getByLabel("Radius, px").fill("120");
  await expect.poll(() => light(page, x, y + 60)).toBeLessThan(crisp - 8);
  expect(await undo.getAttribute("aria-label")).toBe(label);
  await panel.getByRole("button", { name: "Throw away" }).click();
  await expect.poll(() => light(page, x, y + 60)).toBeCloseTo(crisp, 0);
  expect(await undo.getAttribute("aria-label")).toBe(label);
  await find(page, "adjust: blur");
  await panel.getByLabel("Radius, px").fill("120");
  await panel.getByRole("button", { name: "Keep" }).click();
  await settled(page);
  await expect(page.getByRole("button", { name: "Undo blur" })).toBeEnabled();
  expect(await light(page, x, y + 60)).toBeLessThan(crisp - 8);
});

test("levels go by marks on the histogram; the panel is moved off the picture; held, it shows what was before", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByLabel("Colour as hex").fill("#808080");
  await page.getByRole("radio", { name: "Firm round" }).click();
  await page.getByLabel("Size").fill("0.7");
  await pen.stroke(blob(x, y));
  await settled(page);
  const grey = await light(page, x, y + 4);
  await page.getByRole("button", { name: "Adjust", exact: true }).click();
  await page.getByRole("button", { name: "Levels…" }).click();
  await expect(page.getByTestId("histogram")).toBeVisible();
  const panel = page.getByRole("region", { name: "Levels" });
  const white = page.getByRole("slider", { name: "White from, on the histogram" });
  const mark = await white.boundingBox();
  if (!mark) throw new Error("there is no mark");
  await page.mouse.move(mark.x + 7, mark.y + 7);
  await page.mouse.down();
  await page.mouse.move(mark.x - 80, mark.y + 7, { steps: 5 });
  await page.mouse.up();
  await expect(panel.getByLabel("White from", { exact: true })).not.toHaveValue("1");
  await expect.poll(() => light(page, x, y + 4)).toBeGreaterThan(grey + 30);
  await page.getByRole("slider", { name: "Middle, on the histogram" }).press("ArrowRight");
  const lighter = await light(page, x, y + 4);

  const before = panel.getByRole("button", { name: "Hold: before" });
  await before.hover();
  await page.mouse.down();
  await expect.poll(() => light(page, x, y + 4)).toBeLessThan(lighter - 20);
  await page.mouse.up();
  await expect.poll(() => light(page, x, y + 4)).toBeGreaterThan(grey + 20);

  const from = await panel.boundingBox();
  const title = panel.getByRole("heading", { name: "Levels" });
  await title.hover();
  await page.mouse.down();
  await page.mouse.move(x - 260, y - 120, { steps: 5 });
  await page.mouse.up();
  const to = await panel.boundingBox();
  expect((from?.x ?? 0) - (to?.x ?? 0)).toBeGreaterThan(200);
  await title.dblclick();
  await expect.poll(async () => (await panel.boundingBox())?.x).toBe(from?.x);
  await panel.getByRole("button", { name: "Keep" }).click();
  await settled(page);
  await expect(page.getByRole("button", { name: "Undo levels" })).toBeEnabled();
});

test("a colour is replaced everywhere by one tap, and a tap beside the paint says why it does nothing", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByLabel("Colour as hex").fill("#b03030");
  await page.getByRole("radio", { name: "Firm round" }).click();
  await page.getByLabel("Size").fill("0.6");
  for (const dx of [-140, 140]) await pen.stroke(blob(x + dx, y));
  await settled(page);
  await page.getByLabel("Colour as hex").fill("#2050b0");
  await find(page, "replace a colour everywhere");
  await page.mouse.click(x, y + 150);
  await expect(
    page.getByText("This layer is bare here. Tap a colour that lies on it."),
  ).toBeVisible();
  await page.mouse.click(x - 140, y + 4);
  await settled(page);
  await expect(page.getByRole("button", { name: "Undo replace a colour" })).toBeEnabled();
  for (const dx of [-140, 140]) {
    const [r = 0, , b = 0] = await seen(page, x + dx, y + 4);
    expect(b - r).toBeGreaterThan(80);
  }
});

test("a blur layer softens what lies below it, what is painted there later too", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Blur", exact: true }).click();
  const panel = page.getByRole("region", { name: "Blur" });
  const layer = page.getByRole("row", { name: /^Blur/ });
  await expect(layer).toBeVisible();
  // Thrown away, the layer that was made for it goes too.
  await panel.getByRole("button", { name: "Throw away" }).click();
  await expect(layer).toBeHidden();
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Blur", exact: true }).click();
  await panel.getByLabel("Radius, px").fill("90");
  await panel.getByRole("button", { name: "Keep" }).click();
  await settled(page);
  await page.getByRole("row", { name: /^Layer 1/ }).click();
  await page.getByLabel("Colour as hex").fill("#101010");
  await page.getByRole("radio", { name: "Firm round" }).click();
  const before = await light(page, x, y + 60);
  await pen.stroke(blob(x, y));
  await settled(page);
  await page.mouse.move(5, 5);
  await expect.poll(() => light(page, x, y + 60)).toBeLessThan(before - 8);
  await page.getByRole("button", { name: "Hide Blur" }).click();
  await expect.poll(() => light(page, x, y + 60)).toBeCloseTo(before, 0);
});

test("an id picture selects though it is hidden; a depth picture holds a haze; a texture lies on a flat", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("radio", { name: "Firm round" }).click();
  for (const [hex, at] of [
    ["#c02020", x - 120],
    ["#20c020", x + 120],
  ] as const) {
    await page.getByLabel("Colour as hex").fill(hex);
    await page.getByRole("radio", { name: "Firm round" }).click();
    await page.getByLabel("Size").fill("0.6");
    await pen.stroke(blob(at, y));
    await settled(page);
  }
  await page.getByRole("button", { name: "Hide Layer 1" }).click();
  await page.getByRole("button", { name: "Add layer" }).click();
  await settled(page);
  await find(page, "select: id");
  await expect(page.getByLabel("Ids from")).toContainText("Layer 1");
  await page.mouse.click(x, y + 150);
  await expect(page.getByText("“Layer 1” holds no id at this place.")).toBeVisible();
  await page.mouse.click(x - 120, y + 2);
  await expect(page.getByTestId("ants")).toBeVisible();
  await page.getByLabel("Colour as hex").fill("#202020");
  await page.getByRole("radio", { name: "Paint", exact: true }).first().click();
  await pen.stroke([...blob(x - 120, y), ...blob(x + 120, y)]);
  await settled(page);
  expect(await light(page, x - 120, y + 4)).toBeLessThan(70);
  expect(await light(page, x + 100, y + 4)).toBeGreaterThan(200);
  await find(page, "select nothing");

  await page.getByRole("button", { name: "Shading helps" }).click();
  await page.getByRole("button", { name: "Texture of laid" }).click();
  await expect(page.getByRole("row", { name: /^Texture/ })).toBeVisible();
  await page.getByRole("row", { name: /^Layer 2/ }).click();
  await page.getByLabel("Colour as hex").fill("#a0c0ff");
  await page.getByRole("button", { name: "Shading helps" }).click();
  await page.getByRole("button", { name: "Haze by distance: far is dark" }).click();
  await expect(page.getByRole("row", { name: /^Haze/ })).toBeVisible();
  await expect(page.getByRole("button", { name: "Show Layer 2" })).toBeVisible();
  await expect
    .poll(() => seen(page, x - 120, y + 4).then(([r, , b]) => (b ?? 0) - (r ?? 0)))
    .toBeGreaterThan(60);
});

test("a fringe gathers paint along its rim, is made stronger, and stays as it is once dried", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await takeBrush(page, "Even liner", 120, "#2e5f9e");
  await pen.stroke(line([x - 120, y], [x + 120, y]));
  const flat = await light(page, x, y);
  await find(page, "Fringe: paint gathers");
  await expect.poll(() => light(page, x, y)).toBeGreaterThan(flat + 25);
  let rim = 255;
  for (let up = 44; up < 76; up += 3) rim = Math.min(rim, await light(page, x, y - up));
  expect(rim).toBeLessThan(flat);
  // Stronger is seen while it slides.
  const first = await light(page, x, y);
  await page.getByLabel("Strength of the fringe").fill("0.9");
  await expect.poll(() => light(page, x, y)).toBeGreaterThan(first + 8);
  // Dried right after, it is dried as it was last set.
  await page.getByLabel("Strength of the fringe").fill("1");
  await page.getByRole("button", { name: "Dry the fringe" }).click();
  await expect(page.getByLabel("Strength of the fringe")).toBeHidden();
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
  expect(await light(page, x, y)).toBeGreaterThan(first + 10);
});
