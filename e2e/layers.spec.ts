import { expect, type Page, test } from "@playwright/test";
import { swell } from "./pen";
import { freshTable, middle, settled } from "./table";

const rows = (page: Page) => page.getByRole("row");

async function add(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Add layer", exact: true }).click();
  await settled(page);
}

async function more(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name: "More for layers" }).click();
  await page.getByRole("button", { name, exact: true }).click();
  await settled(page);
}

/** Takes a layer's line up by its name and holds it over a share of another's height. */
async function hold(page: Page, name: string, over: string, share: number): Promise<void> {
  await page.getByRole("grid").getByText(name, { exact: true }).hover();
  await page.mouse.down();
  const box = await rows(page).filter({ hasText: over }).first().boundingBox();
  if (!box) throw new Error(`there is no line ${over}`);
  await page.mouse.move(box.x + 90, box.y + box.height * share - 12, { steps: 4 });
  await page.mouse.move(box.x + 90, box.y + box.height * share, { steps: 3 });
}

const names = (page: Page): Promise<string[]> =>
  page.getByRole("grid").locator(".name").allTextContents();

test("where a dragged layer lands is shown beforehand: in a group, under it, several at once; undone in one step", async ({
  page,
}) => {
  await freshTable(page);
  for (let i = 0; i < 3; i++) await add(page);
  await page.getByRole("row", { name: /^Layer 3/ }).click({ modifiers: ["Shift"] });
  await more(page, "Group");
  await expect
    .poll(() => names(page))
    .toEqual(["Group", "Layer 4", "Layer 3", "Layer 2", "Layer 1"]);

  const landing = page.getByTestId("landing");
  await hold(page, "Layer 2", "Group", 0.6);
  await expect(landing).toHaveText("in Group");
  await page.mouse.up();
  await settled(page);
  await expect(landing).toBeHidden();
  await expect
    .poll(() => names(page))
    .toEqual(["Group", "Layer 2", "Layer 4", "Layer 3", "Layer 1"]);

  // Given up, nothing is moved.
  await hold(page, "Layer 1", "Layer 4", 0.8);
  await expect(landing).toHaveText("in Group");
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await expect
    .poll(() => names(page))
    .toEqual(["Group", "Layer 2", "Layer 4", "Layer 3", "Layer 1"]);

  // Two chosen ones leave the group together. Right after a drag a press counts as its end.
  const second = page.getByRole("row", { name: /^Layer 2/ });
  await expect(async () => {
    await second.click();
    await expect(second).toHaveAttribute("aria-selected", "true", { timeout: 500 });
  }).toPass();
  await page.getByRole("row", { name: /^Layer 4/ }).click({ modifiers: ["ControlOrMeta"] });
  await hold(page, "Layer 4", "Layer 1", 0.9);
  await expect(landing).toHaveText("in no group");
  await expect(page.getByText("and 1 more")).toBeVisible();
  await page.mouse.up();
  await settled(page);
  await expect
    .poll(() => names(page))
    .toEqual(["Group", "Layer 3", "Layer 1", "Layer 2", "Layer 4"]);
  await page.getByRole("button", { name: "Undo move layers" }).click();
  await settled(page);
  await expect
    .poll(() => names(page))
    .toEqual(["Group", "Layer 2", "Layer 4", "Layer 3", "Layer 1"]);

  // A group goes with all that lies in it, and is copied once though a layer of it is chosen too.
  await page.getByRole("row", { name: /^Group/ }).click();
  await page.getByRole("row", { name: /^Layer 4/ }).click({ modifiers: ["ControlOrMeta"] });
  await page.getByRole("button", { name: "Duplicate layers" }).click();
  await settled(page);
  await expect(rows(page)).toHaveCount(9);
  await page.getByRole("button", { name: "Remove layers" }).click();
  await settled(page);
  await expect(rows(page)).toHaveCount(5);
});

test("masks, bands and sight are for all chosen layers", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("radio", { name: "6B pencil" }).click();
  await pen.stroke(swell([x - 100, y - 40], [x + 100, y - 40]));
  await add(page);
  await pen.stroke(swell([x - 100, y + 40], [x + 100, y + 40]));
  await settled(page);
  await page.getByRole("row", { name: /^Layer 1/ }).click({ modifiers: ["ControlOrMeta"] });
  await page.getByRole("button", { name: "Edit mask: Paint hides, Lift reveals" }).click();
  await settled(page);
  await expect(page.getByRole("button", { name: /^Paint on the mask of/ })).toHaveCount(2);
  await page.getByRole("button", { name: "Undo add masks" }).click();
  await settled(page);
  await expect(page.getByRole("button", { name: /^Paint on the mask of/ })).toHaveCount(0);

  await page.getByRole("button", { name: "Shading helps" }).click();
  await page.getByRole("button", { name: "Edge band of 4 px" }).click();
  await settled(page);
  await expect(page.getByRole("row", { name: /^Edge band/ })).toHaveCount(2);
  await page.getByRole("button", { name: "Hide Edge band" }).first().click();
  await expect(page.getByRole("button", { name: "Show Edge band" })).toHaveCount(2);
});

test("a gradient layer: its stops are moved, added and taken off, the picture follows", async ({
  page,
}) => {
  await freshTable(page);
  await page.getByLabel("Colour as hex").fill("#000000");
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Gradient", exact: true }).click();
  await settled(page);
  const stops = page.getByRole("slider", { name: /^Gradient, stop \d$/ });
  await expect(stops).toHaveCount(2);
  await page.getByLabel("Colour as hex").fill("#d04030");
  const strip = page.getByTestId("gradient-strip");
  await strip.click({ position: { x: 95, y: 8 } });
  await settled(page);
  await expect(stops).toHaveCount(3);
  await expect(stops.nth(1)).toHaveAttribute("aria-valuetext", /^#d04030 at 5\d%$/);
  await stops.nth(1).press("ArrowLeft");
  await settled(page);
  await expect(stops.nth(1)).toHaveAttribute("aria-valuenow", "48");

  const box = await stops.nth(1).boundingBox();
  if (!box) throw new Error("the stop is not to be seen");
  await page.mouse.move(box.x + 7, box.y + 7);
  await page.mouse.down();
  await page.mouse.move(box.x - 40, box.y + 7, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  await expect
    .poll(async () => Number(await stops.nth(1).getAttribute("aria-valuenow")))
    .toBeLessThan(35);
  await page.getByLabel("Gradient, stop 2: how solid").fill("40");
  await page.getByLabel("Gradient, stop 2: how solid").blur();
  await settled(page);
  await page.getByRole("button", { name: "Gradient: turn it round" }).click();
  await settled(page);
  await expect
    .poll(async () => Number(await stops.nth(1).getAttribute("aria-valuenow")))
    .toBeGreaterThan(65);
  await page.getByRole("button", { name: "Gradient: take stop 2 away" }).click();
  await settled(page);
  await expect(stops).toHaveCount(2);
  await page.keyboard.press("Control+z");
  await settled(page);
  await expect(stops).toHaveCount(3);

  // The last one dragged off: it is gone when it is let go of, and the picture shows it so.
  const last = await stops.nth(2).boundingBox();
  if (!last) throw new Error("the last stop is not to be seen");
  await page.mouse.move(last.x + 7, last.y + 7);
  await page.mouse.down();
  await page.mouse.move(last.x + 7, last.y + 90, { steps: 4 });
  await expect(stops).toHaveCount(3);
  await page.mouse.up();
  await settled(page);
  await expect(stops).toHaveCount(2);
  await page.getByRole("button", { name: /^Undo/ }).click();
  await settled(page);
  await expect(stops).toHaveCount(3);

  // However quickly it is pressed, each step of a key goes on from the one before.
  const at = Number(await stops.nth(1).getAttribute("aria-valuenow"));
  await stops.nth(1).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowLeft");
  await settled(page);
  await expect(stops.nth(1)).toHaveAttribute("aria-valuenow", String(at - 10));

  // Along a path its points come and go.
  await page.getByLabel("Shape of the gradient").selectOption("path");
  await settled(page);
  const points = page.getByRole("button", { name: /^Gradient: point \d/ });
  await expect(points).toHaveCount(3);
  await page.getByRole("button", { name: "Gradient: one point more after point 2" }).click();
  await settled(page);
  await expect(points).toHaveCount(4);
  await points.nth(1).press("Delete");
  await settled(page);
  await expect(points).toHaveCount(3);
});
