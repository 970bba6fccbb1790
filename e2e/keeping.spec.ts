import { expect, type Page, test } from "@playwright/test";
import { abuse, checkpointed, isThatOfItsLog } from "./abuse";
import { exported, freshTable, middle, openPortfolio, settled, tableReady } from "./table";
import { swell } from "./pen";

test("five reloads, closed tabs and killed browsers lose nothing that was kept", async ({
  baseURL,
}, info) => {
  const { args = [] } = info.project.use.launchOptions ?? {};
  await abuse({ address: baseURL ?? "", args, rounds: 5, seed: 12 });
});

test("a stroke drawn on a turned sheet opens and replays", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  for (let turn = 0; turn < 5; turn++) {
    await page.keyboard.down("r");
    await page.mouse.move(x + 200, y);
    await page.mouse.down();
    await page.mouse.move(x, y + 200, { steps: 4 });
    await page.mouse.move(x - 200, y, { steps: 4 });
    await page.mouse.up();
    await page.keyboard.up("r");
  }
  const tilted = swell([x - 120, y - 60], [x + 120, y + 60]).map((point) => ({
    ...point,
    tiltX: -50,
    tiltY: -20,
  }));
  await page.getByRole("radio", { name: "6B pencil" }).click();
  await pen.stroke(tilted);
  await settled(page);
  await page.reload();
  await tableReady(page);
  await expect(page.getByText(/could not be repeated/)).toBeHidden();
  await isThatOfItsLog(page);
});

test("what was done before a reload is undone and done again after it", async ({ page }) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  const looks = [await exported(page, "PNG")];
  const look = async (): Promise<number> => looks.push(await exported(page, "PNG"));
  await page.getByRole("radio", { name: "6B pencil" }).click();
  for (const row of [-120, 0, 120]) {
    await pen.stroke(swell([x - 200, y + row], [x + 200, y + row + 30]));
    await look();
  }
  // One is in the journal alone, the others are in tiles.
  await checkpointed(page);
  await pen.stroke(swell([x - 200, y - 150], [x + 200, y + 150]));
  await look();
  await page.reload();
  await tableReady(page);
  for (const was of looks.slice(0, -1).reverse()) {
    await page.keyboard.press("Control+z");
    await settled(page);
    expect((await exported(page, "PNG")).equals(was)).toBe(true);
  }
  await expect(page.getByRole("button", { name: /^Undo/ })).toBeDisabled();
  await isThatOfItsLog(page);
  const redo = page.getByRole("button", { name: /^Redo/ });
  for (let i = 0; i < 4; i++) await redo.click();
  await expect(redo).toBeDisabled();
  await isThatOfItsLog(page);
});

test("a palm beside the pen changes nothing, before, while and after it draws", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  const touch = await page.context().newCDPSession(page);
  const palm = (type: "touchStart" | "touchEnd", points: { x: number; y: number; id: number }[]) =>
    touch.send("Input.dispatchTouchEvent", { type, touchPoints: points });
  const view = page.getByTestId("view");
  const before = await view.getAttribute("data-matrix");
  const path = swell([x - 150, y - 80], [x + 150, y - 40]);
  const [first, ...rest] = path;
  if (!first) throw new Error("the path is empty");
  await pen.down(first);
  await palm("touchStart", [{ x: x + 60, y: y + 120, id: 1 }]);
  await palm("touchStart", [
    { x: x + 60, y: y + 120, id: 1 },
    { x: x + 110, y: y + 140, id: 2 },
  ]);
  for (const point of rest) await pen.move(point);
  await palm("touchEnd", []);
  await pen.up(path.at(-1) ?? first);
  await palm("touchStart", [{ x: x + 60, y: y + 120, id: 1 }]);
  await palm("touchEnd", []);
  await settled(page);
  expect(await view.getAttribute("data-matrix")).toBe(before);
  await expect(page.getByRole("button", { name: "Undo paint" })).toBeEnabled();
  await pen.stroke(swell([x - 150, y + 20], [x + 150, y + 60]));
  await settled(page);
  await page.getByRole("button", { name: "Undo paint" }).click();
  await page.getByRole("button", { name: "Undo paint" }).click();
  await settled(page);
  await expect(page.getByRole("button", { name: "Redo paint" })).toBeEnabled();
  await expect(page.getByText(/stroke is being drawn/)).toBeHidden();
});

test("a picture of a newer version stays, is shown, and can be saved", async ({ page }) => {
  await freshTable(page, { width: 200, height: 150, title: "Depot of tomorrow" });
  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByRole("link", { name: "Open Depot of tomorrow" })).toBeVisible();
  const change = (schema: number) =>
    page.evaluate(
      (shape) =>
        new Promise<void>((resolve) => {
          const opening = indexedDB.open("pampas");
          opening.onsuccess = () => {
            const tx = opening.result.transaction("pictures", "readwrite");
            const store = tx.objectStore("pictures");
            const asked = store.getAll();
            asked.onsuccess = () => {
              for (const record of asked.result as object[])
                store.put({ ...record, schema: shape });
            };
            tx.oncomplete = () => {
              opening.result.close();
              resolve();
            };
          };
        }),
      schema,
    );
  await change(9);
  await page.reload();
  const card = page.getByRole("listitem").filter({ hasText: "Depot of tomorrow" });
  await expect(card.getByText("Not readable by this version")).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    card.getByRole("button", { name: "Save raw record" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("Depot of tomorrow.json");
  await change(2);
  await page.reload();
  await expect(page.getByRole("link", { name: "Open Depot of tomorrow" })).toBeVisible();
});

test("a picture that is open elsewhere is not deleted for good", async ({ page, context }) => {
  await freshTable(page, { width: 200, height: 150, title: "Open twice" });
  const other = await context.newPage();
  await openShelf(other);
  await other.getByRole("button", { name: "More for Open twice" }).click();
  await other.getByRole("button", { name: "Throw away" }).click();
  await other.getByRole("button", { name: "Delete for good" }).click();
  await other.getByRole("button", { name: "Yes, for good" }).click();
  await expect(other.getByText(/open in another tab/)).toBeVisible();
  await other.close();
});

async function openShelf(page: Page): Promise<void> {
  await page.route("**/api/samples", (route) => route.fulfill({ json: { samples: [] } }));
  await page.goto("/");
}

test("an engine that does not come up, or stops, is told of, with a way on", async ({ page }) => {
  await freshTable(page, { width: 200, height: 150, title: "Stopped" });
  const session = await page.context().newCDPSession(page);
  const address = page.url();
  await page.evaluate(() => {
    // What the browser does to a page whose worker has died.
    const { prototype } = Worker;
    const post = prototype.postMessage;
    prototype.postMessage = function (this: Worker, ...given: Parameters<typeof post>) {
      this.dispatchEvent(new ErrorEvent("error", { message: "out of memory" }));
      return post.apply(this, given);
    } as typeof post;
  });
  await page.getByRole("button", { name: "Add layer", exact: true }).click();
  const stopped = page.getByRole("alertdialog", { name: "The painting engine has stopped" });
  await expect(stopped).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    stopped.getByRole("button", { name: "Save work log" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("Stopped.jsonl");
  await stopped.getByRole("button", { name: "Open again" }).click();
  await tableReady(page);
  await session.send("Network.enable");
  await page.route(/worker/, (route) => route.abort());
  await page.goto(address);
  await expect(page.getByText(/engine could not be started/)).toBeVisible();
});

test("a picture that cannot be laid out for want of an engine says why, and is laid out at the next try", async ({
  page,
}) => {
  await page.route("**/*worker*", (route) => route.abort());
  await openPortfolio(page);
  await page.getByRole("button", { name: "New picture" }).first().click();
  const layOut = page.getByRole("dialog").getByRole("button", { name: "Lay out the sheet" });
  await layOut.click();
  await expect(page.getByText(/engine could not be started/)).toBeVisible();
  await page.unroute("**/*worker*");
  await layOut.click();
  await tableReady(page);
});

test("a part whose code cannot be brought is told of, and the table goes on", async ({ page }) => {
  // The page never rests, so that nothing is brought beforehand.
  await page.addInitScript(() => {
    window.requestIdleCallback = () => 0;
  });
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  const code = "**/_next/static/chunks/**";
  await page.route(code, (route) => route.abort());
  await page.keyboard.press("?");
  await expect(page.getByText(/The sheet of keys could not be loaded/)).toBeVisible();
  await pen.stroke(swell([x - 100, y], [x + 100, y]));
  await settled(page);
  await page.unroute(code);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys and gestures" })).toBeVisible();
});
