import { chromium, expect, type Page, test } from "@playwright/test";
import { decode } from "fast-png";
import { unzipSync } from "fflate";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Pen, swell } from "./pen";
import { exported, middle, openPortfolio, settled, tableReady } from "./table";

/** The part of the screen that shows the picture and nothing that lies over it. */
async function pictureShot(page: Page): Promise<Buffer> {
  const box = await page.getByTestId("view").boundingBox();
  if (!box) throw new Error("there is no view");
  await page.mouse.move(5, 5);
  return page.screenshot({
    clip: { x: box.x + 8, y: box.y + 8, width: box.width - 16, height: box.height - 90 },
  });
}

function apart(one: Buffer, other: Buffer): number {
  const [a, b] = [decode(one), decode(other)];
  expect([a.width, a.height]).toEqual([b.width, b.height]);
  let most = 0;
  a.data.forEach((v, i) => {
    most = Math.max(most, Math.abs(v - (b.data[i] as number)));
  });
  return most;
}

test("sketched, killed, reopened and exported", async ({ playwright: _ }, info) => {
  const profile = await mkdtemp(join(tmpdir(), "pampas-profile-"));
  const { launchOptions, baseURL, viewport } = info.project.use;
  const start = () =>
    chromium.launchPersistentContext(profile, { ...launchOptions, baseURL, viewport });

  let context = await start();
  let page = context.pages()[0] ?? (await context.newPage());
  await openPortfolio(page);
  await page.getByRole("button", { name: "New picture" }).first().click();
  await page.getByRole("radio", { name: /A4 sheet/ }).click();
  await page.getByLabel("Title").fill("Night shift");
  await expect(page.getByText("2480 × 3508 px")).toBeVisible();
  await page.getByRole("button", { name: "Lay out the sheet" }).click();
  await tableReady(page);

  const pen = await Pen.on(page);
  const { x, y } = await middle(page);
  await page.getByRole("radio", { name: "6B pencil" }).click();
  await page.getByLabel("Size").fill("0.6");
  for (let i = 0; i < 5; i++)
    await pen.stroke(swell([x - 150, y - 160 + i * 40], [x + 150, y - 190 + i * 52]));
  await page.getByRole("button", { name: "Add layer", exact: true }).click();
  await expect(page.getByRole("row", { name: /Layer 2/ })).toHaveAttribute("aria-selected", "true");
  await page.getByLabel("Blend mode").selectOption("multiply");
  await expect(page.getByRole("row", { name: /Layer 2, multiply/ })).toBeVisible();
  await page.getByRole("radio", { name: "Firm round" }).click();
  await page.getByLabel("Colour as hex").fill("#c0562f");
  for (let i = 0; i < 5; i++)
    await pen.stroke(swell([x - 120 + i * 50, y - 180], [x - 90 + i * 45, y + 150]));
  await settled(page);
  const all = await pictureShot(page);
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+Shift+z");
  await settled(page);
  const before = await pictureShot(page);
  expect(apart(all, before)).toBeGreaterThan(40);

  // The whole browser is killed, not closed.
  const { execFileSync } = await import("node:child_process");
  execFileSync("pkill", ["-9", "-f", profile]);
  await context.close().catch(() => undefined);

  context = await start();
  page = context.pages()[0] ?? (await context.newPage());
  await page.goto("/");
  await page.getByRole("link", { name: "Open Night shift" }).click();
  await tableReady(page);
  await expect(page.getByRole("row", { name: /Layer 2, multiply/ })).toBeVisible();
  await expect.poll(async () => apart(before, await pictureShot(page))).toBeLessThanOrEqual(1);

  // The screen at 1:1, the PNG and the OpenRaster file agree.
  await page.getByRole("button", { name: "1 : 1" }).click();
  const png = decode(await exported(page, "PNG"), { checkCrc: true });
  expect([png.width, png.height, png.channels, png.depth]).toEqual([2480, 3508, 3, 8]);
  expect((png.resolution?.x ?? 0) * 0.0254).toBeCloseTo(300, 0);
  const deep = decode(
    await exported(page, "PNG", async () => {
      await page.getByLabel("Depth").selectOption("16");
    }),
  );
  expect(deep.depth).toBe(16);
  const files = unzipSync(
    new Uint8Array(
      await exported(page, "OpenRaster", async () => {
        const same = page.getByLabel("Looks the same everywhere");
        await expect(same).toBeChecked();
      }),
    ),
  );
  const merged = decode(files["mergedimage.png"] as Uint8Array);
  let difference = 0;
  for (let i = 0; i < png.width * png.height; i++)
    for (let c = 0; c < 3; c++)
      difference = Math.max(
        difference,
        Math.abs((png.data[i * 3 + c] as number) - (merged.data[i * 4 + c] as number)),
      );
  expect(difference).toBe(0);
  const dismiss = page.getByRole("button", { name: "Dismiss" });
  while ((await dismiss.count()) > 0) await dismiss.first().click();
  await expect(dismiss).toHaveCount(0);
  const shot = decode(await pictureShot(page));
  const box = await page.getByTestId("view").boundingBox();
  // The middle of the picture lies in the middle of the view, moved up by half of the options' room.
  const matrix = await page.evaluate(
    () => document.querySelector<HTMLElement>("[data-testid=view]")?.dataset.matrix ?? "",
  );
  const [, , , , e, f] = matrix.split(" ").map(Number) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  expect(box).not.toBeNull();
  let screenApart = 0;
  for (let sy = 0; sy < shot.height; sy++)
    for (let sx = 0; sx < shot.width; sx++) {
      const px = sx + 8 - e;
      const py = sy + 8 - f;
      if (px < 0 || py < 0 || px >= png.width || py >= png.height) continue;
      for (let c = 0; c < 3; c++)
        screenApart = Math.max(
          screenApart,
          Math.abs(
            (shot.data[(sy * shot.width + sx) * shot.channels + c] as number) -
              (png.data[(py * png.width + px) * 3 + c] as number),
          ),
        );
    }
  expect(screenApart).toBeLessThanOrEqual(1);
  await context.close();
  await rm(profile, { recursive: true, force: true });
});
