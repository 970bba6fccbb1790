import { Sheet } from "../kit/sheet";
import { clerk } from "./clerk";
import { clock } from "./clock";
import { leaving } from "./leaving";
import { outside } from "./outside";
import { BLACK, Panel } from "./page";

const WIDTH = 2480;
const HEIGHT = 3508;

/**
 * “Ticket office”: a page of a comic at 600 ppi in black and white. Four panels cut from the sheet, lines that stay
 * editable, spotted blacks, tones in dots, lines that run to a clock and to where a tram has gone.
 */
export function ticketOffice(): string {
  const sheet = new Sheet(
    {
      title: "Ticket office",
      width: WIDTH,
      height: HEIGHT,
      ppi: 600,
      mode: "black-and-white",
      ground: "#ffffff",
      paper: { kind: "board", scale: 1 },
    },
    1159,
  );
  sheet.commands.push(
    {
      do: "panels.lay",
      id: "page",
      box: { left: 140, top: 140, right: WIDTH - 140, bottom: HEIGHT - 140 },
      style: { width: 14, colour: BLACK },
    },
    { do: "panels.cut", id: "middle", from: [0, 1290], to: [WIDTH, 1290], gutter: 72 },
    { do: "panels.cut", id: "last", from: [0, 2330], to: [WIDTH, 2330], gutter: 72 },
    { do: "panels.cut", id: "clock", from: [1350, 1300], to: [1230, 2310], gutter: 46 },
  );
  outside(new Panel(sheet, "page"));
  clerk(new Panel(sheet, "middle"));
  clock(new Panel(sheet, "clock"));
  leaving(new Panel(sheet, "last"));
  return sheet.log;
}
