import { type Page } from "@playwright/test";

/**
 * Lays a picture out through the dialog, as a person does who takes so long over it, ms.
 * @returns when the sheet was asked for, as `performance.now()` tells it
 */
export async function layOut(page: Page, width: number, height: number, over = 0): Promise<number> {
  await page.getByRole("button", { name: "New picture" }).first().click();
  await page.getByRole("radio", { name: /Own size/ }).click();
  await page.getByLabel("Unit").selectOption("px");
  await page.getByLabel("Width").fill(String(width));
  await page.getByLabel("Height").fill(String(height));
  await page.waitForTimeout(over);
  const asked = performance.now();
  await page.getByRole("button", { name: "Lay out the sheet" }).click();
  await page.waitForURL(/table/);
  await page.getByTestId("view").waitFor();
  return asked;
}
