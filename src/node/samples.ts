import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { z } from "zod";

/** The sample pictures' work logs, as `npm run samples` writes them. */
const folder = (): string => join(process.cwd(), "demo", "logs");

export const sampleName = z.string().regex(/^[a-z0-9-]{1,64}$/);

export type SampleEntry = { name: string; title: string; bytes: number };

const titled = z.object({ title: z.string() });

export async function listSamples(): Promise<SampleEntry[]> {
  const files = (await readdir(folder())).filter((file) => file.endsWith(".jsonl")).sort();
  return Promise.all(
    files.map(async (file) => {
      const text = await readFile(join(folder(), file), "utf8");
      const { title } = titled.parse(JSON.parse(text.slice(0, text.indexOf("\n"))));
      return { name: file.replace(/\.jsonl$/, ""), title, bytes: Buffer.byteLength(text) };
    }),
  );
}

/** A sample's log; null where there is none of that name. */
export async function readSample(name: string): Promise<string | null> {
  const known = (await listSamples()).some((sample) => sample.name === name);
  return known ? readFile(join(folder(), `${name}.jsonl`), "utf8") : null;
}
