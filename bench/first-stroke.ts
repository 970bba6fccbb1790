import { type Page } from "@playwright/test";
import { decode } from "fast-png";
import { Pen } from "../e2e/pen";
import { layOut } from "./lay-out";
import { type Row } from "./measure";

const RUNS = 5;
const SHEET = { width: 4000, height: 3000 };
/** How long a person has the dialog open at least, ms. */
const OVER_THE_DIALOG = 2000;

/** A page with nothing but a canvas of the same size, on which a pen draws lines. */
const bare = `<canvas width="${SHEET.width}" height="${SHEET.height}" style="width:1000px;height:750px;touch-action:none"></canvas>
<script>
  const canvas = document.querySelector("canvas");
  const context = canvas.getContext("2d");
  context.fillStyle = "#fff";
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.lineWidth = 20;
  let last = null;
  canvas.onpointerdown = (event) => (last = [event.offsetX * 4, event.offsetY * 4]);
  canvas.onpointermove = (event) => {
    if (!last) return;
    context.beginPath();
    context.moveTo(...last);
    last = [event.offsetX * 4, event.offsetY * 4];
    context.lineTo(...last);
    context.stroke();
  };
  canvas.onpointerup = () => (last = null);
</script>`;

/** Draws until a stroke is seen: lines under each other, the pixel in the middle of the last one looked at. */
async function drawUntilSeen(page: Page): Promise<void> {
  const pen = await Pen.on(page);
  for (let y = 250; y < 560; y += 8) {
    await pen.stroke([500, 520, 540, 560].map((x) => ({ x, y, pressure: 0.9 })));
    const clip = { x: 526, y: y - 2, width: 9, height: 5 };
    const { data, channels } = decode(await page.screenshot({ clip }));
    for (let i = 0; i < data.length; i += channels) if ((data[i] as number) < 190) return;
  }
  throw new Error("no stroke was seen");
}

/** From the press that lays a new picture out to its first stroke, beside an empty page with a canvas. */
export async function firstStroke(newPage: () => Promise<Page>): Promise<Row[]> {
  const times: { ours: number; canvas: number }[] = [];
  for (let run = 0; run < RUNS; run++) {
    const page = await newPage();
    const asked = await layOut(page, SHEET.width, SHEET.height, OVER_THE_DIALOG);
    await drawUntilSeen(page);
    const ours = performance.now() - asked;
    const begun = performance.now();
    await page.goto("about:blank");
    await page.setContent(bare);
    await drawUntilSeen(page);
    times.push({ ours, canvas: performance.now() - begun });
    await page.context().close();
  }
  const middle = (of: (one: { ours: number; canvas: number }) => number): number =>
    times.map(of).toSorted((a, b) => a - b)[RUNS >> 1] as number;
  return [
    {
      what: "new picture 4000 × 3000, from its laying out to the first stroke",
      reference: "an empty page with a canvas of that size",
      wanted: { most: 4 },
      ratio: middle(({ ours, canvas }) => ours / canvas),
      note: `median ${middle(({ ours }) => ours).toFixed(0)} against ${middle(({ canvas }) => canvas).toFixed(0)} ms (screenshots included)`,
    },
  ];
}
