import { expect, test } from "@playwright/test";
import { freshTable, middle, settled } from "./table";
import { swell } from "./pen";

test("nothing leaves the machine, and the policies hold", async ({ page, baseURL }) => {
  const outside: string[] = [];
  const complaints: string[] = [];
  page.on("request", (request) => {
    const url = request.url();
    if (!url.startsWith(baseURL ?? "") && !/^(blob|data):/.test(url)) outside.push(url);
  });
  page.on("console", (message) => {
    if (message.type() === "error") complaints.push(message.text());
  });
  page.on("pageerror", (error) => complaints.push(error.message));
  await page.addInitScript(() => {
    document.addEventListener("securitypolicyviolation", (event) =>
      console.error(`policy: ${event.violatedDirective} ${event.blockedURI}`),
    );
  });
  const pen = await freshTable(page);
  const { x, y } = await middle(page);
  await pen.stroke(swell([x - 150, y], [x + 150, y + 60]));
  await settled(page);
  for (const key of ["Control+k", "Escape", "Control+e", "Escape", "?", "Escape"])
    await page.keyboard.press(key);
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
  expect(outside).toEqual([]);
  expect(complaints).toEqual([]);

  const response = await page.request.get("/");
  const csp = response.headers()["content-security-policy"] ?? "";
  expect(csp).toContain("default-src 'self'");
  expect(csp).not.toContain("'unsafe-eval'");
  expect(csp.match(/script-src [^;]*/)?.[0]).not.toContain("unsafe-inline");
  expect(response.headers()["x-powered-by"]).toBeUndefined();
  expect(response.headers()["cross-origin-embedder-policy"]).toBe("require-corp");
});

test("every answer carries a policy, and other pages get none", async ({ page, baseURL }) => {
  await page.goto("/");
  const script = await page.locator("script[src]").first().getAttribute("src");
  for (const path of [
    "/",
    script ?? "",
    "/favicon.svg",
    "/api/samples",
    "/api/samples/%",
    "/nowhere",
  ]) {
    const headers = (await page.request.get(path)).headers();
    expect(headers["content-security-policy"], path).toContain("default-src");
    expect(headers["x-content-type-options"], path).toBe("nosniff");
  }
  const ask = (headers: Record<string, string>) =>
    page.request.post("/api/render", { data: "{}", headers });
  expect((await ask({ "content-type": "text/plain" })).status()).toBe(415);
  const jsonl = { "content-type": "application/jsonl" };
  expect((await ask({ ...jsonl, origin: "http://evil.test" })).status()).toBe(403);
  expect((await ask({ ...jsonl, "sec-fetch-site": "cross-site" })).status()).toBe(403);
  expect((await ask({ ...jsonl, host: "evil.test" })).status()).toBe(421);
  expect(new URL(baseURL ?? "").hostname).toBe("localhost");
});

test("the server takes logs as long as it says", async ({ page }) => {
  const head =
    '{"pampas":1,"width":64,"height":48}\n{"do":"layer.add","id":"a","name":"A","above":null}\n';
  const note = `{"do":"layer.set","id":"a","opacity":0.5}${" ".repeat(2 ** 20)}\n`;
  const answer = await page.request.post("/api/render", {
    data: head + note.repeat(12),
    headers: { "content-type": "application/jsonl" },
  });
  expect(answer.status()).toBe(200);
  expect((await answer.body()).subarray(0, 4000).toString()).toContain('"done":true');
});

test("a page that is evil cannot be reached from a picture's name", async ({ page }) => {
  await freshTable(page, {
    width: 100,
    height: 80,
    title: '<img src=x onerror="document.title=1">',
  });
  await page.getByRole("link", { name: "Portfolio" }).click();
  await expect(page.getByText('<img src=x onerror="document.title=1">')).toBeVisible();
  await expect(page).toHaveTitle("Pampas");
});

test("a table without a picture leads home, one that is gone says so", async ({ page }) => {
  await page.goto("/table");
  await expect(page).toHaveURL(/\/$/);
  await page.goto("/table?picture=nowhere");
  await expect(page.getByText("This picture could not be opened")).toBeVisible();
  await expect(page.getByText("not in the Portfolio")).toBeVisible();
});
