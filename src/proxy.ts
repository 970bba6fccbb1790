import { type NextRequest, NextResponse } from "next/server";

/** Content-Security-Policy with a nonce a request: nothing is fetched from anywhere else. */
function policy(nonce: string): string {
  const development = process.env.NODE_ENV === "development" ? " 'unsafe-eval'" : "";
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'${development}`,
    "worker-src 'self' blob:",
    `style-src 'self'${development ? " 'unsafe-inline'" : ` 'nonce-${nonce}'`}`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "font-src 'self'",
    "connect-src 'self' blob: data:",
    "media-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join("; ");
}

export function proxy(request: NextRequest): NextResponse {
  const csp = policy(crypto.randomUUID().replaceAll("-", ""));
  const headers = new Headers(request.headers);
  headers.set("Content-Security-Policy", csp);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("Content-Security-Policy", csp);
  return response;
}

/**
 * Pages and their parts. Files that never change and the handlers have their policy from
 * next.config.ts; a body that comes through here would be cut at 10 MB.
 */
export const config = {
  matcher: "/((?!_next/static|_next/image|favicon.svg|icons/|service-worker.js|offline.js|api/).*)",
};
