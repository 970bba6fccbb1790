import { type Size, type Matrix } from "../../../worker/view";
import { freeMatrix } from "../../../engine/transform/free";
import { piecewise, type Placement } from "./placement";
import { type Piece } from "./transform-store";

const pictures = new WeakMap<Piece, OffscreenCanvas>();

/** The piece's small picture, as something that can be drawn. */
function pictureOf(piece: Piece): OffscreenCanvas {
  const known = pictures.get(piece);
  if (known) return known;
  const made = new OffscreenCanvas(piece.width, piece.height);
  made.getContext("2d")?.putImageData(new ImageData(piece.data, piece.width, piece.height), 0, 0);
  pictures.set(piece, made);
  return made;
}

/** Draws the piece as it is dragged over the view; null clears the canvas. */
export function paintPiece(
  canvas: HTMLCanvasElement,
  screen: Size,
  view: Matrix,
  piece: Piece | null,
  placement: Placement,
): void {
  if (canvas.width !== screen.width || canvas.height !== screen.height) {
    canvas.width = screen.width;
    canvas.height = screen.height;
  }
  const context = canvas.getContext("2d");
  if (!context) return;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, canvas.width, canvas.height);
  if (!piece) return;
  const picture = pictureOf(piece);
  const { from } = piece;
  const perX = (from.right - from.left) / piece.width;
  const perY = (from.bottom - from.top) / piece.height;
  if (placement.kind === "free") {
    const [a, b, e, c, d, f] = freeMatrix(from, placement.free);
    context.setTransform(...view);
    context.transform(a, c, b, d, e, f);
    context.drawImage(picture, from.left, from.top, from.right - from.left, from.bottom - from.top);
    return;
  }
  const all = piecewise(from, placement);
  for (let t = 0; t < all.length; t += 12) {
    context.setTransform(...view);
    drawTriangle(context, picture, all.subarray(t, t + 12), from.left, from.top, perX, perY);
  }
}

/** One triangle of the picture, carried to its place by the affine map of its corners. */
function drawTriangle(
  context: CanvasRenderingContext2D,
  picture: OffscreenCanvas,
  t: Float64Array,
  left: number,
  top: number,
  perX: number,
  perY: number,
): void {
  const x = (i: number): number => t[i * 4] as number;
  const y = (i: number): number => t[i * 4 + 1] as number;
  const u = (i: number): number => ((t[i * 4 + 2] as number) - left) / perX;
  const v = (i: number): number => ((t[i * 4 + 3] as number) - top) / perY;
  const du1 = u(1) - u(0);
  const dv1 = v(1) - v(0);
  const du2 = u(2) - u(0);
  const dv2 = v(2) - v(0);
  const area = du1 * dv2 - du2 * dv1;
  if (Math.abs(area) < 1e-9) return;
  const solve = (p1: number, p2: number): [number, number] => [
    (p1 * dv2 - p2 * dv1) / area,
    (p2 * du1 - p1 * du2) / area,
  ];
  const [a, c] = solve(x(1) - x(0), x(2) - x(0));
  const [b, d] = solve(y(1) - y(0), y(2) - y(0));
  context.save();
  context.beginPath();
  // A hair larger than it is, so that no seams show.
  const cx = (x(0) + x(1) + x(2)) / 3;
  const cy = (y(0) + y(1) + y(2)) / 3;
  for (let i = 0; i < 3; i++) {
    const away = Math.hypot(x(i) - cx, y(i) - cy) || 1;
    context.lineTo(x(i) + ((x(i) - cx) / away) * 0.7, y(i) + ((y(i) - cy) / away) * 0.7);
  }
  context.closePath();
  context.clip();
  context.transform(a, b, c, d, x(0) - a * u(0) - c * v(0), y(0) - b * u(0) - d * v(0));
  context.drawImage(picture, 0, 0);
  context.restore();
}
