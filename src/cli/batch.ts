import { spawn } from "node:child_process";

/** What one of several jobs said, and how it ended. */
export type Ended = { code: number; out: string; error: string };

/** This program once more, with other words after it. */
function again(args: readonly string[]): Promise<Ended> {
  const [program = ""] = process.argv.slice(1);
  const child = spawn(process.execPath, [...process.execArgv, program, ...args], {
    stdio: ["ignore", "pipe", "pipe"],
  });
  const ended: Ended = { code: 1, out: "", error: "" };
  child.stdout.on("data", (data) => (ended.out += String(data)));
  child.stderr.on("data", (data) => (ended.error += String(data)));
  return new Promise((resolve, reject) => {
    child.once("error", reject);
    // One that was killed has no code.
    child.once("close", (code) => resolve({ ...ended, code: code ?? 1 }));
  });
}

/**
 * Runs the program once for each job, so many at once: a picture that cannot be painted, or takes all memory,
 * takes no other with it.
 * @param told of each job as it ends, in whatever order that is
 */
export async function runJobs(
  jobs: readonly (readonly string[])[],
  atOnce: number,
  told: (job: number, ended: Ended) => void,
): Promise<void> {
  let next = 0;
  const lane = async (): Promise<void> => {
    while (next < jobs.length) {
      const job = next++;
      told(job, await again(jobs[job] as readonly string[]));
    }
  };
  await Promise.all(Array.from({ length: Math.min(atOnce, jobs.length) }, lane));
}
