import { z } from "zod";
import { firstFault, Refusal } from "../../picture/refusal";
import { isTooDeep } from "../json";
import { MOST_FACES } from "../../scene/solid";
import { dataOf, refuseFaces, type Triangles } from "./shape";

const GLB = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BIN_CHUNK = 0x004e4942;
/** Nodes one within another at most. */
const DEEPEST = 64;
const MOST_CORNERS = MOST_FACES * 3;

const index = z.int().min(0).max(1_000_000);
const list = <T extends z.ZodType>(of: T) => z.array(of).max(100_000).default([]);
const numbers = (count: number) => z.array(z.number()).length(count).optional();

/** What is read of a file; all else it may hold is passed over. */
const fileSchema = z.object({
  asset: z.object({ version: z.string() }),
  extensionsRequired: z.array(z.string()).default([]),
  scene: index.default(0),
  scenes: list(z.object({ nodes: list(index) })),
  nodes: list(
    z.object({
      children: list(index),
      mesh: index.optional(),
      matrix: numbers(16),
      translation: numbers(3),
      rotation: numbers(4),
      scale: numbers(3),
    }),
  ),
  meshes: list(
    z.object({
      primitives: list(
        z.object({
          attributes: z.record(z.string(), index),
          indices: index.optional(),
          mode: z.int().default(4),
        }),
      ),
    }),
  ),
  accessors: list(
    z.object({
      bufferView: index.optional(),
      byteOffset: z.int().min(0).default(0),
      componentType: z.int(),
      count: z.int().min(0),
      type: z.string(),
      sparse: z.unknown().optional(),
    }),
  ),
  bufferViews: list(
    z.object({
      buffer: index,
      byteOffset: z.int().min(0).default(0),
      byteLength: z.int().min(0),
      byteStride: z.int().min(0).max(252).optional(),
    }),
  ),
  buffers: list(z.object({ uri: z.string().optional(), byteLength: z.int().min(0) })),
});
type File = z.infer<typeof fileSchema>;
/** Columns of a map of space, as the format has them. */
type Map16 = readonly number[];

const STILL: Map16 = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** The text and the bytes that follow it. @throws Refusal where the file is cut off or is none */
function parts(bytes: Uint8Array): { text: string; bin: Uint8Array | null } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12 || view.getUint32(0, true) !== GLB)
    return { text: new TextDecoder().decode(bytes), bin: null };
  let [text, bin]: [string | null, Uint8Array | null] = [null, null];
  for (let at = 12; at + 8 <= bytes.length;) {
    const [length, kind] = [view.getUint32(at, true), view.getUint32(at + 4, true)];
    if (at + 8 + length > bytes.length) throw new Refusal("the file is cut off");
    const part = bytes.subarray(at + 8, at + 8 + length);
    if (kind === JSON_CHUNK) text ??= new TextDecoder().decode(part);
    if (kind === BIN_CHUNK) bin ??= part;
    at += 8 + length;
  }
  if (text === null) throw new Refusal("the file has no description in it");
  return { text, bin };
}

function described(text: string): File {
  if (isTooDeep(text)) throw new Refusal("the file’s description lies too deep in itself");
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new Refusal("this is no glTF file: its description cannot be read");
  }
  const parsed = fileSchema.safeParse(data);
  if (!parsed.success) throw new Refusal(`the glTF file’s ${firstFault(parsed.error)}`);
  const file = parsed.data;
  if (!file.asset.version.startsWith("2."))
    throw new Refusal(`glTF ${file.asset.version.slice(0, 10)} is not read; version 2 is`);
  const [needed] = file.extensionsRequired;
  if (needed !== undefined)
    throw new Refusal(
      `the file needs “${needed.slice(0, 60)}”, which is not read. Save it without`,
    );
  return file;
}

/** Reads numbers as the format packs them. */
class Numbers {
  #buffers: (Uint8Array | null)[];

  constructor(
    readonly file: File,
    readonly bin: Uint8Array | null,
  ) {
    this.#buffers = file.buffers.map(() => null);
  }

  #buffer(at: number): Uint8Array {
    const known = this.#buffers[at];
    if (known) return known;
    const said = this.file.buffers[at];
    if (!said) throw new Refusal(`the file has no buffer ${at}`);
    const bytes = said.uri === undefined ? this.bin : dataOf(said.uri);
    if (!bytes) throw new Refusal("the bytes of the shape are not in the file");
    this.#buffers[at] = bytes;
    return bytes;
  }

  /**
   * Numbers of an accessor, one after another.
   * @throws Refusal where it is none of that kind, or beyond what is there
   */
  read(at: number, kind: "places" | "corners"): number[] {
    const said = this.file.accessors[at];
    if (!said) throw new Refusal(`the file has no accessor ${at}`);
    const { componentType: type, count, byteOffset } = said;
    const size = kind === "places" ? 12 : { 5121: 1, 5123: 2, 5125: 4 }[type];
    const fits = kind === "places" ? type === 5126 && said.type === "VEC3" : said.type === "SCALAR";
    if (!size || !fits || said.sparse !== undefined)
      throw new Refusal(`accessor ${at} packs its numbers in a way that is not read`);
    if (count > (kind === "places" ? MOST_CORNERS : MOST_FACES * 3))
      throw new Refusal(`accessor ${at} holds ${count} entries, which are too many`);
    if (said.bufferView === undefined)
      return new Array<number>(count * (size === 12 ? 3 : 1)).fill(0);
    const view = this.file.bufferViews[said.bufferView];
    if (!view) throw new Refusal(`the file has no view ${said.bufferView}`);
    const bytes = this.#buffer(view.buffer);
    const stride = view.byteStride ?? size;
    const end = byteOffset + Math.max(0, count - 1) * stride + size;
    if (count > 0 && (end > view.byteLength || view.byteOffset + end > bytes.length))
      throw new Refusal(`accessor ${at} reaches beyond its bytes`);
    const data = new DataView(bytes.buffer, bytes.byteOffset + view.byteOffset);
    const out: number[] = [];
    for (let i = 0; i < count; i++) {
      const from = byteOffset + i * stride;
      if (size === 12) for (let c = 0; c < 3; c++) out.push(data.getFloat32(from + 4 * c, true));
      else if (size === 4) out.push(data.getUint32(from, true));
      else out.push(size === 2 ? data.getUint16(from, true) : data.getUint8(from));
    }
    return out;
  }
}

/** One map after another: `a` is done last. */
const after = (a: Map16, b: Map16): Map16 =>
  STILL.map((_, i) => {
    const [row, column] = [i & 3, i >> 2];
    let sum = 0;
    for (let k = 0; k < 4; k++) sum += (a[k * 4 + row] as number) * (b[column * 4 + k] as number);
    return sum;
  });

function mapOf({ matrix, translation, rotation, scale }: File["nodes"][number]): Map16 {
  if (matrix) return matrix;
  const [tx = 0, ty = 0, tz = 0] = translation ?? [];
  const [x = 0, y = 0, z = 0, w = 1] = rotation ?? [];
  const [sx = 1, sy = 1, sz = 1] = scale ?? [];
  const columns = [
    [1 - 2 * (y * y + z * z), 2 * (x * y + w * z), 2 * (x * z - w * y), 0].map((v) => v * sx),
    [2 * (x * y - w * z), 1 - 2 * (x * x + z * z), 2 * (y * z + w * x), 0].map((v) => v * sy),
    [2 * (x * z + w * y), 2 * (y * z - w * x), 1 - 2 * (x * x + y * y), 0].map((v) => v * sz),
  ];
  return [...columns.flat(), tx, ty, tz, 1];
}

/**
 * Triangles of a glTF 2.0 file (`.glb`, or `.gltf` with its bytes inside), as its nodes place them. Materials, bones and
 * movements are left out.
 * @throws Refusal that says what of it cannot be read
 */
export function readGltf(bytes: Uint8Array): Triangles {
  const { text, bin } = parts(bytes);
  const file = described(text);
  const read = new Numbers(file, bin);
  const out: Triangles = { corners: [], faces: [] };
  const addMesh = (at: number, map: Map16): void => {
    const mesh = file.meshes[at];
    if (!mesh) throw new Refusal(`the file has no mesh ${at}`);
    for (const { attributes, indices, mode } of mesh.primitives) {
      // Points and lines are no surface.
      if (mode !== 4 || attributes.POSITION === undefined) continue;
      const places = read.read(attributes.POSITION, "places");
      const count = places.length / 3;
      const named =
        indices === undefined
          ? Array.from({ length: count - (count % 3) }, (_, i) => i)
          : read.read(indices, "corners");
      if (named.some((one) => one >= count))
        throw new Refusal(`mesh ${at} names a corner that it does not hold`);
      const first = out.corners.length / 3;
      if (first + count > MOST_CORNERS)
        throw new Refusal(`the file holds more than ${MOST_CORNERS} corners`);
      for (let i = 0; i < places.length; i += 3)
        for (let row = 0; row < 3; row++) {
          const part = (k: number): number => (map[k * 4 + row] as number) * (places[i + k] ?? 0);
          out.corners.push(part(0) + part(1) + part(2) + (map[12 + row] as number));
        }
      for (let i = 0; i + 2 < named.length; i += 3)
        for (let k = 0; k < 3; k++) out.faces.push(first + (named[i + k] as number));
      refuseFaces(out.faces.length / 3);
    }
  };
  const placed = new Set<number>();
  const addNode = (at: number, map: Map16, deep: number): void => {
    if (deep > DEEPEST) throw new Refusal("the file’s nodes lie within each other without an end");
    const node = file.nodes[at];
    // A node has one place: else a small file could ask for endlessly many.
    if (placed.has(at)) throw new Refusal(`node ${at} lies in the scene twice`);
    placed.add(at);
    if (!node) throw new Refusal(`the file has no node ${at}`);
    const own = after(map, mapOf(node));
    if (node.mesh !== undefined) addMesh(node.mesh, own);
    for (const child of node.children) addNode(child, own, deep + 1);
  };
  const scene = file.scenes[file.scene];
  if (scene) for (const node of scene.nodes) addNode(node, STILL, 0);
  else file.meshes.forEach((_, at) => addMesh(at, STILL));
  return out;
}
