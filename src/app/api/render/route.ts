import { z } from "zod";
import { Refusal } from "@/engine/picture/refusal";
import { refused } from "@/app/guard";
import { isBusy, readAsk, renderLimits, renderLog } from "@/node/render-queue";

export const dynamic = "force-dynamic";

const query = z.strictObject({
  format: z.enum(["png", "ora"]).default("png"),
  scale: z.coerce.number().min(0.05).max(16).default(1),
});

const refuse = (status: number, error: string): Response => Response.json({ error }, { status });

/** Reads a body up to a limit; null where it is longer. */
async function readBody(request: Request, limit: number): Promise<string | null> {
  if (Number(request.headers.get("content-length") ?? 0) > limit) return null;
  const parts: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const read = await reader?.read();
    if (!read || read.done) return new TextDecoder().decode(Buffer.concat(parts));
    size += read.value.length;
    if (size > limit) {
      await reader?.cancel();
      return null;
    }
    parts.push(read.value);
  }
}

/**
 * Paints a posted work log with the engine that the browser uses; nothing is kept.
 *
 * `POST /api/render?format=png|ora&scale=S`, body: the log (application/jsonl). The answer is a stream: lines
 * of JSON `{"progress":0…1}`, then `{"done":true,"bytes":N,"type":…}` and N bytes of file,
 * or `{"error":…}`. Closing the connection stops the work.
 */
export async function POST(request: Request): Promise<Response> {
  const wrong = refused(request, ["application/jsonl"]);
  if (wrong) return wrong;
  const asked = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return refuse(400, z.prettifyError(asked.error));
  const { format, scale } = asked.data;
  if (isBusy()) return refuse(429, "another picture is being painted; try again when it is done");
  const text = await readBody(request, renderLimits.bytes);
  if (text === null) return refuse(413, `a log may have ${renderLimits.bytes / 2 ** 20} MiB`);
  try {
    const log = readAsk(text, scale);
    return new Response(streamed(log, format, request.signal), {
      headers: { "Content-Type": "application/octet-stream", "Cache-Control": "no-store" },
    });
  } catch (error) {
    if (error instanceof Refusal) return refuse(400, error.message);
    throw error;
  }
}

function streamed(
  log: ReturnType<typeof readAsk>,
  format: "png" | "ora",
  asked: AbortSignal,
): ReadableStream<Uint8Array> {
  const stop = new AbortController();
  asked.addEventListener("abort", () => stop.abort());
  return new ReadableStream<Uint8Array>({
    async start(out) {
      const line = (data: unknown): void =>
        out.enqueue(new TextEncoder().encode(`${JSON.stringify(data)}\n`));
      try {
        const bytes = await renderLog(log, { format, signal: stop.signal }, (progress) =>
          line({ progress }),
        );
        line({
          done: true,
          bytes: bytes.length,
          type: format === "png" ? "image/png" : "image/openraster",
        });
        out.enqueue(bytes);
      } catch (error) {
        if (!stop.signal.aborted)
          line({ error: error instanceof Refusal ? error.message : "painting failed" });
      }
      if (!stop.signal.aborted) out.close();
    },
    cancel() {
      stop.abort();
    },
  });
}
