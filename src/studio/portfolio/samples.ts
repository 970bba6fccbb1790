import { Said } from "../notices/why";
import { type Remote } from "comlink";
import { z } from "zod";
import { type Database } from "../../storage/database";
import { PinBox } from "../../storage/pins";
import { readPngHeader } from "../../engine/file/png";
import { type PinPicture, type TableApi } from "../../worker/protocol";
import { newPin } from "../table/pins/pinboard";

const listSchema = z.object({
  samples: z.array(
    z.object({
      name: z.string(),
      title: z.string(),
      bytes: z.number(),
      pins: z.array(z.string()),
      painted: z.boolean(),
    }),
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
  if (!response.ok) throw new Said(`the sample “${name}” is not to be had`);
  return response.text();
}

/** What was painted of a sample beforehand; null where nothing was, or it cannot be had. */
export async function paintedSample({ name, painted }: Sample): Promise<Uint8Array | null> {
  if (!painted) return null;
  const response = await fetch(`/api/samples/${name}/painted`);
  return response.ok ? new Uint8Array(await response.arrayBuffer()) : null;
}

/** Size of a sample's pins, and how they lie under each other, CSS px. */
const PIN = { across: 150, left: 14, top: 14, step: 190 };

/** What was painted is a PNG of our own: only its size is looked at. */
const asPin = (png: Uint8Array): PinPicture => {
  const { width, height } = readPngHeader(png);
  return { width, height, png };
};

async function paintedNow(api: Remote<TableApi>, log: string): Promise<PinPicture> {
  const answer = await api.paintPin(log);
  if (!answer.ok) throw new Said(answer.why);
  return answer.value;
}

/** Paints the references that lie beside a sample, and pins them there. */
export async function pinBeside(
  api: Remote<TableApi>,
  db: Database,
  picture: string,
  names: readonly string[],
): Promise<void> {
  for (const [i, name] of names.entries()) {
    const log = await sampleLog(name);
    const ready = await fetch(`/api/samples/${name}/painted`);
    const painted = ready.ok
      ? asPin(new Uint8Array(await ready.arrayBuffer()))
      : await paintedNow(api, log);
    const title = z
      .object({ title: z.string() })
      .parse(JSON.parse(log.slice(0, log.indexOf("\n"))));
    const pin = newPin(picture, title.title, painted, i);
    const { across, left: x, top, step } = PIN;
    await new PinBox(db).keep({ ...pin, across, x, y: top + i * step });
  }
}
