import { expect, type Page, test } from "@playwright/test";
import { decode, encode } from "fast-png";
import { fromItsLog, line, takeBrush } from "./painter";
import { swell } from "./pen";
import { exported, freshTable, settled, tableReady } from "./table";

/** Whether the picture is dark at places of the sheet. */
async function darkAt(page: Page, places: readonly [number, number][]): Promise<boolean[]> {
  const { data, width, channels } = decode(await exported(page, "PNG"));
  return places.map(([x, y]) => (data[(y * width + x) * channels] as number) < 120);
}

/** Where a place of the sheet lies on the page, CSS px. */
async function onPage(page: Page, [x, y]: readonly [number, number]): Promise<[number, number]> {
  const view = page.getByTestId("view");
  const box = await view.boundingBox();
  const matrix = (await view.getAttribute("data-matrix"))?.split(" ").map(Number) ?? [];
  const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = matrix;
  return [(box?.x ?? 0) + a * x + c * y + e, (box?.y ?? 0) + b * x + d * y + f];
}

const menu = (page: Page) => page.getByRole("button", { name: "Stencils", exact: true });

/** An inked disc, dark on white. */
function disc(): Buffer {
  const [width, height] = [200, 200];
  const data = Uint8Array.from({ length: width * height }, (_, i) =>
    Math.hypot((i % width) - 100, Math.floor(i / width) - 100) < 80 ? 10 : 255,
  );
  return Buffer.from(encode({ width, height, data, channels: 1 }));
}

test("a stencil cut from a picture holds paint back, is moved, turned round, put by and kept", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 600, height: 400 });
  const across = async (y: number): Promise<void> => {
    await pen.stroke(swell(await onPage(page, [40, y]), await onPage(page, [560, y])));
    await settled(page);
  };
  await page.getByRole("tab", { name: "Inks" }).click();
  await page.getByRole("radio", { name: "Even liner" }).click();
  await page
    .getByLabel("Picture of a stencil")
    .setInputFiles({ name: "moon.png", mimeType: "image/png", buffer: disc() });
  const move = page.getByRole("button", { name: /^Stencil: move/ });
  await expect(move).toBeVisible();
  await expect(page.getByTestId("stencils")).toBeVisible();
  // From the middle (300, 200) to the left, 100 px of the sheet by the arrow keys.
  await move.focus();
  for (let i = 0; i < 10; i++) await page.keyboard.press("Shift+ArrowLeft");
  await page.getByRole("button", { name: "Done" }).click();
  await expect(move).toBeHidden();
  await settled(page);
  await across(200);
  expect(
    await darkAt(page, [
      [90, 200],
      [200, 200],
      [270, 200],
      [300, 200],
    ]),
  ).toEqual([true, false, false, true]);

  await menu(page).click();
  await page.getByRole("button", { name: "moon holds back: turn it round" }).click();
  await page.keyboard.press("Escape");
  await settled(page);
  await across(230);
  expect(
    await darkAt(page, [
      [90, 230],
      [200, 230],
      [300, 230],
    ]),
  ).toEqual([false, true, false]);

  await page.reload();
  await tableReady(page);
  await menu(page).click();
  await expect(page.getByLabel("Name of moon")).toHaveValue("moon");
  await page.getByRole("button", { name: "Hide all" }).click();
  await settled(page);
  await expect(page.getByTestId("stencils")).toBeHidden();
  await page.keyboard.press("Escape");
  await page.getByRole("tab", { name: "Inks" }).click();
  await page.getByRole("radio", { name: "Even liner" }).click();
  await across(260);
  expect(
    await darkAt(page, [
      [90, 260],
      [200, 260],
    ]),
  ).toEqual([true, true]);
  await menu(page).click();
  await page.getByRole("button", { name: "Throw moon away" }).click();
  await expect(page.getByLabel("Name of moon")).toBeHidden();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo throw a stencil away" }).click();
  await menu(page).click();
  await expect(page.getByLabel("Name of moon")).toBeVisible();
});

test("a stencil is cut from the selection; what is no picture makes none, in words", async ({
  page,
}) => {
  await freshTable(page);
  await page
    .getByLabel("Picture of a stencil")
    .setInputFiles({ name: "no.png", mimeType: "image/png", buffer: Buffer.from("no") });
  await expect(page.getByText(/“no.png” makes no stencil/)).toBeVisible();
  await menu(page).click();
  await expect(page.getByRole("button", { name: "Cut from the selection" })).toBeDisabled();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+a");
  await menu(page).click();
  await page.getByRole("button", { name: "Cut from the selection" }).click();
  await settled(page);
  await menu(page).click();
  await expect(page.getByLabel("Name of Stencil 1")).toBeVisible();
  await expect(page.getByTestId("ants")).toBeHidden();
});

test("a card in the other hand leaves a clean edge where the pen came down, turned as it is seen", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 600, height: 400 });
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await takeBrush(page, "Even liner", 90, "#101010");
  await menu(page).click();
  await page.getByLabel("Hold a card").check();
  await expect(page.getByLabel("Turn of the card")).toHaveValue("90");
  await page.keyboard.press("Escape");
  // Its edge lies level: below it the sheet is open.
  await pen.stroke(line(await onPage(page, [100, 200]), await onPage(page, [300, 200])));
  await settled(page);
  const first: [number, number][] = [
    [200, 185],
    [200, 198],
    [200, 202],
    [200, 230],
  ];
  expect(await darkAt(page, first)).toEqual([false, false, true, true]);
  // Turned to its right it leaves what lies there open; the next stroke has an edge of its own.
  await menu(page).click();
  await page.getByLabel("Turn of the card").fill("0");
  await page.keyboard.press("Escape");
  await pen.stroke(line(await onPage(page, [450, 100]), await onPage(page, [455, 320])));
  await settled(page);
  const second: [number, number][] = [
    [430, 200],
    [447, 200],
    [453, 200],
    [480, 200],
  ];
  expect(await darkAt(page, second)).toEqual([false, false, true, true]);
  await page.reload();
  await tableReady(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});
