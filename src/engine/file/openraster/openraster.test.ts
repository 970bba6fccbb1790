import { readFile } from "node:fs/promises";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { type CommandInput } from "../../command/commands";
import { readWorkLog, scaleWorkLog } from "../../command/work-log";
import { worst } from "../../compose/seen.testing";
import { type Engine } from "../../engine";
import { line, stroke, testEngine, testHeader, testWork } from "../../engine.testing";
import { type Work } from "../../command/work";
import { unpackArchive } from "../archive";
import { readPng, writePng } from "../png";
import { paintLog, writePicturePng } from "../render";
import { countOra, oraCommands, readOpenRaster } from "./read";
import { lostToOthers } from "./plan";
import { composedByOthers, shareWithin } from "./reader.testing";
import { writeOpenRaster } from "./write";

const noise = (n: number): Uint8Array =>
  Uint8Array.from({ length: n }, (_, i) => (Math.imul(i + 7, 2654435761) >>> 11) & 255);

describe("OpenRaster", () => {
  const picture = () => {
    const { engine, work } = testWork({ ppi: 300, ground: "#f4efe6" });
    work.apply(
      stroke(line([10, 10], [200, 120]), { brush: "round-soft", size: 50, colour: "#b5532a" }),
    );
    work.apply({ do: "layer.add", id: "b", name: "Shade & <light>", above: "a" });
    work.apply(stroke(line([20, 150], [240, 30]), { layer: "b", size: 24, colour: "#223388" }));
    work.apply({ do: "layer.set", id: "b", blend: "multiply", opacity: 0.5, visible: true });
    work.apply({ do: "layer.add", id: "c", name: "Hidden", above: "b" });
    work.apply({ do: "layer.set", id: "c", visible: false, locked: true });
    return { engine, work };
  };

  it("begins with its stored mimetype and holds what the standard asks for", () => {
    const { engine, work } = picture();
    const bytes = writeOpenRaster(engine, work.picture);
    const view = new DataView(bytes.buffer);
    expect(view.getUint16(8, true)).toBe(0);
    expect(strFromU8(bytes.slice(30, 38))).toBe("mimetype");
    expect(strFromU8(bytes.slice(38, 54))).toBe("image/openraster");
    const files = unzipSync(bytes);
    expect(Object.keys(files)).toEqual(
      expect.arrayContaining([
        "mimetype",
        "stack.xml",
        "mergedimage.png",
        "Thumbnails/thumbnail.png",
      ]),
    );
    const thumbnail = readPng(files["Thumbnails/thumbnail.png"] as Uint8Array);
    expect(Math.max(thumbnail.width, thumbnail.height)).toBeLessThanOrEqual(256);
    const merged = readPng(files["mergedimage.png"] as Uint8Array);
    const shown = readPng(writePicturePng(engine, work, { depth: 8, ground: true }));
    expect(merged.data).toEqual(shown.data);
  });

  it("comes back with its layers, in order, as they were", () => {
    const { engine, work } = picture();
    const read = readOpenRaster(writeOpenRaster(engine, work.picture));
    expect(read.notes).toEqual([]);
    expect(read).toMatchObject({ width: 256, height: 192, ppi: 300 });
    expect(read.ground).toBe("#f4efe6");
    expect(
      read.layers.map(({ properties: { name, opacity, blend, visible, locked } }) => [
        name,
        opacity,
        blend,
        visible,
        locked,
      ]),
    ).toEqual([
      ["A", 1, "normal", true, false],
      ["Shade & <light>", 0.5, "multiply", true, false],
      ["Hidden", 1, "normal", false, true],
    ]);
    // Drawn from the file it looks as it did, within what 8 bits a layer can hold.
    const again = testEngine().open(testHeader({ ground: read.ground ?? "#ffffff" }));
    let ids = 0;
    for (const command of oraCommands(read.layers, () => `l${ids++}`)) again.apply(command);
    const one = readPng(writePicturePng(engine, work, { depth: 8, ground: true })).data;
    const engine2 = { store: again.bench.store, workforce: again.bench.workforce } as typeof engine;
    const other = readPng(writePicturePng(engine2, again, { depth: 8, ground: true })).data;
    let apart = 0;
    one.forEach((v, i) => {
      apart = Math.max(apart, Math.abs(v - (other[i] as number)));
    });
    expect(apart).toBeLessThanOrEqual(2);
  });

  const xml = (body: string, attributes = 'w="8" h="8"'): Uint8Array =>
    zipSync({
      mimetype: [strToU8("image/openraster"), { level: 0 }],
      "stack.xml": strToU8(`<?xml version="1.0"?>${body.replace("ATTR", attributes)}`),
    });

  it("keeps groups in groups, and what they are", () => {
    const { engine, work } = picture();
    work.apply({ do: "layer.group", id: "inner", name: "Inner", layers: ["a", "b"] });
    work.apply({ do: "layer.set", id: "inner", opacity: 0.7, blend: "multiply" });
    work.apply({ do: "layer.add", id: "d", name: "D", above: "c" });
    work.apply(stroke(line([5, 90], [250, 80]), { layer: "d", size: 30, colour: "#308040" }));
    work.apply({ do: "layer.group", id: "outer", name: "Outer", layers: ["inner", "d"] });
    work.apply({ do: "layer.set", id: "outer", through: true });
    work.apply({ do: "layer.set", id: "d", clip: true, blend: "multiply", tint: "#3f86c6" });
    const read = readOpenRaster(writeOpenRaster(engine, work.picture));
    expect(read.notes).toEqual([]);
    expect(countOra(read.layers)).toBe(6);
    const again = engine.open(testHeader({ ground: read.ground ?? "#ffffff" }));
    let ids = 0;
    for (const command of oraCommands(read.layers, () => `l${ids++}`)) again.apply(command);
    const nested = (of: typeof work): unknown => {
      const { layers } = of.picture.structure;
      const inside = (group: string | null): unknown[] =>
        layers
          .filter((layer) => layer.group === group)
          .map(({ id, name, blend, opacity, clip, through, tint }) => [
            tint,
            name,
            blend,
            opacity,
            clip,
            through,
            inside(id),
          ]);
      return inside(null);
    };
    expect(nested(again)).toEqual(nested(work));
    const [one, other] = [work, again].map(
      (of) => readPng(writePicturePng(engine, of, { depth: 8, ground: true })).data,
    ) as [Uint8Array, Uint8Array];
    expect(worst(one, other)).toBeLessThanOrEqual(2);
  });

  const flat = (engine: Engine, work: Work): Uint8Array =>
    readPng(writePicturePng(engine, work, { depth: 8, ground: true })).data;

  /** Layers from the lowest, without what names them. */
  const shapeOf = ({ picture }: Work): unknown[] => {
    const { layers } = picture.structure;
    const places = new Map<string | null, number>([[null, -1]]);
    layers.forEach(({ id }, i) => places.set(id, i));
    // Lines come back as the paint that they look like.
    return layers.map(({ id: _, group, kind, ...rest }) => ({
      ...rest,
      kind: kind === "lines" ? "paint" : kind,
      group: places.get(group),
    }));
  };

  const broughtIn = (engine: Engine, bytes: Uint8Array): Work => {
    const { width, height, ground, layers, notes } = readOpenRaster(bytes);
    expect(notes).toEqual([]);
    const work = engine.open(testHeader({ width, height, ground: ground ?? "#ffffff" }));
    let ids = 0;
    for (const command of oraCommands(layers, () => `l${ids++}`)) work.apply(command);
    return work;
  };

  const crimson = { colour: "#b02a3a", size: 60 };
  const steps: Record<string, CommandInput[]> = {
    "clipped layers with modes, one part clear": [
      { do: "layer.add", id: "s", name: "Shade", above: "a" },
      stroke(line([0, 60], [250, 100]), { layer: "s", ...crimson, brush: "round-soft" }),
      { do: "layer.set", id: "s", clip: true, blend: "multiply", opacity: 0.7 },
      { do: "layer.add", id: "h", name: "Light", above: "s" },
      stroke(line([60, 0], [90, 190]), { layer: "h", size: 40, colour: "#ffe9a0" }),
      { do: "layer.set", id: "h", clip: true, blend: "soft-light" },
      { do: "layer.set", id: "a", opacity: 0.8, blend: "screen" },
    ],
    "a clipped adjustment and a clipped group": [
      { do: "layer.add", id: "s", name: "Shade", above: "a" },
      stroke(line([0, 60], [250, 100]), { layer: "s", ...crimson }),
      { do: "layer.group", id: "g", name: "Group", layers: ["s"] },
      { do: "layer.set", id: "g", clip: true, blend: "multiply" },
      {
        do: "layer.add",
        id: "t",
        name: "Cooler",
        above: "g",
        kind: "adjustment",
        tone: { kind: "invert" },
      },
      { do: "layer.set", id: "t", clip: true, opacity: 0.4 },
    ],
    "an outline and a mask": [
      { do: "layer.set", id: "a", contour: { width: 5, colour: "#203060" } },
      { do: "layer.add", id: "s", name: "Half", above: "a" },
      stroke(line([0, 150], [250, 160]), { layer: "s", ...crimson }),
      { do: "mask.add", id: "s", from: { kind: "layer", layer: "a", by: "shape" } },
      { do: "layer.set", id: "s", blend: "multiply", tint: "#3f86c6" },
    ],
    "a fringe with an outline, and one under a mask": [
      { do: "layer.set", id: "a", fringe: { width: 8, strength: 0.9 } },
      { do: "layer.set", id: "a", contour: { width: 5, colour: "#203060" } },
      { do: "layer.add", id: "s", name: "Half", above: "a" },
      stroke(line([0, 150], [250, 160]), { layer: "s", ...crimson, brush: "round-firm" }),
      { do: "mask.add", id: "s", from: { kind: "layer", layer: "a", by: "shape" } },
      { do: "layer.set", id: "s", blend: "multiply", fringe: { width: 5, strength: 0.6 } },
    ],
    "a group with an outline and a mask": [
      { do: "layer.add", id: "s", name: "Half", above: "a" },
      stroke(line([0, 150], [250, 160]), { layer: "s", ...crimson }),
      { do: "layer.set", id: "s", blend: "multiply" },
      { do: "layer.group", id: "g", name: "Group", layers: ["a", "s"] },
      { do: "layer.set", id: "g", contour: { width: 4, colour: "#f0e0c0" } },
      { do: "layer.add", id: "m", name: "Through", above: "g" },
      stroke(line([40, 0], [200, 190]), { layer: "m", size: 90, brush: "round-soft" }),
      { do: "mask.add", id: "g", from: { kind: "layer", layer: "m", by: "shape" } },
      { do: "layer.set", id: "m", visible: false },
    ],
    "an adjustment over an open group, and a glaze": [
      { do: "layer.add", id: "s", name: "Half", above: "a" },
      stroke(line([0, 150], [250, 160]), { layer: "s", ...crimson }),
      { do: "layer.group", id: "g", name: "Group", layers: ["s"] },
      {
        do: "layer.add",
        id: "t",
        name: "Other way round",
        above: "s",
        kind: "adjustment",
        tone: { kind: "invert" },
        group: "g",
      },
      { do: "layer.set", id: "g", through: true },
      { do: "layer.add", id: "z", name: "Glaze", above: "g" },
      stroke(line([0, 30], [250, 120]), { layer: "z", ...crimson, brush: "round-soft" }),
      { do: "layer.set", id: "z", blend: "glaze" },
      { do: "layer.add", id: "top", name: "Top", above: "z" },
      stroke(line([128, 10], [128, 180]), { layer: "top", size: 12 }),
    ],
    "a gradient in a part-clear open group": [
      {
        do: "layer.add",
        id: "f",
        name: "Dusk",
        above: "a",
        kind: "fill",
        paint: {
          kind: "gradient",
          shape: "linear",
          from: [0, 0],
          to: [250, 190],
          stops: [
            { at: 0, colour: "#203060" },
            { at: 1, colour: "#f0b070" },
          ],
        },
      },
      { do: "layer.set", id: "f", blend: "overlay", opacity: 0.6 },
      { do: "layer.group", id: "g", name: "Group", layers: ["f"] },
      { do: "layer.set", id: "g", through: true, opacity: 0.5 },
    ],
  };

  it.each(Object.entries(steps))(
    "other readers see %s as we do, and it comes back whole",
    (_name, commands) => {
      const { engine, work } = testWork({ ppi: 300, ground: "#f4efe6" });
      work.apply(
        stroke(line([10, 10], [200, 120]), { brush: "round-soft", size: 70, colour: "#b5532a" }),
      );
      for (const command of commands) work.apply(command);
      const bytes = writeOpenRaster(engine, work.picture);
      const shown = flat(engine, work);
      expect(shareWithin(composedByOthers(bytes), shown, 2)).toBeGreaterThan(0.999);
      const again = broughtIn(engine, bytes);
      expect(shapeOf(again)).toEqual(shapeOf(work));
      // Outlines begin where paint is half covered: 8 bits a layer move that by a hair.
      expect(shareWithin(flat(engine, again), shown, 2)).toBeGreaterThan(0.998);
    },
  );

  it.each(["the-conductor", "night-stop", "depot-at-dusk"])(
    "other readers see the sample %s as we do, and it comes back whole",
    async (sample) => {
      const text = await readFile(`demo/logs/${sample}.jsonl`, "utf8");
      const engine = testEngine();
      const log = scaleWorkLog(readWorkLog(text), Number(process.env.ORA_SCALE ?? 0.15));
      const work = await paintLog(engine, log, () => Promise.resolve());
      const bytes = writeOpenRaster(engine, work.picture);
      const shown = flat(engine, work);
      expect(shareWithin(composedByOthers(bytes), shown, 2)).toBeGreaterThan(0.999);
      const again = broughtIn(engine, bytes);
      expect(shapeOf(again)).toEqual(shapeOf(work));
      expect(shareWithin(flat(engine, again), shown, 2)).toBeGreaterThan(0.999);
    },
  );

  it("names what others will not find as layers, and merges nothing unless asked to", () => {
    const { engine, work } = testWork({ ppi: 300, ground: "#f4efe6" });
    const tone = { kind: "invert" } as const;
    work.apply(stroke(line([10, 10], [200, 120]), { size: 70 }));
    work.apply({ do: "layer.add", id: "t", name: "Dusk", above: "a", kind: "adjustment", tone });
    const { structure } = work.picture;
    expect(lostToOthers(structure, true)).toEqual([
      "Merged with all below, whose layers lie hidden in the file: “Dusk”.",
    ]);
    expect(lostToOthers(structure, false)).toEqual([
      "Shown otherwise, or not at all, by other programs: “Dusk”.",
    ]);
    const bytes = writeOpenRaster(engine, work.picture, () => undefined, false);
    work.apply({ do: "layer.set", id: "t", visible: false });
    expect(shareWithin(composedByOthers(bytes), flat(engine, work), 2)).toBe(1);
    expect(shapeOf(broughtIn(engine, bytes))).toHaveLength(2);
  });

  it("passes over what its file says for Pampas where that cannot be read", () => {
    const layerPng = writePng({ width: 2, height: 2, data: noise(16) });
    const said = (carried: string): string =>
      `<image w="8" h="8"><stack><layer name="In" src="a.png" opacity="0.5" pampas-layer='${carried}'/></stack></image>`;
    for (const carried of ['{"opacity":7}', "[".repeat(90), '{"kind":"sphere"}', "hello"]) {
      const { layers, notes } = readOpenRaster(
        zipSync({
          mimetype: [strToU8("image/openraster"), { level: 0 }],
          "stack.xml": strToU8(said(carried)),
          "a.png": layerPng,
        }),
      );
      expect(layers).toMatchObject([{ kind: "layer", properties: { name: "In", opacity: 0.5 } }]);
      expect(notes).toEqual(["What the file says of “In” for Pampas could not be read."]);
    }
  });

  it("says what it could not keep", () => {
    const layerPng = writePng({ width: 2, height: 2, data: noise(16) });
    const bytes = zipSync({
      mimetype: [strToU8("image/openraster"), { level: 0 }],
      "stack.xml": strToU8(
        `<image w="8" h="8"><stack><stack name="Group" opacity="0.5" composite-op="svg:multiply"><layer name="In" src="data/a.png" opacity="0.5" composite-op="odd:mode"/></stack><layer name="Low" src="data/a.png" x="3"/><layer name="Gone" src="data/none.png"/></stack></image>`,
      ),
      "data/a.png": layerPng,
    });
    const { layers, notes } = readOpenRaster(bytes);
    expect(layers).toMatchObject([
      { kind: "layer", properties: { name: "Low", opacity: 1 }, x: 3 },
      {
        kind: "group",
        properties: { name: "Group", opacity: 0.5, blend: "multiply", through: false },
        inside: [{ properties: { name: "In", opacity: 0.5, blend: "normal" } }],
      },
    ]);
    expect(notes.join(" ")).toMatch(/blend mode odd:mode/);
    expect(notes.join(" ")).toMatch(/“Gone”/);
    expect(notes).toHaveLength(2);
  });

  it("refuses groups without end", () => {
    const deep = `${"<stack>".repeat(70)}${"</stack>".repeat(70)}`;
    expect(() => readOpenRaster(xml(`<image ATTR><stack>${deep}</stack></image>`))).toThrow(/deep/);
  });

  it.each([
    ["no archive", strToU8("PK hello"), /broken or cut off/],
    ["cut off", xml("<image ATTR/>").slice(0, 60), /broken or cut off/],
    ["without a stack", zipSync({ mimetype: strToU8("image/openraster") }), /no stack.xml/],
    [
      "another kind of archive",
      zipSync({ mimetype: strToU8("application/epub+zip"), "stack.xml": strToU8("<image/>") }),
      /not an OpenRaster/,
    ],
    ["without a size", xml("<image><stack/></image>"), /how large/],
    ["broken XML", xml("<image ATTR><stack>"), /not readable|how large/],
    [
      "with entities",
      xml('<!DOCTYPE x [<!ENTITY a "aaaa">]><image ATTR><stack/></image>'),
      /entities/,
    ],
  ])("that is %s is refused", (_name, bytes, why) => {
    expect(() => readOpenRaster(bytes)).toThrow(why);
  });

  it.each(["../evil.png", "/etc/evil.png", "data/../../evil.png", "a\\..\\evil.png"])(
    "whose entry is called %s is refused",
    (name) => {
      expect(() => unpackArchive(zipSync({ [name]: strToU8("x") }), () => 100)).toThrow(
        /outside itself/,
      );
    },
  );

  it("that would unpack to a thousand times its size is refused before it is unpacked", () => {
    const bomb = zipSync({ "stack.xml": new Uint8Array(32 * 2 ** 20) }, { level: 6 });
    // The packed zeros lie at the limit of what deflate can do: about 1030 to 1.
    const lying = bomb.slice();
    const view = new DataView(lying.buffer);
    const central = lying.length - 22 - 46 - "stack.xml".length;
    view.setUint32(central + 24, 0xfffffff0, true);
    expect(() => unpackArchive(lying, () => 2 ** 32)).toThrow(/far more than it holds/);
    expect(() => readOpenRaster(lying)).toThrow(/too large/);
  });

  it("whose entry is larger than it says is held to what it says", () => {
    const archive = zipSync({ "stack.xml": new Uint8Array(4 * 2 ** 20) }, { level: 6 });
    const lying = archive.slice();
    new DataView(lying.buffer).setUint32(
      lying.length - 22 - 46 - "stack.xml".length + 24,
      100,
      true,
    );
    expect(unpackArchive(lying, () => 1e9)["stack.xml"]).toHaveLength(100);
    expect(() => readOpenRaster(lying)).toThrow(/how large|not readable/);
  });
});
