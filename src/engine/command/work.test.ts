import {
  fingerprint,
  line,
  pixel,
  stroke,
  testEngine,
  testHeader,
  testWork,
} from "../engine.testing";
import { writePng } from "../file/png";
import { TILE_BYTES } from "../tiles/layout";
import { toBase64 } from "../file/base64";
import { readWorkLog, scaleWorkLog, writeWorkLog } from "./work-log";

const png = toBase64(
  writePng({
    width: 3,
    height: 2,
    data: Uint8Array.from([
      255, 0, 0, 255, 0, 255, 0, 128, 0, 0, 255, 255, 9, 9, 9, 0, 1, 2, 3, 255, 255, 255, 255, 64,
    ]),
  }),
);

const everything = [
  stroke(line([10, 10], [100, 60])),
  { do: "layer.add", id: "b", name: "B", above: "a" },
  stroke(line([10, 90], [180, 30]), { layer: "b", brush: "pencil-6b", size: 20 }),
  { do: "layer.set", id: "b", blend: "multiply", opacity: 0.4, name: "Shade" },
  { do: "layer.copy", id: "b", as: "c", name: "Copy" },
  { do: "layer.move", id: "c", above: null },
  stroke(line([10, 40], [180, 44]), { layer: "c", mode: "lift", size: 9 }),
  stroke(line([60, 20], [60, 120]), { layer: "a", mode: "blend", brush: "round-soft", size: 30 }),
  { do: "place", layer: "a", x: 62, y: 30, png },
  { do: "picture.set", ground: "#224466", paper: { kind: "laid", scale: 2 } },
  { do: "layer.clear", id: "a" },
  { do: "layer.remove", id: "b" },
  {
    do: "together",
    label: "two at once",
    steps: [
      { do: "layer.set", id: "a", locked: true },
      { do: "layer.remove", id: "c" },
    ],
  },
];

describe("history", () => {
  it("takes back and repeats every command, pixel for pixel", () => {
    const { engine, work } = testWork();
    const prints = [fingerprint(engine, work)];
    for (const command of everything) {
      work.apply(command);
      prints.push(fingerprint(engine, work));
    }
    for (let i = everything.length; i > 0; i--) {
      expect(fingerprint(engine, work)).toBe(prints[i]);
      expect(work.undo()).not.toBeNull();
    }
    expect(fingerprint(engine, work)).toBe(prints[0]);
    for (let i = 1; i <= everything.length; i++) {
      work.redo();
      expect(fingerprint(engine, work)).toBe(prints[i]);
    }
    expect(work.redo()).toBeNull();
  });

  it("still does after its older tiles have been squeezed", () => {
    const { engine, work } = testWork();
    const first = fingerprint(engine, work);
    for (let i = 0; i < 12; i++)
      work.apply(
        stroke(line([5, 5 + i * 12], [250, 180 - i * 9]), { brush: "pencil-2b", size: 30 }),
      );
    const last = fingerprint(engine, work);
    while (work.history.tidy(100));
    expect(engine.store.squeezedBytes).toBeGreaterThan(0);
    for (let i = 0; i < 12; i++) work.undo();
    expect(fingerprint(engine, work)).toBe(first);
    for (let i = 0; i < 12; i++) work.redo();
    expect(fingerprint(engine, work)).toBe(last);
  });

  it("is bounded by bytes, and lets go of the oldest first", () => {
    const { work } = testWork();
    work.history.limit = 20 * TILE_BYTES;
    for (let i = 0; i < 40; i++)
      work.apply(stroke(line([5, 5], [250, 180]), { size: 30, seed: i }));
    expect(work.history.bytes).toBeLessThanOrEqual(20 * TILE_BYTES);
    expect(work.history.depth).toBeGreaterThan(0);
    expect(work.history.depth).toBeLessThan(40);
  });

  it("gives back the memory of what it forgets", () => {
    const { engine, work } = testWork();
    work.history.limit = 0;
    const draw = (): void => void work.apply(stroke(line([5, 5], [250, 180]), { size: 60 }));
    draw();
    draw();
    const resident = engine.store.residentBytes;
    for (let i = 0; i < 30; i++) draw();
    expect(engine.store.residentBytes).toBe(resident);
  });

  it("forgets what was undone once something new is done", () => {
    const { work } = testWork();
    work.apply(stroke(line([5, 5], [50, 50])));
    work.undo();
    work.apply({ do: "layer.set", id: "a", opacity: 0.5 });
    expect(work.redo()).toBeNull();
    expect(work.place).toBe(2);
  });
});

describe("planes", () => {
  it("that the engine does not know are copied, cleared, removed and brought back with their layer", () => {
    const { engine, work } = testWork();
    const tile = engine.store.plain([5, 5, 5, 5]);
    work.picture.plane("a", "height").set(7, tile);
    const heights = (id: string): number[] => [...work.picture.plane(id, "height").keys()];
    work.apply({ do: "layer.copy", id: "a", as: "b", name: "B" });
    expect(heights("b")).toEqual([7]);
    work.apply({ do: "layer.clear", id: "a" });
    expect(heights("a")).toEqual([]);
    work.apply({ do: "layer.remove", id: "b" });
    expect(heights("b")).toEqual([]);
    work.undo();
    work.undo();
    expect([heights("a"), heights("b")]).toEqual([[7], [7]]);
    work.undo();
    expect([heights("a"), heights("b")]).toEqual([[7], []]);
  });
});

describe("refusals", () => {
  const cases: [unknown, RegExp][] = [
    [{ do: "fly" }, /do/],
    [{ do: "layer.add", id: "a", name: "again", above: null }, /already a layer/],
    [{ do: "layer.add", id: "z", name: "z", above: "nowhere" }, /no layer "nowhere"/],
    [{ do: "layer.set", id: "a", opacity: 1.5 }, /opacity/],
    [{ do: "layer.set", id: "a", colour: "red" }, /colour/],
    [{ do: "layer.set", id: "a" }, /nothing to set/],
    [{ do: "layer.remove", id: "zz" }, /no layer/],
    [{ do: "layer.move", id: "a", above: "a" }, /above itself/],
    [stroke(line([0, 0], [9, 9]), { brush: "no-such" }), /no brush/],
    [stroke(line([0, 0], [9, 9]), { size: 1e6 }), /size/],
    [stroke(line([0, 0], [9, 9]), { size: 0 }), /size/],
    [stroke([], {}), /samples/],
    [stroke([[0, Number.NaN, 1, 0.5, 1, 0, 0]]), /samples\.0\.1/],
    [stroke([[0, 1, 1, 7, 1, 0, 0]]), /samples\.0\.3/],
    [{ do: "place", layer: "a", x: 0, y: 0, png: "AAAA" }, /PNG/],
    [{ do: "picture.set" }, /neither/],
  ];
  it.each(cases)("of %j says why and changes nothing", (command, why) => {
    const { engine, work } = testWork();
    work.apply(stroke(line([10, 10], [100, 60])));
    const before = fingerprint(engine, work);
    expect(() => work.apply(command)).toThrow(why);
    expect(fingerprint(engine, work)).toBe(before);
    expect(work.place).toBe(2);
  });

  it("of one step take back the steps before it", () => {
    const { engine, work } = testWork();
    const before = fingerprint(engine, work);
    expect(() =>
      work.apply({
        do: "together",
        label: "half",
        steps: [stroke(line([0, 0], [90, 90])), { do: "layer.remove", id: "nowhere" }],
      }),
    ).toThrow(/nowhere/);
    expect(fingerprint(engine, work)).toBe(before);
    expect(work.undo()).toBe("add layer");
  });

  it("protect locked and hidden layers", () => {
    const { work } = testWork();
    work.apply({ do: "layer.set", id: "a", locked: true });
    expect(() => work.apply(stroke(line([0, 0], [9, 9])))).toThrow(/locked/);
    expect(() => work.apply({ do: "layer.remove", id: "a" })).toThrow(/locked/);
    work.apply({ do: "layer.set", id: "a", locked: false, visible: false });
    expect(() => work.apply(stroke(line([0, 0], [9, 9])))).toThrow(/hidden/);
  });

  it("keep a stroke and a command from mixing", () => {
    const { work } = testWork();
    const { samples: _, ...beginning } = stroke([]) as { samples: unknown };
    work.beginStroke(beginning);
    work.extendStroke(line([0, 0], [50, 50]));
    expect(() => work.apply({ do: "layer.clear", id: "a" })).toThrow(/being drawn/);
    expect(work.endStroke()).not.toBeNull();
  });
});

describe("bringing in pixels", () => {
  it("puts them where they belong, premultiplied", () => {
    const { engine, work } = testWork();
    work.apply({ do: "place", layer: "a", x: 62, y: 30, png });
    expect(pixel(engine, work, "a", 62, 30)).toEqual([32767, 0, 0, 32767]);
    expect(pixel(engine, work, "a", 63, 30).map((v) => Math.round((v * 255) / 32767))).toEqual([
      0, 128, 0, 128,
    ]);
    expect(pixel(engine, work, "a", 64, 30)).toEqual([0, 0, 32767, 32767]);
    expect(pixel(engine, work, "a", 62, 31)).toEqual([0, 0, 0, 0]);
  });

  it("cuts off what lies outside the sheet", () => {
    const { work } = testWork();
    work.apply({ do: "place", layer: "a", x: -2, y: -1, png });
    expect([...work.picture.plane("a").keys()]).toEqual([0]);
  });
});

it("bringing in a large picture tells how far it is, and can be stopped", () => {
  const data = new Uint8Array(2300 * 1800 * 4).fill(200);
  const large = toBase64(writePng({ width: 2300, height: 1800, data }));
  const told: number[] = [];
  let most = 1;
  const work = testEngine().open(testHeader({ width: 2300, height: 1800 }), {
    progressed: (_label, share) => {
      told.push(share);
      if (share > most) throw new Error("enough");
    },
  });
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  work.apply({ do: "place", layer: "a", x: 0, y: 0, png });
  expect(told).toEqual([]);
  work.apply({ do: "place", layer: "a", x: 0, y: 0, png: large });
  expect(told.length).toBeGreaterThan(10);
  expect(told.at(-1)).toBe(1);
  most = 0.3;
  const before = work.place;
  expect(() => work.apply({ do: "place", layer: "a", x: 0, y: 0, png: large })).toThrow(/^enough$/);
  expect(work.place).toBe(before);
});

describe("the live door", () => {
  const begin = { do: "stroke", layer: "a", brush: "pencil-6b", size: 20 };

  it.each([
    ["no number", Number.NaN, 0.5],
    ["a place beyond hearing", 1e6, 0.5],
    ["a pressure above 1", 50, 1.5],
  ])("refuses %s, and draws nothing of that stroke", (_name, x, pressure) => {
    const { engine, work } = testWork();
    const before = fingerprint(engine, work);
    work.beginStroke(begin);
    work.extendStroke(line([10, 10], [80, 40]));
    expect(() => work.extendStroke([[200, x, 40, pressure, 1, 0, 0]])).toThrow(/cannot be kept/);
    expect(work.isDrawing).toBe(false);
    expect(fingerprint(engine, work)).toBe(before);
    work.apply(stroke(line([10, 10], [80, 40])));
  });

  it("takes directions of any turn, and logs what can be read again", () => {
    const { engine, work } = testWork();
    work.beginStroke(begin);
    work.extendStroke(line([10, 10], [180, 40], { azimuth: -31, altitude: 0.6 }));
    const logged = work.endStroke();
    const again = testWork();
    again.work.apply(JSON.parse(JSON.stringify(logged)));
    expect(fingerprint(again.engine, again.work)).toBe(fingerprint(engine, work));
  });
});

describe("what a log may not do", () => {
  it.each([
    [{ do: "layer.add", id: "(selection)", name: "S", above: null }, /bracket/],
    [{ do: "layer.copy", id: "a", as: "(stencils)", name: "S" }, /bracket/],
    [{ do: "layer.group", id: "(g", name: "G", layers: ["a"] }, /bracket/],
    [{ do: "select.keep", id: "(kept)", name: "K" }, /bracket/],
    [stroke(line([0, 0], [9, 9]), { brush: "constructor" }), /no brush "constructor"/],
    [stroke(line([0, 0], [9, 9]), { brush: "__proto__" }), /no brush "__proto__"/],
  ])("%j is refused", (command, why) => {
    const { engine, work } = testWork();
    const before = fingerprint(engine, work);
    expect(() => work.apply(command)).toThrow(why);
    expect(fingerprint(engine, work)).toBe(before);
  });

  it("nest its parts without end", () => {
    const deep = `{"do":"together","steps":${"[".repeat(9000)}`;
    expect(() => readWorkLog(`{"pampas":1,"width":9,"height":9}\n${deep}`)).toThrow(
      /^line 2: its parts lie too deep/,
    );
  });

  it("name a line twice in its error", () => {
    expect(() => readWorkLog("nonsense")).toThrow(/^line 1: this is not JSON$/);
  });

  it("cost much by strokes that run far off the sheet, or pour for a day", () => {
    const { engine, work } = testWork();
    const far = Array.from({ length: 20 }, (_, i): [number, number, number, number] => [
      i * 8,
      i % 2 === 0 ? 65_000 : 40_000,
      i * 3000,
      1,
    ]);
    const before = fingerprint(engine, work);
    for (const brush of ["pen-even", "pencil-2b", "hair-wavy", "rope"])
      work.apply({ ...stroke([]), brush, size: 3, samples: far as never });
    expect(fingerprint(engine, work)).toBe(before);
    const day = [
      [0, 60, 60, 0.5],
      [86_400_000, 60, 60, 0.5],
    ];
    work.apply({ ...stroke([]), brush: "spray-air", size: 20, samples: day as never });
    expect(pixel(engine, work, "a", 60, 60)[3]).toBeGreaterThan(32_000);
  });

  it("lose a stroke that comes back from far off the sheet", () => {
    const { engine, work } = testWork();
    const out = line([20, 90], [200, 90]);
    const back = [...line([-30_000, 40], [-20, 40], { steps: 60 }), ...line([0, 40], [250, 40])];
    work.apply(stroke(out));
    work.apply(stroke(back.map(([, ...rest], i) => [i * 8, ...rest])));
    for (const y of [40, 90]) expect(pixel(engine, work, "a", 120, y)[3]).toBe(32_767);
  });
});

describe("work logs", () => {
  const example = `{"pampas":1,"width":2000,"height":1400,"ppi":300,"mode":"colour","ground":"#f4efe6","paper":{"kind":"cold-pressed","scale":1}}
{"do":"layer.add","id":"sketch","name":"Sketch","above":null}
{"do":"layer.set","id":"sketch","opacity":0.6,"blend":"multiply"}
{"do":"stroke","layer":"sketch","brush":"pencil-2b","mode":"paint","size":6,"colour":"#2b2b33","seed":7,
 "samples":[[0,100,100,0.4,0.9,0.2,0],[8,104,101,0.45,0.9,0.2,0]]}
`;

  it("the documented example is read and drawn as it stands", () => {
    const { header, commands } = readWorkLog(example);
    expect(commands).toHaveLength(3);
    const engine = testEngine();
    const work = engine.open(header);
    for (const command of commands) work.apply(command);
    expect(pixel(engine, work, "sketch", 102, 100)[3]).toBeGreaterThan(500);
  });

  it("come back from text as they went", () => {
    const log = readWorkLog(example);
    expect(readWorkLog(writeWorkLog(log.header, log.commands))).toEqual(log);
  });

  it.each([
    ["", /empty/],
    ["not json", /line 1: this is not JSON/],
    ['{"pampas":2,"width":1,"height":1}', /line 1: pampas/],
    ['{"pampas":1,"width":99999,"height":1}', /line 1: width/],
    ['{"pampas":1,"width":16384,"height":16384}', /200 million/],
    ['{"pampas":1,"width":10,"height":10}\n\n{"do":"jump"}', /line 3/],
    ['{"pampas":1,"width":10,"height":10}\n{"do":"layer.add","id":"a"', /line 2: this is not JSON/],
    [
      '{"pampas":1,"width":10,"height":10}\n{"do":"layer.set","id":"a","opacity":"x"}',
      /line 2: opacity/,
    ],
  ])("%j is refused by line and field", (text, why) => {
    expect(() => readWorkLog(text)).toThrow(why);
  });

  it("take guides and the sun pin along to another size", () => {
    const log = readWorkLog(
      [
        '{"pampas":1,"width":400,"height":300}',
        '{"do":"guides.set","guides":[{"kind":"straightedge","from":{"x":10,"y":20},"to":{"x":30,"y":40}},{"kind":"ellipse","at":{"x":50,"y":60},"across":20,"down":10,"angle":0.4}]}',
        '{"do":"sun.set","sun":{"at":{"x":100,"y":50},"azimuth":1,"height":0.5}}',
      ].join("\n"),
    );
    const { commands } = scaleWorkLog(log, 3);
    expect(commands[0]).toMatchObject({
      guides: [
        { from: { x: 30, y: 60 }, to: { x: 90, y: 120 } },
        { at: { x: 150, y: 180 }, across: 60, down: 30, angle: 0.4 },
      ],
    });
    expect(commands[1]).toMatchObject({ sun: { at: { x: 300, y: 150 }, azimuth: 1 } });
  });

  it("can be drawn anew at twice the size", () => {
    const log = readWorkLog(example);
    const large = scaleWorkLog(log, 2);
    expect(large.header).toMatchObject({ width: 4000, height: 2800, ppi: 600 });
    expect(large.commands[2]).toMatchObject({
      size: 12,
      samples: [
        [0, 200, 200, 0.4, 0.9, 0.2, 0],
        [8, 208, 202, 0.45, 0.9, 0.2, 0],
      ],
    });
  });
});

it("a picture of the greatest size opens without taking memory for it", () => {
  const engine = testEngine();
  const before = engine.memory.buffer.byteLength;
  const work = engine.open(testHeader({ width: 16384, height: 12000 }));
  work.apply({ do: "layer.add", id: "a", name: "A", above: null });
  work.apply(stroke(line([16000, 11900], [16380, 11990])));
  expect(engine.memory.buffer.byteLength - before).toBeLessThan(16 * 2 ** 20);
});
