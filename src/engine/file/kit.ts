import { strFromU8, strToU8, zipSync, type Zippable } from "fflate";
import { z } from "zod";
import { firstFault, Refusal } from "../picture/refusal";
import { type Brush, brushSchema } from "../stroke/brush";
import { MOST_TIP_SIDE, type TipPicture } from "../stroke/tip";
import { fromBase64, toBase64 } from "./base64";
import { isTooDeep } from "./json";
import { unpackArchive } from "./archive";
import { readPngHeader } from "./png";

/**
 * A kit as a file: a zip with `kit.json` and, for every tip that is a picture, a PNG under
 * `tips/`. In kit.json a tip's picture is `{"tones": …, "file": "tips/1.png"}`; all else is
 * a brush as commands have it (docs/kits.md).
 */
export const KIT_EXTENSION = "kit.zip";
const MOST_BRUSHES = 500;
const MOST_FILE_BYTES = 128 * 2 ** 20;
const MOST_JSON_BYTES = 8 * 2 ** 20;
/** Of one tip's picture, packed. */
const MOST_TIP_BYTES = 32 * 2 ** 20;

export type Kit = { name: string; author: string; brushes: Brush[] };

const outside = z.strictObject({
  pampasKit: z.literal(1),
  name: z.string().min(1).max(80),
  author: z.string().max(80).default(""),
  brushes: z.array(z.record(z.string(), z.unknown())).min(1).max(MOST_BRUSHES),
});

/** Walks a brush's tips: its own and its overtip's. */
function withTips(brush: Brush, change: (picture: TipPicture) => unknown): unknown {
  const changed = ({ tip }: Pick<Brush, "tip">): unknown =>
    tip.kind === "pictures" ? { ...tip, pictures: tip.pictures.map(change) } : tip;
  const overtip = brush.overtip && { ...brush.overtip, tip: changed(brush.overtip) };
  return { ...brush, tip: changed(brush), overtip };
}

export function writeKit({ name, author, brushes }: Kit): Uint8Array {
  const files: Zippable = {};
  const names = new Map<string, string>();
  const filed = (picture: TipPicture): unknown => {
    if ("made" in picture) return picture;
    let file = names.get(picture.png);
    if (!file) {
      file = `tips/${names.size + 1}.png`;
      names.set(picture.png, file);
      files[file] = [fromBase64(picture.png), { level: 0 }];
    }
    return { tones: picture.tones, file };
  };
  const json = { pampasKit: 1, name, author, brushes: brushes.map((b) => withTips(b, filed)) };
  return zipSync({ "kit.json": strToU8(JSON.stringify(json, null, 1)), ...files });
}

/** @throws Refusal that names the brush and the field at fault; then nothing of the kit is taken */
export function readKit(bytes: Uint8Array): Kit {
  if (bytes.length > MOST_FILE_BYTES)
    throw new Refusal(
      `a kit has at most ${MOST_FILE_BYTES / 2 ** 20} MiB; this file has ${Math.ceil(bytes.length / 2 ** 20)}`,
    );
  const files = unpackArchive(bytes, (name) =>
    name === "kit.json" ? MOST_JSON_BYTES : /^tips\/[\w.-]+\.png$/.test(name) ? MOST_TIP_BYTES : 0,
  );
  const json = files["kit.json"];
  if (!json) throw new Refusal("this file is not a kit: there is no kit.json in it");
  if (json.length > MOST_JSON_BYTES) throw new Refusal("the kit.json of this kit is too large");
  const text = strFromU8(json);
  if (isTooDeep(text)) throw new Refusal("the parts of kit.json lie too deep in each other");
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new Refusal("the kit.json of this kit is not JSON");
  }
  const kit = outside.safeParse(data);
  if (!kit.success) throw new Refusal(`kit.json: ${firstFault(kit.error)}`);
  const { name, author, brushes } = kit.data;
  return { name, author, brushes: brushes.map((brush, i) => readBrush(brush, i, files)) };
}

function readBrush(
  data: Record<string, unknown>,
  index: number,
  files: Record<string, Uint8Array>,
): Brush {
  const called = typeof data.name === "string" ? `“${data.name.slice(0, 80)}”` : `${index + 1}`;
  const parsed = brushSchema.safeParse(unfiled(data, files, called));
  if (!parsed.success) throw new Refusal(`brush ${called}: ${firstFault(parsed.error)}`);
  return parsed.data;
}

/** Puts the pixels back in place of the names of files, wherever a tip has pictures. */
function unfiled(data: unknown, files: Record<string, Uint8Array>, brush: string): unknown {
  if (Array.isArray(data)) return data.map((one) => unfiled(one, files, brush));
  if (typeof data !== "object" || data === null) return data;
  const record = data as Record<string, unknown>;
  if (typeof record.file === "string" && "tones" in record) {
    const png = files[record.file];
    if (!png) throw new Refusal(`brush ${brush}: ${record.file} is not in the kit`);
    const { width, height } = readPngHeader(png);
    if (Math.max(width, height) > MOST_TIP_SIDE)
      throw new Refusal(
        `brush ${brush}: a tip's picture has at most ${MOST_TIP_SIDE} px a side; ${record.file} is ${width} × ${height}`,
      );
    return { tones: record.tones, png: toBase64(png) };
  }
  return Object.fromEntries(
    Object.entries(record).map(([key, value]) => [key, unfiled(value, files, brush)]),
  );
}
