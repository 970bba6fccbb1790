import { expect, type Page, test } from "@playwright/test";
import { BOX } from "../src/engine/file/shape/shape.testing";
import { fromItsLog } from "./painter";
import { freshTable, middle, settled } from "./table";

const press = (page: Page, name: string | RegExp) =>
  page.getByRole("button", { name, exact: typeof name === "string" }).click();

/** The scene's look is there, with its shadows. */
const looked = (page: Page) =>
  expect(page.getByTestId("scene-look")).toHaveAttribute("data-fine", "true");

async function pull(page: Page, name: RegExp, dx: number, dy: number): Promise<void> {
  const box = await page.getByRole("button", { name }).boundingBox();
  if (!box) throw new Error("there is no such handle");
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx, y + dy, { steps: 5 });
  await page.mouse.up();
  await settled(page);
}

test("shapes from files are put in as solids; what cannot be read is said", async ({ page }) => {
  await freshTable(page, { width: 640, height: 480 });
  await press(page, "Guides");
  await press(page, "Block a scene out in solids");
  const panel = page.getByRole("region", { name: "Scene" });
  const file = panel.getByLabel("Shape from an OBJ or glTF file");
  const bring = (name: string, text: string): Promise<void> =>
    file.setInputFiles({ name, mimeType: "text/plain", buffer: Buffer.from(text) });
  await bring("Signal box.obj", BOX);
  await expect(panel.getByRole("button", { name: "Signal box 1" })).toBeVisible();
  await expect(panel.getByLabel("Depth, m")).toHaveValue("2");
  await expect(panel.getByLabel("Height, m")).toHaveValue("1.5");
  await looked(page);
  await settled(page);
  await bring("broken.obj", "v 1 2\nf 1 1 1");
  await expect(page.getByText(/“broken.obj” could not be brought in: line 1/)).toBeVisible();
  const { shown, painted } = await fromItsLog(page);
  expect(shown.equals(painted)).toBe(true);
});

test("a place is blocked out in solids, painted as layers, painted over, and changed again", async ({
  page,
}) => {
  const pen = await freshTable(page, { width: 640, height: 480 });
  await press(page, "Guides");
  await press(page, "Block a scene out in solids");
  const panel = page.getByRole("region", { name: "Scene" });
  const put = panel.getByRole("group", { name: "Put in" });
  await put.getByRole("button", { name: "box" }).click();
  await expect(panel.getByRole("button", { name: "Box 1" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await looked(page);

  // Pulled by its handles, and by numbers.
  await pull(page, /^Width of Box 1/, 40, 0);
  await expect.poll(() => panel.getByLabel("Width, m").inputValue()).not.toBe("1");
  await panel.getByLabel("Height, m").fill("2.5");
  await panel.getByLabel("Height, m").press("Enter");
  await settled(page);
  await put.getByRole("button", { name: "ball" }).click();
  await settled(page);

  // The pen carries the ball over the ground.
  const { x, y } = await middle(page);
  const before = await panel.getByLabel("Front, m").inputValue();
  const ball = { x: x + 22, y: y + 12 };
  await pen.down({ ...ball, pressure: 0.5 });
  await pen.move({ x: x - 60, y: y + 60, pressure: 0.5 });
  await pen.move({ x: x - 90, y: y + 90, pressure: 0.5 });
  await pen.up({ x: x - 90, y: y + 90, pressure: 0 });
  await settled(page);
  await expect.poll(() => panel.getByLabel("Front, m").inputValue()).not.toBe(before);

  // The camera's vanishing points become guides.
  await panel.getByRole("radio", { name: "Camera" }).click();
  await pull(page, /^Lift of Ball 1/, 0, -20);
  await page.mouse.move(x - 150, y + 150);
  await page.mouse.down();
  await page.mouse.move(x - 60, y + 130, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  await press(page, "To the guides");
  await settled(page);

  // Layers: painted, one painted over, painted again.
  await panel.getByRole("radio", { name: "Layers" }).click();
  await panel.getByLabel("Depth, dark where near").check();
  await panel.getByLabel("Where surfaces face").check();
  await press(page, "Paint as layers");
  await expect(page.getByRole("row", { name: /^Scene, lines/ })).toBeVisible();
  await settled(page);
  await press(page, "Haze by distance");
  await expect(page.getByRole("row", { name: /^Haze/ })).toBeVisible();
  await press(page, "Light by facing");
  await expect(page.getByRole("row", { name: /^Light by facing/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Shade by facing/ })).toBeVisible();
  await press(page, "Blur by distance");
  await expect(page.getByRole("row", { name: /^Blur by distance/ })).toBeVisible();
  await press(page, "Back to painting");
  await page.getByRole("row", { name: /^Scene, colour/ }).click();
  await pen.stroke([
    { x: x - 80, y: y - 60, pressure: 0.8 },
    { x: x + 20, y: y - 50, pressure: 0.8 },
    { x: x + 60, y: y - 20, pressure: 0.8 },
  ]);
  await settled(page);
  await press(page, "Guides");
  await press(page, "Block a scene out in solids");
  await panel.getByRole("radio", { name: "Layers" }).click();
  await expect(panel.getByText("2 layers are painted again", { exact: false })).toHaveCount(0);
  await press(page, "Paint the layers again");
  await expect(page.getByRole("row", { name: /^Scene, colour/ })).toHaveCount(2);
  await settled(page);
  // The new one lies under the lines, over the one that was painted on.
  await expect(page.getByRole("row", { name: /^(Scene|Haze|Layer)/ })).toContainText([
    ...["Haze", "Scene, depth", "Scene, lines", "Scene, colour", "Scene, colour", "Layer 1"],
  ]);

  // A reload keeps the solids, and the log paints the same pixels in Node.
  await page.reload();
  await settled(page);
  await press(page, "Guides");
  await press(page, "Block a scene out in solids");
  await expect(panel.getByRole("button", { name: "Ball 1" })).toBeVisible();
  await panel.getByRole("radio", { name: "Layers" }).click();
  await press(page, "Back to painting");
  const { shown, painted } = await fromItsLog(page);
  expect(Buffer.compare(shown, painted)).toBe(0);
});
