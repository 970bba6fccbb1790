import { arc, type Point, smooth } from "../kit/shape";
import { type Sheet } from "../kit/sheet";
import {
  arm,
  bag,
  braids,
  buttons,
  capShape,
  coat,
  ears,
  face,
  gripShapes,
  handShapes,
  jaws,
  moustache,
  nose,
  otherArm,
  scarfShapes,
  strapShape,
  ticket,
} from "./figure";
import {
  BAYS,
  bench,
  BENCHES,
  door,
  endWindows,
  handle,
  lamps,
  LEFT,
  pane,
  planes,
  porthole,
  rails,
  RIGHT,
  SILL,
  straps,
  tickets,
  wallBetween,
} from "./tram";

const wood = "#5d3a2a";
const night = "#1f2c52";
const brass = "#d8a440";

/** The tram in flats, far things first, each lassoed along its line. */
export function flatTheTram(sheet: Sheet): void {
  sheet.lasso("#c3bb93", planes.end);
  sheet.lasso("#cfc7a2", planes.ceiling);
  sheet.lasso("#b7ae86", planes.leftWall);
  sheet.lasso("#d9cc9a", planes.rightWall);
  sheet.lasso("#7c4a30", planes.leftPanel);
  sheet.lasso("#925a37", planes.rightPanel);
  sheet.lasso("#75604f", planes.floor);
  sheet.lasso("#87705a", ...boards());
  for (const wall of [LEFT, RIGHT]) {
    sheet.lasso(wood, wallBetween(wall, SILL, SILL + 0.07));
    sheet.lasso(wood, ...BAYS.map((bay) => pane(wall, bay)));
    sheet.lasso(night, ...BAYS.map((bay) => pane(wall, bay, 0.045)));
  }
  sheet.lasso("#7d3428", door);
  sheet.lasso(night, ...endWindows);
  sheet.lasso(brass, porthole);
  sheet.lasso(night, arc([1203.3, 551.7], 36, 36));
  sheet.lasso("#f1e5c6", ...tickets);
  sheet.lasso(brass, ...rails);
  for (const { strap, outer } of straps) {
    sheet.lasso("#6b4028", strap);
    sheet.lasso("#e8d3a0", outer);
  }
  for (const { x, y, r } of lamps) {
    sheet.lasso(brass, arc([x, y - r], r * 0.4, r * 0.22));
    sheet.lasso("#fff1c4", arc([x, y], r, r));
  }
}

/** The benches stand on a layer of their own, so that the shade of the floor stays behind them. */
export function flatTheBenches(sheet: Sheet): void {
  for (const z of BENCHES)
    for (const side of ["left", "right"] as const) {
      const grip = handle(side, z);
      const { back, edge, foot } = bench(side, z);
      sheet.lasso("#3a2a2c", foot);
      sheet.lasso("#6a2326", edge);
      sheet.lasso(brass, [...grip.outer, ...[...grip.inner].reverse()]);
      sheet.lasso("#97352f", back);
    }
}

/** Every other board of the gangway. */
function boards(): Point[][] {
  return [
    [-1.05, -0.73],
    [-0.4, -0.08],
  ].map(([from, to]) => {
    const edge = (x: number, z: number): Point => [1270 + (1500 * x) / z, 560 + 2250 / z];
    const [a, b] = [from as number, to as number];
    return [edge(a, 2.1), edge(b, 2.1), edge(b, 9), edge(a, 9)];
  });
}

/** The conductor: his silhouette first, then what lies on it is tapped, line to line. */
export function flatTheConductor(sheet: Sheet): void {
  sheet.lasso("#31506e", coat);
  sheet.lasso("#6f4529", strapShape);
  sheet.lasso("#31506e", arm, otherArm);
  sheet.lasso("#d49a2e", ...braids);
  sheet.lasso("#e3a981", smooth(face), ...ears);
  sheet.lasso("#e3a981", ...handShapes);
  sheet.lasso("#dd9a78", arc([706, 586], 22, 17), arc([842, 586], 22, 17));
  sheet.lasso("#d98f6d", smooth(nose));
  sheet.lasso("#8a5a33", smooth(bag));
  sheet.lasso("#6d7679", ...gripShapes);
  sheet.lasso("#f4e9c8", ticket);
  sheet.lasso("#a9b2b6", smooth(jaws));
  sheet.lasso("#d49a2e", ...scarfShapes);
  sheet.lasso("#2b4660", capShape);
  sheet.lasso("#f0ebe0", moustache);
  sheet.tap("#8f3a2e", [700, 446], [846, 446]);
  sheet.tap("#1d2536", [700, 478], [840, 490]);
  sheet.tap(brass, [774, 385], [774, 404], [744, 404], [804, 404]);
  sheet.tap(brass, ...buttons.map(([x, y]): Point => [x + 10, y + 6]));
  sheet.tap("#7b4e2b", [560, 1150], [640, 1150]);
  sheet.tap(brass, [592, 1222], [608, 1270]);
}
