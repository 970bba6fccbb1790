/** A shape's attribute as a number; what is left out or cannot be read is `otherwise`. */
const number = (text: string | undefined, otherwise = 0): number => {
  const value = parseFloat(text ?? "");
  return Number.isFinite(value) ? value : otherwise;
};

function rectangle(of: Record<string, string>): string {
  const [x, y, w, h] = [number(of.x), number(of.y), number(of.width), number(of.height)];
  if (w <= 0 || h <= 0) return "";
  const rx = Math.min(w / 2, number(of.rx, number(of.ry)));
  const ry = Math.min(h / 2, number(of.ry, rx));
  if (rx <= 0 || ry <= 0) return `M${x} ${y}h${w}v${h}h${-w}z`;
  const corner = (dx: number, dy: number): string => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
  return `M${x + rx} ${y}h${w - 2 * rx}${corner(rx, ry)}v${h - 2 * ry}${corner(-rx, ry)}h${2 * rx - w}${corner(-rx, -ry)}v${2 * ry - h}${corner(rx, -ry)}z`;
}

function ellipse(cx: number, cy: number, rx: number, ry: number): string {
  if (rx <= 0 || ry <= 0) return "";
  return `M${cx + rx} ${cy}a${rx} ${ry} 0 1 1 ${-2 * rx} 0a${rx} ${ry} 0 1 1 ${2 * rx} 0z`;
}

function poly(points: string | undefined, end: string): string {
  const numbers = (points ?? "")
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (numbers.length < 4 || !numbers.every(Number.isFinite)) return "";
  const whole = numbers.slice(0, numbers.length - (numbers.length % 2));
  return `M${whole.join(" ")}${end}`;
}

/** A shape of an SVG as the data of a path; empty where it shows nothing. */
export function pathOfShape(name: string, of: Record<string, string>): string {
  switch (name) {
    case "path":
      return of.d ?? "";
    case "rect":
      return rectangle(of);
    case "circle":
      return ellipse(number(of.cx), number(of.cy), number(of.r), number(of.r));
    case "ellipse":
      return ellipse(number(of.cx), number(of.cy), number(of.rx), number(of.ry));
    case "line":
      return `M${number(of.x1)} ${number(of.y1)}L${number(of.x2)} ${number(of.y2)}`;
    case "polyline":
      return poly(of.points, "");
    case "polygon":
      return poly(of.points, "z");
    default:
      return "";
  }
}
