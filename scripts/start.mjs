/** Serves the built application and prints its address. */
import { createServer } from "node:http";
import next from "next";

process.env.NEXT_TELEMETRY_DISABLED = "1";

/** Only this machine is answered, unless `--host NAME` says which address to listen at. */
const hostFlag = process.argv.indexOf("--host");
const host = hostFlag < 0 ? "127.0.0.1" : process.argv[hostFlag + 1];
if (!host || host.startsWith("-")) {
  console.error("--host must be followed by the address to listen at, such as 0.0.0.0");
  process.exit(2);
}

const wanted = Number(process.env.PORT ?? 3000);

const isFree = (port) =>
  new Promise((resolve) => {
    const server = createServer();
    server.once("error", () => resolve(false));
    server.listen(port, host, () => server.close(() => resolve(true)));
  });

let port = wanted;
while (!(await isFree(port))) port++;

/** For answers that the application never sees, such as one to an address that is none; its own are stricter. */
const headers = {
  "Content-Security-Policy": "default-src 'none'; base-uri 'none'; frame-ancestors 'none'",
  "X-Content-Type-Options": "nosniff",
  "Referrer-Policy": "no-referrer",
};

const app = next({ dev: false, hostname: host, port });
const answer = app.getRequestHandler();
await app.prepare();

function isAddress(url) {
  try {
    return decodeURIComponent(new URL(url, "http://localhost").pathname) !== "";
  } catch {
    return false;
  }
}

/** What never leaves this machine gains nothing by being packed, and packing takes longer than sending. */
const isHere = ["127.0.0.1", "::1", "localhost"].includes(host);

const server = createServer((request, response) => {
  if (isHere) delete request.headers["accept-encoding"];
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
  if (isAddress(request.url)) void answer(request, response);
  else response.writeHead(400).end("this address cannot be read");
});
server.listen(port, host, () => console.log(`\nPampas is ready: http://localhost:${port}\n`));
for (const signal of ["SIGINT", "SIGTERM"])
  process.on(signal, () => {
    server.closeAllConnections();
    server.close(() => process.exit(0));
  });
