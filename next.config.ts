import { type NextConfig } from "next";

/** Cross-origin isolation, without which there is no shared memory. The CSP is set in src/proxy.ts. */
const headers = [
  { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
  { key: "Cross-Origin-Embedder-Policy", value: "require-corp" },
  { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
  { key: "X-Content-Type-Options", value: "nosniff" },
  { key: "Referrer-Policy", value: "no-referrer" },
];

/** What a worker may do: its policy is that of its own file. */
const forFiles = [
  "default-src 'self'",
  "script-src 'self' 'wasm-unsafe-eval'",
  "worker-src 'self' blob:",
  "img-src 'self' blob: data:",
  "connect-src 'self' blob: data:",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join("; ");
const forHandlers = "default-src 'none'; base-uri 'none'; frame-ancestors 'none'";
const policy = (value: string) => [{ key: "Content-Security-Policy", value }];

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: false,
  // Types are checked by `npm test`, once.
  typescript: { ignoreBuildErrors: true },
  headers: () =>
    Promise.resolve([
      { source: "/:path*", headers },
      { source: "/_next/static/:path*", headers: policy(forFiles) },
      { source: "/favicon.svg", headers: policy(forHandlers) },
      { source: "/icons/:path*", headers: policy(forHandlers) },
      { source: "/service-worker.js", headers: policy(forFiles) },
      { source: "/offline.js", headers: policy(forFiles) },
      { source: "/api/:path*", headers: policy(forHandlers) },
    ]),
  sassOptions: {
    quietDeps: true,
    silenceDeprecations: ["import", "global-builtin", "color-functions", "if-function"],
  },
};

export default config;
