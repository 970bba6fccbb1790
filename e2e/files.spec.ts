import { expect, type Page, test } from "@playwright/test";
import { Pen, swell } from "./pen";
import { exported, freshTable, middle, settled, tableReady } from "./table";

/** Lets the browser “ask” where to save: each time in a file of its own private disk, called so. */
const savesIn = (page: Page, name: string): Promise<void> =>
  page.evaluate(async (called) => {
    const disk = await navigator.storage.getDirectory();
    Object.assign(window, {
      asked: 0,
      showSaveFilePicker: () => {
        const own = window as unknown as { asked: number };
        own.asked++;
        return disk.getFileHandle(called, { create: true });
      },
    });
  }, name);

const timesAsked = (page: Page): Promise<number> =>
  page.evaluate(() => (window as unknown as { asked: number }).asked);

/** A browser without a way to write files: they are handed to the downloads. */
const cannotWrite = (page: Page): Promise<boolean> =>
  page.evaluate(() => Reflect.deleteProperty(window, "showSaveFilePicker"));

const fileOnDisk = async (page: Page, name: string): Promise<Buffer> =>
  Buffer.from(
    await page.evaluate(async (called) => {
      const disk = await navigator.storage.getDirectory();
      const file = await (await disk.getFileHandle(called)).getFile();
      const bytes = new Uint8Array(await file.arrayBuffer());
      let text = "";
      for (let i = 0; i < bytes.length; i += 8192)
        text += String.fromCharCode(...bytes.subarray(i, i + 8192));
      return btoa(text);
    }, name),
    "base64",
  );

/** Somebody else writes in the file. */
const writtenElsewhere = (page: Page, name: string): Promise<void> =>
  page.evaluate(async (called) => {
    const disk = await navigator.storage.getDirectory();
    const handle = await disk.getFileHandle(called);
    const file = await handle.createWritable();
    await file.write("another picture");
    await file.close();
  }, name);

async function draw(page: Page, pen: Awaited<ReturnType<typeof freshTable>>, down = 0) {
  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 150, y + down], [x + 150, y + down + 20]));
  await settled(page);
}

const openFromShelf = async (page: Page, title: string): Promise<void> => {
  await page
    .getByRole("link", { name: `Open ${title}`, exact: true })
    .last()
    .click();
  await tableReady(page);
};

const toPortfolio = async (page: Page): Promise<void> => {
  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByRole("button", { name: "Storage" })).toBeVisible();
};

test("a picture is saved in a file, again without being asked, and opened from it as it is", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 700, height: 500, title: "Kettle" });
  await draw(page, pen);
  await savesIn(page, "Kettle.ora");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("Saved in “Kettle.ora”.")).toBeVisible();
  const first = await fileOnDisk(page, "Kettle.ora");
  await draw(page, pen, 60);
  await page.getByRole("button", { name: "Save", exact: true }).click();
  // While it is written over it cannot be read.
  await expect(async () => {
    expect((await fileOnDisk(page, "Kettle.ora")).equals(first)).toBe(false);
  }).toPass();
  expect(await timesAsked(page)).toBe(1);
  const buffer = await fileOnDisk(page, "Kettle.ora");
  const seen = await exported(page, "PNG");
  const log = await exported(page, "Work log");
  await toPortfolio(page);
  await page
    .getByTestId("bring-in")
    .setInputFiles({ name: "Kettle.ora", mimeType: "image/openraster", buffer });
  await expect(page.getByRole("listitem")).toHaveCount(2);
  await openFromShelf(page, "Kettle");
  expect((await exported(page, "PNG")).equals(seen)).toBe(true);
  expect((await exported(page, "Work log")).equals(log)).toBe(true);
});

test("a file that something else has written is not written over without a word", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 500, height: 400, title: "Lamp" });
  await draw(page, pen);
  await savesIn(page, "Lamp.ora");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("Saved in “Lamp.ora”.")).toBeVisible();
  await writtenElsewhere(page, "Lamp.ora");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("was changed by something else")).toBeVisible();
  expect((await fileOnDisk(page, "Lamp.ora")).toString()).toBe("another picture");
  await page.getByRole("button", { name: "Write over it" }).click();
  await expect(page.getByText("Saved in “Lamp.ora”.")).toBeVisible();
  expect((await fileOnDisk(page, "Lamp.ora")).subarray(0, 2).toString()).toBe("PK");
  // Another file, by the key that saves as.
  await savesIn(page, "Lamp at night.ora");
  await page.keyboard.press("Control+Shift+s");
  await expect(page.getByText("Saved in “Lamp at night.ora”.")).toBeVisible();
  await page.keyboard.press("Control+s");
  await expect(page.getByText("Saved in “Lamp at night.ora”.")).toBeVisible();
  expect(await timesAsked(page)).toBe(1);
});

test("where the browser cannot write files, the whole picture is handed to the downloads", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 500, height: 400, title: "Tram" });
  await draw(page, pen);
  await cannotWrite(page);
  const download = page.waitForEvent("download");
  await page.keyboard.press("Control+s");
  expect((await download).suggestedFilename()).toBe("Tram.ora");
  const seen = await exported(page, "PNG");
  await toPortfolio(page);
  await page.getByTestId("bring-in").setInputFiles(await (await download).path());
  await expect(page.getByRole("listitem")).toHaveCount(2);
  await openFromShelf(page, "Tram");
  expect((await exported(page, "PNG")).equals(seen)).toBe(true);
});

async function copyOfEverything(page: Page): Promise<string> {
  await page.getByRole("button", { name: "Storage" }).click();
  await cannotWrite(page);
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Keep a copy of everything" }).click();
  await expect(page.getByText("brushes and settings are in")).toBeVisible();
  const path = await (await download).path();
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
  return path;
}

async function bringBackFrom(page: Page, path: string): Promise<void> {
  await page.getByRole("button", { name: "Storage" }).click();
  await page.getByTestId("copy-file").setInputFiles(path);
  await page.getByRole("button", { name: "Bring back", exact: true }).click();
  await expect(page.getByText("One picture brought back.")).toBeVisible();
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
}

test("a picture that was deleted for good comes back from a copy; one that goes on is laid beside", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 500, height: 400, title: "Pear" });
  await draw(page, pen);
  const seen = await exported(page, "PNG");
  await toPortfolio(page);
  const copy = await copyOfEverything(page);

  await page.getByRole("button", { name: "More for Pear" }).click();
  await page.getByRole("button", { name: "Throw away" }).click();
  await page.getByRole("button", { name: "Delete for good" }).click();
  await page.getByRole("button", { name: "Yes, for good" }).click();
  await expect(page.getByRole("heading", { name: "The shelf is empty" })).toBeVisible();
  await bringBackFrom(page, copy);
  await openFromShelf(page, "Pear");
  expect((await exported(page, "PNG")).equals(seen)).toBe(true);

  await draw(page, pen, 50);
  const further = await exported(page, "PNG");
  await toPortfolio(page);
  await bringBackFrom(page, copy);
  await openFromShelf(page, "Pear (from a copy)");
  expect((await exported(page, "PNG")).equals(seen)).toBe(true);
  await toPortfolio(page);
  await openFromShelf(page, "Pear");
  expect((await exported(page, "PNG")).equals(further)).toBe(true);
});

/** Makes all pictures in store so many days older. */
const aged = (page: Page, days: number): Promise<void> =>
  page.evaluate(
    (by) =>
      new Promise<void>((resolve) => {
        const open = indexedDB.open("pampas");
        open.onsuccess = () => {
          const tx = open.result.transaction("pictures", "readwrite");
          const all = tx.objectStore("pictures").openCursor();
          all.onsuccess = () => {
            const cursor = all.result;
            if (!cursor) return;
            const { created, ...picture } = cursor.value as { created: number };
            cursor.update({ ...picture, created: created - by * 86_400_000 });
            cursor.continue();
          };
          tx.oncomplete = () => {
            open.result.close();
            resolve();
          };
        };
      }),
    days,
  );

test("a copy is asked for when work is in this browser alone for long, and not after one was made", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 500, height: 400, title: "Lamp" });
  await draw(page, pen);
  await toPortfolio(page);
  const reminder = page.getByText("One picture is in this browser alone, for 20 days now.");
  await expect(reminder).toBeHidden();
  await aged(page, 20);
  await page.reload();
  await expect(reminder).toBeVisible();
  await page.getByRole("button", { name: "Later" }).click();
  await expect(reminder).toBeHidden();
  await page.reload();
  await expect(page.getByRole("listitem")).toHaveCount(1);
  await expect(reminder).toBeHidden();
});

test("pictures are told by what they take, and squeezed without being changed", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 900, height: 700, title: "Tram" });
  for (const down of [-150, -90, 0, 80]) await draw(page, pen, down);
  const seen = await exported(page, "PNG");
  await toPortfolio(page);
  await page.getByRole("button", { name: "Storage" }).click();
  const row = page.getByRole("row", { name: /^Tram \d/ });
  await expect(row.getByRole("cell")).toHaveCount(7);
  await page.getByRole("button", { name: "Squeeze Tram" }).click();
  await expect(page.getByText(/were gained|as small as they can be/)).toBeVisible();
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
  await openFromShelf(page, "Tram");
  expect((await exported(page, "PNG")).equals(seen)).toBe(true);
});

test("a file that the system opens with Pampas is opened on the table, and saved where it came from", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 300, height: 200, title: "Kettle" });
  await draw(page, pen);
  await savesIn(page, "Kettle.ora");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("Saved in “Kettle.ora”.")).toBeVisible();
  const [seen, first] = [await exported(page, "PNG"), await fileOnDisk(page, "Kettle.ora")];
  // As an installed Pampas is started by a file's own menu: with a handle of it.
  await page.addInitScript(() => {
    const take = async (consumer: (launch: unknown) => void): Promise<void> => {
      const disk = await navigator.storage.getDirectory();
      consumer({ files: [await disk.getFileHandle("Kettle.ora")] });
    };
    Object.defineProperty(window, "launchQueue", {
      value: { setConsumer: (consumer: (launch: unknown) => void) => void take(consumer) },
    });
  });
  await page.goto("/");
  await tableReady(page);
  expect((await exported(page, "PNG")).equals(seen)).toBe(true);
  await draw(page, await Pen.on(page), 60);
  await savesIn(page, "elsewhere.ora");
  await page.keyboard.press("Control+s");
  await expect(page.getByText("Saved in “Kettle.ora”.")).toBeVisible();
  expect(await timesAsked(page)).toBe(0);
  expect((await fileOnDisk(page, "Kettle.ora")).equals(first)).toBe(false);
});
