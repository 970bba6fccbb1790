import { newLayer } from "../../../engine/picture/picture";
import { cardAt, isUnderCard } from "./card";

test("a card lies as it is seen: turned and mirrored with the view, its edge through the place", () => {
  const plain = cardAt(90, { x: 40, y: 60 }, ({ x, y }) => ({ x: 2 * x - 10, y: 2 * y + 5 }));
  expect(plain).toEqual({ x: 70, y: 125, nx: expect.closeTo(0), ny: expect.closeTo(1) });
  // What is on the right of a mirrored view is on the left of the picture.
  const mirrored = cardAt(0, { x: 40, y: 60 }, ({ x, y }) => ({ x: 500 - 3 * x, y: 3 * y }));
  expect(mirrored).toEqual({ x: 380, y: 180, nx: expect.closeTo(-1), ny: expect.closeTo(0) });
  // A view that is turned by a quarter: right on the screen is up on the picture.
  const turned = cardAt(0, { x: 0, y: 0 }, ({ x, y }) => ({ x: y, y: -x }));
  expect([turned.nx, turned.ny]).toEqual([expect.closeTo(0), expect.closeTo(-1)]);
});

test("it holds paint back, a mask's and the selection's too, and lets lines and pieces be", () => {
  const layers = [
    newLayer("a", "Paint"),
    { ...newLayer("l", "Lines"), kind: "lines" as const },
    { ...newLayer("s", "Leaves"), kind: "strewn" as const },
  ];
  expect(["a", "l", "s", "(selection)"].map((id) => isUnderCard(layers, id))).toEqual([
    true,
    false,
    false,
    true,
  ]);
  expect(isUnderCard(undefined, "a")).toBe(false);
});
