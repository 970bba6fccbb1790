/** Serves the built application and prints its address. */
import { spawn } from "node:child_process";
import { createServer } from "node:net";

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

const next = spawn(
  process.execPath,
  ["node_modules/next/dist/bin/next", "start", "-H", host, "-p", String(port)],
  {
    stdio: ["inherit", "pipe", "inherit"],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" },
  },
);
next.stdout.on("data", (text) => {
  process.stdout.write(text);
  if (/Ready/.test(text)) console.log(`\nPampas is ready: http://localhost:${port}\n`);
});
next.on("exit", (code) => process.exit(code ?? 0));
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => next.kill(signal));
