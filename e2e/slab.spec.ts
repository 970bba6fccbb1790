import { expect, type Page, test } from "@playwright/test";
import { fromItsLog, line, openOil, seen, swirl, takeBrush } from "./painter";
import { freshTable, middle, settled, tableReady } from "./table";

/** Where the slab lies on the page, CSS px. */
async function slabBox(page: Page) {
  const box = await page.getByLabel("Slab: mix paint here").boundingBox();
  if (!box) throw new Error("there is no slab");
  return box;
}

const isGreen = ([r, g, b]: readonly number[]): boolean =>
  (g ?? 0) > (r ?? 0) + 8 && (g ?? 0) > (b ?? 0) + 4;

test("paint is squeezed out, mixed on the slab, carried to the sheet and kept, byte by byte", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openOil(page);
  await page.getByRole("button", { name: "Slab", exact: true }).click();
  await expect(page.getByText(/^Squeeze out paint/)).toBeVisible();
  const squeeze = page.getByRole("button", { name: "Squeeze out", exact: true });
  await takeBrush(page, "Hog round", 60, "#f2d024");
  await squeeze.click();
  await takeBrush(page, "Hog round", 60, "#2a4fc0");
  await squeeze.click();
  await expect(page.getByText(/^Squeeze out paint/)).toBeHidden();

  // Both are drawn down and stirred; the brush keeps what it takes up.
  const slab = await slabBox(page);
  const at = (u: number, v: number): [number, number] => [
    slab.x + (u / 960) * slab.width,
    slab.y + (v / 720) * slab.height,
  ];
  await page.getByText("Keeps its paint").click();
  await page.getByRole("button", { name: "Rinse" }).click();
  await expect(page.getByLabel("On the brush: clean")).toBeVisible();
  for (const u of [66, 158]) {
    await pen.stroke(line(at(u, 55), at(300, 320)));
    await pen.stroke(line(at(u, 75), at(320, 330)));
  }
  const [mx, my] = at(310, 330);
  await pen.stroke(swirl(mx, my, 18, 12, 5));
  await settled(page);
  expect(isGreen(await seen(page, mx, my))).toBe(true);
  await expect(page.getByLabel(/On the brush: \d+ of 100 loaded/)).toBeVisible();

  await pen.stroke(line([x - 220, y + 60], [x - 40, y + 60]));
  await settled(page);
  expect(isGreen(await seen(page, x - 180, y + 60))).toBe(true);

  // A brush for nothing wet takes the colour that it presses on.
  await page.getByRole("tab", { name: "Sketch", exact: true }).click();
  await page.getByRole("radio", { name: "2B pencil" }).click();
  await page.mouse.click(mx, my);
  await expect(page.getByLabel("Colour as hex")).not.toHaveValue("#2a4fc0");

  const before = await page.getByLabel("Slab: mix paint here").screenshot();
  await page.reload();
  await tableReady(page);
  await settled(page);
  // Its paint is lit by the engine, a moment after the page is there.
  await expect
    .poll(async () => (await page.getByLabel("Slab: mix paint here").screenshot()).equals(before))
    .toBe(true);

  const { shown, painted } = await fromItsLog(page);
  expect(shown.equals(painted)).toBe(true);

  await page.getByRole("button", { name: "Clean the slab" }).click();
  await expect(page.getByText(/^Squeeze out paint/)).toBeVisible();
  await page.getByRole("button", { name: "Undo clean the slab" }).click();
  await expect(page.getByText(/^Squeeze out paint/)).toBeHidden();
});

test("a brush that keeps its paint runs dry over strokes, and is dipped again", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openOil(page);
  await takeBrush(page, "Sable round", 30, "#a03020");
  await page.getByText("Keeps its paint").click();
  const loads: number[] = [];
  for (let i = 0; i < 3; i++) {
    await pen.stroke(line([x - 250, y - 60 + 40 * i], [x - 150, y - 60 + 40 * i]));
    await settled(page);
    const words = await page.getByLabel(/^On the brush/).getAttribute("aria-label");
    loads.push(Number(/(\d+) of 100/.exec(words ?? "")?.[1]));
  }
  expect(loads[1]).toBeLessThan(loads[0] ?? 0);
  expect(loads[2]).toBeLessThan(loads[1] ?? 0);
  await page.getByRole("button", { name: "Dip" }).click();
  await expect(page.getByLabel(/On the brush: (9\d|100) of 100 loaded/)).toBeVisible();
  await page.getByRole("button", { name: "Wipe" }).click();
  await expect(page.getByLabel(/On the brush: (1\d|20) of 100 loaded/)).toBeVisible();
  // How paint lies, and what lies below, are for brushes that are not wet.
  await expect(page.getByLabel("Brush blends as")).toBeHidden();
});

test("the slab is pulled larger by its corner, put away and taken out as it was", async ({
  page,
}) => {
  await freshTable(page);
  const toggle = page.getByRole("button", { name: "Slab", exact: true });
  await toggle.click();
  const before = await slabBox(page);
  const grip = page.getByRole("separator", { name: "Size of the slab" });
  const corner = await grip.boundingBox();
  if (!corner) throw new Error("there is no grip");
  await page.mouse.move(corner.x + 6, corner.y + 6);
  await page.mouse.down();
  await page.mouse.move(corner.x - 194, corner.y - 100, { steps: 4 });
  await page.mouse.up();
  expect((await slabBox(page)).width).toBeCloseTo(before.width + 200, 0);
  await grip.focus();
  await page.keyboard.press("ArrowRight");
  const wide = await slabBox(page);
  expect(wide.width).toBeCloseTo(before.width + 180, 0);
  await page.getByRole("button", { name: "Put the slab away" }).click();
  await expect(page.getByLabel("Slab: mix paint here")).toBeHidden();
  await toggle.click();
  expect((await slabBox(page)).width).toBeCloseTo(wide.width, 0);
});

test("tubes say how they handle; a set at hand is squeezed out, and recipes keep to it", async ({
  page,
}) => {
  await freshTable(page);
  await page.getByRole("tab", { name: "Tubes", exact: true }).click();
  const squeeze = page.getByRole("button", { name: "Squeeze out", exact: true });
  await expect(page.getByText("All are at hand.")).toBeVisible();
  await expect(squeeze).toBeDisabled();
  await page.getByLabel("Set of tubes").selectOption("Four for a head");
  await expect(page.getByText("4 of 31 at hand.")).toBeVisible();
  await page.getByRole("button", { name: "Ultramarine", exact: true }).click();
  await expect(page.getByText("glassy · granulates · lifts well · cool")).toBeVisible();
  const atHand = page.getByRole("checkbox", { name: "At hand" });
  await atHand.click();
  await expect(atHand).toBeChecked();
  await expect(page.getByLabel("Colour as hex")).toHaveValue("#221f86");
  await squeeze.first().click();
  await expect(page.getByRole("button", { name: "Undo squeeze out" })).toBeEnabled();
  await expect(page.getByText(/^Squeeze out paint/)).toBeHidden();

  // Nothing green is at hand but what these five give.
  await page.getByLabel("Colour as hex").fill("#3f6b45");
  await page.getByRole("tab", { name: "Mix", exact: true }).click();
  const recipe = page.getByRole("group", { name: "From tubes" });
  await expect(recipe).toHaveAttribute("aria-busy", "false");
  const names = await recipe.getByRole("listitem").allTextContents();
  for (const name of names)
    expect(name).toMatch(/(Titanium white|Yellow ochre|Vermilion|Ivory black|Ultramarine)$/);
});
