import { type CommandInput } from "../../src/engine/command/commands";
import { Sheet } from "../kit/sheet";
import { flatTheBenches, flatTheConductor, flatTheTram } from "./colour";
import { inkTheConductor, silhouette } from "./figure";
import { pencilTheLayout } from "./pencil";
import { glow, nightOutside, shadeTheBenches, shadeTheConductor, shadeTheTram } from "./shade";
import { EYE, inkTheTram } from "./tram";

const WIDTH = 2000;
const HEIGHT = 1500;

/**
 * “The conductor”: laid out in pencil, inked with raster pens, laid in flats and shaded in two
 * steps with clipped layers. The lamp hangs at the upper right, so everything turns dark toward
 * the lower left.
 */
export function theConductor(): string {
  const sheet = new Sheet(
    {
      title: "The conductor",
      width: WIDTH,
      height: HEIGHT,
      ppi: 300,
      ground: "#efe9dc",
      paper: { kind: "hot-pressed", scale: 1 },
    },
    2311,
  );
  sheet.commands.push(
    {
      do: "guides.set",
      guides: [
        {
          kind: "vanishing points",
          points: [EYE, [-2600, 560]].map(([x, y]) => ({ x, y })) as never,
        },
      ],
    },
    { do: "sun.set", sun: { at: { x: 1840, y: 300 }, azimuth: 0.75, height: 0.9 } },
  );
  sheet.layer("pencil", "Pencil");
  pencilTheLayout(sheet);
  ink(sheet);
  colour(sheet);
  sheet.commands.push(...order);
  return sheet.log;
}

function ink(sheet: Sheet): void {
  sheet.layer("tram-lines", "Ink", {}, "lines");
  inkTheTram(sheet);
  for (const part of silhouette) sheet.clear(part);
  sheet.layer("figure-lines", "Ink", {}, "lines");
  inkTheConductor(sheet);
  sheet.commands.push(
    { do: "layer.set", id: "tram-lines", lines: true },
    { do: "layer.set", id: "figure-lines", lines: true },
    { do: "layer.set", id: "pencil", visible: false },
  );
}

/** Colour goes under the ink of each, in the order that it is laid in. */
function colour(sheet: Sheet): void {
  sheet.climb("pencil");
  sheet.layer("tram-flats", "Walls and floor");
  flatTheTram(sheet);
  nightOutside(sheet, "tram-flats");
  shadeTheTram(sheet);
  sheet.layer("bench-flats", "Benches");
  flatTheBenches(sheet);
  shadeTheBenches(sheet);
  sheet.climb("tram-lines");
  sheet.layer("figure-flats", "Flats");
  flatTheConductor(sheet);
  shadeTheConductor(sheet);
  sheet.climb("figure-lines");
  glow(sheet);
}

const order: CommandInput[] = [
  {
    do: "layer.group",
    id: "tram",
    name: "Tram",
    layers: [
      "tram-flats",
      "outside",
      "glints",
      "tram-shade",
      "tram-shade-2",
      "tram-light",
      "bench-flats",
      "bench-shade",
      "bench-shade-2",
      "tram-lines",
    ],
  },
  {
    do: "layer.group",
    id: "figure",
    name: "Conductor",
    layers: ["figure-flats", "figure-shade", "figure-shade-2", "figure-light", "figure-lines"],
  },
];
