export const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A box 2 wide, 3 high and 4 deep whose near lower left corner is at (1, 1, 1). */
export const BOX = `# a box
mtllib none.mtl
v 1 1 1
v 3 1 1
v 3 4 1
v 1 4 1
v 1 1 5
v 3 1 5
v 3 4 5
v 1 4 5
vn 0 0 1
g sides
f 5//1 6//1 7//1 8//1
f 2 1 4 3
f 1 5 8 4
f 6 2 -6 7
f 8 7 3 4
f 1 2 6 5
`;

/** A tetrahedron’s numbers: places as f32, corners as u16. */
export const PLACES = [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1];
export const CORNERS = [0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3];
export const bin = (): Uint8Array => {
  const bytes = new Uint8Array(48 + 24);
  bytes.set(new Uint8Array(Float32Array.from(PLACES).buffer));
  bytes.set(new Uint8Array(Uint16Array.from(CORNERS).buffer), 48);
  return bytes;
};

export type Changes = Record<string, unknown>;
export const described = (changes: Changes = {}, uri?: string): Changes => ({
  asset: { version: "2.0" },
  scene: 0,
  scenes: [{ nodes: [0] }],
  nodes: [
    { children: [1], scale: [2, 2, 2] },
    { mesh: 0, translation: [5, 0, 0] },
  ],
  meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
  accessors: [
    { bufferView: 0, componentType: 5126, count: 4, type: "VEC3" },
    { bufferView: 1, componentType: 5123, count: 12, type: "SCALAR" },
  ],
  bufferViews: [
    { buffer: 0, byteOffset: 0, byteLength: 48 },
    { buffer: 0, byteOffset: 48, byteLength: 24 },
  ],
  buffers: [{ byteLength: 72, ...(uri ? { uri } : {}) }],
  ...changes,
});

/** The parts of a file in one. */
export function glb(json: Changes, bytes: Uint8Array): Uint8Array {
  const text = bytesOf(JSON.stringify(json).padEnd(1200, " "));
  const out = new Uint8Array(12 + 8 + text.length + 8 + bytes.length);
  const view = new DataView(out.buffer);
  [0x46546c67, 2, out.length, text.length, 0x4e4f534a].forEach((word, i) =>
    view.setUint32(i * 4, word, true),
  );
  out.set(text, 20);
  view.setUint32(20 + text.length, bytes.length, true);
  view.setUint32(24 + text.length, 0x004e4942, true);
  out.set(bytes, 28 + text.length);
  return out;
}
