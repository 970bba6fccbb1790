import { expect, test } from "@playwright/test";
import { encode } from "fast-png";
import { exported, freshTable, settled, tableReady } from "./table";

/** A reference: red at the left, blue at the right. */
function reference(): Buffer {
  const [width, height] = [80, 60];
  const data = new Uint8Array(width * height * 3);
  for (let i = 0; i < width * height; i++)
    data.set(i % width < width / 2 ? [200, 40, 30] : [20, 60, 180], i * 3);
  return Buffer.from(encode({ width, height, data, channels: 3 }));
}

test("a reference is pinned, moved, zoomed, mirrored, seen in values; its colours are taken; it is never exported", async ({
  page,
}) => {
  await freshTable(page);
  const before = await exported(page, "PNG");
  await page
    .getByLabel("Pictures to pin")
    .setInputFiles({ name: "wet street.png", mimeType: "image/png", buffer: reference() });
  const pin = page.getByRole("figure", { name: "Pin: wet street" });
  await expect(pin).toBeVisible();
  const frame = pin.getByRole("application");
  const hex = page.getByLabel("Hex");
  await frame.click({ position: { x: 20, y: 60 } });
  await expect(hex).toHaveValue("#c8281e");
  await pin.getByRole("button", { name: "Mirror wet street" }).click();
  await frame.click({ position: { x: 20, y: 60 } });
  await expect(hex).toHaveValue("#143cb4");
  await pin.getByRole("button", { name: "wet street in values" }).click();
  await frame.click({ position: { x: 20, y: 60 } });
  await expect(hex).toHaveValue(/^#(..)\1\1$/);

  await pin.getByRole("button", { name: "Colours from wet street" }).click();
  await expect(page.getByText("2 colours of “wet street” are in the wells.")).toBeVisible();

  const caption = pin.getByRole("button", { name: /drag, or move/ });
  const from = await caption.boundingBox();
  if (!from) throw new Error("the pin has no caption");
  await page.mouse.move(from.x + 30, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(from.x + 190, from.y + 130, { steps: 4 });
  await page.mouse.up();
  await frame.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press("+");
  const moved = await pin.boundingBox();
  expect(moved?.x).toBeCloseTo(from.x - 1 + 160, 0);
  const wide = await frame.locator("canvas").boundingBox();
  expect((wide?.width ?? 0) / (moved?.width ?? 1)).toBeGreaterThan(2.3);
  await settled(page);
  expect(await exported(page, "PNG")).toEqual(before);

  await page.reload();
  await tableReady(page);
  await expect(pin).toBeVisible();
  expect((await pin.boundingBox())?.x).toBeCloseTo(moved?.x ?? 0, 0);
  await expect(pin.getByRole("button", { name: "Mirror wet street" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await pin.getByRole("button", { name: "Take wet street off" }).click();
  await expect(pin).toBeHidden();
  await page.getByRole("button", { name: "Put it back" }).click();
  await expect(pin).toBeVisible();
});

test("a file that is no picture is not pinned, and it is said why", async ({ page }) => {
  await freshTable(page);
  await page
    .getByLabel("Pictures to pin")
    .setInputFiles({ name: "notes.png", mimeType: "image/png", buffer: Buffer.from("nothing") });
  await expect(page.getByText(/“notes.png” was not pinned: this file is none/)).toBeVisible();
  await expect(page.getByRole("figure")).toHaveCount(0);
});

test("a file dragged over the table is brought in as a layer or pinned, where it is let go", async ({
  page,
}) => {
  await freshTable(page);
  const files = await page.evaluateHandle(
    (bytes) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], "far hills.png", { type: "image/png" }));
      return data;
    },
    [...reference()],
  );
  const over = async (): Promise<void> =>
    page.locator("body").dispatchEvent("dragover", { dataTransfer: files });
  await over();
  const zones = page.getByTestId("drop-zones");
  await expect(zones).toBeVisible();
  await page.locator("body").dispatchEvent("dragleave", {});
  await expect(zones).toBeHidden();

  await over();
  await page.getByText("Pin beside the work").dispatchEvent("drop", { dataTransfer: files });
  await expect(page.getByRole("figure", { name: "Pin: far hills" })).toBeVisible();
  await expect(zones).toBeHidden();
  await expect(page.getByRole("row", { name: /far hills/ })).toHaveCount(0);

  await over();
  await page.getByText("Bring in as a layer").dispatchEvent("drop", { dataTransfer: files });
  await expect(page.getByRole("row", { name: /far hills/ })).toBeVisible();
  await expect(page.getByRole("figure", { name: /far hills/ })).toHaveCount(1);
});
