import { expect, type Page, test } from "@playwright/test";
import { decode, encode } from "fast-png";
import { type Pen, swell } from "./pen";
import { traceAt, traces } from "./traces";
import { exported, freshTable, middle, setting, settled, tableReady, tapKey } from "./table";

type Png = ReturnType<typeof decode>;
const at = ({ data, width, channels }: Png, x: number, y: number): number[] =>
  [0, 1, 2].map((c) => data[(y * width + x) * channels + c] as number);
const pixels = async (page: Page): Promise<Png> => decode(await exported(page, "PNG"));

/** The darkest value along a row. */
function darkest(png: Png, y: number): number {
  let least = 255;
  for (let x = 0; x < png.width; x++) least = Math.min(least, ...at(png, x, y));
  return least;
}

/** A level stroke across the sheet, `dy` CSS px below its middle. */
async function across(page: Page, pen: Pen, dy: number, pressure = 0.8): Promise<void> {
  const { x, y } = await middle(page);
  await pen.stroke(
    Array.from({ length: 21 }, (_, i) => ({ x: x - 200 + i * 20, y: y + dy, pressure })),
  );
  await settled(page);
}

test.describe("the table", () => {
  test("draws with pressure and tilt", async ({ page }) => {
    const pen = await freshTable(page);
    const { x, y } = await middle(page);
    await page.getByRole("radio", { name: "Sprung nib" }).click();
    await pen.stroke(
      Array.from({ length: 31 }, (_, i) => ({ x: x - 240 + i * 16, y: y - 120, pressure: i / 30 })),
    );
    await page.getByRole("radio", { name: "6B pencil" }).click();
    await pen.stroke(
      Array.from({ length: 31 }, (_, i) => ({
        x: x - 240 + i * 16,
        y: y + 60,
        pressure: 0.8,
        tiltX: 0,
        tiltY: i < 15 ? 0 : 60,
      })),
    );
    await settled(page);
    const png = await pixels(page);
    const inked = (column: number, from: number, to: number): number => {
      let rows = 0;
      for (let row = from; row < to; row++) if ((at(png, column, row)[0] as number) < 235) rows++;
      return rows;
    };
    // The ink line swells to the right; the pencil's mark widens where it leans.
    expect(inked(500, 60, 230)).toBeGreaterThan(inked(200, 60, 230) + 2);
    expect(inked(540, 260, 480)).toBeGreaterThan(2 * inked(180, 260, 480));
  });

  test("logs what the pen said: place, pressure, tilt and twist", async ({ page }) => {
    const pen = await freshTable(page);
    const { x, y } = await middle(page);
    const names = ["contour", "shading", "lettering"] as const;
    for (const [i, name] of names.entries())
      await pen.stroke(traceAt(traces[name], x - 250 + i * 150, y - 40));
    await settled(page);
    const log = (await exported(page, "Work log")).toString("utf8").trim().split("\n");
    const strokes = log.map((line) => JSON.parse(line)).filter(({ do: what }) => what === "stroke");
    expect(strokes).toHaveLength(3);
    for (const [i, name] of names.entries()) {
      const { samples } = strokes[i] as { samples: number[][] };
      const trace = traces[name];
      expect(samples.length).toBeGreaterThanOrEqual(trace.length);
      trace.forEach(([, dx, dy, pressure, tiltX, tiltY, twist], k) => {
        const [, px, py, p, altitude, azimuth, turn] = samples[k] as [
          number,
          number,
          number,
          number,
          number,
          number,
          number,
        ];
        const [ax, ay] = [Math.tan((tiltX * Math.PI) / 180), Math.tan((tiltY * Math.PI) / 180)];
        expect(p).toBeCloseTo(pressure, 2);
        expect(altitude).toBeCloseTo(Math.atan(1 / Math.hypot(ax, ay)), 1);
        expect(Math.cos(azimuth - Math.atan2(ay, ax))).toBeGreaterThan(0.99);
        expect((turn * 180) / Math.PI).toBeCloseTo(twist, 0);
        const first = samples[0] as number[];
        const scale = (px - (first[1] as number)) * dy - (py - (first[2] as number)) * dx;
        expect(Math.abs(scale)).toBeLessThan(0.05 * (dx * dx + dy * dy + 1));
      });
    }
  });

  test("lifts, blends, and borrows a mode while its key is held", async ({ page }) => {
    const pen = await freshTable(page);
    await page.getByRole("radio", { name: "Even liner" }).click();
    await page.getByLabel("Size").fill("0.55");
    await across(page, pen, 0);
    await page.keyboard.down("d");
    await expect(page.getByRole("radio", { name: "Lift" })).toHaveAttribute("aria-checked", "true");
    const { x, y } = await middle(page);
    await pen.stroke(swell([x, y - 60], [x, y + 60]));
    await page.keyboard.up("d");
    await expect(page.getByRole("radio", { name: "Paint" })).toHaveAttribute(
      "aria-checked",
      "true",
    );
    await tapKey(page, "f", page.getByRole("radio", { name: "Blend", exact: true }));
    await tapKey(page, "a", page.getByRole("radio", { name: "Paint" }));
    await settled(page);
    const png = await pixels(page);
    expect(at(png, 350, 270)).toEqual([244, 239, 230]);
    expect(Math.max(...at(png, 250, 270))).toBeLessThan(60);
  });

  test("undoes and redoes, and says when a layer may not be drawn on", async ({ page }) => {
    const pen = await freshTable(page);
    await page.getByRole("radio", { name: "Even liner" }).click();
    await across(page, pen, 0);
    await page.getByRole("button", { name: "Undo paint" }).click();
    await settled(page);
    expect(darkest(await pixels(page), 270)).toBeGreaterThan(220);
    await page.getByRole("button", { name: "Redo paint" }).click();
    await page.getByRole("button", { name: "Lock", exact: true }).click();
    await across(page, pen, 60);
    await expect(page.getByText("“Layer 1” is locked. Unlock it to work on it.")).toBeVisible();
    await page.getByRole("button", { name: "Unlock", exact: true }).click();
    const png = await pixels(page);
    expect(darkest(png, 270)).toBeLessThan(60);
    expect(darkest(png, 330)).toBeGreaterThan(220);
  });

  test("arranges layers: clip, drag, several at once, duplicate, remove", async ({ page }) => {
    const pen = await freshTable(page);
    await page.getByRole("radio", { name: "Even liner" }).click();
    await page.getByLabel("Size").fill("0.5");
    await across(page, pen, 0);
    await page.getByRole("button", { name: "Add layer", exact: true }).click();
    await page.getByLabel("Colour as hex").fill("ff0000");
    const { x, y } = await middle(page);
    await pen.stroke(swell([x, y - 80], [x, y + 80]));
    await page.getByRole("button", { name: "Clip to the layer below" }).click();
    await expect(page.getByRole("row", { name: /Layer 2.*clipped/ })).toBeVisible();
    await settled(page);
    const clipped = await pixels(page);
    expect(
      (at(clipped, 350, 270)[0] as number) > 200 && (at(clipped, 350, 270)[1] as number) < 40,
    ).toBe(true);
    expect(at(clipped, 350, 230)).toEqual([244, 239, 230]);

    // A layer that comes between joins the run, and what was clipped stays so.
    const rows = page.getByRole("row");
    await rows.nth(1).click();
    await page.getByRole("button", { name: "Add layer", exact: true }).click();
    await expect(rows.nth(1)).toHaveAccessibleName(/Layer 3.*clipped/);
    await settled(page);
    expect((await pixels(page)).data).toEqual(clipped.data);
    await page.getByRole("button", { name: "Undo add layer" }).click();
    // The layer that was working before it is working again.
    await expect(rows.nth(1)).toHaveAttribute("aria-selected", "true");

    await expect(rows).toHaveCount(2);
    await rows.nth(1).getByText("Layer 1").hover();
    await page.mouse.down();
    await page.mouse.move(110, 200, { steps: 8 });
    await page.mouse.up();
    await expect(rows.nth(0)).toContainText("Layer 1");
    await page.getByRole("button", { name: "Undo move layer" }).click();
    await expect(rows.nth(0)).toContainText("Layer 2");

    await rows.nth(0).getByText("Layer 2").click();
    await rows
      .nth(1)
      .getByText("Layer 1")
      .click({ modifiers: ["Shift"] });
    await page.getByRole("button", { name: "Duplicate layers" }).click();
    await expect(rows).toHaveCount(4);
    await page.getByRole("button", { name: "Remove layers" }).click();
    await expect(rows).toHaveCount(2);
    await page.keyboard.press("Control+z");
    await expect(rows).toHaveCount(4);
  });

  test("turns, mirrors, zooms and bares the view without touching the picture", async ({
    page,
  }) => {
    const pen = await freshTable(page);
    await across(page, pen, -40);
    const before = await pixels(page);
    const view = page.getByTestId("view");
    await view.focus();
    await page.keyboard.press("b");
    await expect(page.getByRole("button", { name: "Mirror" })).toHaveAttribute(
      "aria-pressed",
      "true",
    );
    const { x, y } = await middle(page);
    await page.keyboard.down("r");
    await page.mouse.move(x + 100, y);
    await page.mouse.down();
    await page.mouse.move(x, y + 100, { steps: 5 });
    await page.mouse.up();
    await page.keyboard.up("r");
    const turned = (await view.getAttribute("data-matrix"))?.split(" ").map(Number) ?? [];
    expect(Math.abs(turned[1] as number)).toBeGreaterThan(0.1);
    await page.mouse.wheel(0, -600);
    await page.keyboard.press("r");
    await page.keyboard.press("b");
    await page.keyboard.press("z");
    await expect(view).toHaveAttribute("data-matrix", /^[\d.]+ 0 0 /);
    await page.keyboard.press("Tab");
    await expect(page.getByRole("region", { name: "Tray" })).toBeHidden();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("region", { name: "Tray" })).toBeVisible();
    expect((await pixels(page)).data).toEqual(before.data);
  });

  test("picks colours from the picture and swaps them", async ({ page }) => {
    const pen = await freshTable(page);
    await page.getByRole("radio", { name: "Even liner" }).click();
    await page.getByLabel("Size").fill("0.6");
    await page.getByLabel("Colour as hex").fill("#1f6f8b");
    await across(page, pen, 0);
    await page.getByLabel("Colour as hex").fill("#ffffff");
    await page.getByLabel("Colour as hex").blur();
    const { x, y } = await middle(page);
    await page.keyboard.down("c");
    await page.mouse.click(x, y);
    await page.keyboard.up("c");
    await expect(page.getByLabel("Colour as hex")).toHaveValue("#1f6f8b");
    // A key that borrows nothing does its work however long it is down.
    await page.keyboard.press("x", { delay: 600 });
    await expect(page.getByLabel("Colour as hex")).toHaveValue("#f4efe6");
    await expect(page.getByRole("button", { name: "Colour #1f6f8b" })).toBeVisible();
    await page.getByRole("button", { name: "Value 50" }).click();
    await expect(page.getByRole("button", { name: "Value 50" })).toHaveAttribute(
      "aria-pressed",
      "true",
    );
  });

  test("draws straight lines with Shift from where the last stroke ended", async ({ page }) => {
    const pen = await freshTable(page);
    await page.getByRole("radio", { name: "Even liner" }).click();
    const { x, y } = await middle(page);
    await pen.stroke([
      { x: x - 200, y: y - 100, pressure: 0.6 },
      { x: x - 199, y: y - 100, pressure: 0.6 },
    ]);
    await page.keyboard.down("Shift");
    // A crooked way to a point far off: only its end counts.
    await pen.stroke([
      { x: x - 100, y: y + 100, pressure: 0.6 },
      { x: x + 50, y: y - 100, pressure: 0.6 },
      { x: x + 200, y: y + 100, pressure: 0.6 },
    ]);
    await page.keyboard.up("Shift");
    await settled(page);
    const png = await pixels(page);
    expect(Math.max(...at(png, 350, 270))).toBeLessThan(120);
    expect(at(png, 250, 370)).toEqual([244, 239, 230]);
  });

  test("keeps up with a mouse, whose speed can stand in for pressure", async ({ page }) => {
    await freshTable(page);
    await page.getByRole("button", { name: "Pen", exact: true }).click();
    await page.getByLabel("Stand-in pen").check();
    await page.getByRole("radio", { name: "Sprung nib" }).click();
    const { x, y } = await middle(page);
    await page.mouse.move(x - 200, y);
    await page.mouse.down();
    for (let i = 0; i <= 40; i++) await page.mouse.move(x - 200 + i * 10, y + Math.sin(i / 5) * 30);
    await page.mouse.up();
    await settled(page);
    const png = await pixels(page);
    let inked = 0;
    for (let i = 0; i < png.width * png.height; i++)
      if ((png.data[i * png.channels] as number) < 100) inked++;
    expect(inked).toBeGreaterThan(400);
  });

  test("moves the sheet with two fingers and gives up what one of them had begun", async ({
    page,
  }) => {
    await freshTable(page);
    const view = page.getByTestId("view");
    const before = (await view.getAttribute("data-matrix"))?.split(" ").map(Number) ?? [];
    const session = await page.context().newCDPSession(page);
    const { x, y } = await middle(page);
    const touch = (type: string, points: [number, number][]): Promise<unknown> =>
      session.send("Input.dispatchTouchEvent", {
        type: type as "touchStart",
        touchPoints: points.map(([px, py], id) => ({
          x: px,
          y: py,
          id,
          force: 0.5,
          radiusX: 5,
          radiusY: 5,
        })),
      });
    await touch("touchStart", [[x - 40, y]]);
    await touch("touchMove", [[x - 45, y + 6]]);
    await touch("touchStart", [
      [x - 45, y + 6],
      [x + 40, y],
    ]);
    for (let i = 1; i <= 8; i++)
      await touch("touchMove", [
        [x - 45 - i * 8, y + 6],
        [x + 40 + i * 8, y],
      ]);
    await touch("touchEnd", []);
    const after = (await view.getAttribute("data-matrix"))?.split(" ").map(Number) ?? [];
    expect(Math.hypot(after[0] as number, after[1] as number)).toBeGreaterThan(
      1.6 * (before[0] as number),
    );
    await settled(page);
    const png = await pixels(page);
    let marked = 0;
    for (let i = 0; i < png.width * png.height; i++)
      if ((png.data[i * png.channels] as number) < 200) marked++;
    expect(marked).toBe(0);
  });

  test("undoes by a tap of two fingers and redoes by one of three", async ({ page }) => {
    await freshTable(page);
    const { x, y } = await middle(page);
    await page.mouse.move(x - 60, y);
    await page.mouse.down();
    await page.mouse.move(x + 60, y + 10, { steps: 6 });
    await page.mouse.up();
    await settled(page);
    const session = await page.context().newCDPSession(page);
    const tap = async (fingers: number): Promise<void> => {
      const touchPoints = Array.from({ length: fingers }, (_, id) => ({
        ...{ x: x - 60 + id * 55, y: y + 80, id, force: 0.5, radiusX: 5, radiusY: 5 },
      }));
      for (let n = 1; n <= fingers; n++)
        await session.send("Input.dispatchTouchEvent", {
          type: "touchStart",
          touchPoints: touchPoints.slice(0, n),
        });
      await session.send("Input.dispatchTouchEvent", { type: "touchEnd", touchPoints: [] });
      await settled(page);
    };
    await expect(page.getByRole("button", { name: "Undo paint" })).toBeEnabled();
    await tap(2);
    const redo = page.getByRole("button", { name: "Redo paint" });
    await expect(redo).toBeEnabled();
    await tap(3);
    await expect(redo).toBeHidden();
    await expect(page.getByRole("button", { name: "Undo paint" })).toBeEnabled();
  });

  test("makes a paper of a picture, and draws on it", async ({ page }) => {
    const pen = await freshTable(page);
    const { x, y } = await middle(page);
    const [width, height] = [200, 180];
    const data = new Uint8Array(width * height * 3);
    for (let i = 0; i < width * height; i++)
      data.fill(120 + ((i * 2654435761) % 97), i * 3, i * 3 + 3);
    const buffer = Buffer.from(encode({ width, height, data, channels: 3 }));
    await page.getByRole("button", { name: /^Paper/ }).click();
    await page
      .getByLabel("Picture of a paper")
      .setInputFiles({ name: "wall.png", mimeType: "image/png", buffer });
    await expect(page.getByRole("radio", { name: /From a picture/ })).toHaveAttribute(
      "aria-checked",
      "true",
    );
    await page
      .getByLabel("Picture of a paper")
      .setInputFiles({ name: "no.png", mimeType: "image/png", buffer: Buffer.from("no") });
    await expect(page.getByText(/“no.png” makes no paper/)).toBeVisible();
    await page.getByRole("button", { name: "Keep", exact: true }).click();
    await expect(page.getByRole("button", { name: /^Paper/ })).toContainText("from a picture");
    await pen.stroke(swell([x - 100, y], [x + 100, y]));
    await settled(page);
    const log = (await exported(page, "Work log")).toString();
    expect(log).toContain('"kind":"picture"');
    expect(log.trim().split("\n").at(-1)).toContain('"do":"stroke"');
  });

  test("changes ground, paper and room", async ({ page }) => {
    await freshTable(page);
    await page.getByRole("button", { name: /^Paper/ }).click();
    const dialog = page.getByRole("dialog");
    await dialog.getByRole("radio", { name: "Slate" }).click();
    await dialog.getByRole("radio", { name: "Laid" }).click();
    await dialog.getByRole("button", { name: "Keep" }).click();
    await expect(page.getByRole("button", { name: /^Paper/ })).toContainText("laid");
    expect(at(await pixels(page), 10, 10)).toEqual([0x4a, 0x50, 0x58]);
    await page.getByLabel("Room").selectOption("night");
    await expect(page.locator("html")).toHaveAttribute("data-room", "night");
    await expect.poll(() => setting(page, "all")).toContain('"room":"night"');
    await page.reload();
    await expect(page.locator("html")).toHaveAttribute("data-room", "night");
  });

  test("is only looked at in a second tab", async ({ page, context }) => {
    await freshTable(page);
    const second = await context.newPage();
    await second.goto(page.url());
    await expect(second.getByText("being worked on in another tab")).toBeVisible();
    await second.getByRole("button", { name: "Add layer", exact: true }).click();
    await expect(second.getByText("open in another tab")).toBeVisible();
    await expect(second.getByRole("row")).toHaveCount(1);
  });

  test("takes a typed size, and undoing gives back the layer that was working", async ({
    page,
  }) => {
    await freshTable(page, { width: 400, height: 300 });
    const size = page.getByLabel("Brush px");
    await size.fill("137,5");
    await size.press("Enter");
    await expect(size).toHaveValue("137.5");
    await size.fill("9000");
    await size.press("Enter");
    await expect(size).toHaveValue("2000");
    await size.fill("wide");
    await size.press("Enter");
    await expect(size).toHaveValue("2000");

    await page.getByRole("button", { name: "Add layer", exact: true }).click();
    await expect(page.getByRole("row", { name: /Layer 2/ })).toHaveAttribute(
      "aria-selected",
      "true",
    );
    await page.getByRole("row", { name: /Layer 1/ }).click();
    await page.keyboard.press("Control+k");
    await page.keyboard.type("Duplicate");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("row", { name: /Layer 1 copy/ })).toHaveAttribute(
      "aria-selected",
      "true",
    );
    await page.keyboard.press("Control+z");
    await expect(page.getByRole("row", { name: /Layer 1 copy/ })).toHaveCount(0);
    await expect(page.getByRole("row", { name: /^Layer 1,/ })).toHaveAttribute(
      "aria-selected",
      "true",
    );
    await settled(page);
  });

  test("gives the hand back as it was left: brush, size, colours, stage", async ({ page }) => {
    await freshTable(page, { width: 400, height: 300 });
    await page.getByRole("tab", { name: "Paint", exact: true }).click();
    await page.getByRole("tab", { name: "Hair and fur", exact: true }).click();
    await page.getByRole("radio", { name: "Straight hair", exact: true }).click();
    const size = page.getByLabel("Brush px");
    await size.fill("77");
    await size.press("Enter");
    const field = page.getByLabel("Colour as hex");
    await field.fill("#2e6ab0");
    await expect.poll(() => setting(page, "all")).toContain('"colour":"#2e6ab0"');
    await page.reload();
    await tableReady(page);
    await expect(field).toHaveValue("#2e6ab0");
    await expect(size).toHaveValue("77");
    await expect(page.getByRole("radio", { name: "Straight hair", exact: true })).toBeChecked();
    await expect(page.getByRole("tab", { name: "Paint", exact: true })).toHaveAttribute(
      "aria-selected",
      "true",
    );
  });

  test("picks the colour where the pen rests, where that is switched on", async ({ page }) => {
    const pen = await freshTable(page, { width: 400, height: 300 });
    const { x, y } = await middle(page);
    await page.getByRole("button", { name: "Pen", exact: true }).click();
    await page.getByLabel("Rest picks").check();
    await page.getByRole("radio", { name: "Even liner" }).click();
    await page.getByLabel("Brush px").fill("60");
    await page.getByLabel("Colour as hex").fill("#b03a2e");
    await pen.stroke(swell([x - 100, y], [x + 100, y]));
    await settled(page);
    await page.getByLabel("Colour as hex").fill("#2e6ab0");
    const rest = { x, y, pressure: 0.6 };
    await pen.down(rest);
    await expect(page.getByLabel("Colour as hex")).toHaveValue("#b03a2e");
    await pen.up(rest);
    await page.getByRole("button", { name: "Undo paint" }).click();
    await expect(page.getByRole("button", { name: "Undo paint" })).toBeHidden();
    await settled(page);
  });

  test("exports JPEG and WebP of the picture's size and colour", async ({ page }) => {
    await freshTable(page, { width: 320, height: 240 });
    for (const [format, type] of [
      ["JPEG", "image/jpeg"],
      ["WebP", "image/webp"],
    ] as const) {
      const bytes = await exported(page, format);
      const seen = await page.evaluate(
        async ({ data, kind }) => {
          const bitmap = await createImageBitmap(new Blob([new Uint8Array(data)], { type: kind }));
          const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext("2d");
          context?.drawImage(bitmap, 0, 0);
          const [r, g, b] = context?.getImageData(160, 120, 1, 1).data ?? [];
          return [bitmap.width, bitmap.height, r, g, b];
        },
        { data: [...bytes], kind: type },
      );
      expect(seen.slice(0, 2)).toEqual([320, 240]);
      [244, 239, 230].forEach((v, c) => expect(Math.abs(v - (seen[c + 2] ?? 0))).toBeLessThan(4));
    }
  });

  test("has a larger picture painted by the server", async ({ page }) => {
    const pen = await freshTable(page, { width: 400, height: 300 });
    await page.getByRole("radio", { name: "Even liner" }).click();
    await across(page, pen, 0);
    const png = decode(
      await exported(page, "PNG", async () => {
        await page.getByRole("dialog").locator("select").last().selectOption("2");
      }),
    );
    expect([png.width, png.height]).toEqual([800, 600]);
    const rows = Array.from({ length: 60 }, (_, i) => darkest(png, 290 + i));
    expect(Math.min(...rows)).toBeLessThan(60);
  });
});
