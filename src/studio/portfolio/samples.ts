import { type Remote } from "comlink";
import { z } from "zod";
import { type Database } from "../../storage/database";
import { PinBox } from "../../storage/pins";
import { type TableApi } from "../../worker/protocol";
import { newPin } from "../table/pins/pinboard";

const listSchema = z.object({
  samples: z.array(
    z.object({ name: z.string(), title: z.string(), bytes: z.number(), pins: z.array(z.string()) }),
  ),
});
export type Sample = z.infer<typeof listSchema>["samples"][number];

/** The sample pictures that the server has logs of. */
export async function listSamples(): Promise<Sample[]> {
  const response = await fetch("/api/samples");
  return listSchema.parse(await response.json()).samples;
}

export async function sampleLog(name: string): Promise<string> {
  const response = await fetch(`/api/samples/${name}`);
  if (!response.ok) throw new Error(`the sample “${name}” is not to be had`);
  return response.text();
}

/** Size of a sample's pins, and how they lie under each other, CSS px. */
const PIN = { across: 150, left: 14, top: 14, step: 190 };

/** Paints the references that lie beside a sample, and pins them there. */
export async function pinBeside(
  api: Remote<TableApi>,
  db: Database,
  picture: string,
  names: readonly string[],
): Promise<void> {
  for (const [i, name] of names.entries()) {
    const log = await sampleLog(name);
    const painted = await api.paintPin(log);
    if (!painted.ok) throw new Error(painted.why);
    const title = z
      .object({ title: z.string() })
      .parse(JSON.parse(log.slice(0, log.indexOf("\n"))));
    const pin = newPin(picture, title.title, painted.value, i);
    const { across, left: x, top, step } = PIN;
    await new PinBox(db).keep({ ...pin, across, x, y: top + i * step });
  }
}
