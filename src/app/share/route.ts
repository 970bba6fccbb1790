import { SHARED_PAGE } from "@/studio/files/share-address";

/**
 * Where the browser does not keep Pampas, what is shared cannot be taken in its place: the Portfolio says so. The
 * files are not read.
 */
export function POST(): Response {
  return new Response(null, { status: 303, headers: { Location: SHARED_PAGE } });
}
