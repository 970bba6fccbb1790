import { type Place } from "../../../engine/guides/guide";
import { projectionOf, seenAt } from "../../../engine/scene/camera";
import { seenInScene } from "../../../engine/scene/pick";
import { newScene, type Scene } from "../../../engine/scene/scene";
import { sceneWith, solid } from "../../../engine/scene/scene.testing";
import { length, minus, turnAbout, type Vector } from "../../../engine/scene/vector";
import {
  atDistance,
  atHeight,
  carriedTo,
  goneRound,
  handleAt,
  handleKinds,
  pathPulled,
  pulledTo,
  slid,
  turnOf,
} from "./handles";
import { pinFromScene, sceneFromPin } from "./sun-and-scene";

const shed = solid({ id: "shed", size: [2, 1, 1], at: [-1, 0, -1] });
const crate = solid({ id: "crate", size: [0.5, 0.5, 0.5], at: [1.5, 0, 1] });
const scene = sceneWith([shed, crate], {}, 1600, 1200);
const seen = (own: Scene, at: Vector): Place => {
  const place = seenAt(projectionOf(own.camera), at);
  if (!place) throw new Error("behind the eye");
  return place;
};

it.each(handleKinds.filter((kind) => kind !== "turn"))("%s follows the pen", (handle) => {
  const turned = { ...shed, turn: [...turnAbout([0, 1, 0], 0.4)] as typeof shed.turn };
  const from = seen(scene, handleAt(turned, handle));
  const to = { x: from.x + 40, y: from.y - 60 };
  const pulled = pulledTo(scene, turned, handle, from, to);
  const now = seen(scene, handleAt(pulled, handle));
  // Along its own way: nothing else of the solid changes, and it gets nearer to the pen than it was.
  const gone = (place: Place): number => Math.hypot(place.x - to.x, place.y - to.y);
  expect(gone(now)).toBeLessThan(gone(from));
  expect(pulled.turn).toEqual(turned.turn);
  const back = pulledTo(scene, pulled, handle, to, from);
  expect(length(minus(back.size, turned.size))).toBeLessThan(0.03);
  expect(length(minus(back.at, turned.at))).toBeLessThan(0.03);
});

it("turns about its foot by as much as the pen goes round it", () => {
  const at = (angle: number): Place =>
    seen(scene, [shed.at[0] + 2 * Math.sin(angle), 0, shed.at[2] + 2 * Math.cos(angle)]);
  const turned = pulledTo(scene, shed, "turn", at(0.2), at(0.9));
  expect(turnOf(turned)).toBeCloseTo(0.7, 6);
  expect(turned.at).toEqual(shed.at);
});

it("carries over the ground to where the pen is, others with it", () => {
  const [carried, with_] = carriedTo(
    scene,
    [crate, shed],
    [0, 0, 0],
    seen(scene, [2.5, 0, 2]),
    true,
  );
  expect(length(minus(carried!.at, [2.5, 0, 2]))).toBeLessThan(0.02);
  expect(length(minus(minus(with_!.at, shed.at), minus(carried!.at, crate.at)))).toBeLessThan(1e-9);
});

it("stands what is carried on the solid under the pen", () => {
  const [carried] = carriedTo(scene, [crate], [0, 0, 0], seen(scene, [-1, 1, -1]), false);
  expect(carried!.at[1]).toBeCloseTo(1, 2);
  expect(Math.abs(carried!.at[0] + 1)).toBeLessThan(0.1);
});

it("draws sides to sides: a crate beside the shed meets it", () => {
  const [carried] = carriedTo(scene, [crate], [0, 0, 0], seen(scene, [0.28, 0, -0.74]), false);
  // The shed's right side is at 0, its front at −0.5.
  expect(carried!.at[0]).toBeCloseTo(0.25, 6);
  expect(carried!.at[2]).toBeCloseTo(-0.75, 6);
  const [free] = carriedTo(scene, [crate], [0, 0, 0], seen(scene, [0.28, 0, -0.74]), true);
  expect(free!.at[0]).toBeCloseTo(0.28, 2);
});

it("looks at the nearest solid under the pen, and at the ground beside them", () => {
  expect(seenInScene(scene, seen(scene, [-1, 0.5, -0.5]))?.solid?.id).toBe("shed");
  expect(seenInScene(scene, seen(scene, [0.4, 0, 2.5]))?.solid).toBeNull();
  expect(seenInScene({ ...scene, ground: null }, seen(scene, [0.4, 0, 2.5]))).toBeNull();
});

it("pulls a place of a tube's path to the pen, in the plane of the picture", () => {
  const tube = solid({
    ...{
      kind: "tube",
      path: [
        [0, 0, 0],
        [1, 0, 0],
      ],
      at: [0, 0.5, 0],
    },
    turn: [...turnAbout([0, 1, 0], 1)],
  });
  const to = { x: 900, y: 300 };
  const pulled = pathPulled(scene, tube, 1, to);
  const own = sceneWith([pulled], {}, 1600, 1200);
  expect(pulled.path?.[0]).toEqual([0, 0, 0]);
  const hit = seenInScene(own, to);
  expect(hit?.solid?.id).toBe(pulled.id);
});

describe("the camera", () => {
  const { camera } = newScene(1600, 1200);
  const far = length(minus(camera.at, camera.to));

  it("goes round what it looks at, never under the ground", () => {
    const gone = goneRound(camera, 0.5, 0.2);
    expect(length(minus(gone.at, gone.to))).toBeCloseTo(far, 9);
    expect(Math.atan2(gone.at[0], gone.at[2])).toBeCloseTo(-0.5, 9);
    expect(goneRound(camera, 0, -2).at[1]).toBeCloseTo(0.15, 9);
  });

  it("slides with what it sees under the pen", () => {
    const own = { ...scene, camera: slid(camera, 100, -50) };
    const [before, now] = [seen(scene, camera.to), seen(own, camera.to)];
    expect(now.x - before.x).toBeCloseTo(100, 6);
    expect(now.y - before.y).toBeCloseTo(-50, 6);
  });

  it("keeps its horizon when it is lifted, and its way when it comes nearer", () => {
    const horizon = (own: typeof camera): number =>
      seen({ ...scene, camera: own }, [0, own.at[1], -1e6]).y;
    expect(horizon(atHeight(camera, 6))).toBeCloseTo(horizon(camera), 2);
    expect(length(minus(atDistance(camera, 3).at, camera.to))).toBeCloseTo(3, 9);
  });
});

it("hands its sun to the pin and takes it back, however the camera stands", () => {
  for (const heading of [0, 1, -2.5]) {
    const own = { ...scene, camera: goneRound(scene.camera, heading, 0.1) };
    const pin = pinFromScene(own);
    const back = sceneFromPin(own, pin);
    expect(Math.cos(back.azimuth - own.light.azimuth)).toBeCloseTo(1, 9);
    expect(back.height).toBe(own.light.height);
  }
  // From the right of the picture is from its right, wherever the camera stands.
  const side = { ...scene, camera: goneRound(scene.camera, Math.PI / 2, 0) };
  const right = sceneFromPin(side, { azimuth: 0, height: 0.3 });
  const moved = { ...side, light: right };
  expect(Math.cos(pinFromScene(moved).azimuth)).toBeCloseTo(1, 9);
});
