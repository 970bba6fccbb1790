import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Page } from "@playwright/test";
import { decode } from "fast-png";
import { type PenPoint } from "./pen";
import { exported } from "./table";

/** A firm stroke from one place of the page to another. */
export const line = (from: [number, number], to: [number, number]): PenPoint[] =>
  Array.from({ length: 40 }, (_, i) => {
    const u = i / 39;
    const [x, y] = [from[0] + (to[0] - from[0]) * u, from[1] + (to[1] - from[1]) * u];
    return { x, y, pressure: 0.6, tiltX: 15, tiltY: -10 };
  });

export async function takeBrush(
  page: Page,
  name: string,
  size: number,
  colour: string,
): Promise<void> {
  await page.getByRole("radio", { name, exact: true }).click();
  await page.getByLabel("Brush px").fill(String(size));
  await page.getByLabel("Brush px").press("Enter");
  await page.getByLabel("Colour as hex").fill(colour);
  await page.getByLabel("Colour as hex").press("Enter");
}

export async function openOil(page: Page): Promise<void> {
  await page.getByRole("tab", { name: "Paint", exact: true }).click();
  await page.getByRole("tab", { name: "Oil", exact: true }).click();
}

/** Mean colour 0…255 of a few px of the page. */
export async function seen(page: Page, x: number, y: number): Promise<[number, number, number]> {
  const clip = { x: x - 6, y: y - 6, width: 12, height: 12 };
  const { data, channels } = decode(await page.screenshot({ clip }));
  const mean = (c: number): number => {
    let sum = 0;
    for (let i = c; i < data.length; i += channels) sum += data[i] as number;
    return sum / 144;
  };
  return [mean(0), mean(1), mean(2)];
}

/** A brush drawn round and round, as paint is mixed. */
export const swirl = (x: number, y: number, rx: number, ry: number, turns = 3): PenPoint[] =>
  Array.from({ length: 24 * turns }, (_, i) => {
    const angle = (i / 24) * 2 * Math.PI;
    return { x: x + rx * Math.cos(angle), y: y + ry * Math.sin(angle), pressure: 0.5 };
  });

/** The picture as the page exports it, and as the command line paints it from the page's work log. */
export async function fromItsLog(
  page: Page,
): Promise<{ shown: Buffer; painted: Buffer; log: string }> {
  const folder = mkdtempSync(join(tmpdir(), "pampas-"));
  const [log, out] = [join(folder, "work.jsonl"), join(folder, "work.png")];
  const shown = await exported(page, "PNG");
  const lines = await exported(page, "Work log");
  writeFileSync(log, lines);
  execFileSync(process.execPath, ["--import", "tsx", "src/cli/pampas.ts", "render", log, out]);
  return { shown, painted: readFileSync(out), log: lines.toString() };
}
