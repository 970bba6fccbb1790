import { type Card } from "../../../engine/select/card";
import { type Layer } from "../../../engine/picture/picture";
import { type Point } from "../pen/pen-samples";

/** As a card is first taken up: its edge lies level, and below it the sheet is open. Degrees on the screen. */
export const FIRST_TURN = 90;

/**
 * Where a card lies that is held at a place: it turns with who looks, whatever the view does.
 * @param turn degrees on the screen from the right to its open side, clockwise
 * @param onPicture where a place on the screen is on the picture
 */
export function cardAt(turn: number, place: Point, onPicture: (place: Point) => Point): Card {
  const angle = (turn * Math.PI) / 180;
  const at = onPicture(place);
  const open = onPicture({ x: place.x + Math.cos(angle), y: place.y + Math.sin(angle) });
  const [dx, dy] = [open.x - at.x, open.y - at.y];
  const length = Math.hypot(dx, dy);
  return { x: at.x, y: at.y, nx: dx / length, ny: dy / length };
}

/** Whether a card holds anything back on a layer: lines and pieces are laid whole. */
export const isUnderCard = (layers: readonly Layer[] | undefined, id: string): boolean =>
  layers?.every((layer) => layer.id !== id || layer.kind === "paint") ?? false;
