import { chromium, type Page } from "@playwright/test";
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { firstStroke } from "./first-stroke";
import { type Row } from "./measure";
import { penToPixel } from "./pen-to-pixel";

const PORT = 3298;

/** What is measured in the built application, in a browser. */
export async function browserRows(): Promise<Row[]> {
  if (!existsSync(".next/BUILD_ID")) {
    console.log("in the browser: left out, for there is no build (npm run build)");
    return [];
  }
  const server = spawn(process.execPath, ["scripts/start.mjs"], {
    stdio: ["ignore", "pipe", "ignore"],
    env: { ...process.env, PORT: String(PORT) },
  });
  const address = await new Promise<string>((resolve) => {
    server.stdout.on("data", (said) => {
      const found = /http:\S+/.exec(String(said));
      if (found) resolve(found[0]);
    });
  });
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    chromiumSandbox: false,
    args: ["--disable-quic", "--disable-background-networking"],
  });
  const newPage = async (): Promise<Page> => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.route("**/api/samples", (route) => route.fulfill({ json: { samples: [] } }));
    await page.goto(address);
    return page;
  };
  try {
    return [...(await firstStroke(newPage)), ...(await penToPixel(newPage))];
  } finally {
    await browser.close();
    server.kill();
  }
}
