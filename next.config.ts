import { type NextConfig } from "next";

/** Cross-origin isolation, without which there is no shared memory. The CSP is set in src/proxy.ts. */
const headers = [
  { key: "Cross-Origin-Opener-Policy", value: "same-origin" },
  { key: "Cross-Origin-Embedder-Policy", value: "require-corp" },
  { key: "Cross-Origin-Resource-Policy", value: "same-origin" },
  { key: "X-Content-Type-Options", value: "nosniff" },
  { key: "Referrer-Policy", value: "no-referrer" },
];

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: false,
  // Types are checked by `npm test`, once.
  typescript: { ignoreBuildErrors: true },
  headers: () => Promise.resolve([{ source: "/:path*", headers }]),
  sassOptions: {
    quietDeps: true,
    silenceDeprecations: ["import", "global-builtin", "color-functions", "if-function"],
  },
};

export default config;
