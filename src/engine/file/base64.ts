import { Refusal } from "../picture/refusal";

const CHUNK = 0x8000;

/** Newer browsers and Node do it themselves, many times sooner. */
type NewBytes = { toBase64?: () => string };
type NewType = { fromBase64?: (text: string) => Uint8Array<ArrayBuffer> };
type NodeBytes = { from(value: ArrayBuffer, at: number, length: number): NodeText };
type NodeText = { toString(encoding: "base64"): string };

const { Buffer: nodeBuffer } = globalThis as unknown as {
  Buffer?: NodeBytes & { from(text: string, encoding: "base64"): Uint8Array<ArrayBuffer> };
};
const { fromBase64: native } = Uint8Array as unknown as NewType;

const NOT_BASE64 = "a picture in this data is not base64";

/** Bytes that a padded base64 text stands for. */
const bytesOf = (text: string): number =>
  (text.length / 4) * 3 - (text.endsWith("==") ? 2 : text.endsWith("=") ? 1 : 0);

export function toBase64(bytes: Uint8Array): string {
  const whole = (bytes as NewBytes).toBase64?.();
  if (whole !== undefined) return whole;
  const { buffer, byteOffset, length } = bytes;
  if (nodeBuffer)
    return nodeBuffer.from(buffer as ArrayBuffer, byteOffset, length).toString("base64");
  let text = "";
  for (let i = 0; i < length; i += CHUNK)
    text += String.fromCharCode(...bytes.subarray(i, i + CHUNK));
  return btoa(text);
}

function decodedNatively(
  decode: NonNullable<NewType["fromBase64"]>,
  text: string,
): Uint8Array<ArrayBuffer> {
  try {
    return decode.call(Uint8Array, text);
  } catch {
    throw new Refusal(NOT_BASE64);
  }
}

/** @throws Refusal where it is not base64 */
export function fromBase64(text: string): Uint8Array<ArrayBuffer> {
  if (native) return decodedNatively(native, text);
  const bytes = nodeBuffer ? new Uint8Array(nodeBuffer.from(text, "base64")) : decodedBySteps(text);
  // What is no base64 is passed over in decoding.
  if (bytes.length !== bytesOf(text)) throw new Refusal(NOT_BASE64);
  return bytes;
}

function decodedBySteps(text: string): Uint8Array<ArrayBuffer> {
  let binary: string;
  try {
    binary = atob(text);
  } catch {
    throw new Refusal(NOT_BASE64);
  }
  const bytes = new Uint8Array(binary.length);
  for (let i = 0; i < binary.length; i++) bytes[i] = binary.charCodeAt(i);
  return bytes;
}
