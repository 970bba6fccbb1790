import { box, type Point, type Shape } from "../kit/shape";
import { fade, type Sheet, swell, type Tool } from "../kit/sheet";
import { EYE } from "./tram";

const graphite = "#2b2b31";
const hard: Tool = { brush: "pencil-2h", size: 5, colour: graphite };
const soft: Tool = { brush: "pencil-2b", size: 7, colour: graphite };

/** The lines that the room hangs on, and the figure as a few masses. */
export function pencilTheLayout(sheet: Sheet): void {
  const edges: Point[] = [
    [0, 0],
    [0, 780],
    [0, 850],
    [120, 1500],
    [640, 1500],
    [1420, 1500],
    [1920, 1500],
    [2000, 0],
    [2000, 760],
    [2000, 840],
  ];
  for (const from of edges) sheet.draw([from, EYE], hard, { press: fade(0.55, 0.1), wobble: 0.4 });
  const masses: Shape[] = [
    [
      [660, 660],
      [540, 820],
      [500, 1100],
      [470, 1490],
    ],
    [
      [890, 660],
      [1010, 820],
      [1050, 1100],
      [1080, 1490],
    ],
    [
      [650, 420],
      [640, 340],
      [780, 300],
      [900, 340],
      [900, 420],
      [780, 440],
      [650, 420],
    ],
    [
      [670, 440],
      [690, 590],
      [775, 640],
      [860, 590],
      [880, 440],
    ],
    [
      [520, 900],
      [560, 1050],
      [730, 1040],
      [800, 980],
      [1030, 1000],
      [1040, 880],
    ],
    [
      [890, 690],
      [770, 860],
      [600, 1120],
    ],
  ];
  for (const mass of masses) sheet.search(mass, soft, { press: swell(0.2, 0.7) });
  for (const frame of [box(1128, 450, 150, 360), box(1390, 735, 420, 440), box(345, 735, 400, 440)])
    sheet.outline(frame, soft, { press: swell(0.2, 0.6) });
}
