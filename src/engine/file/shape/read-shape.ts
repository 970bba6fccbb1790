import { Refusal } from "../../picture/refusal";
import { readGltf } from "./gltf";
import { readObj } from "./obj";
import { MOST_SHAPE_BYTES, type Shape, shapeOf } from "./shape";

const GLB = [0x67, 0x6c, 0x54, 0x46];

/**
 * A shape from a Wavefront OBJ or glTF 2.0 file, whichever it is.
 * @throws Refusal that says what of it cannot be read
 */
export function readShape(bytes: Uint8Array): Shape {
  if (bytes.length > MOST_SHAPE_BYTES)
    throw new Refusal(`a shape’s file has ${MOST_SHAPE_BYTES / 2 ** 20} MB at most`);
  const isGlb = GLB.every((byte, i) => bytes[i] === byte);
  const start = new TextDecoder().decode(bytes.subarray(0, 64)).trimStart();
  if (isGlb || start.startsWith("{")) return shapeOf(readGltf(bytes));
  return shapeOf(readObj(new TextDecoder().decode(bytes)));
}
