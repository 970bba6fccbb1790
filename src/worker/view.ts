/**
 * How the table looks at a picture. `x`, `y`: the picture point in the middle of the view;
 * `zoom`: device px a picture px; `angle`: turn of the picture in radians, clockwise;
 * `mirrored`: seen from behind. Pixels are never touched.
 */
export type View = { x: number; y: number; zoom: number; angle: number; mirrored: boolean };

export type Size = { width: number; height: number };

/** Canvas transform a b c d e f: picture px → device px. */
export type Matrix = [number, number, number, number, number, number];

export const LEAST_ZOOM = 0.01;
export const MOST_ZOOM = 64;

export function viewMatrix(view: View, { width, height }: Size): Matrix {
  const cos = Math.cos(view.angle) * view.zoom;
  const sin = Math.sin(view.angle) * view.zoom;
  const m = view.mirrored ? -1 : 1;
  const [a, b, c, d] = [cos * m, sin * m, -sin, cos];
  // At whole pixels an unturned picture keeps whole pixels.
  const snap = view.angle === 0 ? Math.round : (v: number): number => v;
  return [
    a,
    b,
    c,
    d,
    snap(width / 2 - a * view.x - c * view.y),
    snap(height / 2 - b * view.x - d * view.y),
  ];
}

export function toScreen([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] {
  return [a * x + c * y + e, b * x + d * y + f];
}

export function toPicture([a, b, c, d, e, f]: Matrix, x: number, y: number): [number, number] {
  const det = a * d - b * c;
  const dx = x - e;
  const dy = y - f;
  return [(d * dx - c * dy) / det, (a * dy - b * dx) / det];
}

/** The whole picture, with a margin around it. */
export function fitView(picture: Size, screen: Size, margin: number): View {
  const zoom = Math.min(
    Math.max(1, screen.width - 2 * margin) / picture.width,
    Math.max(1, screen.height - 2 * margin) / picture.height,
  );
  return {
    x: picture.width / 2,
    y: picture.height / 2,
    zoom: Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, zoom)),
    angle: 0,
    mirrored: false,
  };
}

/** The view zoomed by `factor`, the screen point (sx, sy) staying where it is. */
export function zoomedAt(view: View, screen: Size, factor: number, sx: number, sy: number): View {
  const zoom = Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, view.zoom * factor));
  return keptAt(view, { ...view, zoom }, screen, sx, sy);
}

/** The same direction within ±π. */
export const wrapAngle = (angle: number): number => {
  const turns = Math.round(angle / (2 * Math.PI));
  return turns === 0 ? angle : angle - turns * 2 * Math.PI;
};

/** The view turned by `angle`, the screen point (sx, sy) staying where it is. */
export function turnedAt(view: View, screen: Size, angle: number, sx: number, sy: number): View {
  return keptAt(view, { ...view, angle: wrapAngle(view.angle + angle) }, screen, sx, sy);
}

/** Moves `next` so that (sx, sy) shows the picture point that it shows in `view`. */
function keptAt(view: View, next: View, screen: Size, sx: number, sy: number): View {
  const [px, py] = toPicture(viewMatrix(view, screen), sx, sy);
  const [qx, qy] = toPicture(viewMatrix(next, screen), sx, sy);
  return { ...next, x: next.x + px - qx, y: next.y + py - qy };
}

/** Small views of the whole picture are shown at about this share of their bitmap's size. */
export const SHOWN_AT = 0.4;
