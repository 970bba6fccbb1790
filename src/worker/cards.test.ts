import { testEngine } from "../engine/engine.testing";
import { brushes } from "../engine/media";
import { CARD, paintCard } from "./cards";

const colours = { ground: "#ffffff", colour: "#000000", second: "#806020" };

const paper = { kind: "cold-pressed", scale: 1 } as const;

const at = (data: ArrayLike<number>, width: number, x: number, y: number): number[] =>
  [0, 1, 2, 3].map((c) => data[(y * width + x) * 4 + c] as number);

describe("brush cards", () => {
  const engine = testEngine();

  it.each(brushes.map((brush) => [brush.id, brush] as const))(
    "of %s show a stroke of its own on clean paper",
    (_id, brush) => {
      const { data, width, height } = paintCard(engine, brush, colours, paper);
      expect([width, height]).toEqual([CARD.width, CARD.height]);
      let marked = 0;
      for (let i = 0; i < width * height; i++) if ((data[i * 4] as number) < 225) marked++;
      expect(marked).toBeGreaterThan(100);
      expect(marked).toBeLessThan((width * height) / 2);
      expect(at(data, width, 2, 2)).toEqual([255, 255, 255, 255]);
    },
  );

  it("are all different, and leave nothing behind", () => {
    const pictures = brushes.map((brush) => paintCard(engine, brush, colours, paper).data.join());
    expect(new Set(pictures).size).toBe(brushes.length);
    expect(engine.store.residentBytes).toBe(0);
  });
});
