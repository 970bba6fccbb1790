import { expect, type Page, test } from "@playwright/test";
import { encode } from "fast-png";
import sharp from "sharp";
import { strToU8, zipSync } from "fflate";
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { exported, freshTable, openPortfolio, settled, tableReady } from "./table";
import { swell } from "./pen";

const colours = (width: number, height: number): Uint8Array =>
  Uint8Array.from({ length: width * height * 3 }, (_, i) => (i * 37) & 255);
const png = Buffer.from(
  encode({ width: 60, height: 40, channels: 3, depth: 8, data: colours(60, 40) }),
);

const bringIn = (page: Page, name: string, mimeType: string, buffer: Buffer): Promise<void> =>
  page.getByTestId("bring-in").setInputFiles({ name, mimeType, buffer });

/** A picture of another kind, made by the browser itself. */
const madeByBrowser = async (page: Page, type: string): Promise<Buffer> =>
  Buffer.from(
    await page.evaluate(async (kind) => {
      const canvas = new OffscreenCanvas(64, 48);
      const context = canvas.getContext("2d");
      if (context) {
        context.fillStyle = "#c0562f";
        context.fillRect(0, 0, 64, 48);
      }
      const blob = await canvas.convertToBlob({ type: kind, quality: 1 });
      return [...new Uint8Array(await blob.arrayBuffer())];
    }, type),
  );

const samples = [
  "Depot at dusk",
  "Depot yard",
  "Night stop",
  "Studies for the cover",
  "The conductor",
  "Thermos and pears",
  "Thermos, night shift",
  "Ticket office",
];

/** Whether the picture on the table is the one that a log paints in Node, byte for byte. */
async function isPaintedAsInNode(page: Page, name: string): Promise<boolean> {
  const browser = await exported(page, "PNG");
  const out = join(mkdtempSync(join(tmpdir(), "pampas-")), `${name}.png`);
  const log = `demo/logs/${name}.jsonl`;
  const render = ["--import", "tsx", "src/cli/pampas.ts", "render", log, out];
  execFileSync(process.execPath, render);
  return browser.equals(readFileSync(out));
}

test("a sample that is opened while others still come is opened in peace; they come afterwards", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Open Depot yard" }).click();
  await page.waitForURL(/table/);
  await settled(page);
  await expect(page.getByText("could not be painted")).toHaveCount(0);
  await page.getByRole("link", { name: "Portfolio" }).click();
  for (const title of samples)
    await expect(page.getByRole("link", { name: `Open ${title}` })).toBeVisible();
  await expect(page.getByText("could not be painted")).toHaveCount(0);
});

test("the samples are on the shelf at the first start, painted beforehand, with their pins", async ({
  page,
}) => {
  await page.goto("/");
  for (const title of samples)
    await expect(page.getByRole("link", { name: `Open ${title}` })).toBeVisible();
  await expect(page.getByText(/Painting|Preparing/)).toBeHidden();
  await page.getByRole("link", { name: "Open The conductor" }).click();
  await tableReady(page);
  await expect(page.getByRole("figure", { name: "Pin: Brass lamp" })).toBeVisible();
  expect(await isPaintedAsInNode(page, "the-conductor")).toBe(true);
  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByRole("heading", { name: "Pampas" })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("listitem")).toHaveCount(samples.length);
  await expect(page.getByText(/Painting|Preparing/)).toBeHidden();
});

test("a sample that was not painted beforehand is painted in the browser, the same as in Node", async ({
  page,
}) => {
  await page.route("**/api/samples", (route) =>
    route.fulfill({
      json: {
        samples: [
          {
            name: "night-stop",
            title: "Night stop",
            bytes: 1,
            pins: ["pin-wet-street"],
            painted: false,
          },
        ],
      },
    }),
  );
  await page.route("**/api/samples/*/painted", (route) => route.fulfill({ status: 404 }));
  await page.goto("/");
  await expect(page.getByText(/Painting/)).toBeVisible();
  await page.getByRole("link", { name: "Open Night stop" }).click({ timeout: 90_000 });
  await tableReady(page);
  await expect(page.getByRole("figure", { name: "Pin: Wet street" })).toBeVisible();
  expect(await isPaintedAsInNode(page, "night-stop")).toBe(true);
});

test("pictures are renamed, duplicated, thrown away and taken back", async ({ page }) => {
  const pen = await freshTable(page, { width: 300, height: 200, title: "Brass lamp" });
  const box = await page.getByTestId("view").boundingBox();
  if (!box) throw new Error("no view");
  await pen.stroke(swell([box.x + 250, box.y + 250], [box.x + 500, box.y + 300]));
  await settled(page);
  await page.getByRole("button", { name: "Brass lamp" }).click();
  await page.getByLabel("Title").fill("Wool coat");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Portfolio" }).click();
  const item = page.getByRole("listitem");
  await expect(item).toHaveCount(1);
  await expect(item).toContainText("Wool coat");
  await expect(item).toContainText("300 × 200 px");
  const more = (title: string) => page.getByRole("button", { name: `More for ${title}` });
  await more("Wool coat").click();
  await page.getByRole("button", { name: "Duplicate" }).click();
  await expect(item).toHaveCount(2);
  await more("Wool coat copy").click();
  await page.getByRole("button", { name: "Rename" }).click();
  await page.getByLabel("Title").fill("Wet street");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Wet street")).toBeVisible();
  await more("Wool coat").click();
  await page.getByRole("button", { name: "Throw away" }).click();
  await expect(item).toHaveCount(1);
  await page
    .getByRole("region", { name: "Thrown away" })
    .getByRole("button", { name: "Take back" })
    .click();
  await expect(item).toHaveCount(2);
  await more("Wool coat").click();
  await page.getByRole("button", { name: "Throw away" }).click();
  await page.getByRole("button", { name: "Delete for good" }).click();
  await page.getByRole("button", { name: "Yes, for good" }).click();
  await expect(page.getByRole("region", { name: "Thrown away" })).toBeHidden();
  await page.getByRole("link", { name: "Open Wet street" }).click();
  await tableReady(page);
});

test("pictures are brought in, and what cannot be read is told", async ({ page }) => {
  await openPortfolio(page);
  const item = page.getByRole("listitem").filter({ has: page.getByRole("link") });
  await bringIn(page, "lamp.png", "image/png", png);
  await expect(item).toHaveCount(1);
  await bringIn(page, "coat.jpg", "image/jpeg", await madeByBrowser(page, "image/jpeg"));
  await expect(item).toHaveCount(2);
  await bringIn(page, "street.webp", "image/webp", await madeByBrowser(page, "image/webp"));
  await expect(item).toHaveCount(3);
  const ora = zipSync({
    mimetype: [strToU8("image/openraster"), { level: 0 }],
    "stack.xml": strToU8(
      '<image w="60" h="40"><stack><layer name="Shade" src="data/a.png" opacity="0.5" composite-op="svg:multiply"/><layer name="Base" src="data/a.png"/></stack></image>',
    ),
    "data/a.png": new Uint8Array(png),
  });
  await bringIn(page, "tram.ora", "image/openraster", Buffer.from(ora));
  await expect(item).toHaveCount(4);

  for (const [name, bytes, why] of [
    ["cut.png", png.subarray(0, 80), /cut off/],
    ["notes.txt", Buffer.from("just words"), /none that Pampas reads/],
    ["bad.jsonl", Buffer.from('{"pampas":1,"width":10,"height":10}\n{"do":"fly"}'), /line 2/],
    ["climb.ora", Buffer.from(zipSync({ "../up.png": strToU8("x") })), /outside itself/],
    ["broken.jpg", Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 2]), /broken/],
  ] as const) {
    await bringIn(page, name, "application/octet-stream", Buffer.from(bytes));
    await expect(
      page.getByText(new RegExp(`“${name}” was not brought in: .*${why.source}`)),
    ).toBeVisible();
  }
  await expect(item).toHaveCount(4);

  await page.getByRole("link", { name: "Open tram" }).click();
  await tableReady(page);
  await expect(page.getByRole("row", { name: /Shade, multiply · 50/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /Base, normal/ })).toBeVisible();
});

test("a file that takes long to read says so, and can be stopped", async ({ page }) => {
  await page.goto("/");
  const sheet = { width: 9000, height: 9000, channels: 3 as const, background: "#405060" };
  const jpeg = await sharp({ create: sheet }).jpeg().toBuffer();
  await bringIn(page, "wall.jpg", "image/jpeg", jpeg);
  await expect(page.getByText("Reading the file…")).toBeVisible();
  // By key: the samples that come meanwhile move the button, and a click would wait until it rests.
  await page.getByRole("button", { name: "Cancel" }).press("Enter");
  await expect(page.getByText(/“wall.jpg”: Stopped\. Nothing was/)).toBeVisible();
  await expect(page.getByRole("link", { name: "Open wall" })).toHaveCount(0);
});

test("a picture is dropped or pasted on the table as a layer", async ({ page }) => {
  await freshTable(page, { width: 200, height: 160 });
  for (const kind of ["drop", "paste"] as const) {
    await page.evaluate(
      ({ bytes, event }) => {
        const data = new DataTransfer();
        data.items.add(new File([new Uint8Array(bytes)], `${event}ped.png`, { type: "image/png" }));
        window.dispatchEvent(
          event === "drop"
            ? new DragEvent("drop", { dataTransfer: data, cancelable: true })
            : new ClipboardEvent("paste", { clipboardData: data }),
        );
      },
      { bytes: [...png], event: kind },
    );
    await expect(page.getByRole("row", { name: new RegExp(`${kind}ped`) })).toBeVisible();
  }
  await page.getByRole("button", { name: "Undo bring in" }).click();
  await expect(page.getByRole("row")).toHaveCount(2);
});

test("a new picture says what it costs, and what cannot be", async ({ page }) => {
  await openPortfolio(page);
  await page.getByRole("button", { name: "New picture" }).first().click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("radio", { name: /A3 sheet/ }).click();
  await expect(dialog.getByRole("status")).toContainText("3508 × 4961 px");
  await dialog.getByRole("button", { name: "To landscape" }).click();
  await expect(dialog.getByRole("status")).toContainText("4961 × 3508 px");
  await dialog.getByLabel("Unit").selectOption("in");
  await dialog.getByLabel("Width").fill("60");
  await expect(dialog.getByRole("status")).toContainText("16384 px");
  await expect(dialog.getByRole("button", { name: "Lay out the sheet" })).toBeDisabled();
  await dialog.getByLabel("Width").fill("50");
  await dialog.getByLabel("Height").fill("50");
  await expect(dialog.getByRole("status")).toContainText("200 million");
  await dialog.getByLabel("Width").fill("");
  await expect(dialog.getByRole("status")).toContainText("Give a width");
});

test("a new picture is laid out on a paper made of a picture", async ({ page }) => {
  await openPortfolio(page);
  await page.getByRole("button", { name: "New picture" }).first().click();
  const dialog = page.getByRole("dialog");
  const data = new Uint8Array(200 * 180).map((_, i) => 120 + ((i * 2654435761) % 97));
  const wall = Buffer.from(encode({ width: 200, height: 180, data, channels: 1 }));
  const paper = dialog.getByLabel("Picture of a paper");
  await paper.setInputFiles({ name: "no.png", mimeType: "image/png", buffer: Buffer.from("no") });
  await expect(page.getByText(/“no.png” makes no paper/)).toBeVisible();
  await paper.setInputFiles({ name: "wall.png", mimeType: "image/png", buffer: wall });
  await expect(dialog.getByRole("radio", { name: /From a picture/ })).toHaveAttribute(
    "aria-checked",
    "true",
  );
  await dialog.getByRole("button", { name: "Lay out the sheet" }).click();
  await tableReady(page);
  await expect(page.getByRole("button", { name: /^Paper/ })).toContainText("from a picture");
});
