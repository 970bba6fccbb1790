import { endingOf, formatOf, Miscalled, readAsked } from "./asked";
import { resultsIn } from "./paths";

const manner = {
  threads: 1,
  scale: 1,
  choice: { tones: "colour", depth: 8, ground: true, dots: true },
};

it("reads what is asked", () => {
  expect(readAsked(["render", "a.jsonl", "a.png"])).toEqual({
    ...{ verb: "render", from: "a.jsonl", to: "a.png", manner, json: false },
  });
  expect(readAsked(["info", "a", "b", "--json"])).toEqual({
    ...{ verb: "info", files: ["a", "b"], json: true },
  });
  expect(readAsked(["check", "a"])).toEqual({ verb: "check", files: ["a"], json: false });
  expect(readAsked(["render", "--help", "--threads", "none"])).toEqual({ verb: "help" });
  expect(readAsked(["-v"])).toEqual({ verb: "version" });
});

it("hands each of several what was asked of all of them", () => {
  const words = "render a b --into out --as tiff --jobs 3 --threads 2 --scale 0.5 --greys --json";
  const asked = readAsked(words.split(" "));
  expect(asked).toEqual({
    ...{ verb: "batch", files: ["a", "b"], into: "out", kind: "tiff", jobs: 3, json: true },
    options: ["--threads", "2", "--scale", "0.5", "--greys"],
  });
  const again = readAsked(["render", "a", "a.tif", "--threads", "2", "--scale", "0.5", "--greys"]);
  expect(again).toMatchObject({
    manner: { threads: 2, scale: 0.5, choice: { dots: false, ground: true } },
  });
});

it.each([
  ["", /render LOG OUT/],
  ["paint a b", /there is no “paint”; there are render, info and check/],
  ["render a", /a log and a result.*given 1 files/],
  ["render a b c", /given 3 files/],
  ["render --into out", /at least one log/],
  ["render a b.png --jobs 2", /--jobs goes with --into/],
  ["render a b.png --as tif", /--as goes with --into/],
  ["render a b.gif", /not “\.gif”/],
  ["render a b", /not “\.”/],
  ["render a b.constructor", /not “\.constructor”/],
  ["render a --into out --as gif", /not “\.gif”/],
  ["render a --into out --jobs 0", /--jobs is a whole number from 1 to 64, not “0”/],
  ["render a --into out --jobs 65", /not “65”/],
  ["render a b.png --threads 1.5", /--threads is a whole number from 1 to 64, not “1\.5”/],
  ["render a b.png --scale 17", /--scale is a number from 0\.05 to 16, not “17”/],
  ["render a b.png --scale much", /not “much”/],
  ["render a b.png --tones sepia", /--tones is one of colour, grey, black-and-white/],
  ["render a b.png --depth 12", /--depth is 8 or 16/],
  ["render a b.png --loud", /--loud/],
  ["info", /info takes at least one file/],
  ["check a --scale 2", /--scale is not for check/],
])("“pampas %s” is said to be called wrongly", (words, why) => {
  const act = (): unknown => readAsked(words.split(" ").filter(Boolean));
  expect(act).toThrow(Miscalled);
  expect(act).toThrow(why);
});

it("knows a kind of file by its ending, however it is written", () => {
  expect(endingOf("pages.of/one.PNG")).toBe("png");
  expect(endingOf("pages.of/one")).toBe("");
  expect(endingOf("one.two.tiff")).toBe("tiff");
  expect([formatOf("tif"), formatOf("tiff"), formatOf("ora")]).toEqual(["tiff", "tiff", "ora"]);
});

it("names each result after its log, and refuses two of one name", () => {
  expect(resultsIn("out", ["a/one.jsonl", "b/two.v2.jsonl"], "png")).toEqual([
    ...["out/one.png", "out/two.v2.png"],
  ]);
  expect(() => resultsIn("out", ["a/one.jsonl", "b/one.jsonl"], "png")).toThrow(
    /“a\/one\.jsonl” and “b\/one\.jsonl” would both become out\/one\.png/,
  );
});
