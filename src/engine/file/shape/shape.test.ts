import { fromBase64, toBase64 } from "../base64";
import { MOST_FACES } from "../../scene/solid";
import { readGltf } from "./gltf";
import { readObj } from "./obj";
import { readShape } from "./read-shape";
import { type Shape, type Triangles } from "./shape";
import { bin, BOX, bytesOf, type Changes, CORNERS, described, glb } from "./shape.testing";

/** Six times the volume that faces enclose: each with the middle of all. */
const volume = ({ corners, faces }: Triangles): number => {
  let sum = 0;
  for (let i = 0; i < faces.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => {
      const at = (faces[i + k] as number) * 3;
      return corners.slice(at, at + 3) as [number, number, number];
    }) as [[number, number, number], [number, number, number], [number, number, number]];
    sum +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) +
      a[1] * (b[2] * c[0] - b[0] * c[2]) +
      a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum / 6;
};

const pointsOf = ({ mesh }: Shape): Float32Array =>
  new Float32Array(fromBase64(mesh.corners).slice().buffer);

describe("a Wavefront OBJ file", () => {
  it("is read with its faces fanned, counted from either end", () => {
    const box = readObj(BOX);
    expect(box.faces.length).toBe(36);
    expect(volume(box)).toBeCloseTo(24, 9);
  });

  it("becomes a shape in a box of one, in its own proportions", () => {
    const shape = readShape(bytesOf(BOX));
    expect(shape.size).toEqual([1, 1.5, 2]);
    const points = pointsOf(shape);
    for (let i = 0; i < points.length; i += 3) {
      expect([-0.5, 0.5]).toContain(points[i]);
      expect([0, 1]).toContain(points[i + 1]);
      expect([-0.5, 0.5]).toContain(points[i + 2]);
    }
    // Corners that no face names are left out.
    expect(pointsOf(readShape(bytesOf(`v 9 9 9\n${BOX}`.replace("-6", "-6"))))).toBeDefined();
  });

  test.each([
    ["v 1 2\nf 1 1 1", "line 1: a corner needs three numbers"],
    ["v 1 2 x", "line 1"],
    ["v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 4", "line 4: a face names corner “4” of 3"],
    ["v 0 0 0\nf 0 1 1", "corner “0”"],
    ["v 0 0 0\nf 1 1", "a face has 3 to"],
    ["v 0 0 0\nf 1 1 1", "has no size"],
    ["# nothing", "holds no faces"],
  ])("%j is refused in words", (text, why) => {
    expect(() => readShape(bytesOf(text))).toThrow(why);
  });

  it("with too many faces is refused", () => {
    const face = "f 1 2 3\n";
    const many = `v 0 0 0\nv 1 0 0\nv 0 1 0\n${face.repeat(MOST_FACES + 1)}`;
    expect(() => readShape(bytesOf(many))).toThrow("60,000 faces");
  });
});

describe("a glTF file", () => {
  it("is read as its nodes place it", () => {
    const read = readGltf(glb(described(), bin()));
    expect(read.faces).toEqual(CORNERS);
    expect(read.corners.slice(0, 6)).toEqual([10, 0, 0, 12, 0, 0]);
    // Twice as large each way: eight times a sixth.
    expect(volume(read)).toBeCloseTo(8 / 6, 6);
  });

  it("turns by a quaternion, and holds its bytes as text where it is one", () => {
    const half = Math.SQRT1_2;
    const nodes = [{ mesh: 0, rotation: [0, 0, half, half] }];
    const uri = `data:application/octet-stream;base64,${toBase64(bin())}`;
    const text = JSON.stringify(described({ nodes, scenes: [{ nodes: [0] }] }, uri));
    const { corners } = readGltf(bytesOf(text));
    [0, 1, 0].forEach((v, i) => expect(corners[3 + i]).toBeCloseTo(v, 9));
    readShape(bytesOf(text)).size.forEach((v) => expect(v).toBeCloseTo(2, 6));
  });

  const accessors = (of: Changes): Changes => ({
    accessors: [
      { ...(described().accessors as Changes[])[0], ...of },
      (described().accessors as Changes[])[1],
    ],
  });
  test.each<[string, Changes, string]>([
    ["another version", { asset: { version: "1.0" } }, "glTF 1.0 is not read"],
    ["packed otherwise", { extensionsRequired: ["mesh_packed"] }, "needs “mesh_packed”"],
    ["beyond its bytes", accessors({ count: 5 }), "beyond its bytes"],
    ["far too many", accessors({ count: 4_000_000 }), "too many"],
    ["another kind", accessors({ componentType: 5123 }), "a way that is not read"],
    ["a circle", { nodes: [{ children: [0], mesh: 0 }] }, "twice"],
    ["no such node", { scenes: [{ nodes: [7] }] }, "no node 7"],
    ["another file", { buffers: [{ byteLength: 72, uri: "far.bin" }] }, "names other files"],
    ["nothing seen", { meshes: [{ primitives: [{ attributes: {}, mode: 1 }] }] }, "no faces"],
  ])("with %s is refused in words", (_what, changes, why) => {
    expect(() => readShape(glb(described(changes), bin()))).toThrow(why);
  });

  it("that is cut off, or none at all, is refused", () => {
    expect(() => readShape(glb(described(), bin()).slice(0, 300))).toThrow("cut off");
    expect(() => readShape(bytesOf("{ not json"))).toThrow("cannot be read");
    expect(() => readShape(bytesOf("{".repeat(5000)))).toThrow("too deep");
  });
});
