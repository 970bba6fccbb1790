import { expect, type Page, test } from "@playwright/test";
import { swell } from "./pen";
import { exported, freshTable, middle, settled } from "./table";
import { toPicture, type Matrix } from "../src/worker/view";

/** Colours on the screen in a box of the view, as seen. */
async function seen(page: Page, x: number, y: number, side = 24): Promise<Uint8Array> {
  const { PNG } = { PNG: await import("fast-png") };
  const shot = await page.screenshot({ clip: { x, y, width: side, height: side } });
  const { data, channels } = PNG.decode(shot);
  const rgb = new Uint8Array((data.length / channels) * 3);
  for (let i = 0; i < data.length / channels; i++)
    for (let c = 0; c < 3; c++) rgb[i * 3 + c] = data[i * channels + c] as number;
  return rgb;
}

const isGrey = (rgb: Uint8Array): boolean => {
  for (let i = 0; i < rgb.length; i += 3)
    if (Math.abs((rgb[i] as number) - (rgb[i + 2] as number)) > 2) return false;
  return true;
};

const greysOf = (rgb: Uint8Array): number => new Set(rgb.filter((_, i) => i % 3 === 0)).size;

test("values, in greys or in steps, tapped or held, change nothing of the picture", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByLabel("Colour as hex").fill("#c03a20");
  await page.getByRole("tab", { name: "Rounds and sprays" }).click();
  await page.getByRole("radio", { name: "Soft round" }).click();
  await pen.stroke(swell([x - 60, y], [x + 60, y], 30, 0.9));
  await settled(page);
  const before = await exported(page, "PNG");
  await page.getByRole("button", { name: "1 : 1" }).click();
  await page.mouse.move(x, y - 200);
  expect(isGrey(await seen(page, x - 12, y - 12))).toBe(false);

  await page.keyboard.press("v");
  await expect.poll(async () => isGrey(await seen(page, x - 12, y - 12))).toBe(true);
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("radio", { name: "3 steps" }).click();
  await expect.poll(async () => greysOf(await seen(page, x - 50, y - 50, 100))).toBeLessThan(16);
  await page.keyboard.press("Escape");
  await page.keyboard.press("v");
  await expect.poll(async () => isGrey(await seen(page, x - 12, y - 12))).toBe(false);

  await page.keyboard.down("v");
  await expect.poll(async () => isGrey(await seen(page, x - 12, y - 12))).toBe(true);
  await page.keyboard.up("v");
  await page.keyboard.press("t");
  await expect(page.getByTestId("view")).toHaveClass(/squint/);
  await page.keyboard.press("t");
  await expect(page.getByTestId("view")).not.toHaveClass(/squint/);
  expect((await exported(page, "PNG")).equals(before)).toBe(true);
});

test("the far view shows the whole picture live, and a press on it goes there", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 1400, height: 1000 });
  const far = page.getByRole("application", { name: /whole picture/ });
  const box = await far.boundingBox();
  if (!box) throw new Error("there is no far view");
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Rounds and sprays" }).click();
  await page.getByRole("radio", { name: "Firm round" }).click();
  const blank = await far.screenshot();
  await pen.stroke(swell([x - 100, y], [x + 100, y], 20, 1));
  await expect.poll(async () => (await far.screenshot()).equals(blank)).toBe(false);

  await page.getByRole("button", { name: "1 : 1" }).click();
  await page.mouse.click(box.x + box.width * 0.25, box.y + box.height * 0.75);
  await expect
    .poll(async () => {
      const matrix = (await page.getByTestId("view").getAttribute("data-matrix")) ?? "";
      const view = await page.getByTestId("view").boundingBox();
      const numbers = matrix.split(" ").map(Number) as Matrix;
      const [px, py] = toPicture(numbers, (view?.width ?? 0) / 2, (view?.height ?? 0) / 2);
      return [Math.round(px / 20), Math.round(py / 20)];
    })
    .toEqual([Math.round(350 / 20), Math.round(750 / 20)]);
});

test("strokes follow two vanishing points; a moved point is one undo", async ({ page }) => {
  const pen = await freshTable(page);
  await page.getByRole("button", { name: "Guides" }).click();
  await page.getByRole("button", { name: "Add: two vanishing points" }).click();
  await page.keyboard.press("Escape");
  const left = page.getByRole("button", { name: /Vanishing point 1/ });
  const right = page.getByRole("button", { name: /Vanishing point 2/ });
  await expect(left).toBeVisible();
  const centre = async (handle: typeof left): Promise<{ x: number; y: number }> => {
    const box = await handle.boundingBox();
    if (!box) throw new Error("the handle is out of sight");
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const from = await centre(left);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 10, from.y + 30, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: "Undo guides" })).toBeEnabled();
  await settled(page);
  const l = await centre(left);
  const r = await centre(right);
  expect(l.y - from.y).toBeCloseTo(30, 0);

  // A cube's three edges at its nearest corner, drawn freehand.
  const { x, y } = await middle(page);
  const corner = { x, y: y + 130 };
  const wavering = (to: { x: number; y: number }) =>
    swell([corner.x, corner.y], [to.x, to.y], 40, 0.6).map((point, i) => ({
      ...point,
      x: point.x + 3 * Math.sin(i * 1.3) * Math.min(1, i / 8),
      y: point.y + 3 * Math.cos(i * 1.7) * Math.min(1, i / 8),
    }));
  const share = (to: { x: number; y: number }, u: number) => ({
    x: corner.x + (to.x - corner.x) * u,
    y: corner.y + (to.y - corner.y) * u,
  });
  await pen.stroke(wavering(share(l, 0.5)));
  await pen.stroke(wavering(share(r, 0.5)));
  await pen.stroke(wavering({ x: corner.x + 2, y: corner.y - 120 }));
  await settled(page);

  const log = (await exported(page, "Work log")).toString().trim().split("\n");
  const commands = log.slice(1).map((row) => JSON.parse(row) as Record<string, unknown>);
  const guides = commands.filter((command) => command.do === "guides.set").at(-1) as {
    guides: { points: { x: number; y: number }[] }[];
  };
  const points = guides.guides[0]?.points ?? [];
  const strokes = commands.filter((command) => command.do === "stroke") as {
    samples: number[][];
  }[];
  expect(strokes).toHaveLength(3);
  strokes.slice(0, 2).forEach(({ samples }, i) => {
    const point = points[i] as { x: number; y: number };
    const [, ax = 0, ay = 0] = samples[0] as number[];
    const d = Math.hypot(point.x - ax, point.y - ay);
    for (const [, px = 0, py = 0] of samples)
      expect(Math.abs((point.x - ax) * (py - ay) - (point.y - ay) * (px - ax)) / d).toBeLessThan(
        0.5,
      );
  });

  // Freely again, with a tap of the key.
  await page.keyboard.press("g");
  await pen.stroke(wavering(share(l, 0.4)));
  await settled(page);
  await page.getByRole("button", { name: "Undo paint" }).click();
  for (let i = 0; i < 3; i++) await page.getByRole("button", { name: "Undo paint" }).click();
  await page.getByRole("button", { name: "Undo guides" }).click();
  await expect.poll(async () => Math.round((await centre(left)).y)).toBe(Math.round(from.y));
});

test("the sun pin is set, swung and taken away, and is never exported", async ({ page }) => {
  await freshTable(page);
  const blank = await exported(page, "PNG");
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Sun pin", exact: true }).click();
  await page.keyboard.press("Escape");
  const sun = page.getByRole("button", { name: /^Sun: light/ });
  await expect(sun).toHaveAccessibleName(/from the front left, 49° high/);
  const box = await sun.boundingBox();
  if (!box) throw new Error("the sun is out of sight");
  const at = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.move(at.x - 20, at.y - 15, { steps: 3 });
  await page.mouse.move(at.x - 40, at.y - 30, { steps: 3 });
  await page.mouse.up();
  await expect(sun).toHaveAccessibleName(/from the left, 73° high/);
  await sun.focus();
  await page.keyboard.press("ArrowDown");
  await expect(sun).toHaveAccessibleName(/68° high/);
  await settled(page);
  expect((await exported(page, "PNG")).equals(blank)).toBe(true);
  await page.reload();
  await settled(page);
  await expect(sun).toHaveAccessibleName(/from the left, 68° high/);
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Sun pin", exact: true }).click();
  await expect(sun).toBeHidden();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo sun pin" }).click();
  await expect(sun).toBeVisible();
});

test("all checks are laid side by side before signing, and say what they find", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 600, height: 400 });
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Colour", exact: true }).click();
  await page.getByRole("radio", { name: "Firm round" }).click();
  await page.getByLabel("Colour as hex").fill("#1f4fb0");
  await page.getByLabel("Size").fill("0.75");
  for (const dy of [-60, -20, 20]) await pen.stroke(swell([x - 250, y + dy], [x - 20, y + dy]));
  await settled(page);
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "All checks, before signing…" }).click();
  const dialog = page.getByRole("dialog", { name: "Before signing" });
  await expect(dialog.getByRole("img")).toHaveCount(10);
  await expect(dialog.getByText(/^Set the sun pin/)).toBeVisible();
  const said = async (name: string): Promise<number[]> => {
    const item = dialog.getByRole("listitem").filter({ hasText: name });
    return [...((await item.textContent()) ?? "").matchAll(/(\d+) %/g)].map((m) => Number(m[1]));
  };
  const [, cool = 0] = await said("Temperature");
  const [dark = 0, light = 0] = await said("Two masses");
  // The blue is all that is cool, and the darker mass.
  expect(cool).toBeGreaterThan(5);
  expect(Math.abs(cool - dark)).toBeLessThanOrEqual(6);
  expect(dark + light).toBe(100);
  expect((await said("Three values")).reduce((a, b) => a + b, 0)).toBeGreaterThan(97);
  const afar = dialog.getByRole("img", { name: "From afar" });
  expect(await afar.evaluate((canvas: HTMLCanvasElement) => [canvas.width, canvas.height])).toEqual(
    [120, 80],
  );
});

test("a form that is lit against the sun pin is told of before signing", async ({ page }) => {
  const pen = await freshTable(page, { width: 600, height: 400 });
  const { x, y } = await middle(page);
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Sun pin", exact: true }).click();
  await settled(page);
  await page.getByRole("tab", { name: "Colour", exact: true }).click();
  await page.getByRole("radio", { name: "Soft round" }).click();
  const dab = async (colour: string, px: number, dx: number, dy: number): Promise<void> => {
    await page.getByLabel("Colour as hex").fill(colour);
    await page.getByLabel("Brush px").fill(String(px));
    await page.getByLabel("Brush px").press("Enter");
    const [px0, py0] = [x - 100 + dx, y + 60 + dy];
    await pen.stroke([0, 1, 2, 3].map((i) => ({ x: px0 + i / 2, y: py0, pressure: 1 })));
    await settled(page);
  };
  // The pin's light comes from the upper left; this ball's from the lower right.
  await page.getByRole("radio", { name: "Firm round" }).click();
  await dab("#b5623a", 150, 0, 0);
  await page.getByRole("button", { name: "Lock transparency" }).click();
  await settled(page);
  await dab("#5e2b22", 90, -28, -28);
  await dab("#f0c9a0", 50, 26, 26);
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "All checks, before signing…" }).click();
  const dialog = page.getByRole("dialog", { name: "Before signing" });
  await expect(dialog.getByText(/^1 of 1 lit against the sun pin/)).toBeVisible();
});

test("a sketch layer is dimmed, tinted and locked in one press, and freed in one undo", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("tab", { name: "Rounds and sprays" }).click();
  await page.getByRole("radio", { name: "Firm round" }).click();
  await page.getByLabel("Colour as hex").fill("#000000");
  await pen.stroke(swell([x - 80, y], [x + 80, y], 20, 1));
  await settled(page);
  await page.mouse.move(x, y - 200);
  expect(isGrey(await seen(page, x - 4, y - 4, 8))).toBe(true);
  await page.getByRole("button", { name: /^Sketch aid/ }).click();
  await expect(page.getByRole("row", { name: /sketch aid · 55/ })).toBeVisible();
  await expect.poll(async () => isGrey(await seen(page, x - 4, y - 4, 8))).toBe(false);
  await pen.stroke(swell([x - 80, y + 40], [x + 80, y + 40], 20, 1));
  await expect(page.getByText(/is locked/)).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: false }).first().click();
  await expect.poll(async () => isGrey(await seen(page, x - 4, y - 4, 8))).toBe(true);
  await expect(page.getByRole("button", { name: /^Sketch aid/ })).toHaveAttribute(
    "aria-pressed",
    "false",
  );
});
