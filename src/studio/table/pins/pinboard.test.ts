import "fake-indexeddb/auto";
import { writePng } from "../../../engine/file/png";
import { openDatabase } from "../../../storage/database";
import { PinBox } from "../../../storage/pins";
import { type PinRecord } from "../../../storage/records";
import { useNotices } from "../../notices/notices";
import { toldLast } from "../table.testing";
import {
  changePin,
  layOutPins,
  MOST_ZOOM,
  newPin,
  seenThrough,
  unpin,
  usePins,
  zoomedPin,
} from "./pinboard";

const png = writePng({ width: 2, height: 1, data: new Uint8Array(8).fill(200) });
const lamp = (before = 0): PinRecord =>
  newPin("tram", "brass lamp.png", { width: 400, height: 200, png }, before);
const inStore = async (): Promise<PinRecord[]> => {
  const db = await openDatabase();
  const { pins } = await new PinBox(db).list("tram");
  db.close();
  return pins;
};
/** Waits until what is in store is as expected: keeping goes on beside. */
async function eventually(holds: (pins: PinRecord[]) => boolean): Promise<PinRecord[]> {
  for (let tries = 0; tries < 400; tries++) {
    const pins = await inStore();
    if (holds(pins)) return pins;
  }
  throw new Error("the pins were not kept");
}

beforeEach(async () => {
  usePins.setState({ pins: [] });
  useNotices.setState({ notices: [] });
  const db = await openDatabase();
  await db.clear("pins");
  db.close();
});

test("a new pin is called as its file, and each lies a little beside the one before", () => {
  expect(lamp().name).toBe("brass lamp");
  expect(newPin("tram", ".png", { width: 4, height: 4, png }, 0).name).toBe("Pin");
  expect(lamp(3).x - lamp(2).x).toBeGreaterThan(10);
  expect(lamp(9).x).toBe(lamp(1).x);
});

test("what the hand lets go of is kept; what it still holds is only seen", async () => {
  const pin = lamp();
  usePins.setState({ pins: [pin] });
  changePin(pin.id, { x: 300 }, false);
  expect(usePins.getState().pins[0]?.x).toBe(300);
  changePin(pin.id, { mirrored: true });
  const [kept] = await eventually((pins) => pins.length === 1);
  expect(kept).toMatchObject({ x: 300, mirrored: true });
});

test("taken off it is gone from store, and there is a way back", async () => {
  const pin = lamp();
  usePins.setState({ pins: [pin] });
  changePin(pin.id, { grey: true });
  await eventually((pins) => pins.length === 1);
  const [shown] = usePins.getState().pins;
  if (!shown) throw new Error("no pin is seen");
  unpin(shown);
  await eventually((pins) => pins.length === 0);
  expect(toldLast()).toContain("taken off the pinboard");
  useNotices.getState().notices.at(-1)?.action?.act();
  const [back] = await eventually((pins) => pins.length === 1);
  expect(back).toMatchObject({ name: "brass lamp", grey: true });
});

test("laid out are a picture's own pins; what cannot be read is told of", async () => {
  const db = await openDatabase();
  const box = new PinBox(db);
  await box.keep(lamp());
  await box.keep({ ...lamp(), id: "other", picture: "depot" });
  await db.put("pins", { ...lamp(), id: "broken", across: "wide" } as unknown as PinRecord);
  db.close();
  const seen = new Promise<PinRecord[]>((resolve) => {
    const stop = usePins.subscribe(({ pins }) => {
      if (pins.length === 0) return;
      stop();
      resolve(pins);
    });
  });
  const clear = layOutPins("tram");
  expect((await seen).map(({ name }) => name)).toEqual(["brass lamp"]);
  expect(toldLast()).toContain("1 pins cannot be read");
  clear();
  expect(usePins.getState().pins).toEqual([]);
});

describe("seen through its frame", () => {
  test("unzoomed it fills the frame; zoomed it never leaves a bare edge", () => {
    const pin = lamp();
    expect(seenThrough(pin)).toMatchObject({
      frameHeight: 110,
      width: 220,
      height: 110,
      left: 0,
      top: 0,
    });
    for (const [middleX, middleY] of [
      [0, 0],
      [1, 1],
      [0.3, 0.9],
    ] as const) {
      const { left, top, width, height } = seenThrough({ ...pin, zoom: 3, middleX, middleY });
      expect(left).toBeLessThanOrEqual(0);
      expect(top).toBeLessThanOrEqual(0);
      expect(left + width).toBeGreaterThanOrEqual(220 - 1e-9);
      expect(top + height).toBeGreaterThanOrEqual(110 - 1e-9);
    }
  });

  test("zoomed at a point, that point shows what it showed", () => {
    const pin = { ...lamp(), zoom: 2, middleX: 0.5, middleY: 0.5 };
    const [x, y] = [140, 70];
    const share = ({ left, top, width, height }: ReturnType<typeof seenThrough>) => [
      (x - left) / width,
      (y - top) / height,
    ];
    const before = share(seenThrough(pin));
    const after = share(seenThrough({ ...pin, ...zoomedPin(pin, 1.7, x, y) }));
    expect(after[0]).toBeCloseTo(before[0] as number, 6);
    expect(after[1]).toBeCloseTo(before[1] as number, 6);
    expect(zoomedPin(pin, 0.01, x, y).zoom).toBe(1);
    expect(zoomedPin(pin, 1000, x, y).zoom).toBe(MOST_ZOOM);
  });
});
