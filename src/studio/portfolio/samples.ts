import { z } from "zod";

const listSchema = z.object({
  samples: z.array(z.object({ name: z.string(), title: z.string(), bytes: z.number() })),
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
