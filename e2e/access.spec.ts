import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { line, openOil, takeBrush } from "./painter";
import { freshTable, middle, openPortfolio, settled, tapKey } from "./table";
import { swell } from "./pen";

/** What the checker finds serious. The pages have no frames, so it needs no page of its own to join them. */
async function serious(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).setLegacyMode(true).analyze();
  return violations
    .filter(({ impact }) => impact === "serious" || impact === "critical")
    .map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 120)).join(" | ")}`);
}

test("an accessibility checker finds nothing serious in the Portfolio", async ({ page }) => {
  await openPortfolio(page);
  expect(await serious(page)).toEqual([]);
  await page.getByRole("button", { name: "New picture" }).first().click();
  await expect(page.getByRole("dialog")).toBeVisible();
  expect(await serious(page)).toEqual([]);
});

test("an accessibility checker finds nothing serious in the storage", async ({ page }) => {
  await freshTable(page);
  await page.getByRole("link", { name: "Portfolio" }).click();
  await page.getByRole("button", { name: "Storage" }).click();
  const sizes = page.getByRole("region", { name: "Sizes" });
  await expect(sizes.getByRole("row", { name: /Test sheet.*bytes/ })).toBeVisible();
  expect(await serious(page)).toEqual([]);
  const file = page.waitForEvent("download");
  await page.evaluate(() => Reflect.deleteProperty(window, "showSaveFilePicker"));
  await page.getByRole("button", { name: "Keep a copy of everything" }).click();
  await page.getByTestId("copy-file").setInputFiles(await (await file).path());
  await expect(page.getByRole("button", { name: "Bring back", exact: true })).toBeVisible();
  expect(await serious(page)).toEqual([]);
});

test("what Pampas is and what comes with it is told, and so are keys and gestures", async ({
  page,
}) => {
  await freshTable(page);
  await page.keyboard.press("?");
  const sheet = page.getByRole("dialog", { name: "Keys and gestures" });
  await expect(sheet.getByRole("row", { name: /Three fingers tap redoes/ })).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await sheet.getByRole("button", { name: "Pen and hands" }).click();
  await expect(page.getByRole("dialog", { name: /Pen/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await command(page, "about");
  const about = page.getByRole("dialog", { name: "About Pampas" });
  await expect(about.getByText(/^Pampas \d+\.\d+\.\d+$/)).toBeVisible();
  await about.getByLabel("Find a package or a licence").fill("zip.js");
  const one = about.getByRole("list", { name: "Packages" }).getByRole("listitem");
  await expect(one).toHaveCount(1);
  await one.getByText("@zip.js/zip.js").click();
  await expect(one.getByText(/Redistribution and use/)).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Portfolio" }).click();
  await page.getByRole("button", { name: "About Pampas" }).click();
  await expect(about.getByText("Licence: MIT")).toBeVisible();
});

test("an accessibility checker finds nothing serious at the table", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 100, y], [x + 100, y]));
  await settled(page);
  for (const room of ["day", "studio", "night"]) {
    await page.getByLabel("Room").selectOption(room);
    expect(await serious(page)).toEqual([]);
  }
  await page.keyboard.press("Control+k");
  await expect(page.getByPlaceholder("What would you like to do?")).toBeVisible();
  expect(await serious(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Pen", exact: true }).click();
  await page.getByRole("button", { name: "Pen and hands…" }).click();
  expect(await serious(page)).toEqual([]);
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
  await page.getByRole("button", { name: "Export" }).click();
  expect(await serious(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByRole("listitem")).toHaveCount(1);
  // Going from page to page the title is put in last.
  await expect(page).toHaveTitle(/Pampas/);
  expect(await serious(page)).toEqual([]);
});

test("an accessibility checker finds nothing serious in the tools for colour", async ({ page }) => {
  await freshTable(page);
  await page.getByRole("tab", { name: "Colour", exact: true }).click();
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Gradient", exact: true }).click();
  await settled(page);
  await page.getByRole("button", { name: "Shading helps" }).click();
  expect(await serious(page)).toEqual([]);
  await page.keyboard.press("Escape");
  for (const kind of ["Levels", "Colour by value"]) {
    await page.getByRole("button", { name: "Other layers" }).click();
    await page.getByRole("button", { name: kind, exact: true }).click();
    await expect(page.getByRole("region", { name: kind })).toBeVisible();
    expect(await serious(page)).toEqual([]);
    await page.getByRole("button", { name: "Throw away" }).click();
    await settled(page);
  }
  await page.getByRole("button", { name: "Fill", exact: true }).click();
  for (const what of ["Gradient", "Flats"]) {
    await page.getByRole("radio", { name: what, exact: true }).click();
    expect(await serious(page)).toEqual([]);
  }
  await page.getByRole("button", { name: "Select", exact: true }).click();
  await page.getByLabel("Select with").selectOption("region");
  await page.getByRole("button", { name: "Selection", exact: true }).click();
  expect(await serious(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Values and hues" }).click();
  await expect(page.getByTestId("values-chart")).toBeVisible();
  expect(await serious(page)).toEqual([]);
});

test("an accessibility checker finds nothing serious in a scene and among the checks", async ({
  page,
}) => {
  await freshTable(page);
  await page.getByRole("button", { name: "Guides" }).click();
  await page.getByRole("button", { name: "Block a scene out in solids" }).click();
  const scene = page.getByRole("region", { name: "Scene" });
  await scene.getByRole("button", { name: "cylinder" }).click();
  await expect(scene.getByRole("button", { name: "Cylinder 1" })).toBeVisible();
  for (const part of ["Solids", "Camera", "Light", "Layers"]) {
    await scene.getByRole("radio", { name: part }).click();
    expect(await serious(page)).toEqual([]);
  }
  // Handles are worked by keys.
  await scene.getByRole("radio", { name: "Solids" }).click();
  const height = scene.getByLabel("Height, m");
  const before = await height.inputValue();
  await page.getByRole("button", { name: /^Height of Cylinder 1/ }).focus();
  await page.keyboard.press("ArrowUp");
  await expect(height).not.toHaveValue(before);
  await scene.getByRole("button", { name: "Back to painting" }).click();
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "All checks, before signing…" }).click();
  await expect(page.getByRole("dialog", { name: "Before signing" }).getByRole("img")).toHaveCount(
    10,
  );
  expect(await serious(page)).toEqual([]);
});

test("an accessibility checker finds nothing serious where pieces are strewn", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Strew", exact: true }).click();
  await page.getByRole("radio", { name: "Fallen leaves" }).click();
  await expect(page.getByRole("row", { name: /strewn/ })).toBeVisible();
  const panel = page.getByRole("region", { name: "Strew: fallen leaves" });
  await panel.getByRole("radio", { name: "Depth" }).click();
  await panel.getByText("Smaller and paler toward the horizon").click();
  await pen.stroke(line([x - 200, y + 60], [x - 60, y + 60]));
  await settled(page);
  for (const part of ["Depth", "Places", "Looks", "Thin out", "Choose"]) {
    await panel.getByRole("radio", { name: part }).click();
    expect(await serious(page)).toEqual([]);
  }
  await panel.getByRole("button", { name: "All" }).click();
  await expect(panel.getByText(/chosen\.$/)).toBeVisible();
  expect(await serious(page)).toEqual([]);
});

test("an accessibility checker finds nothing serious in the tools for oil", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await openOil(page);
  await takeBrush(page, "Hog round", 50, "#a03020");
  await page.getByRole("button", { name: "Slab", exact: true }).click();
  await page.getByRole("tab", { name: "Tubes", exact: true }).click();
  await page.getByRole("button", { name: "Ultramarine", exact: true }).click();
  await page.getByText("Keeps its paint").click();
  await pen.stroke(line([x - 200, y], [x - 60, y]));
  await settled(page);
  expect(await serious(page)).toEqual([]);
  await page.getByRole("button", { name: "Pen", exact: true }).click();
  expect(await serious(page)).toEqual([]);
});

/** Types words into the command finder and takes the first command. */
async function command(page: Page, words: string): Promise<void> {
  await page.keyboard.press("Control+k");
  const field = page.getByPlaceholder("What would you like to do?");
  await expect(field).toBeFocused();
  await page.keyboard.type(words);
  await page.keyboard.press("Enter");
  await expect(field).toBeHidden();
}

/** Goes on with Tab until the named thing has the focus. */
async function tabTo(page: Page, name: RegExp, most = 90): Promise<void> {
  for (let i = 0; i < most; i++) {
    await page.keyboard.press("Tab");
    const own = await page.evaluate(() => {
      const focused = document.activeElement as HTMLElement | null;
      return (
        focused?.getAttribute("aria-label") ??
        (focused as HTMLInputElement | null)?.labels?.[0]?.textContent ??
        focused?.textContent ??
        ""
      );
    });
    if (name.test(own)) return;
  }
  throw new Error(`Tab does not reach ${name}`);
}

test("everything but drawing is done by keyboard alone", async ({ page }) => {
  await openPortfolio(page);
  await tabTo(page, /New picture/);
  await page.keyboard.press("Enter");
  await tabTo(page, /^Screen square/);
  await page.keyboard.press("Space");
  await tabTo(page, /^Title/);
  await page.keyboard.type("By keys");
  await page.keyboard.press("Enter");
  await page.waitForURL(/table/);
  await settled(page);

  const rows = page.getByRole("row");
  await command(page, "add layer");
  await expect(rows).toHaveCount(2);
  await command(page, "duplicate layers");
  await expect(rows).toHaveCount(3);
  await command(page, "clip to");
  await expect(page.getByRole("row", { name: /copy.*clipped/ })).toBeVisible();
  await command(page, "hide layers");
  await expect(page.getByRole("row", { name: /hidden/ })).toBeVisible();
  await command(page, "show layers");
  await command(page, "lock layers");
  await expect(page.getByRole("row", { name: /locked/ })).toBeVisible();
  await command(page, "unlock layers");
  await command(page, "lock transparency");
  await page.keyboard.press("Control+ArrowDown");
  await expect(rows.nth(1)).toContainText("copy");
  await page.keyboard.press("Control+ArrowUp");
  await expect(rows.nth(0)).toContainText("copy");

  await page.locator("body").press("Escape");
  await tabTo(page, /^Blend mode/);
  await page.keyboard.type("mul");
  await expect(page.getByRole("row", { name: /copy, multiply/ })).toBeVisible();
  await tabTo(page, /^Opacity/);
  for (let i = 0; i < 10; i++) await page.keyboard.press("ArrowLeft");
  await expect(page.getByRole("row", { name: /multiply · 90/ })).toBeVisible();
  await tabTo(page, /copy, multiply/);
  await page.keyboard.press("F2");
  await page.keyboard.type("Shade");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("row", { name: /^Shade/ })).toBeVisible();
  await page.getByRole("row", { name: /^Shade/ }).focus();
  await page.keyboard.press("ArrowDown");
  await expect(rows.nth(1)).toBeFocused();
  await page.keyboard.press("Shift+ArrowDown");
  await expect(page.locator("[role=row][aria-selected=true]")).toHaveCount(2);
  await page.keyboard.press("Delete");
  await expect(rows).toHaveCount(1);
  await page.keyboard.press("Control+z");
  await expect(rows).toHaveCount(3);
  await page.keyboard.press("Control+y");
  await expect(rows).toHaveCount(1);

  await command(page, "brush: fine");
  await expect(page.getByRole("radio", { name: "Fine pen" })).toHaveAttribute(
    "aria-checked",
    "true",
  );
  await tapKey(page, "q", page.getByRole("radio", { name: "2B pencil" }));
  for (const mode of ["Lift", "Blend", "Paint"]) {
    await command(page, mode.toLowerCase());
    await expect(page.getByRole("radio", { name: mode, exact: true })).toHaveAttribute(
      "aria-checked",
      "true",
    );
  }
  for (const stage of ["Ink", "Colour", "Paint", "Finish", "Sketch"]) {
    await command(page, `stage: ${stage}`);
    await expect(page.getByRole("tab", { name: stage, exact: true })).toHaveAttribute(
      "aria-selected",
      "true",
    );
  }
  await tabTo(page, /^Colour as hex/);
  await page.keyboard.type("#336699");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Colour as hex")).toHaveValue("#336699");
  await tabTo(page, /^Leaf/);
  await page.keyboard.press("ArrowUp");
  await expect(page.getByLabel("Colour as hex")).not.toHaveValue("#336699");
  await tabTo(page, /^Hue/);
  await page.keyboard.press("ArrowRight");
  await tabTo(page, /^Value 70/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Value 70" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await tabTo(page, /^Size/);
  const size = await page.getByLabel("Size").getAttribute("aria-valuetext");
  await page.keyboard.press("ArrowRight");
  await expect(page.getByLabel("Size")).not.toHaveAttribute("aria-valuetext", size ?? "");

  await command(page, "room: night");
  await expect(page.locator("html")).toHaveAttribute("data-room", "night");
  await command(page, "mirror");
  await expect(page.getByRole("button", { name: "Mirror" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await command(page, "one to one");
  await expect(page.getByRole("button", { name: "1 : 1" })).toHaveAttribute("aria-pressed", "true");
  await command(page, "bare");
  await expect(page.getByRole("region", { name: "Tray" })).toBeHidden();
  await page.keyboard.press("Escape");
  await command(page, "ground and paper");
  await expect(page.getByRole("dialog")).toContainText("Ground and paper");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+e");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Export");
  await tabTo(page, /^Export$/);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.keyboard.press("Enter"),
  ]);
  expect(download.suggestedFilename()).toBe("By keys.png");
});

test("a key is changed, exchanged with the one that had it, and remembered", async ({ page }) => {
  await freshTable(page);
  const mode = (name: string) => page.getByRole("radio", { name, exact: true });
  await command(page, "keys");
  await page.getByRole("button", { name: /^Lift: key D/ }).click();
  await page.keyboard.press("f");
  await expect(page.getByRole("button", { name: /^Blend: key D/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.reload();
  await settled(page);
  await expect(page.getByText("hold F to lift, D to blend")).toBeVisible();
  await tapKey(page, "f", mode("Lift"));
  await tapKey(page, "d", mode("Blend"));
  await command(page, "keys");
  await page.getByRole("button", { name: "As they were at first" }).click();
  await page.keyboard.press("Escape");
  await expect(page.getByText("hold D to lift, F to blend")).toBeVisible();
});

test("where the system chooses the colours, what is on is framed, and colours stay what they are", async ({
  page,
}) => {
  await page.emulateMedia({ forcedColors: "active" });
  await freshTable(page);
  const frame = (name: string): Promise<string> =>
    page
      .getByRole("radio", { name, exact: true })
      .evaluate((node) => getComputedStyle(node).outlineStyle);
  expect(await frame("Paint")).toBe("solid");
  expect(await frame("Lift")).toBe("none");
  const hex = await page.getByLabel("Colour as hex").inputValue();
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16));
  await expect(page.locator(".two-colours .first")).toHaveCSS(
    "background-color",
    `rgb(${r}, ${g}, ${b})`,
  );
});
