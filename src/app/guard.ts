/** Names by which this machine calls itself. */
const LOOPBACK = new Set(["localhost", "127.0.0.1", "[::1]"]);

/** Names under which the server may be reached: its own machine's, and those it was told of at its start. */
function knownHosts(): Set<string> {
  const told = (process.env.PAMPAS_HOSTS ?? "").split(",").map((name) => name.trim());
  return new Set([...LOOPBACK, ...told.filter((name) => name !== "")]);
}

const refuse = (status: number, error: string): Response => Response.json({ error }, { status });

const nameOf = (host: string): string => host.replace(/:\d+$/, "").toLowerCase();

/**
 * Answers a request that this server's own pages would not send; null where it is one of theirs.
 * A page from elsewhere may neither ask (Sec-Fetch-Site, Origin) nor take the server's place
 * (Host, against a name that was turned to this machine).
 * @param types content types that a body may have
 */
export function refused(request: Request, types: readonly string[] = []): Response | null {
  const host = nameOf(request.headers.get("host") ?? new URL(request.url).host);
  if (!knownHosts().has(host)) return refuse(421, "this server is not reached by that name");
  const site = request.headers.get("sec-fetch-site");
  if (site !== null && site !== "same-origin" && site !== "none")
    return refuse(403, "other pages may not use this server");
  const origin = request.headers.get("origin");
  if (origin !== null && !isOwn(origin, host))
    return refuse(403, "other pages may not use this server");
  const type = request.headers.get("content-type")?.split(";")[0]?.trim().toLowerCase() ?? "";
  if (types.length > 0 && !types.includes(type))
    return refuse(415, `the body must be ${types.join(" or ")}`);
  return null;
}

function isOwn(origin: string, host: string): boolean {
  try {
    return nameOf(new URL(origin).host) === host;
  } catch {
    return false;
  }
}
