import { type Stencil } from "../../../engine/stencil/stencil";
import { type Free, freeMatrix } from "../../../engine/transform/free";
import { type Matrix, type Size } from "../../../worker/view";
import { type StencilPicture } from "../../../worker/stencil-picture";

/** What stencils cover is seen in this colour. */
const VEIL = "#35516b";

/** A stencil's shape as something that can be drawn: the veil's colour, the shape in its alpha. */
export function veilOf({ width, height, alpha }: StencilPicture): OffscreenCanvas {
  const image = new ImageData(width, height);
  const value = parseInt(VEIL.slice(1), 16);
  for (let i = 0; i < alpha.length; i++)
    image.data.set([value >> 16, (value >> 8) & 255, value & 255, alpha[i] as number], i * 4);
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext("2d")?.putImageData(image, 0, 0);
  return canvas;
}

export type Lying = { stencil: Stencil; place: Free; veil: OffscreenCanvas };

/** Draws what stencils hold back over the view: the shape itself, or all of the sheet but it. */
export function paintVeil(
  canvas: HTMLCanvasElement,
  screen: Size,
  view: Matrix,
  sheet: Size,
  lying: readonly Lying[],
): void {
  if (canvas.width !== screen.width || canvas.height !== screen.height) {
    canvas.width = screen.width;
    canvas.height = screen.height;
  }
  const context = canvas.getContext("2d");
  if (!context) return;
  context.resetTransform();
  context.clearRect(0, 0, canvas.width, canvas.height);
  for (const { stencil, place, veil } of lying) {
    if (stencil.way === "holds") {
      drawShape(context, view, sheet, stencil, place, veil);
      continue;
    }
    const hole = new OffscreenCanvas(screen.width, screen.height).getContext("2d");
    if (!hole) continue;
    hole.setTransform(...view);
    hole.fillStyle = VEIL;
    hole.fillRect(0, 0, sheet.width, sheet.height);
    hole.globalCompositeOperation = "destination-out";
    drawShape(hole, view, sheet, stencil, place, veil);
    context.resetTransform();
    context.drawImage(hole.canvas, 0, 0);
  }
}

function drawShape(
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  view: Matrix,
  sheet: Size,
  { from }: Stencil,
  place: Free,
  veil: OffscreenCanvas,
): void {
  const [a, b, e, c, d, f] = freeMatrix(from, place);
  context.save();
  context.setTransform(...view);
  context.beginPath();
  context.rect(0, 0, sheet.width, sheet.height);
  context.clip();
  context.transform(a, c, b, d, e, f);
  context.drawImage(veil, from.left, from.top, from.right - from.left, from.bottom - from.top);
  context.restore();
}
