import { srgbToLinear } from "../colour/oklch";
import { hexToBytes } from "../colour/srgb";
import { type Heap } from "../tiles/heap";
import { type Box } from "../tiles/layout";
import { NEAR, type Onto, type Projection, projectionOf } from "./camera";
import { idColour } from "./ids";
import { type Scene, type SceneLight } from "./scene";
import { isConvex, isOpen } from "./solid";
import { treeOf } from "./tree";
import { cosine, sine, type Vector } from "./vector";
import { type World, worldOf } from "./world";

/** Bytes of the parts: see `kernels/scene/layout.ts`. */
const SCENE_BYTES = 384;
const TRIANGLE_BYTES = 112;
const OWNER_BYTES = 32;
const NODE_BYTES = 32;
const CASTER_BYTES = 40;
/** For what is rounded, px. */
const SLACK = 1e-3;
/** How much farther a shadow's edge may lie off than an edge that is seen. */
const SHADOW_ERROR = 3;
const POINTERS_AT = 328;
const IS_CONVEX = 1;
const TWO_SIDED = 2;
const IS_CHOSEN = 4;

/** A scene in the kernels' memory. Call `release` when it is painted. */
export type Stage = {
  readonly address: number;
  readonly projection: Projection;
  readonly world: World;
  /** Where each triangle lies that is seen, px: left, top, right, bottom. */
  readonly boxes: Int32Array;
  readonly hasGround: boolean;
  /** Depths of the nearest and the farthest corner in view, m. */
  readonly nearest: number;
  readonly farthest: number;
  release(): void;
};

export type StageOptions = {
  /** How far a round edge may lie off, px. */
  error: number;
  shadows: boolean;
  /** Where it is shown, px: what lies outside is left out. */
  view: Box;
  /** Solids that are asked for. */
  chosen?: ReadonlySet<string> | undefined;
  /** From the sheet to the pixels that it is painted on. */
  onto?: Onto;
};

/** The way to a scene's sun. */
export function wayToSun({ azimuth, height }: Pick<SceneLight, "azimuth" | "height">): Vector {
  const level = cosine(height);
  return [level * cosine(azimuth), sine(height), level * sine(azimuth)];
}

const linear = (hex: string, by = 1): [number, number, number] => {
  const [r, g, b] = hexToBytes(hex);
  return [srgbToLinear(r / 255) * by, srgbToLinear(g / 255) * by, srgbToLinear(b / 255) * by];
};

/** Lays a scene out for the kernels. */
export function stageOf(heap: Heap, scene: Scene, options: StageOptions): Stage {
  const projection = projectionOf(scene.camera, options.onto);
  const world = worldOf(scene.solids, projection, options.error);
  const held: [address: number, bytes: number][] = [];
  const allocate = (bytes: number): number => {
    // Of a size that comes up again: the heap keeps what is freed by its size.
    const size = 2 ** Math.ceil(Math.log2(Math.max(64, bytes)));
    const address = heap.allocate(size);
    held.push([address, size]);
    return address;
  };
  const release = (): void => {
    for (const [address, bytes] of held) heap.free(address, bytes);
  };
  try {
    const address = allocate(SCENE_BYTES);
    const { triangles, boxes, depths } = layTriangles(
      heap,
      allocate,
      world,
      projection,
      options.view,
    );
    const facing = allocate(world.facing.byteLength);
    heap.f32.set(world.facing, facing >>> 2);
    const casts = options.shadows && world.owners.length > 0;
    // A shadow's edge may lie farther off.
    const casting = casts ? worldOf(scene.solids, projection, options.error * SHADOW_ERROR) : world;
    const owners = layOwners(heap, allocate, casting, options.chosen);
    const [nodes, casters] = casts ? layTree(heap, allocate, casting) : [0, 0];
    layScene(heap, address, scene, projection, depths, options.shadows);
    heap.i32.set([triangles, facing, owners, nodes, casters], (address + POINTERS_AT) >>> 2);
    const hasGround = scene.ground !== null;
    const [nearest, farthest] = depths;
    return { address, projection, world, boxes, hasGround, nearest, farthest, release };
  } catch (error) {
    release();
    throw error;
  }
}

type Allocate = (bytes: number) => number;

/** Homogeneous px of every corner: x, y, depth. */
function cast({ corners }: World, { eye, x, y, depth }: Projection): Float64Array {
  const out = new Float64Array(corners.length);
  for (let i = 0; i < corners.length; i += 3) {
    const u = corners[i]! - eye[0];
    const v = corners[i + 1]! - eye[1];
    const w = corners[i + 2]! - eye[2];
    out[i] = x[0] * u + x[1] * v + x[2] * w;
    out[i + 1] = y[0] * u + y[1] * v + y[2] * w;
    out[i + 2] = depth[0] * u + depth[1] * v + depth[2] * w;
  }
  return out;
}

const { min, max, floor, ceil } = Math;

function layTriangles(
  heap: Heap,
  allocate: Allocate,
  world: World,
  projection: Projection,
  view: Box,
): { triangles: number; boxes: Int32Array; depths: [number, number] } {
  const { faces, owners, solids } = world;
  const p = cast(world, projection);
  const count = owners.length;
  const triangles = allocate(count * TRIANGLE_BYTES);
  const words = TRIANGLE_BYTES / 4;
  const numbers = new Float64Array(heap.memory.buffer, triangles, (count * TRIANGLE_BYTES) / 8);
  const integers = new Int32Array(heap.memory.buffer, triangles, count * words);
  const boxes = new Int32Array(count * 4);
  const twoSided = solids.map(isOpen);
  const box = new Int32Array(4);
  let nearest = Infinity;
  let farthest = -Infinity;
  for (let i = 0; i < count; i++) {
    const a = faces[i * 3]! * 3;
    const b = faces[i * 3 + 1]! * 3;
    const c = faces[i * 3 + 2]! * 3;
    if (!boxOf(p, a, b, c, view, box)) continue;
    for (const at of [a, b, c]) {
      nearest = min(nearest, max(NEAR, p[at + 2]!));
      farthest = max(farthest, p[at + 2]!);
    }
    const to = i * (TRIANGLE_BYTES / 8);
    edge(numbers, to, p, b, c);
    edge(numbers, to + 3, p, c, a);
    edge(numbers, to + 6, p, a, b);
    let det = p[a]! * numbers[to]! + p[a + 1]! * numbers[to + 1]! + p[a + 2]! * numbers[to + 2]!;
    if (det === 0 || !Number.isFinite(det)) continue;
    // y goes down: what goes to the left as seen from outside goes to the right on the sheet.
    if (det > 0 && !twoSided[owners[i]!]) continue;
    if (det < 0) {
      for (let k = 0; k < 9; k++) numbers[to + k] = -numbers[to + k]!;
      det = -det;
    }
    numbers[to + 9] = 1 / det;
    const own = i * words + 20;
    integers[own] = owners[i]!;
    integers[own + 1] = faces[i * 3]!;
    integers[own + 2] = faces[i * 3 + 1]!;
    integers[own + 3] = faces[i * 3 + 2]!;
    integers.set(box, own + 4);
    boxes.set(box, i * 4);
  }
  // A scene with nothing in sight is as deep as one can see.
  const depths: [number, number] = farthest > nearest ? [nearest, farthest] : [NEAR, 100];
  return { triangles, boxes, depths };
}

/** The edge through two corners: positive on its inner side, the exact opposite from the other end. */
function edge(to: Float64Array, at: number, p: Float64Array, a: number, b: number): void {
  to[at] = p[a + 1]! * p[b + 2]! - p[a + 2]! * p[b + 1]!;
  to[at + 1] = p[a + 2]! * p[b]! - p[a]! * p[b + 2]!;
  to[at + 2] = p[a]! * p[b + 1]! - p[a + 1]! * p[b]!;
}

/** The px that a triangle may be seen on; false where it is not in view. */
function boxOf(
  p: Float64Array,
  a: number,
  b: number,
  c: number,
  view: Box,
  box: Int32Array,
): boolean {
  if (p[a + 2]! < NEAR && p[b + 2]! < NEAR && p[c + 2]! < NEAR) return false;
  bounds[0] = bounds[1] = Infinity;
  bounds[2] = bounds[3] = -Infinity;
  growAlong(p, a, b);
  growAlong(p, b, c);
  growAlong(p, c, a);
  box[0] = floor(max(view.left, bounds[0]! - SLACK));
  box[1] = floor(max(view.top, bounds[1]! - SLACK));
  box[2] = ceil(min(view.right, bounds[2]! + SLACK));
  box[3] = ceil(min(view.bottom, bounds[3]! + SLACK));
  return box[0] < box[2]! && box[1] < box[3]!;
}

/** Of one triangle at a time: left, top, right, bottom. */
const bounds = new Float64Array(4);

function growTo(x: number, y: number): void {
  if (x < bounds[0]!) bounds[0] = x;
  if (y < bounds[1]!) bounds[1] = y;
  if (x > bounds[2]!) bounds[2] = x;
  if (y > bounds[3]!) bounds[3] = y;
}

/** Takes in the start of an edge, and where it goes behind the nearest that is drawn. */
function growAlong(p: Float64Array, from: number, to: number): void {
  const near = p[from + 2]!;
  const far = p[to + 2]!;
  if (near >= NEAR) growTo(p[from]! / near, p[from + 1]! / near);
  if (near < NEAR === far < NEAR) return;
  const t = (NEAR - near) / (far - near);
  growTo(
    (p[from]! + (p[to]! - p[from]!) * t) / NEAR,
    (p[from + 1]! + (p[to + 1]! - p[from + 1]!) * t) / NEAR,
  );
}

function layOwners(
  heap: Heap,
  allocate: Allocate,
  { solids, off }: World,
  chosen?: ReadonlySet<string>,
): number {
  const owners = allocate(solids.length * OWNER_BYTES);
  const { f32, i32 } = heap;
  solids.forEach((solid, i) => {
    const at = (owners + i * OWNER_BYTES) >>> 2;
    f32.set([...linear(solid.colour), off[i]!], at);
    const flags =
      (isConvex(solid) && !solid.row ? IS_CONVEX : 0) |
      (isOpen(solid) ? TWO_SIDED : 0) |
      (chosen?.has(solid.id) ? IS_CHOSEN : 0);
    i32.set([flags, ...idColour(i)], at + 4);
  });
  return owners;
}

function layTree(
  heap: Heap,
  allocate: Allocate,
  { corners, faces, owners }: World,
): [number, number] {
  const count = owners.length;
  const boxes = new Float32Array(count * 6);
  for (let i = 0; i < count; i++)
    for (let axis = 0; axis < 3; axis++) {
      const a = corners[faces[i * 3]! * 3 + axis]!;
      const b = corners[faces[i * 3 + 1]! * 3 + axis]!;
      const c = corners[faces[i * 3 + 2]! * 3 + axis]!;
      // Rounded outward by far more than an f32 loses.
      const slack = 1e-6 * max(1, a, b, c, -a, -b, -c);
      boxes[i * 6 + axis] = min(a, b, c) - slack;
      boxes[i * 6 + 3 + axis] = max(a, b, c) + slack;
    }
  const tree = treeOf(boxes);
  const nodes = allocate(tree.nodes * NODE_BYTES);
  const casters = allocate(count * CASTER_BYTES);
  const { f32, i32 } = heap;
  for (let i = 0; i < tree.nodes; i++) {
    const at = (nodes + i * NODE_BYTES) >>> 2;
    for (let axis = 0; axis < 3; axis++) {
      f32[at + axis] = tree.least[i * 3 + axis]!;
      f32[at + 4 + axis] = tree.most[i * 3 + axis]!;
    }
    i32[at + 3] = tree.first[i]!;
    i32[at + 7] = tree.count[i]!;
  }
  for (let i = 0; i < count; i++) {
    const triangle = tree.order[i]!;
    const at = (casters + i * CASTER_BYTES) >>> 2;
    for (let axis = 0; axis < 3; axis++) {
      const a = corners[faces[triangle * 3]! * 3 + axis]!;
      f32[at + axis] = a;
      f32[at + 3 + axis] = corners[faces[triangle * 3 + 1]! * 3 + axis]! - a;
      f32[at + 6 + axis] = corners[faces[triangle * 3 + 2]! * 3 + axis]! - a;
    }
    i32[at + 9] = owners[triangle]!;
  }
  return [nodes, casters];
}

function layScene(
  heap: Heap,
  address: number,
  scene: Scene,
  projection: Projection,
  depths: readonly [number, number],
  shadows: boolean,
): void {
  const { light, ground } = scene;
  const { eye, ray, rayX, rayY, right, up, back } = projection;
  const numbers = new Float64Array(heap.memory.buffer, address, 41);
  // The ground's 1/depth: the ray's way down in parts of the eye's height.
  const sinks = eye[1] === 0 ? 0 : -1 / eye[1];
  const groundColour = linear(ground ?? "#000000");
  numbers.set([
    ...eye,
    ...ray,
    ...rayX,
    ...rayY,
    ...wayToSun(light),
    ...linear(light.sun, light.strength),
    ...linear(light.fill, light.fillStrength),
    ...[rayX[1] * sinks, rayY[1] * sinks, ray[1] * sinks],
    ...groundColour,
    ...depths,
    ...right,
    ...up,
    ...back,
    ground === null ? 0 : 1,
    shadows && light.shadows ? 1 : 0,
    1 / NEAR,
  ]);
}
