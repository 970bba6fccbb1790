import { listSamples } from "@/node/samples";

export const dynamic = "force-dynamic";

/** The sample pictures: name, title and size of each log. */
export async function GET(): Promise<Response> {
  return Response.json({ samples: await listSamples() });
}
