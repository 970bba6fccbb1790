import { newPin, seenThrough, zoomedPin } from "./pinboard";

const pin = newPin("p", "wool coat.png", { width: 400, height: 300, png: new Uint8Array(1) }, 0);

it("a new pin is named after its file and shows all of its picture", () => {
  expect(pin.name).toBe("wool coat");
  expect(seenThrough(pin)).toEqual({
    frameHeight: 165,
    width: 220,
    height: 165,
    left: 0,
    top: 0,
  });
});

it("zoomed at a point it shows the same there, as far as its edges allow", () => {
  const zoomed = { ...pin, ...zoomedPin(pin, 4, 110, 80) };
  const before = seenThrough(pin);
  const after = seenThrough(zoomed);
  expect((110 - after.left) / after.width).toBeCloseTo((110 - before.left) / before.width, 9);
  expect((80 - after.top) / after.height).toBeCloseTo((80 - before.top) / before.height, 9);
  expect(zoomed.zoom).toBe(4);
});

it("is never seen smaller than its frame, nor past its edges", () => {
  expect(zoomedPin(pin, 0.1, 0, 0).zoom).toBe(1);
  const corner = { ...pin, zoom: 3, middleX: 0, middleY: 1 };
  const { left, top, height, frameHeight } = seenThrough(corner);
  expect(left).toBe(0);
  expect(top).toBeCloseTo(frameHeight - height, 9);
});
