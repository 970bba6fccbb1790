import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { z } from "zod";

/** The sample pictures' work logs, as `npm run samples` writes them. */
const folder = (): string => join(process.cwd(), "demo", "logs");

export const sampleName = z.string().regex(/^[a-z0-9-]{1,64}$/);

/** Logs of references begin so; they are no pictures of their own. */
const PIN = "pin-";

/** The references that lie beside a sample. */
const pinsOf: Readonly<Record<string, readonly string[]>> = {
  "night-stop": ["pin-wet-street"],
  "the-conductor": ["pin-brass-lamp", "pin-wool-coat"],
};

export type SampleEntry = {
  name: string;
  title: string;
  bytes: number;
  pins: readonly string[];
  /** Whether it was painted beforehand, as it is painted now. */
  painted: boolean;
};

/** What `npm run samples:paint` leaves: files by the hash of all that they were painted from. */
const paintedFolder = (): string => join(process.cwd(), "demo", "painted");
export const paintedList = z.record(sampleName, z.string().regex(/^[a-z0-9.-]{1,120}$/));

/** Names of the painted files, by sample; none where nothing was painted. */
async function listPainted(): Promise<Record<string, string>> {
  try {
    return paintedList.parse(
      JSON.parse(await readFile(join(paintedFolder(), "list.json"), "utf8")),
    );
  } catch {
    return {};
  }
}

/** What was painted of a sample, or of a reference beside one; null where nothing was. */
export async function readPaintedSample(name: string): Promise<Uint8Array<ArrayBuffer> | null> {
  const file = (await listPainted())[name];
  if (!file) return null;
  return readFile(join(paintedFolder(), file)).then(
    (bytes) => new Uint8Array(bytes),
    () => null,
  );
}

const titled = z.object({ title: z.string() });

export async function listSamples(): Promise<SampleEntry[]> {
  const painted = await listPainted();
  const files = (await readdir(folder()))
    .filter((file) => file.endsWith(".jsonl") && !file.startsWith(PIN))
    .sort();
  return Promise.all(
    files.map(async (file) => {
      const text = await readFile(join(folder(), file), "utf8");
      const { title } = titled.parse(JSON.parse(text.slice(0, text.indexOf("\n"))));
      const name = file.replace(/\.jsonl$/, "");
      return {
        name,
        title,
        bytes: Buffer.byteLength(text),
        pins: pinsOf[name] ?? [],
        painted: name in painted,
      };
    }),
  );
}

/** The log of a sample, or of a reference beside one; null where there is none of that name. */
export async function readSample(name: string): Promise<string | null> {
  const known = (await listSamples()).some(
    (sample) => sample.name === name || sample.pins.includes(name),
  );
  return known ? readFile(join(folder(), `${name}.jsonl`), "utf8") : null;
}
