import { POST } from "./route";
import { GET as listSamples } from "../samples/route";
import { GET as readSample } from "../samples/[name]/route";
import { readPng } from "@/engine/file/png";
import { readOpenRaster } from "@/engine/file/openraster/read";
import { Rendering, renderLimits } from "@/node/render-queue";

const log = `{"pampas":1,"width":120,"height":90,"ground":"#ffffff"}
{"do":"layer.add","id":"a","name":"A","above":null}
{"do":"stroke","layer":"a","brush":"pen-even","size":10,"colour":"#ff0000","samples":[[0,10,45,0.5],[80,110,45,0.5]]}
`;
const post = (body: string, query = ""): Promise<Response> =>
  POST(
    new Request(`http://localhost:3000/api/render${query}`, {
      method: "POST",
      body,
      headers: { "content-type": "application/jsonl" },
    }),
  );

/** Splits an answer into its lines and the file after them. */
async function answerOf(
  response: Response,
): Promise<{ lines: Record<string, unknown>[]; file: Uint8Array }> {
  const bytes = new Uint8Array(await response.arrayBuffer());
  const lines: Record<string, unknown>[] = [];
  let at = 0;
  for (;;) {
    const end = bytes.indexOf(10, at);
    const line = JSON.parse(new TextDecoder().decode(bytes.subarray(at, end))) as Record<
      string,
      unknown
    >;
    lines.push(line);
    at = end + 1;
    if ("done" in line || "error" in line) return { lines, file: bytes.subarray(at) };
  }
}

describe("rendering on the server", () => {
  it("paints a log to PNG, with progress", async () => {
    const { lines, file } = await answerOf(await post(log));
    expect(lines.at(-1)).toEqual({ done: true, bytes: file.length, type: "image/png" });
    expect(lines.some((line) => "progress" in line)).toBe(true);
    const { width, data } = readPng(file);
    expect([...data.subarray((45 * width + 60) * 4, (45 * width + 60) * 4 + 4)]).toEqual([
      255, 0, 0, 255,
    ]);
  });

  it("paints larger, and to OpenRaster", async () => {
    const { file } = await answerOf(await post(log, "?format=ora&scale=2"));
    expect(readOpenRaster(file)).toMatchObject({ width: 240, height: 180 });
  });

  it.each([
    ["an unknown format", "?format=gif", log, 400, /format/],
    ["a scale that is no number", "?scale=much", log, 400, /scale/],
    ["an unknown question", "?colour=red", log, 400, /colour/],
    ["a log that is none", "", "hello", 400, /line 1: this is not JSON/],
    ["a bad command", "", `${log}{"do":"jump"}`, 400, /line 4/],
    [
      "too many pixels",
      "?scale=16",
      log.replace('"width":120,"height":90', '"width":1000,"height":1000'),
      400,
      /million pixels/,
    ],
  ])("refuses %s", async (_name, query, body, status, why) => {
    const response = await post(body, query);
    expect(response.status).toBe(status);
    expect(((await response.json()) as { error: string }).error).toMatch(why);
  });

  it("refuses a body that is too long, by its head or by its length", async () => {
    const large = new Request("http://localhost:3000/api/render", {
      method: "POST",
      body: log,
      headers: {
        "content-type": "application/jsonl",
        "content-length": String(renderLimits.bytes + 1),
      },
    });
    expect((await POST(large)).status).toBe(413);
  });

  it("says so in the stream when a command cannot be done", async () => {
    const { lines } = await answerOf(await post(log.replace('"layer":"a"', '"layer":"b"')));
    expect(lines.at(-1)?.error).toMatch(/command 2: there is no layer "b"/);
  });

  it("ends a picture whose asker has gone, and is free again", async () => {
    const long = log + Array(200).fill(log.split("\n")[2]).join("\n");
    const response = await post(long);
    expect((await post(log)).status).toBe(429);
    await response.body?.cancel();
    expect((await answerOf(await post(log))).lines.at(-1)?.done).toBe(true);
  });

  it("holds its place for a body that is still coming, before it is read", async () => {
    const body = new TransformStream<Uint8Array, Uint8Array>();
    const slow = new Request("http://localhost:3000/api/render", {
      method: "POST",
      body: body.readable,
      duplex: "half",
      headers: { "content-type": "application/jsonl" },
    } as RequestInit);
    const first = POST(slow);
    expect((await post(log)).status).toBe(429);
    const writer = body.writable.getWriter();
    await writer.write(new TextEncoder().encode(log));
    await writer.close();
    expect((await answerOf(await first)).lines.at(-1)?.done).toBe(true);
    expect((await answerOf(await post(log))).lines.at(-1)?.done).toBe(true);
  });

  const whole = `{"pampas":1,"width":6000,"height":6000,"ground":"#ffffff"}
{"do":"layer.add","id":"a","name":"A","above":null}
{"do":"stroke","layer":"a","brush":"pen-even","size":1500,"colour":"#ff0000","samples":[[0,10,45,0.5],[4000,5990,5945,0.5]]}
{"do":"adjust","layers":["a"],"adjustment":{"kind":"blur","radius":250}}
`;

  it.each([
    ["time", { milliseconds: 1, memory: 2 ** 40 }, /longer than/],
    ["memory", { milliseconds: 60_000, memory: 2 ** 20 }, /more than 1 MiB/],
  ])("ends a picture when its %s is used up", async (_name, bounds, why) => {
    const rendering = new Rendering({ text: whole, format: "png", scale: 1 }, bounds);
    await expect(rendering.file(() => undefined)).rejects.toThrow(why);
  });
});

describe("samples", () => {
  it("are listed and read", async () => {
    const { samples } = (await (
      await listSamples(new Request("http://localhost:3000/api/samples"))
    ).json()) as {
      samples: { name: string; title: string }[];
    };
    expect(samples.map(({ title }) => title)).toEqual([
      "Depot at dusk",
      "Depot yard",
      "Night stop",
      "Studies for the cover",
      "The conductor",
      "Thermos and pears",
      "Thermos, night shift",
      "Ticket office",
    ]);
    const one = await readSample(new Request("http://localhost:3000/"), {
      params: Promise.resolve({ name: "night-stop" }),
    });
    expect((await one.text()).startsWith('{"pampas":1')).toBe(true);
  });

  it.each(["nothing", "../../package", "night-stop.jsonl"])(
    "named %s are not there",
    async (name) => {
      const response = await readSample(new Request("http://localhost:3000/"), {
        params: Promise.resolve({ name }),
      });
      expect(response.status).toBe(404);
    },
  );
});
