import { expect, type Page, test } from "@playwright/test";
import { readFile } from "node:fs/promises";
import { unzipSync } from "fflate";
import { swell } from "./pen";
import { exported, freshTable, middle, openPortfolio, settled, setting } from "./table";

const number = (page: Page, label: string) => page.getByLabel(`${label}, exactly`, { exact: true });

async function openWorkshop(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Workshop" }).click();
  await expect(page.getByTestId("cost")).toBeVisible();
}

/** A fingerprint of what the strip shows. */
const strip = (page: Page): Promise<string> =>
  page.getByTestId("trial").evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL());

const part = (page: Page, name: string): Promise<void> =>
  page.getByRole("navigation").getByRole("button", { name, exact: true }).click();

test("a brush is made from a plain round, tried, kept, painted with, shared and taken back", async ({
  page,
}) => {
  const pen = await freshTable(page);
  await openWorkshop(page);
  await page.getByRole("button", { name: "New from a plain round" }).click();
  await page.getByLabel("Name of the brush").fill("Depot chalk");

  const before = await strip(page);
  await part(page, "Tip");
  await page.getByRole("radio", { name: "Pictures" }).click();
  await expect.poll(() => strip(page)).not.toBe(before);
  await part(page, "Grain");
  await page.getByLabel("The paper’s grain shows").check();
  await part(page, "Turn and stretch");
  await page.getByRole("button", { name: "Angle: add a driver" }).click();
  await page.getByLabel("Angle: driven by").selectOption("chance of a mark");
  await page.getByLabel("Angle: how Chance, each mark joins").selectOption("add");
  await part(page, "Size and flow");
  await number(page, "Size to begin with").fill("26");
  const flat = await strip(page);
  const point = page.getByRole("slider", { name: "Size by Pressure, point 1" });
  await point.focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press("ArrowUp");
  await expect.poll(() => strip(page)).not.toBe(flat);

  // What cannot be is held within its bounds, and the brush stays whole.
  await part(page, "Spacing and scatter");
  await number(page, "Spacing").fill("-5");
  await expect(number(page, "Spacing")).toHaveValue("1");
  await number(page, "Spacing").fill("12");
  await part(page, "About");
  await page.getByLabel("Kit", { exact: true }).fill("Night crew");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByRole("button", { name: "Depot chalk", exact: true })).toBeVisible();

  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Export the kit Night crew" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("Night crew.kit.zip");
  const kit = unzipSync(new Uint8Array(await readFile(await download.path())));
  expect(Object.keys(kit)).toContain("kit.json");

  await page.getByRole("button", { name: "Throw away" }).click();
  await page.getByRole("button", { name: "Back to the table" }).click();
  await expect(page.getByRole("tab", { name: "Night crew" })).toBeHidden();
  await page.getByRole("button", { name: "Take it back" }).click();
  await page.getByRole("tab", { name: "Night crew" }).click();
  await page.getByRole("radio", { name: "Depot chalk" }).click();

  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 80, y], [x + 80, y + 20], 20));
  await settled(page);
  const log = (await exported(page, "Work log")).toString().trim().split("\n");
  const commands = log.slice(1).map((row) => JSON.parse(row) as Record<string, unknown>);
  expect(commands.map((command) => command.do)).toEqual(["layer.add", "brush.bring", "stroke"]);
  expect(commands[1]).toMatchObject({ brush: { name: "Depot chalk", size: 26 } });
  await page.getByRole("button", { name: "Undo paint" }).click();
  await expect(page.getByRole("button", { name: "Redo paint" })).toBeEnabled();
  await page.getByRole("button", { name: "Redo paint" }).click();
  await settled(page);

  // The kit comes in whole, and a broken one leaves nothing.
  await openWorkshop(page);
  const file = page.getByLabel("Kit file");
  await file.setInputFiles({
    name: "broken.kit.zip",
    mimeType: "application/zip",
    buffer: Buffer.from("PK not a zip"),
  });
  await expect(page.getByText(/“broken.kit.zip” was not taken/)).toBeVisible();
  await file.setInputFiles({
    name: "Night crew.kit.zip",
    mimeType: "application/zip",
    buffer: await readFile(await download.path()),
  });
  await expect(page.getByText(/“Night crew” is on the tray: 1 brush/)).toBeVisible();
});

test("a brush in the making survives the page being lost", async ({ page }) => {
  await freshTable(page);
  await openWorkshop(page);
  await page.getByRole("button", { name: "New from a plain round" }).click();
  await page.getByLabel("Name of the brush").fill("Half made");
  await part(page, "Ends");
  await number(page, "Thins out over").fill("77");
  await expect.poll(() => setting(page, "draft")).toContain('"out":77');
  await page.reload();
  await settled(page);
  await openWorkshop(page);
  await expect(page.getByLabel("Name of the brush")).toHaveValue("Half made");
  await part(page, "Ends");
  await expect(number(page, "Thins out over")).toHaveValue("77");
});

test("a tip in two tones is made from what was drawn, in one step", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Inks" }).click();
  await page.getByRole("radio", { name: "Sprung nib" }).click();
  await pen.stroke(swell([x - 30, y], [x + 30, y], 16));
  await settled(page);
  await openWorkshop(page);
  await page.getByRole("button", { name: "New from a plain round" }).click();
  await part(page, "Tip");
  await page.getByLabel("From paint, in").selectOption("two tones");
  await page.getByRole("button", { name: "Box on the picture" }).click();
  await expect(page.getByText("Drag a box around the paint")).toBeVisible();
  await pen.stroke(swell([x - 60, y - 40], [x + 60, y + 40], 6));
  await expect(page.getByTestId("cost")).toBeVisible();
  await expect(
    page.getByRole("list", { name: "Pictures of the tip" }).getByRole("listitem"),
  ).toHaveCount(1);

  // A box around nothing says so, and nothing is lost.
  await page.getByRole("button", { name: "Box on the picture" }).click();
  await pen.stroke(swell([x - 120, y - 120], [x - 90, y - 90], 6));
  await expect(page.getByText(/That is no tip: there is no paint/)).toBeVisible();
  await page.getByRole("button", { name: "Leave it" }).click();
  await expect(
    page.getByRole("list", { name: "Pictures of the tip" }).getByRole("listitem"),
  ).toHaveCount(1);
});

test("favourites come to the pen while their key is held", async ({ page }) => {
  await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("radio", { name: "6B pencil" }).click();
  await page.getByRole("button", { name: "Favourite" }).click();
  await page.getByRole("tab", { name: "Inks" }).click();
  await page.getByRole("radio", { name: "Brush pen", exact: true }).click();
  await page.getByRole("button", { name: "Favourite" }).click();
  await page.mouse.move(x, y);
  await page.keyboard.down("q");
  const shelf = page.getByRole("radiogroup", { name: "Favourites" });
  await expect(shelf.getByRole("radio")).toHaveCount(2);
  await shelf.getByRole("radio", { name: /6B pencil/ }).click();
  await page.keyboard.up("q");
  await expect(shelf).toBeHidden();
  await expect(page.getByRole("tab", { name: "Favourites" })).toBeVisible();
  await page.reload();
  await settled(page);
  await expect(page.getByRole("tab", { name: "Favourites" })).toBeVisible();
});

test("no card is painted before it is seen, and none twice", async ({ page }) => {
  await openPortfolio(page);
  await freshTable(page);
  const cards = page.locator(".brush-card");
  /** How many cards lie in the tray's window at least in part, and how many are painted. */
  const counts = (): Promise<{ seen: number; painted: number; all: number }> =>
    cards.evaluateAll((all) => {
      const tray = all[0]?.closest(".cards")?.getBoundingClientRect();
      const isSeen = (card: Element): boolean => {
        const { left, right } = card.getBoundingClientRect();
        return tray !== undefined && right > tray.left && left < tray.right;
      };
      const painted = all.filter((card) => card.querySelector("canvas[data-painted]"));
      return { seen: all.filter(isSeen).length, painted: painted.length, all: all.length };
    });
  await expect.poll(async () => (await counts()).painted).toBeGreaterThanOrEqual(3);
  await expect
    .poll(async () => {
      const { seen, painted } = await counts();
      return painted >= seen;
    })
    .toBe(true);
  const { seen, painted, all } = await counts();
  expect(all).toBeGreaterThanOrEqual(40);
  // A screen's width ahead may be painted already, no more.
  expect(painted).toBeLessThanOrEqual(seen * 3);
  expect(painted).toBeLessThan(all);
});
