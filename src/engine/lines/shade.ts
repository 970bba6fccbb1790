import { directionAt, lengthsOf, materialAt, placeAt } from "./curve";
import { type Line, settledLine } from "./line";
import { profileThrough, reader } from "./profile";

/** Px between places whose side is looked at. */
const APART = 4;

/**
 * Makes a line thicker where it turns away from the light: where what it bounds faces away from it. A line has no
 * inside of its own: of a closed line the side that it encloses is taken, of an open one the side it bends round.
 * @param light where the light comes from on the sheet, radians clockwise from the right
 */
export function shadeLine(line: Line, light: number, times: number): Line {
  const { curve } = line;
  const lengths = lengthsOf(curve);
  const total = lengths.at(-1) as number;
  const count = Math.max(2, Math.ceil(total / APART));
  const side = enclosed(line) >= 0 ? 1 : -1;
  const [lx, ly] = [Math.cos(light), Math.sin(light)];
  const read = reader(line.width);
  const places: number[] = [];
  const radii: number[] = [];
  for (let i = 0; i <= count; i++) {
    const place = placeAt(curve, lengths, (total * i) / count);
    const m = materialAt(curve, place);
    if (places.length > 0 && m - (places.at(-1) as number) < 1e-3) continue;
    const [dx, dy] = directionAt(curve, place);
    // The normal that points out of what is enclosed; away from the light it counts whole.
    const away = Math.max(0, -side * (dy * lx - dx * ly));
    places.push(m);
    radii.push(read(m) * (1 + (times - 1) * away));
  }
  return settledLine({ ...line, width: profileThrough(places, radii, { px: 0.1, share: 0.02 }) });
}

/** Twice the area between a line and its chord; above 0 where it runs clockwise on the sheet. */
function enclosed({ curve }: Line): number {
  const { points } = curve;
  let area = 0;
  const n = points.length;
  for (let i = 0; i < n; i += 2) {
    const j = (i + 2) % n;
    area +=
      (points[i] as number) * (points[j + 1] as number) -
      (points[j] as number) * (points[i + 1] as number);
  }
  return area;
}
