import { type Page } from "@playwright/test";
import { Pen } from "../e2e/pen";
import { layOut } from "./lay-out";
import { type Row } from "./measure";

const MOVES = 90;
const FRAME = 1000 / 60;

/** Waits until the screen under the pen has changed; times each move from its sending. */
async function measure(
  page: Page,
  pen: Pen,
  ready: (x: number, y: number) => Promise<void>,
  y: number,
): Promise<number[]> {
  const times: number[] = [];
  let x = 330;
  await pen.down({ x, y, pressure: 0.8 });
  for (let i = 0; i < MOVES; i++) {
    x += 6;
    const start = performance.now();
    await pen.move({ x, y, pressure: 0.8 });
    await ready(x, y);
    times.push(performance.now() - start);
  }
  await pen.up({ x, y, pressure: 0.8 });
  return times.sort((a, b) => a - b);
}

const p95 = (times: number[]): number => times[Math.floor(times.length * 0.95)] as number;
const p50 = (times: number[]): number => times[times.length >> 1] as number;

/** Whether a pixel of a screenshot clip is dark. */
const shotReady =
  (page: Page) =>
  async (x: number, y: number): Promise<void> => {
    const { decode } = await import("fast-png");
    for (let tries = 0; tries < 60; tries++) {
      const shot = decode(
        await page.screenshot({ clip: { x: x - 6, y: y - 2, width: 5, height: 5 } }),
      );
      const middle = (2 * 5 + 2) * shot.channels;
      if ((shot.data[middle] as number) < 120) return;
    }
  };

/** Pen to pixel on a sheet of 6000 × 4500 with 20 layers, beside line segments on a bare canvas. */
export async function penToPixel(newPage: () => Promise<Page>): Promise<Row[]> {
  const page = await newPage();
  await layOut(page, 6000, 4500);
  const pen = await Pen.on(page);
  await page.getByRole("radio", { name: "Soft round" }).click();
  for (let i = 1; i < 20; i++) {
    await page.getByRole("button", { name: "Add layer", exact: true }).click();
    await pen.stroke(
      Array.from({ length: 12 }, (_, k) => ({ x: 300 + k * 50, y: 110 + i * 12, pressure: 0.4 })),
    );
  }
  await page.getByRole("radio", { name: "Even liner" }).click();
  await page.getByLabel("Size").fill("0.6");
  await page.getByLabel("Colour as hex").fill("#000000");
  await page.waitForTimeout(3000);
  const ours = await measure(page, pen, shotReady(page), 500);

  await page.evaluate(() => {
    const canvas = document.createElement("canvas");
    canvas.width = 1280;
    canvas.height = 800;
    canvas.style.cssText = "position:fixed;inset:0;z-index:9999;background:#fff;touch-action:none";
    document.body.append(canvas);
    const context = canvas.getContext("2d");
    if (!context) return;
    context.fillStyle = "#fff";
    context.fillRect(0, 0, 1280, 800);
    context.lineWidth = 9;
    context.lineCap = "round";
    let last: [number, number] | null = null;
    canvas.addEventListener("pointerdown", (event) => {
      last = [event.clientX, event.clientY];
    });
    canvas.addEventListener("pointermove", (event) => {
      if (!last || event.buttons === 0) return;
      context.beginPath();
      context.moveTo(...last);
      last = [event.clientX, event.clientY];
      context.lineTo(...last);
      context.stroke();
    });
  });
  const bare = await measure(page, pen, shotReady(page), 560);
  const behind = (p95(ours) - p95(bare)) / FRAME;
  return [
    {
      what: "pen to pixel p95, 6000 × 4500, 20 layers",
      reference: "bare canvas, line segments",
      wanted: { most: 2 },
      ratio: p95(ours) / p95(bare),
      note: `median ${p50(ours).toFixed(0)} against ${p50(bare).toFixed(0)} ms, p95 ${p95(ours).toFixed(0)} against ${p95(bare).toFixed(0)} ms (taking the screenshot included), ${behind.toFixed(1)} frames behind`,
    },
  ];
}
