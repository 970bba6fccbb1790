import { z } from "zod";
import { Refusal } from "@/engine/picture/refusal";
import { refused } from "@/app/guard";
import { type RenderAsk, Rendering, renderLimits, takePlace } from "@/node/render-queue";

export const dynamic = "force-dynamic";

const query = z.strictObject({
  format: z.enum(["png", "ora"]).default("png"),
  scale: z.coerce.number().min(0.05).max(16).default(1),
});

const refuse = (status: number, error: string): Response => Response.json({ error }, { status });

const { bytes: MOST_BYTES, bodyMilliseconds: BODY_TIME } = renderLimits;

/** Reads a body. Returns null where it is longer than its limit or does not come in its time. */
async function readBody(request: Request): Promise<string | null> {
  const reader = request.body?.getReader();
  const late = setTimeout(() => void reader?.cancel(), BODY_TIME);
  const until = Date.now() + BODY_TIME;
  const parts: Uint8Array[] = [];
  let size = 0;
  try {
    for (;;) {
      const read = await reader?.read();
      if (Date.now() >= until) return null;
      if (!read || read.done) return new TextDecoder().decode(Buffer.concat(parts));
      size += read.value.length;
      if (size > MOST_BYTES) {
        await reader?.cancel();
        return null;
      }
      parts.push(read.value);
    }
  } finally {
    clearTimeout(late);
  }
}

/**
 * Paints a posted work log with the engine that the browser uses; nothing is kept.
 *
 * `POST /api/render?format=png|ora&scale=S`, body: the log (application/jsonl). The answer is a stream: lines
 * of JSON `{"progress":0…1}`, then `{"done":true,"bytes":N,"type":…}` and N bytes of file,
 * or `{"error":…}`. Closing the connection ends the work.
 */
export async function POST(request: Request): Promise<Response> {
  const wrong = refused(request, ["application/jsonl"]);
  if (wrong) return wrong;
  const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return refuse(400, z.prettifyError(asked.error));
  if (Number(request.headers.get("content-length") ?? 0) > MOST_BYTES) return tooLong();
  const leave = takePlace();
  if (!leave) return refuse(429, "another picture is being painted; try again when it is done");
  let begun = false;
  try {
    const text = await readBody(request);
    if (text === null) return tooLong();
    const rendering = new Rendering({ text, ...asked.data });
    request.signal.addEventListener("abort", () => rendering.stop());
    await rendering.read();
    begun = true;
    return new Response(streamed(rendering, asked.data.format, request.signal, leave), {
      headers: { "Content-Type": "application/octet-stream", "Cache-Control": "no-store" },
    });
  } catch (error) {
    if (error instanceof Refusal) return refuse(400, error.message);
    throw error;
  } finally {
    // A picture whose answer is being sent holds the place until it is done.
    if (!begun) leave();
  }
}

const tooLong = (): Response =>
  refuse(413, `a log may have ${MOST_BYTES / 2 ** 20} MiB and take ${BODY_TIME / 1000} s to come`);

function streamed(
  rendering: Rendering,
  format: RenderAsk["format"],
  asked: AbortSignal,
  leave: () => void,
): ReadableStream<Uint8Array> {
  let gone = asked.aborted;
  asked.addEventListener("abort", () => (gone = true));
  return new ReadableStream<Uint8Array>({
    async start(out) {
      const line = (data: unknown): void => {
        if (!gone) out.enqueue(new TextEncoder().encode(`${JSON.stringify(data)}\n`));
      };
      try {
        const bytes = await rendering.file((progress) => line({ progress }));
        const type = format === "png" ? "image/png" : "image/openraster";
        line({ done: true, bytes: bytes.length, type });
        if (!gone) out.enqueue(bytes);
      } catch (error) {
        line({ error: error instanceof Refusal ? error.message : "painting failed" });
      } finally {
        leave();
      }
      if (!gone) out.close();
    },
    cancel() {
      gone = true;
      rendering.stop();
    },
  });
}
