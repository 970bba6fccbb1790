import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { swell } from "./pen";
import { freshTable, middle, settled } from "./table";

const screens = [
  { width: 1024, height: 768, ratio: 2 },
  { width: 820, height: 1180, ratio: 2 },
  { width: 1280, height: 800, ratio: 1 },
  { width: 2560, height: 1440, ratio: 1 },
  { width: 1280, height: 800, ratio: 3 },
] as const;

/** Buttons and fields that are seen, but are cut off by the window, lie on each other, or are too small to hit. */
const unreachable = (page: Page, area: string, least = 24): Promise<string[]> =>
  page.evaluate(
    ([within, LEAST]) => {
      const found = [...document.querySelectorAll<HTMLElement>(`${within} :is(button, select)`)]
        .map((element) => ({ element, box: element.getBoundingClientRect() }))
        // What scrolls sideways goes on beyond its own edge.
        .filter(({ element }) => element.closest(".kits, .cards") === null)
        .filter(({ element }) => element.checkVisibility({ checkVisibilityCSS: true }));
      const name = (element: HTMLElement): string =>
        (element.ariaLabel ?? element.innerText ?? "").trim().slice(0, 30);
      const faults: string[] = [];
      for (const [i, { element, box }] of found.entries()) {
        if (box.left < 0 || box.right > innerWidth + 0.5)
          faults.push(`${name(element)} is cut off`);
        if (Math.min(box.width, box.height) < LEAST - 0.5)
          faults.push(`${name(element)} is ${box.width.toFixed()} × ${box.height.toFixed()}`);
        for (const { element: other, box: second } of found.slice(i + 1)) {
          const across = Math.min(box.right, second.right) - Math.max(box.left, second.left);
          const down = Math.min(box.bottom, second.bottom) - Math.max(box.top, second.top);
          const isInside = element.contains(other) || other.contains(element);
          if (across > 1 && down > 1 && !isInside)
            faults.push(`${name(element)} lies on ${name(other)}`);
        }
      }
      return faults;
    },
    [area, least] as const,
  );

const overflows = (page: Page): Promise<boolean> =>
  page.evaluate(() => document.documentElement.scrollWidth > innerWidth);

for (const { width, height, ratio } of screens)
  test.describe(`at ${width} × ${height}, ${ratio} px a CSS px`, () => {
    test.use({ viewport: { width, height }, deviceScaleFactor: ratio });

    test("all of the table is to be reached, one draws, and dialogs fit", async ({ page }) => {
      const pen = await freshTable(page);
      expect(await overflows(page)).toBe(false);
      for (const area of [".top-bar", ".tray", ".options"])
        expect(await unreachable(page, area)).toEqual([]);
      const layers = page.getByRole("complementary", { name: "Layers" });
      const isDrawer = !(await layers.isVisible());
      expect(isDrawer).toBe(width <= 1100);
      if (isDrawer) {
        await page.getByRole("button", { name: "Layers", exact: true }).click();
        await page.getByRole("button", { name: "Colour", exact: true }).click();
        await expect(page.getByLabel("Hex")).toBeVisible();
      }
      await expect(layers).toBeVisible();
      expect(await unreachable(page, ".layers-panel")).toEqual([]);
      expect(await overflows(page)).toBe(false);
      const { violations } = await new AxeBuilder({ page }).setLegacyMode(true).analyze();
      const serious = violations.filter(
        ({ impact }) => impact === "serious" || impact === "critical",
      );
      expect(serious.map(({ id }) => id)).toEqual([]);
      const { x, y } = await middle(page);
      await pen.stroke(swell([x - 60, y], [x + 60, y]));
      await settled(page);
      await expect(page.getByRole("button", { name: /^Undo / })).toBeEnabled();
      if (isDrawer) {
        await page.getByRole("button", { name: "Layers", exact: true }).click();
        await expect(layers).toBeHidden();
      }
      await page.getByRole("button", { name: "Export", exact: true }).click();
      const box = await page.locator(".modal-content").boundingBox();
      expect(box && box.x >= 0 && box.x + box.width <= width).toBe(true);
      await page.keyboard.press("Escape");
      await page.getByRole("link", { name: "Portfolio" }).click();
      await page.getByRole("button", { name: "Storage" }).click();
      await expect(page.getByRole("button", { name: "Keep a copy of everything" })).toBeVisible();
      expect(await overflows(page)).toBe(false);
    });
  });

test.describe("in an upright window", () => {
  test.use({ viewport: { width: 820, height: 1180 } });

  test("the tray folds, and its brushes come back", async ({ page }) => {
    await freshTable(page);
    const brushes = page.getByRole("radiogroup", { name: "Brushes" });
    await expect(brushes).toBeVisible();
    const { height = 0 } = (await page.locator(".tray").boundingBox()) ?? {};
    await page.getByRole("button", { name: "Brushes", exact: true }).click();
    await expect(brushes).toBeHidden();
    const folded = (await page.locator(".tray").boundingBox())?.height ?? Infinity;
    expect(folded).toBeLessThan(height - 80);
    await page.getByRole("button", { name: "Brushes", exact: true }).click();
    await expect(brushes).toBeVisible();
  });
});

for (const viewport of [
  { width: 820, height: 1180 },
  { width: 1180, height: 820 },
])
  test.describe(`under fingers, ${viewport.width} × ${viewport.height}`, () => {
    test.use({ viewport, hasTouch: true, isMobile: true, deviceScaleFactor: 2 });

    test("what is touched is large enough, and a finger draws", async ({ page }) => {
      await freshTable(page);
      for (const area of [".top-bar", ".tray", ".options"])
        expect(await unreachable(page, area, 44)).toEqual([]);
      expect(await overflows(page)).toBe(false);
      await page.getByRole("button", { name: "Layers", exact: true }).tap();
      await expect(page.getByRole("complementary", { name: "Layers" })).toBeVisible();
      expect(await unreachable(page, ".layers-panel", 44)).toEqual([]);
      await page.getByRole("button", { name: "Layers", exact: true }).tap();
      const { x, y } = await middle(page);
      const cdp = await page.context().newCDPSession(page);
      const touch = (
        type: "touchStart" | "touchMove" | "touchEnd",
        at?: number,
      ): Promise<unknown> =>
        cdp.send("Input.dispatchTouchEvent", {
          type,
          touchPoints: at === undefined ? [] : [{ x: x + at, y }],
        });
      await touch("touchStart", -80);
      for (const at of [-60, -20, 30, 80]) await touch("touchMove", at);
      await touch("touchEnd");
      await settled(page);
      await expect(page.getByRole("button", { name: /^Undo / })).toBeEnabled();
    });
  });
