import { refused } from "@/app/guard";
import { readSample, sampleName } from "@/node/samples";

export const dynamic = "force-dynamic";

/** One sample's work log. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ name: string }> },
): Promise<Response> {
  const wrong = refused(request);
  if (wrong) return wrong;
  const name = sampleName.safeParse((await params).name);
  const log = name.success ? await readSample(name.data) : null;
  if (log === null)
    return Response.json({ error: "there is no sample of this name" }, { status: 404 });
  return new Response(log, { headers: { "Content-Type": "application/jsonl; charset=utf-8" } });
}
