import { expect, test } from "@playwright/test";
import { decode } from "fast-png";
import { fromItsLog, line, takeBrush } from "./painter";
import { exported, freshTable, middle, newPicture, setting, settled, tableReady } from "./table";

test("a layer is shown in halftone, changed, kept, and goes out as it is seen", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await takeBrush(page, "Even liner", 90, "#606060");
  await pen.stroke(line([x - 180, y - 20], [x + 180, y - 20]));
  await page.getByRole("button", { name: "Shading helps" }).click();
  await page.getByRole("button", { name: "Halftone…" }).click();
  const panel = page.getByRole("region", { name: /^Halftone of/ });
  await panel.getByRole("radio", { name: "Lines", exact: true }).click();
  await panel.getByLabel("Lines an inch").fill("20");
  await panel.getByRole("button", { name: "75°" }).click();
  await expect(page.getByRole("row", { name: /^Layer 1/ })).toHaveAccessibleName(/dots/);
  // Its arm turns it on the picture.
  const arm = page.getByRole("button", { name: /^Halftone: drag round/ });
  const box = (await arm.boundingBox())!;
  const [ax, ay] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(ax, ay);
  await page.mouse.down();
  await page.mouse.move(ax + 70, ay - 40, { steps: 3 });
  await page.mouse.up();
  await expect(panel.getByRole("slider", { name: "Angle" })).not.toHaveValue("75");
  await panel.getByRole("button", { name: "Done" }).click();
  await expect(panel).toBeHidden();
  await settled(page);
  await page.reload();
  await tableReady(page);
  await expect(page.getByRole("row", { name: /^Layer 1/ })).toHaveAccessibleName(/dots/);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);

  const bits = await exported(page, "PNG", () =>
    page.getByRole("radio", { name: "Black and white" }).click(),
  );
  expect(decode(bits)).toMatchObject({ depth: 1, channels: 1 });
  const greys = await exported(page, "PNG", () => page.getByLabel("Halftones as greys").check());
  expect(greys.equals(shown)).toBe(false);
});

test("the sheet is cropped by its frame, extended by numbers, resized; undo brings it back", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await takeBrush(page, "Even liner", 40, "#803020");
  await pen.stroke(line([x - 120, y - 20], [x + 120, y + 20]));
  const size = page.getByRole("button", { name: / × \d+ px$/ });
  const before = await size.innerText();
  await size.click();
  const panel = page.getByRole("region", { name: "The sheet" });
  const corner = page.getByRole("button", { name: /^New sheet: lower right corner/ });
  const box = (await corner.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 100, box.y - 60, { steps: 3 });
  await page.mouse.up();
  await panel.getByRole("button", { name: "Cut the sheet" }).click();
  await expect(panel).toBeHidden();
  await expect(size).not.toHaveText(before);

  await size.click();
  await panel.getByLabel("From the left").fill("-50");
  await panel.getByLabel("From the left").press("Enter");
  await panel.getByLabel("Width", { exact: true }).fill("900");
  await panel.getByLabel("Width", { exact: true }).press("Enter");
  await panel.getByLabel("Height", { exact: true }).fill("600");
  await panel.getByLabel("Height", { exact: true }).press("Enter");
  await panel.getByRole("button", { name: "Cut the sheet" }).click();
  await expect(size).toHaveText("900 × 600 px");

  await size.click();
  await panel.getByRole("radio", { name: "Resize" }).click();
  await panel.getByLabel("Width", { exact: true }).fill("450");
  await panel.getByLabel("Width", { exact: true }).press("Enter");
  await panel.getByRole("button", { name: "Resize", exact: true }).click();
  await expect(size).toHaveText("450 × 300 px");
  for (const label of ["resize", "extend|crop", "crop"])
    await page.getByRole("button", { name: new RegExp(`^Undo (${label}) the sheet`) }).click();
  await expect(size).toHaveText(before);
  for (let i = 0; i < 3; i++) await page.getByRole("button", { name: /^Redo/ }).click();
  await expect(size).toHaveText("450 × 300 px");
  await settled(page);
  await page.reload();
  await tableReady(page);
  await expect(size).toHaveText("450 × 300 px");
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
  expect(decode(shown)).toMatchObject({ width: 450, height: 300 });
});

test("a signature is kept once, and signs another picture", async ({ page }) => {
  const pen = await freshTable(page);
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Lines that stay editable" }).click();
  const { x, y } = await middle(page);
  await takeBrush(page, "Even liner", 12, "#101018");
  await pen.stroke(line([x - 60, y], [x + 60, y - 20]));
  await pen.stroke(line([x - 20, y + 30], [x + 40, y - 40]));
  await page.getByRole("button", { name: "More for layers" }).click();
  await page.getByRole("button", { name: "Keep as signature" }).click();
  await expect(page.getByText(/Kept as your signature/)).toBeVisible();
  await settled(page);
  await page.getByRole("link", { name: "Portfolio" }).click();
  await newPicture(page, { width: 900, height: 700, title: "Signed" });
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Your signature" }).click();
  await expect(page.getByRole("row", { name: /^Signature/ })).toHaveAccessibleName(/lines/);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await settled(page);
  const { data } = decode(await exported(page, "PNG"));
  // Dark in the lower right corner, where it was put.
  let dark = 0;
  for (let py = 560; py < 700; py++)
    for (let px = 720; px < 900; px++) if (Number(data[(py * 900 + px) * 3]) < 90) dark++;
  expect(dark).toBeGreaterThan(60);
});

test("files for print say what they are, and what is looked at is what is written", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await takeBrush(page, "Even liner", 60, "#204080");
  await pen.stroke(line([x - 150, y - 20], [x + 150, y + 20]));
  await settled(page);
  const pdf = await exported(page, "PDF", async () => {
    await page.getByLabel("Bleed on the sheet, mm").fill("3");
    await page.getByLabel("Crop marks").check();
    await expect(page.getByRole("img", { name: /^A piece of the file/ })).toBeVisible();
  });
  expect(pdf.subarray(0, 5).toString()).toBe("%PDF-");
  expect(pdf.toString("latin1")).toContain("/TrimBox");
  const tiff = await exported(page, "TIFF", () => page.getByLabel(/^A page for the whole/).check());
  expect(tiff.subarray(0, 4)).toEqual(Buffer.from([0x49, 0x49, 42, 0]));
  const jpeg = await exported(page, "JPEG");
  expect(jpeg.subarray(6, 10).toString()).toBe("JFIF");
  expect(jpeg.readUInt16BE(14)).toBe(300);
  const small = await exported(page, "PNG", async () => {
    await page.getByLabel("At another size").check();
    await page.getByLabel("Width").fill("200");
    const preview = page.getByRole("region", { name: "What will be written" });
    await expect(preview).toContainText("200 ×");
  });
  expect(decode(small).width).toBe(200);
});

test("exports are kept by name, taken up again, and run together", async ({ page }) => {
  await freshTable(page, { width: 400, height: 300, title: "Two lamps" });
  const exportButton = page.getByRole("button", { name: "Export", exact: true });
  await exportButton.first().click();
  const dialog = page.getByRole("dialog", { name: "Export" });
  const keepAs = async (name: string): Promise<void> => {
    await dialog.getByRole("button", { name: /^Keep this .* export/ }).click();
    await dialog.getByLabel("Name of the export").fill(name);
    await page.keyboard.press("Enter");
    await expect(dialog.getByRole("button", { name, exact: true })).toBeVisible();
  };
  await dialog.getByRole("radio", { name: /^TIFF/ }).check();
  await keepAs("For the printer");
  await dialog.getByRole("radio", { name: /^JPEG/ }).check();
  await keepAs("For the web");
  await dialog.getByRole("radio", { name: /^PNG/ }).check();
  await keepAs("Spare");
  await dialog.getByLabel("Spare runs with the others").uncheck();
  await dialog.getByRole("button", { name: "Back" }).click();
  await expect.poll(() => setting(page, "all")).toContain("Spare");

  await page.reload();
  await tableReady(page);
  await exportButton.first().click();
  await dialog.getByRole("button", { name: "For the printer", exact: true }).click();
  await expect(dialog.getByRole("radio", { name: /^TIFF/ })).toBeChecked();
  await dialog.getByRole("button", { name: "Take Spare away" }).click();
  const names: string[] = [];
  page.on("download", (file) => names.push(file.suggestedFilename()));
  await dialog.getByRole("button", { name: "Export the ticked (2)" }).click();
  await expect(page.getByText("2 files were handed to your downloads.")).toBeVisible();
  await expect
    .poll(() => names.toSorted())
    .toEqual(["Two lamps - For the printer.tif", "Two lamps - For the web.jpg"]);
  await expect.poll(() => setting(page, "all")).not.toContain("Spare");
});
