import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { brushes, findBrush } from "../media";
import { type Brush } from "../stroke/brush";
import { tipFrom } from "../stroke/tip-from";
import { type Kit, readKit, writeKit } from "./kit";
import { readPngHeader, writePng } from "./png";

const spot = tipFrom(
  { width: 20, height: 12, data: new Uint8Array(20 * 12 * 4).fill(255) },
  "colours",
);

const stamped: Brush = {
  ...(findBrush("chalk") as Brush),
  id: "own-stamp",
  name: "Own stamp",
  tip: {
    kind: "pictures",
    pictures: [spot, { made: "leaf" }, spot],
    choice: "in turn",
    flip: { across: 0, along: 0 },
  },
};

const kit: Kit = { name: "Night crew", author: "A. Painter", brushes: [stamped] };

/** A kit with its kit.json changed by hand. */
function tampered(change: (json: Record<string, unknown>) => void): Uint8Array {
  const files = unzipSync(writeKit(kit));
  const json = JSON.parse(strFromU8(files["kit.json"] as Uint8Array)) as Record<string, unknown>;
  change(json);
  return zipSync({ ...files, "kit.json": strToU8(JSON.stringify(json)) });
}

const firstBrush = (json: Record<string, unknown>): Record<string, unknown> =>
  (json.brushes as Record<string, unknown>[])[0] as Record<string, unknown>;

describe("a kit", () => {
  it("comes back as it was written", () => {
    expect(readKit(writeKit(kit))).toEqual(kit);
  });

  it("of every brush that ships comes back too", () => {
    const all: Kit = { name: "All", author: "", brushes: [...brushes] };
    expect(readKit(writeKit(all))).toEqual(all);
  });

  it("keeps a tip that is used twice once, as a PNG that anyone can open", () => {
    const files = unzipSync(writeKit(kit));
    expect(Object.keys(files).sort()).toEqual(["kit.json", "tips/1.png"]);
    expect(readPngHeader(files["tips/1.png"] as Uint8Array)).toMatchObject({
      width: 20,
      height: 12,
    });
    expect(strFromU8(files["kit.json"] as Uint8Array)).not.toContain("base64");
  });
});

describe("what is no kit is refused with a reason", () => {
  it.each<[string, () => Uint8Array, RegExp]>([
    ["noise", () => Uint8Array.from([80, 75, 1, 2, 3]), /./],
    ["another archive", () => zipSync({ "a.txt": strToU8("a") }), /not a kit/],
    ["no JSON", () => zipSync({ "kit.json": strToU8("{") }), /not JSON/],
    ["a later version", () => tampered((json) => (json.pampasKit = 2)), /pampasKit/],
    ["no brushes", () => tampered((json) => (json.brushes = [])), /brushes/],
    [
      "spacing 0",
      () => tampered((json) => (firstBrush(json).spacing = { base: 0, drives: [] })),
      /brush “Own stamp”: spacing\.base/,
    ],
    [
      "a size of a million",
      () => tampered((json) => (firstBrush(json).size = 1e6)),
      /brush “Own stamp”: size/,
    ],
    [
      "a curve that is not a number",
      () =>
        tampered(
          (json) =>
            (firstBrush(json).flow = {
              base: 1,
              drives: [
                {
                  by: "pressure",
                  curve: [
                    [0, null],
                    [1, 1],
                  ],
                },
              ],
            }),
        ),
      /brush “Own stamp”: flow\.drives\.0\.curve/,
    ],
    [
      "a field that it does not know",
      () => tampered((json) => (firstBrush(json).magic = 1)),
      /brush “Own stamp”.*magic/,
    ],
    [
      "a tip that is not there",
      () =>
        tampered((json) => {
          firstBrush(json).tip = {
            kind: "pictures",
            pictures: [{ tones: "coverage", file: "../../etc/passwd" }],
          };
        }),
      /is not in the kit/,
    ],
    [
      "a tip too large",
      () => {
        const files = unzipSync(writeKit(kit));
        const wide = writePng({ width: 2000, height: 2, data: new Uint8Array(16_000) }, 72);
        return zipSync({ ...files, "tips/1.png": wide });
      },
      /1024 px a side; tips\/1\.png is 2000 × 2/,
    ],
  ])("%s", (_what, make, why) => {
    expect(() => readKit(make())).toThrow(why);
  });
});
