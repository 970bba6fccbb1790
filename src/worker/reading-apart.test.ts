import { Worker as Thread } from "node:worker_threads";
import { readApart } from "./reading-apart";
import { readAsked } from "./readers";
import { readPng, writePng } from "../engine/file/png";

/** A thread that never answers: a decoder that hangs. */
function hangs(ended: () => void): Worker {
  const thread = new Thread("for (;;);", { eval: true });
  return {
    postMessage: () => undefined,
    terminate: () => void thread.terminate().then(ended),
  } as unknown as Worker;
}

const waiting = { stopAsked: () => false, waits: () => undefined };
const bytes = new Uint8Array(4);

describe("reading a file in a thread of its own", () => {
  it("ends a thread that hangs at the deadline", async () => {
    const ended = new Promise<void>((resolve) => {
      const options = { start: () => hangs(resolve), deadline: 50 };
      const reading = readApart("pages", bytes, [], waiting, options);
      void expect(reading)
        .rejects.toThrow("could not be read within 0.05 s")
        .then(() => undefined);
    });
    await ended;
  });

  it("ends it at once when it is told to stop", async () => {
    let looks = 0;
    const ended = new Promise<void>((resolve) => {
      const stopping = { ...waiting, stopAsked: () => ++looks === 2 };
      const reading = readApart("pages", bytes, [], stopping, { start: () => hangs(resolve) });
      void expect(reading)
        .rejects.toThrow("Stopped. Nothing was brought in.")
        .then(() => undefined);
    });
    await ended;
    expect(looks).toBe(2);
  });

  it("answers with what it read, or with why not", async () => {
    const png = writePng({ width: 3, height: 2, data: new Uint8Array(24).fill(200) });
    const read = await readAsked({ reader: "fitted", bytes: png, more: [2, 2] });
    expect(read).toMatchObject({ ok: true, value: { width: 2, height: 1 } });
    const data = Uint8Array.from({ length: 307200 }, (_, i) => Math.imul(i, 2654435761) >>> 24);
    const grain = writePng({ width: 300, height: 256, data });
    const paper = await readAsked({ reader: "paper", bytes: grain, more: [] });
    if (!paper.ok) throw new Error(paper.why);
    expect(readPng(Buffer.from(paper.value as string, "base64")).width).toBeGreaterThan(0);
    expect(await readAsked({ reader: "pages", bytes, more: [] })).toMatchObject({
      ok: false,
      known: true,
      why: expect.stringMatching(/none that Pampas reads/) as string,
    });
  });
});
