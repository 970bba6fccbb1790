import { Said } from "../../notices/why";
import { z } from "zod";

const line = z.union([
  z.strictObject({ progress: z.number() }),
  z.strictObject({ done: z.literal(true), bytes: z.number().int().min(1), type: z.string() }),
  z.strictObject({ error: z.string() }),
]);

export type ServerRender = { format: "png" | "ora"; scale: number };

/**
 * Has a work log painted by the server this page came from.
 * @throws Said with words for the person
 */
export async function renderOnServer(
  log: Uint8Array<ArrayBuffer>,
  { format, scale }: ServerRender,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(`/api/render?format=${format}&scale=${scale}`, {
    method: "POST",
    headers: { "content-type": "application/jsonl" },
    body: log,
    signal,
  });
  if (!response.ok || !response.body) {
    const said = z.object({ error: z.string() }).safeParse(await response.json().catch(() => null));
    throw new Said(said.success ? said.data.error : "the server did not answer");
  }
  const reader = response.body.getReader();
  let held = new Uint8Array(0);
  let file: { bytes: Uint8Array<ArrayBuffer>; at: number } | null = null;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    let rest = value;
    while (!file) {
      const joined = new Uint8Array(held.length + rest.length);
      joined.set(held);
      joined.set(rest, held.length);
      const end = joined.indexOf(10);
      if (end < 0) {
        held = joined;
        rest = new Uint8Array(0);
        break;
      }
      const said = line.parse(JSON.parse(new TextDecoder().decode(joined.subarray(0, end))));
      if ("error" in said) throw new Said(said.error);
      if ("progress" in said) progress(said.progress);
      else file = { bytes: new Uint8Array(said.bytes), at: 0 };
      held = new Uint8Array(0);
      rest = joined.subarray(end + 1);
    }
    if (file) {
      file.bytes.set(rest, file.at);
      file.at += rest.length;
    }
  }
  if (!file || file.at !== file.bytes.length) throw new Said("the answer of the server broke off");
  return file.bytes;
}
