import { expect, type Page, test } from "@playwright/test";
import { fromItsLog, line } from "./painter";
import { type PenPoint } from "./pen";
import { freshTable, middle, settled } from "./table";

const press = (page: Page, name: string): Promise<void> =>
  page.getByRole("button", { name, exact: true }).click();

/** Takes a set up from the tray; the first time a layer is made for its pieces. */
async function takeSet(page: Page, name: string): Promise<void> {
  await page.getByRole("tab", { name: "Strew", exact: true }).click();
  await page.getByRole("radio", { name, exact: true }).click();
  await expect(page.getByRole("region", { name: `Strew: ${name.toLowerCase()}` })).toBeVisible();
  await expect(page.getByRole("row", { name: /strewn/ })).toBeVisible();
  await settled(page);
}

/** A loop that begins above what it goes round: the hand does not take hold of a piece. */
const round = (x: number, y: number, r: number): PenPoint[] =>
  Array.from({ length: 25 }, (_, i) => ({
    x: x + r * Math.sin((i * Math.PI) / 12),
    y: y - r * Math.cos((i * Math.PI) / 12),
    pressure: 0.5,
  }));

const chosen = (page: Page) => page.getByRole("status").filter({ hasText: /chosen/ });

test("leaves are strewn, chosen by a loop, moved, turned, thinned out and placed before and behind", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 800, height: 500 });
  const { x, y } = await middle(page);
  await takeSet(page, "Fallen leaves");
  const panel = page.getByRole("region", { name: "Strew: fallen leaves" });
  await panel.getByRole("radio", { name: "Depth" }).click();
  await panel.getByText("Smaller and paler toward the horizon").click();
  const horizon = page.getByRole("button", { name: /^Horizon at 40 of 100/ });
  await horizon.press("ArrowUp");
  await expect(page.getByRole("button", { name: /^Horizon at 39 of 100/ })).toBeVisible();
  // So densely that chance leaves none of the loops empty.
  await panel.getByRole("radio", { name: "Places" }).click();
  await panel.getByLabel("Gap", { exact: true }).fill("0.2");
  await panel.getByLabel("Spread", { exact: true }).fill("0.5");
  await pen.stroke(line([x - 260, y + 130], [x + 60, y + 100]));
  await settled(page);

  // Chosen by a loop, moved by the pen, turned by its handle and by keys.
  await panel.getByRole("radio", { name: "Choose" }).click();
  await pen.stroke(round(x - 150, y + 120, 110));
  await expect(chosen(page)).toContainText(/^\d+ pieces are chosen/);
  const count = Number(/^\d+/.exec((await chosen(page).textContent()) ?? "")?.[0]);
  expect(count).toBeGreaterThan(2);
  const handle = page.getByRole("button", { name: /^Turn and stretch/ });
  const before = await handle.boundingBox();
  await handle.press("ArrowUp");
  await settled(page);
  await handle.press("ArrowRight");
  await settled(page);
  const after = await handle.boundingBox();
  expect(after?.x).toBeGreaterThan((before?.x ?? 0) + 1);
  await page.getByTestId("view").focus();
  await page.getByTestId("view").press("Shift+ArrowDown");
  await settled(page);
  await expect(page.getByRole("button", { name: /^Undo move \d+ pieces/ })).toBeVisible();

  // Thinned out by half, and undone.
  await panel.getByRole("button", { name: "Thin out by half" }).click();
  await expect(chosen(page)).toContainText(
    new RegExp(`^(${Math.round(count / 2)} pieces are|One piece is) chosen`),
  );
  await settled(page);
  await page.getByRole("button", { name: "Undo thin pieces out" }).click();
  await settled(page);

  // All is there after a reload, and still movable.
  await page.reload();
  await expect(page.getByRole("row", { name: /strewn/ })).toBeVisible();
  await settled(page);
  await page.getByRole("row", { name: /^Fallen leaves/ }).click();
  await takeSet(page, "Fallen leaves");
  await panel.getByRole("radio", { name: "Choose" }).click();
  await press(page, "All");
  await expect(chosen(page)).toContainText(/^\d+ pieces are chosen/);
  await panel.getByRole("button", { name: "None" }).click();
  await pen.stroke(round(x - 150, y + 120, 110));
  await expect(chosen(page)).toContainText(/chosen/);
  await press(page, "Place, chosen on top");
  await settled(page);
  await expect(page.getByRole("row", { name: /^Fallen leaves before/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /strewn/ })).toBeHidden();

  const { shown, painted, log } = await fromItsLog(page);
  expect(shown.equals(painted)).toBe(true);
  expect(log).toContain('"strew.place"');
});

test("paint in a selection becomes a picture to strew, thinned out with the pen", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 800, height: 500 });
  const { x, y } = await middle(page);
  await pen.stroke(line([x - 40, y], [x + 40, y]));
  await settled(page);
  await page.keyboard.press("Control+a");
  await expect(page.getByTestId("ants")).toBeVisible();
  await page.getByRole("tab", { name: "Strew", exact: true }).click();
  await page.getByRole("button", { name: /^Collect from/ }).click();
  await expect(page.getByText("“Own set 1” holds a picture to strew now.")).toBeVisible();
  await page.getByRole("radio", { name: "Own set 1" }).click();
  await expect(page.getByRole("row", { name: /strewn/ })).toBeVisible();
  await settled(page);
  await pen.stroke(line([x - 250, y - 120], [x + 200, y - 120]));
  await settled(page);
  await expect(page.getByRole("button", { name: "Undo strew" })).toBeVisible();
  const panel = page.getByRole("region", { name: "Strew: own set 1" });
  await panel.getByRole("radio", { name: "Choose" }).click();
  await press(page, "All");
  const many = await chosen(page).textContent();
  await panel.getByRole("radio", { name: "Thin out" }).click();
  await pen.stroke(line([x - 250, y - 120], [x + 200, y - 120]));
  await settled(page);
  await panel.getByRole("radio", { name: "Choose" }).click();
  await press(page, "All");
  await expect(chosen(page)).not.toHaveText(many ?? "");
  // A brush cannot paint on pieces: it says what can be done.
  await press(page, "Back to painting");
  await pen.stroke(line([x - 100, y + 100], [x, y + 100]));
  await expect(page.getByText(/holds strewn pieces, not paint/)).toBeVisible();
  const { shown, painted } = await fromItsLog(page);
  expect(shown.equals(painted)).toBe(true);
});
