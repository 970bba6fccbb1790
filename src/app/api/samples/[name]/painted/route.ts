import { refused } from "@/app/guard";
import { readPaintedSample, sampleName } from "@/node/samples";

export const dynamic = "force-dynamic";

/** What was painted of a sample beforehand: a whole picture, or a reference as PNG. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ name: string }> },
): Promise<Response> {
  const wrong = refused(request);
  if (wrong) return wrong;
  const name = sampleName.safeParse((await params).name);
  const painted = name.success ? await readPaintedSample(name.data) : null;
  if (!painted)
    return Response.json({ error: "nothing of this name was painted" }, { status: 404 });
  return new Response(painted, { headers: { "Content-Type": "application/octet-stream" } });
}
