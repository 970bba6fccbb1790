import { mkdirSync, writeFileSync } from "node:fs";
import { engineRows } from "./engine";
import { table, type Row } from "./measure";
import { browserRows } from "./in-the-browser";

/** Prints ratios measured side by side in this run, and writes them as JSON. */
async function main(): Promise<void> {
  const rows: Row[] = await engineRows();
  try {
    rows.push(...(await browserRows()));
  } catch (error) {
    console.log(`in the browser: could not be measured (${String(error)})`);
  }
  console.log(table(rows));
  mkdirSync("bench/results", { recursive: true });
  writeFileSync("bench/results/latest.json", JSON.stringify(rows, null, 2));
}

void main();
