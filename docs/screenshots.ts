import { chromium, type Page } from "@playwright/test";
import { Pen, type PenPoint } from "../e2e/pen";

/**
 * Makes the pictures in docs/screenshots from the sample pictures:
 * `npx tsx docs/screenshots.ts ADDRESS` beside a running Pampas.
 */
const address = process.argv[2] ?? "http://localhost:3000";

async function shoot(page: Page, name: string): Promise<void> {
  await page.waitForTimeout(900);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
}

/** A curve of a pen: from a to b, bent, with pressure that swells. */
const curve = (a: [number, number], b: [number, number], bend: number): PenPoint[] =>
  Array.from({ length: 25 }, (_, i) => {
    const u = i / 24;
    const s = Math.sin(u * Math.PI);
    return {
      x: a[0] + (b[0] - a[0]) * u + s * bend,
      y: a[1] + (b[1] - a[1]) * u - s * bend * 0.4,
      pressure: 0.15 + 0.75 * s,
    };
  });

/** Tubes on the slab, and two mixtures drawn down from them. */
async function layOutSlab(page: Page, pen: Pen): Promise<void> {
  await page.getByRole("tab", { name: "Tubes", exact: true }).click();
  await page.getByLabel("Set of tubes").selectOption("Six primaries");
  await page.getByRole("button", { name: "Squeeze out", exact: true }).click();
  await page.getByRole("button", { name: "Undo squeeze out" }).waitFor();
  await page.waitForTimeout(3000);
  const slab = await page.getByLabel("Slab: mix paint here").boundingBox();
  if (!slab) throw new Error("there is no slab");
  const at = (u: number, v: number) => ({
    x: slab.x + (u / 960) * slab.width,
    y: slab.y + (v / 720) * slab.height,
  });
  const pull = async (from: [number, number], to: [number, number]): Promise<void> => {
    const [a, b] = [at(...from), at(...to)];
    await pen.stroke(curve([a.x, a.y], [b.x, b.y], 3));
  };
  await page.getByText("Keeps its paint").click();
  for (const [tubes, mixture] of [
    [[1, 6], { x: 240, y: 330 }],
    [[3, 0], { x: 560, y: 400 }],
    [[5, 0], { x: 760, y: 280 }],
  ] as const) {
    await page.getByRole("button", { name: "Rinse" }).click();
    for (const tube of [...tubes, ...tubes])
      await pull([66 + 92 * tube, 58], [mixture.x, mixture.y]);
    for (let i = 0; i < 4; i++)
      await pull([mixture.x - 60, mixture.y + i * 14], [mixture.x + 60, mixture.y + 10 + i * 8]);
  }
}

async function main(): Promise<void> {
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    chromiumSandbox: false,
    args: ["--disable-quic", "--no-first-run", "--disable-background-networking"],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(address);
  await page
    .getByRole("link", { name: "Open Studies for the cover" })
    .waitFor({ timeout: 120_000 });
  await page.getByText(/Painting|Preparing/).waitFor({ state: "hidden" });
  await shoot(page, "portfolio");
  await page.getByRole("button", { name: "New picture" }).first().click();
  await shoot(page, "new-picture");
  await page.keyboard.press("Escape");

  await page.getByRole("link", { name: "Open Night stop" }).click();
  await page.waitForURL(/table/);
  await page.getByTestId("view").waitFor();
  await page.getByRole("button", { name: "Skip" }).click();
  await page.waitForTimeout(2500);
  const pen = await Pen.on(page);
  await page.getByRole("row", { name: /^Snow/ }).click();
  await page.getByRole("tab", { name: "Colour", exact: true }).click();
  await page.getByRole("radio", { name: "Firm round" }).click();
  for (const hex of ["#f0c469", "#9c3a2c", "#6d6a8f", "#2c2b4a", "#e9e4ee", "#c0562f"]) {
    await page.getByLabel("Colour as hex").fill(hex);
    await pen.stroke([
      { x: 900, y: 200, pressure: 0.02 },
      { x: 901, y: 200, pressure: 0.02 },
    ]);
  }
  await page.getByLabel("Colour as hex").blur();
  await page.mouse.move(650, 300);
  await page.getByRole("tab", { name: "Wells", exact: true }).click();
  await page.mouse.move(650, 300);
  await shoot(page, "table-studio");
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Values and hues" }).click();
  await page.getByTestId("values-chart").waitFor();
  await page.keyboard.press("Escape");
  await page.mouse.click(640, 62);
  await shoot(page, "crit");
  await page.getByRole("button", { name: "Close charts" }).click();
  await page.getByRole("tab", { name: "Harmony", exact: true }).click();
  await page.getByRole("row", { name: /^Tram, / }).click();
  await page.getByRole("button", { name: "Adjust", exact: true }).click();
  await page.getByRole("button", { name: "Curves…" }).click();
  await page.getByTestId("histogram").waitFor();
  await shoot(page, "adjust");
  await page.getByRole("button", { name: "Throw away" }).click();
  await page.getByRole("tab", { name: "Recent", exact: true }).click();
  await page.getByRole("row", { name: /^Snow/ }).click();
  await page.mouse.move(650, 300);
  await page.getByRole("button", { name: "Guides" }).click();
  await page.getByRole("button", { name: "Add: two vanishing points" }).click();
  await page.keyboard.press("Escape");
  await page.keyboard.press("v");
  await page.mouse.move(650, 300);
  await shoot(page, "table-guides");
  await page.keyboard.press("v");
  await page.getByRole("tab", { name: "Leaf and ribbon" }).click();
  await page.getByRole("radio", { name: "Leaves", exact: true }).click();
  await page.getByRole("button", { name: "Workshop" }).click();
  await page.getByTestId("cost").waitFor();
  await page.getByRole("button", { name: "Turn and stretch" }).click();
  await shoot(page, "workshop");
  await page.getByRole("button", { name: "Back to the table" }).click();
  await page.keyboard.press("Control+e");
  await shoot(page, "export");
  await page.keyboard.press("Escape");

  await page.getByRole("link", { name: "Portfolio" }).click();
  await page.getByRole("button", { name: "Storage" }).click();
  await page.getByRole("dialog").getByRole("cell").first().waitFor();
  await page.waitForFunction(
    () =>
      ![...document.querySelectorAll("[role=dialog] td")].some((cell) => cell.textContent === "…"),
  );
  await shoot(page, "storage");
  await page.getByRole("dialog").getByRole("button", { name: "Close" }).click();
  await page.getByRole("link", { name: "Open Studies for the cover" }).click();
  await page.waitForURL(/table/);
  await page.getByTestId("view").waitFor();
  await page.waitForTimeout(2500);
  await page.getByRole("tab", { name: "Sketch", exact: true }).click();
  await page.getByRole("radio", { name: "6B pencil" }).click();
  for (let i = 0; i < 6; i++) await pen.stroke(curve([560 + i * 14, 480], [600 + i * 16, 560], 10));
  await page.setViewportSize({ width: 820, height: 1180 });
  await page.getByRole("button", { name: "Layers", exact: true }).click();
  await page.waitForTimeout(1500);
  await shoot(page, "table-upright");
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole("button", { name: "Studies", exact: true }).click();
  await page.getByRole("button", { name: "Study 3", exact: true }).click();
  await shoot(page, "studies");
  await page.keyboard.press("Escape");

  await page.getByRole("link", { name: "Portfolio" }).click();
  await page.getByRole("link", { name: "Open The conductor" }).click();
  await page.waitForURL(/table/);
  await page.getByRole("figure").first().waitFor();
  await page.waitForTimeout(3000);
  await page.getByRole("tab", { name: "Colour", exact: true }).click();
  await page.getByRole("row", { name: /^Flats/ }).click();
  for (const words of ["hide the pins", "guides: draw freely"]) {
    await page.keyboard.press("Control+k");
    await page.keyboard.type(words);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("e");
  await page.waitForTimeout(600);
  await shoot(page, "table-colour");
  await page.keyboard.press("e");
  await page.getByRole("tab", { name: "Ink", exact: true }).click();
  await page.getByRole("row", { name: /^Ink/ }).first().click();
  await page.getByRole("button", { name: "1 : 1" }).click();
  await page.getByRole("button", { name: "Correct", exact: true }).click();
  await page.getByRole("radio", { name: "Choose", exact: true }).click();
  const round = Array.from({ length: 30 }, (_, i) => ({
    x: 500 + 150 * Math.cos((i / 29) * 6.2),
    y: 300 + 130 * Math.sin((i / 29) * 6.2),
    pressure: 0.5,
  }));
  await pen.stroke(round);
  await page.waitForTimeout(1200);
  await shoot(page, "table-lines");
  await page.keyboard.press("3");
  await page.getByRole("button", { name: "Crit" }).click();
  await page.getByRole("button", { name: "Replay the work…" }).click();
  await page.getByRole("button", { name: "Pause" }).click();
  await page.getByLabel("Where in the work").fill("0.62");
  await page.waitForTimeout(4000);
  await shoot(page, "replay");
  await page.keyboard.press("Escape");
  await page.goto(address);
  await page.getByRole("link", { name: "Open Thermos and pears" }).click();
  await page.waitForURL(/table/);
  await page.getByLabel("Room").selectOption("day");
  await page.getByRole("row", { name: /^Washes/ }).click();
  await page.getByRole("tab", { name: "Paint", exact: true }).click();
  await page.getByRole("tab", { name: "Water", exact: true }).click();
  await page.getByRole("radio", { name: "Wash round" }).click();
  await page
    .getByRole("button", { name: /^Dismiss/ })
    .first()
    .click();
  await page.getByLabel("Size").fill("0.7");
  await page.getByLabel("Colour as hex").fill("#5d6b8c");
  await page.getByLabel("Strength").fill("40");
  await pen.stroke(curve([300, 520], [424, 524], 4));
  await page.waitForTimeout(2500);
  await page.mouse.move(700, 300);
  await shoot(page, "table-water");
  await page.getByLabel("Room").selectOption("studio");
  await page.goto(address);
  await page.getByRole("link", { name: "Open Depot yard" }).click();
  await page.waitForURL(/table/);
  await page.getByRole("tab", { name: "Sketch", exact: true }).click();
  await page.getByRole("button", { name: "Guides", exact: true }).click();
  await page.getByRole("button", { name: "Block a scene out in solids" }).click();
  const yard = page.getByRole("region", { name: "Scene" });
  await yard.getByRole("button", { name: "Crate", exact: true }).click();
  await page.locator('[data-testid="scene-look"][data-fine="true"]').waitFor();
  await page.waitForTimeout(2500);
  await shoot(page, "scene");
  await yard.getByRole("button", { name: "Back to painting" }).click();
  await page.getByRole("row", { name: /^Birds/ }).click();
  await page.getByRole("tab", { name: "Strew", exact: true }).click();
  await page.getByRole("radio", { name: "Birds", exact: true }).click();
  const strewn = page.getByRole("region", { name: "Strew: birds" });
  await strewn.getByRole("radio", { name: "Choose", exact: true }).click();
  const flock = Array.from({ length: 21 }, (_, i): [number, number] => [
    520 + 70 * Math.cos((i * Math.PI) / 10),
    190 + 46 * Math.sin((i * Math.PI) / 10),
  ]);
  await pen.stroke(flock.map(([x, y]) => ({ x, y, pressure: 0.5 })));
  await strewn.getByText("are chosen").waitFor();
  await page.waitForTimeout(1500);
  await shoot(page, "strew");
  await strewn.getByRole("button", { name: "Back to painting" }).click();
  await page.goto(address);
  await page.getByRole("link", { name: "Open Ticket office" }).click();
  await page.waitForURL(/table/);
  await page.getByLabel("Room").selectOption("studio");
  await page.getByRole("tab", { name: "Finish", exact: true }).click();
  await page
    .getByRole("row", { name: /^Tones/ })
    .nth(1)
    .click();
  await page.getByRole("button", { name: "Change halftone…" }).last().click();
  await page.waitForTimeout(3000);
  await shoot(page, "halftone");
  await page.goto(address);
  await page.getByRole("link", { name: "Open Depot at dusk" }).click();
  await page.waitForURL(/table/);
  await page.getByLabel("Room").selectOption("night");
  await page.getByRole("tab", { name: "Paint", exact: true }).click();
  await page.getByRole("radio", { name: "Hog filbert" }).click();
  await page
    .getByRole("button", { name: /^Dismiss/ })
    .first()
    .click();
  await layOutSlab(page, pen);
  await page.waitForTimeout(3500);
  await page.mouse.move(560, 260);
  await shoot(page, "table-night");
  await browser.close();
}

void main();
