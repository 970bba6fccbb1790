import { readFile } from "node:fs/promises";
import { expect, type Page, test } from "@playwright/test";
import { unzipSync } from "fflate";
import { decode } from "fast-png";
import { swell } from "./pen";
import { exported, freshTable, middle, settled } from "./table";

/** Writes a film with the choices made so far and gives its bytes. */
async function film(page: Page): Promise<Buffer> {
  const [download] = await Promise.all([
    page.waitForEvent("download", { timeout: 100_000 }),
    page.getByRole("button", { name: "Write the film" }).click(),
  ]);
  return readFile(await download.path());
}

test("the work is played again, scrubbed, and written as a film or as pictures; the picture stays as it is", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 320, height: 240 });
  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 120, y - 60], [x + 120, y - 60]));
  await pen.stroke(swell([x - 120, y], [x + 120, y]));
  await pen.stroke(swell([x - 120, y + 60], [x + 120, y + 60]));
  await settled(page);
  const before = await exported(page, "PNG");
  await page.getByRole("button", { name: "Dismiss" }).click();

  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Replay the work…" }).click();
  const where = page.getByLabel("Where in the work");
  await expect(where).toBeEnabled();
  await page.getByRole("dialog", { name: "Replay" }).getByLabel("All in").selectOption("10 s");
  await expect.poll(async () => Number(await where.inputValue())).toBeGreaterThan(0.1);
  await page.getByRole("button", { name: "Pause" }).click();

  const inked = async (): Promise<number> => {
    const { data, channels } = decode(await page.getByTestId("replay").screenshot());
    let dark = 0;
    for (let i = 0; i < data.length; i += channels) if ((data[i] as number) < 115) dark++;
    return dark;
  };
  await where.fill("1");
  // Three strokes at first, one and a half in the middle, none at the beginning.
  await expect.poll(inked).toBeGreaterThan(1000);
  const whole = await inked();
  expect(whole).toBeLessThan(20_000);
  await where.fill("0.5");
  await expect.poll(async () => Math.abs((await inked()) / whole - 0.4)).toBeLessThan(0.25);
  await where.fill("0");
  await expect.poll(inked).toBe(0);

  await page.getByRole("button", { name: "Film" }).click();
  await page.getByLabel("Length").selectOption("5 s");
  await page.getByLabel("Longer side").selectOption("640 px");
  const webm = await film(page);
  const shown = await page.evaluate(
    async (bytes) => {
      const video = document.createElement("video");
      video.muted = true;
      video.src = URL.createObjectURL(new Blob([new Uint8Array(bytes)], { type: "video/webm" }));
      await new Promise((resolve, reject) => {
        video.onloadedmetadata = resolve;
        video.onerror = () => reject(new Error("the film cannot be shown"));
      });
      video.currentTime = 4.9;
      await new Promise((resolve) => {
        video.onseeked = resolve;
      });
      const canvas = document.createElement("canvas");
      canvas.width = video.videoWidth;
      canvas.height = video.videoHeight;
      const context = canvas.getContext("2d");
      context?.drawImage(video, 0, 0);
      const data = context?.getImageData(0, 0, canvas.width, canvas.height).data ?? [];
      let dark = 0;
      for (let i = 0; i < data.length; i += 4) if ((data[i] as number) < 160) dark++;
      return { width: video.videoWidth, height: video.videoHeight, duration: video.duration, dark };
    },
    [...webm],
  );
  expect(shown).toMatchObject({ width: 320, height: 240 });
  expect(shown.duration).toBeGreaterThan(4.8);
  expect(shown.duration).toBeLessThan(5.2);
  expect(shown.dark).toBeGreaterThan(100);

  await page
    .getByRole("group", { name: "Film" })
    .getByRole("combobox")
    .last()
    .selectOption("numbered pictures");
  const files = unzipSync(new Uint8Array(await film(page)));
  expect(Object.keys(files)).toHaveLength(50);
  const last = decode(files["00050.png"] as Uint8Array);
  expect([last.width, last.height]).toEqual([320, 240]);
  const picture = decode(before);
  let worst = 0;
  for (let i = 0; i < 320 * 240; i++)
    for (let c = 0; c < 3; c++)
      worst = Math.max(
        worst,
        Math.abs(
          (last.data[i * last.channels + c] as number) -
            (picture.data[i * picture.channels + c] as number),
        ),
      );
  expect(worst).toBeLessThanOrEqual(1);

  await page.getByLabel("Length").selectOption("5 min");
  await page.getByRole("button", { name: "Write the film" }).click();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText("Stopped. No film was written.")).toBeVisible();
  await page.getByRole("button", { name: "Back to the table" }).click();
  expect(await exported(page, "PNG")).toEqual(before);
});
