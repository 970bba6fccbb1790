import { Taps } from "./taps";

const at = (x: number, y = 0): { x: number; y: number } => ({ x, y });

describe("taps", () => {
  it("are told by how many fingers were down together", () => {
    const taps = new Taps();
    taps.down(1, at(100), 0);
    taps.down(2, at(160), 20);
    expect(taps.up(1, 120)).toBe(0);
    expect(taps.up(2, 130)).toBe(2);
    for (const finger of [1, 2, 3]) taps.down(finger, at(finger * 60), 500);
    taps.move(2, at(126, 5));
    expect([3, 1, 2].map((finger) => taps.up(finger, 640))).toEqual([0, 0, 3]);
    taps.down(7, at(5), 900);
    expect(taps.up(7, 950)).toBe(1);
  });

  it("are none where a finger strayed, stayed, or a pen came", () => {
    const taps = new Taps();
    const both = (): void => [1, 2].forEach((finger) => taps.down(finger, at(finger * 60), 0));
    const ended = (time: number): number => taps.up(1, time) + taps.up(2, time);
    both();
    taps.move(1, at(80));
    expect(ended(100)).toBe(0);
    both();
    expect(ended(400)).toBe(0);
    both();
    taps.spoil();
    expect(ended(100)).toBe(0);
    expect(taps.up(9, 0)).toBe(0);
  });
});
