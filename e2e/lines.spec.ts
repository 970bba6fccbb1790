import { expect, type Page, test } from "@playwright/test";
import { fromItsLog, line, seen, takeBrush } from "./painter";
import { type PenPoint } from "./pen";
import { exported, freshTable, middle, settled, tableReady } from "./table";

/** A table with a line layer in hand, and a pen that draws even lines. */
async function lineTable(page: Page) {
  const pen = await freshTable(page);
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await page.getByRole("button", { name: "Other layers" }).click();
  await page.getByRole("button", { name: "Lines that stay editable" }).click();
  await expect(page.getByRole("row", { name: /^Lines/ })).toBeVisible();
  await takeBrush(page, "Even liner", 16, "#101018");
  return { pen, ...(await middle(page)) };
}

const correct = async (page: Page, act: string): Promise<void> => {
  const tool = page.getByRole("button", { name: "Correct", exact: true });
  if ((await tool.getAttribute("aria-pressed")) !== "true") await tool.click();
  await page.getByRole("radio", { name: act, exact: true }).click();
};

const isDark = async (page: Page, x: number, y: number, is: boolean): Promise<void> => {
  const light = async (): Promise<number> => Math.max(...(await seen(page, x, y)));
  if (is) await expect.poll(light).toBeLessThan(120);
  else await expect.poll(light).toBeGreaterThan(180);
};

const drag = (from: [number, number], to: [number, number]): PenPoint[] =>
  line(from, to).filter((_point, i) => i % 2 === 0);

test("lines are drawn, pulled, cut, redrawn, coloured and stay lines after a reload", async ({
  page,
}) => {
  const { pen, x, y } = await lineTable(page);
  await pen.stroke(line([x - 200, y - 60], [x + 200, y - 60]));
  await pen.stroke(line([x + 150, y - 140], [x + 150, y + 120]));
  await pen.stroke(line([x - 200, y + 60], [x + 120, y + 60]));
  await isDark(page, x - 60, y - 60, true);

  // Pulled down, the middle goes along, the ends stay.
  await correct(page, "Pull");
  await pen.stroke(drag([x - 60, y - 60], [x - 60, y - 20]));
  await isDark(page, x - 60, y - 20, true);
  await isDark(page, x - 60, y - 60, false);
  await isDark(page, x - 196, y - 60, true);
  await page.getByRole("button", { name: "Undo pull a line" }).click();
  await isDark(page, x - 60, y - 60, true);

  // What sticks out beyond the crossing is tapped and goes.
  await correct(page, "Cut");
  await page.mouse.click(x + 185, y - 60);
  await isDark(page, x + 185, y - 60, false);
  await isDark(page, x + 120, y - 60, true);

  // A stretch is drawn over, and the line grows from its end.
  await correct(page, "Redraw");
  await pen.stroke([
    ...drag([x - 120, y + 60], [x - 60, y + 100]),
    ...drag([x - 56, y + 100], [x, y + 60]),
  ]);
  await isDark(page, x - 58, y + 97, true);
  await isDark(page, x - 60, y + 60, false);
  await pen.stroke(drag([x - 196, y + 60], [x - 250, y + 20]));
  await isDark(page, x - 240, y + 27, true);

  // Chosen lines take the colour in hand.
  await correct(page, "Choose");
  await page.mouse.click(x + 150, y - 120);
  await expect(page.getByText("1 line", { exact: true })).toBeVisible();
  await page.keyboard.down("Shift");
  await page.mouse.click(x - 160, y + 60);
  await page.keyboard.up("Shift");
  await expect(page.getByText("2 lines", { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Wider" }).click();
  await page.getByRole("button", { name: "More", exact: true }).click();
  await page.getByRole("button", { name: "To the back" }).click();
  await settled(page);

  await page.reload();
  await tableReady(page);
  await expect(page.getByRole("row", { name: /^Lines/ })).toHaveAccessibleName(/lines/);
  await isDark(page, x - 58, y + 97, true);
  await page.getByRole("row", { name: /^Lines/ }).click();
  await correct(page, "Pull");
  await pen.stroke(drag([x - 100, y - 60], [x - 100, y - 100]));
  await isDark(page, x - 100, y - 100, true);
  await settled(page);
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});

test("lines are erased, joined, evened out and smoothed by strokes over them; a hand that misses is told", async ({
  page,
}) => {
  const { pen, x, y } = await lineTable(page);
  await pen.stroke(line([x - 200, y - 60], [x - 20, y - 60]));
  await pen.stroke(line([x + 6, y - 58], [x + 200, y - 60]));
  await isDark(page, x - 6, y - 59, false);
  await correct(page, "Join");
  await pen.stroke(drag([x - 30, y - 60], [x + 20, y - 58]));
  await isDark(page, x - 6, y - 59, true);
  await correct(page, "Erase");
  await pen.stroke(drag([x + 100, y - 100], [x + 100, y - 20]));
  await isDark(page, x + 100, y - 60, false);
  await isDark(page, x + 180, y - 60, true);
  await correct(page, "Weight");
  await isDark(page, x - 110, y - 47, false);
  for (let i = 0; i < 4; i++) await pen.stroke(drag([x - 140, y - 60], [x - 80, y - 60]));
  await isDark(page, x - 110, y - 47, true);
  await correct(page, "Smooth");
  await pen.stroke(drag([x - 160, y - 60], [x - 60, y - 60]));
  await expect(page.getByRole("button", { name: "Undo smooth lines" })).toBeEnabled();
  await correct(page, "Pull");
  await pen.stroke(drag([x - 100, y + 100], [x - 60, y + 130]));
  await expect(page.getByText("There is no line there", { exact: false })).toBeVisible();
  // On paint there is nothing to correct: the way to a line layer is offered.
  await page.getByRole("row", { name: /^Layer 1/ }).click();
  await expect(page.getByRole("button", { name: "Add a line layer" })).toBeVisible();
});

test("lines go out as SVG, come in again as the same lines, and become paint", async ({ page }) => {
  const { pen, x, y } = await lineTable(page);
  await pen.stroke(line([x - 200, y - 60], [x + 200, y - 60]));
  await settled(page);
  const buffer = await exported(page, "SVG");
  const svg = buffer.toString("utf8");
  expect(svg).toMatch(/<svg [^>]*mm"/);
  expect(svg).toMatch(/<title>Lines<\/title>/);
  expect(svg).toMatch(/stroke-width="16"/);
  await page.getByRole("button", { name: "More for layers" }).click();
  await page.getByRole("button", { name: "Turn lines into paint" }).click();
  await expect(page.getByRole("row", { name: /^Lines/ })).toHaveAccessibleName(/normal/);
  await isDark(page, x, y - 60, true);
  await settled(page);

  await page.getByRole("link", { name: "Portfolio" }).click();
  // Once the shelf shows its pictures it listens to files, too.
  await expect(page.getByRole("link", { name: "Open Test sheet" })).toBeVisible();
  const file = { name: "lines.svg", mimeType: "image/svg+xml", buffer };
  await page.getByTestId("bring-in").setInputFiles(file);
  await page.getByRole("link", { name: "Open lines" }).click();
  await tableReady(page);
  await expect(page.getByRole("row", { name: /^Lines/ })).toHaveAccessibleName(/lines/);
  await isDark(page, x, y - 60, true);
  await correct(page, "Pull");
  await pen.stroke(drag([x, y - 60], [x, y]));
  await isDark(page, x, y, true);
});

test("marks of paint are read as lines, crossings whole, and corrected as lines", async ({
  page,
}) => {
  const pen = await freshTable(page);
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await takeBrush(page, "Even liner", 16, "#101018");
  const { x, y } = await middle(page);
  await pen.stroke(line([x - 180, y], [x + 180, y]));
  await pen.stroke(line([x + 100, y - 120], [x + 100, y + 120]));
  await page.keyboard.press("Control+k");
  await page.keyboard.type("Turn paint into lines");
  await page.keyboard.press("Enter");
  const lines = page.getByRole("row", { name: /^Layer 1, as lines/ });
  await expect(lines).toHaveAttribute("aria-selected", "true");
  await isDark(page, x + 160, y, true);
  // Both marks are one line each: beyond their crossing a tap takes one end away, and nothing else.
  await correct(page, "Cut");
  await page.mouse.click(x + 150, y);
  await isDark(page, x + 150, y, false);
  await isDark(page, x, y, true);
  await isDark(page, x + 100, y + 100, true);
  // Chosen, the upright one is turned about its middle by the handle: its ends lie at the sides then.
  await correct(page, "Choose");
  await page.mouse.click(x + 100, y + 100);
  const handle = page.getByRole("button", { name: /^Turn and stretch the chosen lines/ });
  for (let i = 0; i < 18; i++) await handle.press("ArrowRight");
  await isDark(page, x + 100, y + 100, false);
  await isDark(page, x + 190, y, true);
  await settled(page);
  await page.reload();
  await tableReady(page);
  await expect(lines).toHaveAttribute("aria-selected", "true");
  const { shown, painted } = await fromItsLog(page);
  expect(painted.equals(shown)).toBe(true);
});
