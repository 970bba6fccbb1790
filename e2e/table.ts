import { expect, type Locator, type Page } from "@playwright/test";
import { Pen } from "./pen";

/** Changes the settings in store, for a person who was here before; the others stay as they are. */
const keepSettings = (page: Page, settings: Record<string, unknown>): Promise<void> =>
  page.evaluate(
    (kept) =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open("pampas");
        open.onsuccess = () => {
          const tx = open.result.transaction("settings", "readwrite");
          const settings = tx.objectStore("settings");
          const known = settings.get("all");
          known.onsuccess = () => settings.put({ ...known.result, ...kept }, "all");
          tx.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
    settings,
  );

/** The Portfolio without samples being painted first: for tests that do not look at them. */
export async function openPortfolio(page: Page, isNewHere = false): Promise<void> {
  await page.route("**/api/samples", (route) => route.fulfill({ json: { samples: [] } }));
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "The shelf is empty" })).toBeVisible();
  if (!isNewHere) await keepSettings(page, { advised: ["First steps"] });
}

export type SheetChoice = { width: number; height: number; title?: string };

/** A new picture of a size in px, laid out through the dialog. */
export async function newPicture(
  page: Page,
  { width, height, title = "Test sheet" }: SheetChoice,
): Promise<void> {
  await page.getByRole("button", { name: "New picture" }).first().click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: /Own size/ }).click();
  await dialog.getByLabel("Unit").selectOption("px");
  await dialog.getByLabel("Width").fill(String(width));
  await dialog.getByLabel("Height").fill(String(height));
  await dialog.getByLabel("Title").fill(title);
  await dialog.getByRole("button", { name: "Lay out the sheet" }).click();
  await tableReady(page);
}

export async function tableReady(page: Page): Promise<void> {
  await page.waitForURL(/\/table/);
  await expect(page.getByTestId("view")).toBeVisible();
  await expect(page.locator("canvas.sheet")).toBeAttached();
  await settled(page);
}

/** Waits until all that was drawn is on the screen and in store. */
export async function settled(page: Page): Promise<void> {
  // Looked at in every frame: an assertion looks again after up to a second.
  await page.waitForFunction(
    () => document.querySelector('[data-testid="kept"]')?.textContent === "kept",
  );
  await page.evaluate(
    () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))),
  );
}

/** A table with an empty sheet and a pen. */
export async function freshTable(
  page: Page,
  sheet: SheetChoice = { width: 700, height: 500 },
): Promise<Pen> {
  await openPortfolio(page);
  await newPicture(page, sheet);
  return Pen.on(page);
}

/** What is kept beside the pictures under a name, as JSON. */
export const setting = (page: Page, name: string): Promise<string> =>
  page.evaluate(
    (key) =>
      new Promise<string>((resolve) => {
        const open = indexedDB.open("pampas");
        open.onsuccess = () => {
          const get = open.result.transaction("settings").objectStore("settings").get(key);
          get.onsuccess = () => {
            open.result.close();
            resolve(JSON.stringify(get.result ?? null));
          };
        };
      }),
    name,
  );

/** The middle of the view, CSS px. */
export async function middle(page: Page): Promise<{ x: number; y: number }> {
  const box = await page.getByTestId("view").boundingBox();
  if (!box) throw new Error("there is no view");
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** What a file that the page hands to the downloads holds. */
export async function exported(
  page: Page,
  format: string,
  more?: () => Promise<void>,
): Promise<Buffer> {
  await page.getByRole("button", { name: "Export" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: new RegExp(`^${format}`) }).check();
  await more?.();
  const [download] = await Promise.all([
    page.waitForEvent("download", { timeout: 80_000 }),
    dialog.getByRole("button", { name: "Export", exact: true }).click(),
  ]);
  const { readFile } = await import("node:fs/promises");
  const path = await download.path();
  await expect(dialog).toBeHidden();
  return readFile(path);
}

/**
 * Taps a key until the mode or tool has changed: on a machine that stands still between down and up
 * the key counts as held, and gives back what it borrowed.
 */
export async function tapKey(page: Page, key: string, becomes: Locator): Promise<void> {
  await expect(async () => {
    await page.keyboard.press(key);
    await expect(becomes).toHaveAttribute("aria-checked", "true", { timeout: 3000 });
  }).toPass();
}
