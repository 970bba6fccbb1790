import { execFile } from "node:child_process";
import { cp, mkdir, mkdtemp, readdir, readFile, rm, stat, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";

const run = promisify(execFile);
/** The command as it ships; and from its sources. */
const pampas = (...args: string[]): Promise<{ stdout: string; stderr: string }> =>
  run(process.execPath, [join("dist", "pampas", "pampas.mjs"), ...args]);
const fromSources = (...args: string[]): Promise<{ stdout: string; stderr: string }> =>
  run(process.execPath, ["--import", "tsx", "src/cli/pampas.ts", ...args]);

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "pampas-"));
  await run(process.execPath, ["scripts/bin.mjs"]);
});
afterAll(() => rm(folder, { recursive: true }));

jest.setTimeout(180_000);

it.each(["night-stop", "studies-for-the-cover"])(
  "%s is the same bytes with one thread and with two",
  async (name) => {
    const log = join("demo", "logs", `${name}.jsonl`);
    const [one, two] = [join(folder, `${name}-1.png`), join(folder, `${name}-2.png`)];
    await pampas("render", log, one);
    await pampas("render", log, two, "--threads", "2");
    expect((await readFile(one)).equals(await readFile(two))).toBe(true);
  },
);

it("large blends and rubs are the same bytes with one thread and with two", async () => {
  const log = join(folder, "blends.jsonl");
  const way = Array.from({ length: 40 }, (_, i) => [i * 12, 60 + i * 18, 260, 0.8, 1.1, 0.4, 0]);
  const stroke = (brush: string, size: number, mode: string, colour: string): object => ({
    do: "stroke",
    ...{ layer: "a", brush, size, mode, colour, seed: 5, samples: way },
  });
  const commands = [
    { pampas: 1, width: 900, height: 500 },
    { do: "layer.add", id: "a", name: "A", above: null },
    stroke("round-firm", 260, "paint", "#b3202c"),
    stroke("charcoal-stick", 300, "paint", "#1d1b1a"),
    stroke("round-soft", 360, "blend", "#000000"),
    stroke("round-bristle", 300, "blend", "#000000"),
    stroke("stump", 400, "blend", "#000000"),
  ];
  await writeFile(log, commands.map((one) => JSON.stringify(one)).join("\n"));
  const [one, two] = [join(folder, "blends-1.png"), join(folder, "blends-2.png")];
  await pampas("render", log, one);
  await pampas("render", log, two, "--threads", "2");
  expect((await readFile(one)).equals(await readFile(two))).toBe(true);
});

it("tells what a log and a picture hold", async () => {
  const { stdout } = await pampas("info", join("demo", "logs", "night-stop.jsonl"));
  expect(stdout).toMatch(/work log\n2000 × 1250 px at 200 ppi/);
  expect((await pampas("check", join(folder, "night-stop-1.png"))).stdout).toMatch(
    /a good PNG picture/,
  );
});

it.each([
  [["check", "BAD"], /line 2: opacity/, 1],
  [["render", "BAD", "OUT.png"], /line 2: opacity/, 1],
  [["render", "demo/logs/night-stop.jsonl", "OUT.gif"], /\.png, \.tif, \.pdf, \.ora or \.svg/, 2],
  [["render", "demo/logs/night-stop.jsonl", "OUT.png", "--threads", "none"], /--threads/, 2],
  [["info", "nowhere.jsonl"], /nowhere\.jsonl: there is no such file/, 1],
  [["info", "nowhere/*.jsonl"], /no file is called like “nowhere\/\*\.jsonl”/, 1],
  [["info", "demo"], /it is a folder/, 1],
  [[], /render LOG OUT/, 2],
] as const)("pampas %j says what is wrong, and leaves no file", async (args, why, code) => {
  const bad = join(folder, "bad.jsonl");
  await writeFile(
    bad,
    '{"pampas":1,"width":9,"height":9}\n{"do":"layer.set","id":"a","opacity":"much"}\n',
  );
  const out = join(folder, "out.png");
  const real = args.map((arg) =>
    arg.replace("BAD", bad).replace("OUT.png", out).replace("OUT.gif", join(folder, "out.gif")),
  );
  await expect(pampas(...real)).rejects.toMatchObject({
    code,
    stderr: expect.stringMatching(why),
  });
  await expect(stat(out)).rejects.toThrow();
});

it("renders for print: one bit, TIFF, PDF; what it cannot be is refused in words", async () => {
  const log = join(folder, "print.jsonl");
  const commands = [
    { pampas: 1, width: 300, height: 200, ppi: 600, title: "Timetable" },
    { do: "layer.add", id: "a", name: "A", above: null },
    {
      do: "stroke",
      ...{ layer: "a", brush: "pen-even", size: 60, colour: "#808080", seed: 1 },
      samples: [
        [0, 40, 100, 0.8, 1.3, 0, 0],
        [60, 260, 100, 0.8, 1.3, 0, 0],
      ],
    },
  ];
  await writeFile(log, commands.map((one) => JSON.stringify(one)).join("\n"));
  const [png, tif, pdf] = ["png", "tif", "pdf"].map((kind) => join(folder, `print.${kind}`)) as [
    string,
    string,
    string,
  ];
  await pampas("render", log, png, "--tones", "black-and-white");
  const bits = await readFile(png);
  expect([bits[24], bits[25]]).toEqual([1, 0]);
  await pampas("render", log, tif, "--depth", "16", "--clear");
  expect((await readFile(tif)).subarray(0, 2).toString()).toBe("II");
  await pampas("render", log, pdf);
  expect((await readFile(pdf)).subarray(0, 5).toString()).toBe("%PDF-");
  for (const [wrong, words] of [
    [["--tones", "sepia"], "one of colour, grey, black-and-white"],
    [["--depth", "12"], "8 or 16"],
  ] as const)
    await expect(pampas("render", log, png, ...wrong)).rejects.toThrow(words);
});

/** A small log that can be painted, and one that cannot. */
async function logs(name: string): Promise<string> {
  const into = join(folder, name);
  await mkdir(join(into, "more"), { recursive: true });
  const log = (width: number): string =>
    [
      { pampas: 1, width, height: 40, title: "Ticket" },
      { do: "layer.add", id: "a", name: "A", above: null },
    ]
      .map((one) => JSON.stringify(one))
      .join("\n");
  await writeFile(join(into, "first.jsonl"), log(60));
  await writeFile(join(into, "more", "second.jsonl"), log(80));
  await writeFile(join(into, "third.jsonl"), log(0));
  return into;
}

it("paints all that a pattern stands for, several at once; one that cannot be painted holds up no other", async () => {
  const from = await logs("batch");
  const into = join(folder, "made");
  const all = ["render", join(from, "**/*.jsonl"), "--into", into, "--scale", "2", "--clear"];
  await expect(pampas(...all, "--jobs", "2", "--json")).rejects.toMatchObject({ code: 1 });
  expect((await readdir(into)).sort()).toEqual(["first.png", "second.png"]);
  const answers = await pampas(...all, "--jobs", "3", "--json").catch(({ stdout }) => ({ stdout }));
  const told = answers.stdout
    .trim()
    .split("\n")
    .map((line: string) => JSON.parse(line))
    .sort((a: { from: string }, b: { from: string }) => (a.from < b.from ? -1 : 1));
  expect(told).toMatchObject([
    { ok: true, to: join(into, "first.png"), width: 120, height: 80 },
    { ok: true, to: join(into, "second.png"), width: 160, height: 80 },
    { ok: false, from: join(from, "third.jsonl"), why: expect.stringMatching(/width/) },
  ]);
  const written = await readFile(join(into, "first.png"));
  expect(told[0].bytes).toBe(written.length);
  // Its width stands in the PNG's head; of four channels, for it has no ground.
  expect([written.readUInt32BE(16), written[25]]).toEqual([120, 6]);
});

it("looks into several files, and says of each what it is as JSON", async () => {
  const from = await logs("looked");
  const { stdout } = await pampas("info", join(from, "*.jsonl"), "--json").catch((error) => error);
  const [first, third] = stdout
    .trim()
    .split("\n")
    .map((line: string) => JSON.parse(line));
  expect(first).toMatchObject({
    ...{ file: join(from, "first.jsonl"), ok: true, kind: "work log", width: 60, height: 40 },
    commands: { "layer.add": 1 },
  });
  expect(third).toMatchObject({ file: join(from, "third.jsonl"), ok: false });
});

it("runs without the sources, wherever its folder is put", async () => {
  const away = join(folder, "away");
  await cp(join("dist", "pampas"), away, { recursive: true });
  const from = await logs("bundled");
  const alone = (...args: string[]): Promise<{ stdout: string }> =>
    run(process.execPath, [join(away, "pampas.mjs"), ...args], {
      cwd: folder,
      env: { NODE_ENV: "production" },
    });
  expect((await alone("--version")).stdout).toMatch(/^pampas \d+\.\d+\.\d+\n$/);
  expect((await alone("--help")).stdout).toMatch(/--jobs N/);
  const log = join("demo", "logs", "pin-brass-lamp.jsonl");
  const [ours, theirs] = [join(folder, "lamp-1.png"), join(folder, "lamp-2.png")];
  await fromSources("render", log, ours);
  await alone("render", join(process.cwd(), log), theirs, "--threads", "2");
  expect((await readFile(theirs)).equals(await readFile(ours))).toBe(true);
  await alone("render", join(from, "first.jsonl"), "--into", "small", "--as", "ora");
  expect((await readFile(join(folder, "small", "first.ora"))).subarray(0, 2).toString()).toBe("PK");
});
