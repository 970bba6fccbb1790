import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { depotAtDusk } from "./depot-at-dusk";
import { depotYard } from "./depot-yard";
import { nightStop } from "./night-stop";
import { theConductor } from "./the-conductor/the-conductor";
import { brassLamp, wetStreet, woolCoat } from "./pins";
import { studiesForTheCover } from "./studies-for-the-cover";
import { ticketOffice } from "./ticket-office/ticket-office";
import { thermosAndPears } from "./thermos-and-pears";
import { thermosNightShift } from "./thermos-night-shift";

/** Writes the sample pictures' work logs to demo/logs. */
const folder = join(process.cwd(), "demo", "logs");
mkdirSync(folder, { recursive: true });
const samples: Record<string, () => string> = {
  "depot-at-dusk": depotAtDusk,
  "depot-yard": depotYard,
  "night-stop": nightStop,
  "studies-for-the-cover": studiesForTheCover,
  "the-conductor": theConductor,
  "thermos-and-pears": thermosAndPears,
  "thermos-night-shift": thermosNightShift,
  "ticket-office": ticketOffice,
  "pin-wet-street": wetStreet,
  "pin-brass-lamp": brassLamp,
  "pin-wool-coat": woolCoat,
};
for (const [name, draw] of Object.entries(samples))
  writeFileSync(join(folder, `${name}.jsonl`), draw());
