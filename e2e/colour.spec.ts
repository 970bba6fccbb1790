import sharp from "sharp";
import { expect, type Page, test } from "@playwright/test";
import { decode } from "fast-png";
import { execFileSync } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { hexToOklch } from "../src/engine/colour/oklch";
import { stirred } from "../src/engine/pigment/pigment";
import { type Pen, type PenPoint, swell } from "./pen";
import { exported, freshTable, middle, settled } from "./table";

/** A loop that overlaps its own beginning; `gap`: the share of the turn that is left open. */
function loop(cx: number, cy: number, r: number, gap = -0.04): PenPoint[] {
  return Array.from({ length: 64 }, (_, i) => {
    const turn = (i / 63) * (1 - gap) * 2 * Math.PI;
    return { x: cx + Math.cos(turn) * r, y: cy + Math.sin(turn) * r * 0.85, pressure: 0.7 };
  });
}

async function draw(page: Page, pen: Pen, points: PenPoint[]): Promise<void> {
  await pen.stroke(points);
  await settled(page);
}

async function press(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name, exact: true }).click();
  await settled(page);
}

/** Chooses from the menu for layers. */
async function more(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name: "More for layers" }).click();
  await press(page, name);
}

const colour = (page: Page, hex: string) => page.getByLabel("Colour as hex").fill(hex);

async function tap(page: Page, x: number, y: number): Promise<void> {
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.up();
  await settled(page);
}

/** What an exported work log paints in Node, as the pixels of a PNG. */
async function replayed(log: Buffer): Promise<Uint8Array> {
  const folder = await mkdtemp(join(tmpdir(), "pampas-log-"));
  const [from, to] = [join(folder, "work.jsonl"), join(folder, "work.png")];
  await writeFile(from, log);
  execFileSync("npx", ["tsx", "src/cli/pampas.ts", "render", from, to]);
  const pixels = decode(await readFile(to));
  await rm(folder, { recursive: true });
  return pixels.data as Uint8Array;
}

const rgb = (data: ArrayLike<number>, channels: number): number[] => {
  const out: number[] = [];
  for (let i = 0; i < data.length; i += channels)
    out.push(data[i] as number, data[i + 1] as number, data[i + 2] as number);
  return out;
};

test("from lines to a coloured figure: flats, shade, light, contour; its log paints the same pixels", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 800, height: 600 });
  const { x, y } = await middle(page);

  // Lines, one of them with a gap.
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await page.getByRole("radio", { name: "Even liner" }).click();
  await draw(page, pen, loop(x - 110, y - 20, 110, 0.012));
  await draw(page, pen, loop(x + 140, y + 10, 80));
  await draw(page, pen, loop(x - 140, y - 50, 28));
  for (const [dx, dy] of [
    [-60, -60],
    [-30, -30],
    [110, -20],
    [130, -30],
    [150, -20],
    [170, 10],
  ] as const)
    await draw(page, pen, swell([x + dx, y + dy], [x + dx + 14, y + dy + 22], 12, 0.5));
  await press(page, "Line source");
  await expect(page.getByRole("row", { name: /Layer 1, normal · source/ })).toBeVisible();

  // What would leak is said before it is filled, and what would hold it.
  await press(page, "Add layer");
  await page.keyboard.press("e");
  await page.getByLabel("Borders", { exact: true }).selectOption("lines");
  await page.getByLabel("Bridge", { exact: true }).fill("0");
  await page.mouse.move(x - 60, y + 20);
  await expect(page.getByTestId("region-look")).toBeVisible();
  await expect(page.getByTestId("escape")).toHaveCount(1);
  await page.getByRole("button", { name: /^Bridge \d+ px$/ }).click();
  await colour(page, "#c08a3c");
  await tap(page, x - 60, y + 20);
  await press(page, "Undo fill");
  await press(page, "Remove layers");

  // Flats, recoloured by tapping.
  await page.getByRole("radio", { name: "Flats", exact: true }).click();
  await press(page, "Lay flats");
  await expect(page.getByRole("row", { name: /^Flats/ })).toHaveAttribute("aria-selected", "true");
  await page.getByLabel("Tolerance").fill("4");
  await colour(page, "#4f6d8f");
  await tap(page, x - 60, y + 20);
  await colour(page, "#d9a441");
  await tap(page, x + 140, y + 10);
  await colour(page, "#f0e2c0");
  await tap(page, x - 140, y - 50);
  // Joined by dragging from one flat to another.
  await page.getByLabel("Join flats").check();
  await page.mouse.move(x - 140, y - 50);
  await page.mouse.down();
  await page.mouse.move(x - 100, y - 20, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  await press(page, "Undo fill");
  await page.getByLabel("Join flats").uncheck();
  await page.keyboard.press("e");

  // A clipped shade in multiply, a light in overlay.
  await press(page, "Add layer");
  await press(page, "Clip to the layer below");
  await page.getByLabel("Blend mode").selectOption("multiply");
  await settled(page);
  await page.getByRole("tab", { name: "Colour", exact: true }).click();
  await page.getByRole("radio", { name: "Firm round" }).click();
  await colour(page, "#8d86b8");
  await draw(page, pen, swell([x - 190, y + 60], [x + 10, y + 60]));
  await draw(page, pen, swell([x + 80, y + 60], [x + 210, y + 60]));
  for (const dy of [30, 45, 75, 85])
    await draw(page, pen, swell([x - 170, y + dy], [x - 60, y + dy + 10], 16, 0.6));
  await press(page, "Edit mask: Paint hides, Lift reveals");
  await draw(page, pen, swell([x - 150, y + 40], [x - 60, y + 80]));
  await press(page, "Back to paint");
  await press(page, "Add layer");
  await page.getByLabel("Blend mode").selectOption("overlay");
  await settled(page);
  await page.getByRole("radio", { name: "Soft round" }).click();
  await colour(page, "#ffd98a");
  await draw(page, pen, swell([x - 180, y - 90], [x - 60, y - 100]));

  // All of it in a group with a contour; an adjustment over it.
  await page.getByRole("row", { name: /^Flats/ }).click({ modifiers: ["Shift"] });
  await more(page, "Group");
  await page.getByRole("button", { name: "Shading helps" }).click();
  await press(page, "Contour");
  await expect(page.getByLabel("Width of the contour")).toBeVisible();
  await page.getByRole("button", { name: "Other layers" }).click();
  await press(page, "Levels");
  await expect(page.getByTestId("histogram")).toBeVisible();
  await page.getByLabel("Middle", { exact: true }).fill("0.4");
  await press(page, "Keep");

  // Lamplight: a gradient in a lasso that is kept; a rim and a grain along the flats.
  await page.getByRole("row", { name: /^Flats/ }).click();
  await press(page, "Add layer");
  await page.getByLabel("Blend mode").selectOption("soft-light");
  await settled(page);
  await page.keyboard.press("w");
  await page.mouse.move(x - 190, y - 110);
  await page.mouse.down();
  for (const [dx, dy] of [
    [0, -120],
    [20, 90],
    [-180, 60],
  ] as const)
    await page.mouse.move(x + dx, y + dy, { steps: 5 });
  await page.mouse.up();
  await settled(page);
  await page.getByRole("button", { name: "Selection", exact: true }).click();
  await press(page, "Grow");
  await press(page, "Feather");
  await page.getByLabel("Name of the selection").fill("Lamplight");
  await press(page, "Keep");
  await page.keyboard.press("Escape");
  await colour(page, "#ffe2a0");
  await press(page, "Fill");
  await page.getByRole("radio", { name: "Gradient" }).click();
  await page.mouse.move(x - 170, y - 100);
  await page.mouse.down();
  await page.mouse.move(x + 40, y + 80, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  await page.keyboard.press("e");
  await page.keyboard.press("w");
  await press(page, "Select nothing");
  await page.keyboard.press("w");
  await page.getByRole("row", { name: /^Flats/ }).click();
  await page.getByRole("button", { name: "Shading helps" }).click();
  await press(page, "Edge band of 8 px");
  await page.keyboard.press("Comma");
  await page.keyboard.press("Comma");
  await settled(page);
  await page.getByRole("row", { name: /^Flats/ }).click();
  await page.getByRole("button", { name: "Shading helps" }).click();
  await press(page, "Texture of laid");

  // One flat in another colour everywhere; the whole of it put in steps; a copy of all that is seen.
  await page.getByRole("row", { name: /^Flats/ }).click();
  await colour(page, "#c9605a");
  await press(page, "Fill");
  await page.getByRole("radio", { name: "Everywhere" }).click();
  await tap(page, x + 140, y + 40);
  await page.getByRole("radio", { name: "Tap" }).click();
  await page.keyboard.press("e");
  await page.getByRole("button", { name: "Adjust", exact: true }).click();
  await press(page, "Hue, saturation, lightness…");
  await page.getByLabel("Hue", { exact: true }).last().fill("12");
  await press(page, "Keep");
  await more(page, "New layer from visible");
  await page.getByRole("button", { name: "Duplicate layers" }).click();
  await settled(page);
  await page.keyboard.press("Control+ArrowDown");
  await settled(page);
  await page.getByRole("button", { name: "Remove layers" }).click();
  await settled(page);

  const png = decode(await exported(page, "PNG"));
  const seen = rgb(png.data, png.channels);
  expect(new Set(seen.map((v) => v >> 4)).size).toBeGreaterThan(6);
  const log = await exported(page, "Work log");
  expect(log.toString("utf8").match(/^\{"do":/gm)?.length).toBeGreaterThanOrEqual(40);
  const again = await replayed(log);
  expect(again.length).toBe(png.data.length);
  expect(rgb(again, png.channels).every((v, i) => v === seen[i])).toBe(true);
});

test("what is selected is all that changes; it is copied, pasted, kept and called back", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.keyboard.press("w");
  await page.mouse.move(x - 80, y - 80);
  await page.mouse.down();
  for (const [dx, dy] of [
    [80, -80],
    [80, 80],
    [-80, 80],
  ] as const)
    await page.mouse.move(x + dx, y + dy, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  await expect(page.getByTestId("ants")).toBeVisible();
  // While D is held, what is drawn is taken away; after it all is as before.
  await page.keyboard.down("d");
  await expect(page.getByRole("radio", { name: "Take away" })).toBeChecked();
  await page.mouse.move(x - 20, y - 60);
  await page.mouse.down();
  for (const [dx, dy] of [
    [20, -60],
    [20, 60],
    [-20, 60],
  ] as const)
    await page.mouse.move(x + dx, y + dy, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  await page.keyboard.up("d");
  await expect(page.getByRole("radio", { name: "Anew" })).toBeChecked();
  await page.keyboard.press("a");
  await page.getByRole("radio", { name: "6B pencil" }).click();
  await draw(page, pen, swell([x - 200, y], [x + 200, y]));
  const painted = async (): Promise<[number, number]> => {
    const { data, width, height, channels } = decode(await exported(page, "PNG"));
    const middle = ((height / 2) * width + width / 2) * channels;
    expect(data[middle]).toBeGreaterThan(225);
    let [left, right] = [width, 0];
    for (let i = 0; i < width * height; i++)
      if (255 - (data[i * channels] as number) > 60) {
        left = Math.min(left, i % width);
        right = Math.max(right, i % width);
      }
    return [left, right];
  };
  const [left, right] = await painted();
  const zoom = Number((await page.getByTestId("view").getAttribute("data-matrix"))?.split(" ")[0]);
  expect(right - left).toBeLessThan(164 / zoom);
  expect(right - left).toBeGreaterThan(140 / zoom);

  await page.keyboard.press("w");
  await page.getByRole("button", { name: "Selection", exact: true }).click();
  await press(page, "Grow");
  await page.getByLabel("Name of the selection").fill("Window");
  await press(page, "Keep");
  await page.keyboard.press("Escape");
  await page.getByTestId("view").focus();
  await page.keyboard.press("Control+c");
  await page.keyboard.press("Control+v");
  await expect(page.getByRole("row", { name: /^Pasted/ })).toBeVisible();
  await press(page, "Select nothing");
  await expect(page.getByTestId("ants")).toBeHidden();
  await page.getByRole("button", { name: "Selection", exact: true }).click();
  await press(page, "Window");
  await expect(page.getByTestId("ants")).toBeVisible();
  await page.keyboard.press("Control+Shift+z");
});

test("colours of the picture go into wells, are ordered, saved and brought in; checks show charts", async ({
  page,
}) => {
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await page.getByRole("radio", { name: "6B pencil" }).click();
  for (const [i, hex] of ["#b03a2e", "#2e6ab0", "#3a8f4f"].entries()) {
    await colour(page, hex);
    await draw(page, pen, swell([x - 150, y - 60 + i * 50], [x + 150, y - 60 + i * 50]));
  }
  await page.getByRole("tab", { name: "Wells", exact: true }).click();
  await page.getByRole("button", { name: "More for wells" }).click();
  await press(page, "5 colours from the picture");
  const wells = page.getByRole("group", { name: "Colours in the wells" }).getByRole("button");
  await expect.poll(() => wells.count()).toBeGreaterThan(2);
  const before = await wells.count();
  await colour(page, "#123456");
  await press(page, "Keep the colour in hand in these wells");
  await expect(wells).toHaveCount(before + 1);
  await page.getByRole("button", { name: "More for wells" }).click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save as Design tokens" }).click(),
  ]);
  const tokens = await readFile(await download.path(), "utf8");
  expect(tokens).toContain("#123456");
  await page.getByLabel("Palette file").setInputFiles({
    name: "brass.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("#e8b04a brass\n#1d2b3a night"),
  });
  await expect(wells).toHaveCount(2);
  await page.getByLabel("Palette file").setInputFiles({
    name: "bad.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("no colours at all"),
  });
  await expect(page.getByText(/was not brought in/)).toBeVisible();
  await expect(wells).toHaveCount(2);
  // A picture is no palette: its colours are offered.
  const flag = await sharp({
    create: { width: 60, height: 40, channels: 3, background: "#b03a2e" },
  })
    .composite([
      {
        input: { create: { width: 30, height: 40, channels: 3, background: "#2e6ab0" } },
        left: 0,
        top: 0,
      },
    ])
    .png()
    .toBuffer();
  await page
    .getByLabel("Palette file")
    .setInputFiles({ name: "flag.png", mimeType: "image/png", buffer: flag });
  await page.getByRole("button", { name: "Colours from it" }).click();
  await expect(wells).toHaveCount(2);
  await expect(page.getByRole("button", { name: "Well #b03a2e" })).toBeVisible();
  await page.getByLabel("Wells", { exact: true }).selectOption({ label: "brass" });
  await page.getByRole("button", { name: "Well brass" }).click();
  await expect(page.getByLabel("Colour as hex")).toHaveValue("#e8b04a");

  await page.getByRole("tab", { name: "Harmony", exact: true }).click();
  await page.getByLabel("Harmony", { exact: true }).selectOption("triad");
  await page.getByRole("button", { name: /^Shade #/ }).click();
  await expect(page.getByLabel("Colour as hex")).not.toHaveValue("#e8b04a");

  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Values and hues" }).click();
  await expect(page.getByTestId("values-chart")).toHaveAttribute("aria-label", /% light/);
  // A menu closes when it has done its work.
  await expect(page.getByRole("button", { name: "Where the eye goes" })).toBeHidden();
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Where the eye goes" }).click();
  await expect(page.getByTestId("eye-pull")).toBeVisible();
});

test("two colours are stirred as paint: blue and yellow make green", async ({ page }) => {
  await freshTable(page, { width: 300, height: 200 });
  await colour(page, "#f5d327");
  await page.getByRole("button", { name: "Swap colours" }).click();
  await colour(page, "#1b2a8c");
  await page.getByRole("tab", { name: "Mix", exact: true }).click();
  const strings = page.getByRole("group", { name: "Mixed with second" });
  await expect(strings.getByRole("button")).toHaveCount(9);
  await strings.getByRole("button", { name: /^Mixture 5 of 9/ }).click();
  const hex = await page.getByLabel("Colour as hex").inputValue();
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16));
  expect(g).toBeGreaterThan(1.2 * Math.max(r ?? 0, b ?? 0));
  // What it was mixed from stays, so that another one can be tried.
  await expect(strings.getByRole("button", { name: /^Mixture 1 of 9/ })).toHaveAccessibleName(
    /#1b2a8c/,
  );
  await page.getByRole("group", { name: "Mixed with white" }).getByRole("button").last().click();
  await expect(page.getByLabel("Colour as hex")).toHaveValue("#ffffff");

  await colour(page, "#6b8e3c");
  const tubes = page.getByRole("group", { name: "From tubes" });
  await expect(tubes.getByRole("listitem").first()).toHaveText(/^\d [A-Z]/);
  await expect(tubes).toHaveAttribute("aria-busy", "false");
  const mixture = tubes.getByRole("button", { name: /^Mixture from tubes/ });
  const name = (await mixture.getAttribute("aria-label")) ?? "";
  await mixture.click();
  await expect(page.getByLabel("Colour as hex")).toHaveValue(name.slice(-7));

  // Picked halfway, the colour in hand is stirred toward what lies on the picture: blue into white gains chroma.
  const { x, y } = await middle(page);
  await page.getByRole("button", { name: "Pick", exact: true }).click();
  await page.mouse.click(x, y);
  const field = page.getByLabel("Colour as hex");
  await expect(field).not.toHaveValue(name.slice(-7));
  const sheet = await field.inputValue();
  await colour(page, "#1b2a8c");
  await page.getByLabel("How far toward the picked colour").fill("50");
  await page.mouse.click(x, y);
  await expect(field).toHaveValue(stirred("#1b2a8c", sheet, 0.5));
  const tint = hexToOklch(await field.inputValue());
  expect(tint.l).toBeGreaterThan(hexToOklch("#1b2a8c").l + 0.1);
  expect(Math.abs(tint.h - hexToOklch("#1b2a8c").h)).toBeLessThan(25);
});
