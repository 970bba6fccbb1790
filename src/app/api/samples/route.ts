import { refused } from "@/app/guard";
import { listSamples } from "@/node/samples";

export const dynamic = "force-dynamic";

/** The sample pictures: name, title and size of each log. */
export async function GET(request: Request): Promise<Response> {
  const wrong = refused(request);
  if (wrong) return wrong;
  return Response.json({ samples: await listSamples() });
}
