import { type ChildProcess, spawn } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { expect, type Page, test } from "@playwright/test";
import { decode } from "fast-png";
import { line } from "./painter";
import { Pen } from "./pen";
import { exported, middle, newPicture, settled, tableReady } from "./table";

const PORT = 3297;
const ADDRESS = `http://localhost:${PORT}`;

test.use({ baseURL: ADDRESS, serviceWorkers: "allow" });

let server: ChildProcess | null = null;

/** Starts a server of this test's own, and waits until it answers. */
async function start(): Promise<void> {
  const env = { ...process.env, PORT: String(PORT) };
  const begun = spawn("node", ["scripts/start.mjs"], { env, stdio: ["ignore", "pipe", "inherit"] });
  server = begun;
  await new Promise<void>((resolve, reject) => {
    begun.stdout.on("data", (text: Buffer) => String(text).includes("is ready") && resolve());
    begun.once("exit", () => reject(new Error("the server did not start")));
  });
}

async function stop(): Promise<void> {
  const ending = server;
  server = null;
  if (!ending) return;
  const gone = new Promise((resolve) => ending.once("exit", resolve));
  ending.kill("SIGKILL");
  await gone;
}

test.afterEach(stop);

/** All of this version is in the browser, and the page is in its care. */
const isKept = (page: Page): Promise<boolean> =>
  page.evaluate(async () => {
    const { active } = await navigator.serviceWorker.ready;
    return active?.state === "activated" && navigator.serviceWorker.controller !== null;
  });

test("with the server stopped it is opened, drawn with, exported and reloaded", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await start();
  await page.goto("/");
  await expect.poll(() => isKept(page)).toBe(true);
  const manifest = await page.evaluate(async () => {
    const link = document.querySelector<HTMLLinkElement>('link[rel="manifest"]');
    return (await (await fetch(link?.href ?? "")).json()) as {
      icons: { src: string; sizes: string }[];
    };
  });
  for (const { src, sizes } of manifest.icons.filter(({ src: from }) => from.endsWith(".png"))) {
    const icon = decode(Buffer.from(await (await page.request.get(src)).body()));
    expect(`${icon.width}x${icon.height}`).toBe(sizes);
  }
  await stop();
  await expect(page.request.get(ADDRESS)).rejects.toThrow();

  await page.reload();
  await newPicture(page, { width: 600, height: 400, title: "On the tram" });
  const pen = await Pen.on(page);
  const { x, y } = await middle(page);
  await pen.stroke(line([x - 120, y], [x + 120, y]));
  await settled(page);
  const before = await exported(page, "PNG");
  await page.reload();
  await tableReady(page);
  expect((await exported(page, "PNG")).equals(before)).toBe(true);
  const { data } = decode(before);
  expect(data.some((value, i) => i % 4 === 0 && value < 120)).toBe(true);

  // And by way of the Portfolio, with an address typed anew.
  await page.goto("/");
  await page.getByRole("link", { name: "Open On the tram" }).click();
  await tableReady(page);
});

test("a newer version waits until it is asked for", async ({ page }) => {
  test.setTimeout(120_000);
  await start();
  await page.goto("/");
  await expect.poll(() => isKept(page)).toBe(true);
  await page.evaluate(() => Object.assign(window, { sameAsBefore: true }));
  // As after an update: one file of it is another one.
  const file = "public/icons/pampas-192.png";
  const bytes = readFileSync(file);
  try {
    writeFileSync(file, Buffer.concat([bytes, Buffer.from("x")]));
    await page.evaluate(async () => (await navigator.serviceWorker.ready).update());
    await expect(page.getByText(/^A newer version of Pampas is here/)).toBeVisible();
  } finally {
    writeFileSync(file, bytes);
  }
  const isSame = (): Promise<boolean> => page.evaluate(() => "sameAsBefore" in window);
  expect(await isSame()).toBe(true);
  await page.getByRole("button", { name: "Renew" }).click();
  await expect.poll(() => isSame().catch(() => true)).toBe(false);
});

test("what another program shares is opened, without a server too; what did not arrive is told of", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await start();
  await page.goto("/?shared");
  await expect(page.getByText(/^What was shared did not arrive/)).toBeVisible();
  expect(new URL(page.url()).search).toBe("");
  await expect.poll(() => isKept(page)).toBe(true);
  await stop();
  // As the browser hands on what was shared.
  const answer = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(120, 90);
    const brush = canvas.getContext("2d") as OffscreenCanvasRenderingContext2D;
    brush.fillStyle = "#c0402a";
    brush.fillRect(0, 0, 120, 90);
    const form = new FormData();
    form.append("pictures", await canvas.convertToBlob(), "signal lamp é.png");
    const { type } = await fetch("/share", { method: "POST", body: form, redirect: "manual" });
    return type;
  });
  expect(answer).toBe("opaqueredirect");
  await page.goto("/?shared");
  await tableReady(page);
  await expect(page.getByText("signal lamp é").first()).toBeVisible();
  const { data, width } = decode(await exported(page, "PNG"));
  expect(width).toBe(120);
  expect([...data.subarray(0, 3)]).toEqual([0xc0, 0x40, 0x2a]);
});
