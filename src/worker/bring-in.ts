import { imageSize } from "image-size";
import { nanoid } from "nanoid";
import { type CommandInput } from "../engine/command/commands";
import { toBase64 } from "../engine/file/base64";
import { readWorkLog, type WorkLog } from "../engine/command/work-log";
import { limits } from "../engine/file/limits";
import { readTiff } from "../engine/file/tiff";
import { oraCommands, type OraFile, readOpenRaster } from "../engine/file/openraster/read";
import { readSvg, svgCommands } from "../engine/file/svg/read";
import { pngPpi, readDeepPng, readPngHeader, withoutExtras, writePng } from "../engine/file/png";
import { fittedSize, shrunk } from "../engine/file/shrink";
import { type Header, headerSchema } from "../engine/picture/header";
import { ENGINE_REVISION, otherEngine } from "../engine/revision";
import { refuseSize } from "../engine/picture/size";
import { firstFault, Refusal } from "../engine/picture/refusal";
import { readWholePicture, type Whole } from "../storage/whole-picture";
import { type PinPicture } from "./protocol";

/** A file read as a picture of its own: its header and the commands that make it. */
export type BroughtIn = {
  header: Header;
  commands: CommandInput[];
  notes: string[];
  /** All that Pampas saved of it, where it is a file of ours: then the commands are not needed. */
  whole?: Whole;
};

/** A file read as one flat picture. */
export type FlatPicture = { width: number; height: number; ppi: number; png: Uint8Array };

type Kind = "png" | "jpeg" | "webp" | "avif" | "tiff" | "openraster" | "svg" | "log";

/** What a file is, by its first bytes and not by its name. */
export function kindOf(bytes: Uint8Array): Kind {
  const starts = (...expected: number[]): boolean => expected.every((byte, i) => bytes[i] === byte);
  const text = (from: number, to: number): string =>
    String.fromCharCode(...bytes.subarray(from, to));
  if (starts(0x89, 0x50, 0x4e, 0x47)) return "png";
  if (starts(0xff, 0xd8, 0xff)) return "jpeg";
  if (text(0, 4) === "RIFF" && text(8, 12) === "WEBP") return "webp";
  if (text(4, 8) === "ftyp" && /avi[fs]/.test(text(8, 32))) return "avif";
  if (text(4, 8) === "ftyp" && /hei[cxms]|hev[cx]|mif1|msf1/.test(text(8, 32)))
    throw new Refusal(
      "this is a HEIC picture, which Pampas does not read: save it as JPEG or PNG first",
    );
  if (starts(0x49, 0x49, 42, 0) || starts(0x4d, 0x4d, 0, 42)) return "tiff";
  if (starts(0x50, 0x4b, 3, 4)) return "openraster";
  if (text(0, 64).trimStart().startsWith("{")) return "log";
  if (
    /^(\ufeff|\xef\xbb\xbf)?\s*<(\?xml|svg|!--)/.test(text(0, 64)) &&
    /<svg[\s>]/.test(text(0, 4096))
  )
    return "svg";
  throw new Refusal(
    "this file is none that Pampas reads: PNG, JPEG, WebP, AVIF, TIFF, OpenRaster, SVG or a work log",
  );
}

function checkSize(bytes: Uint8Array): void {
  let size: { width: number; height: number };
  try {
    size = imageSize(bytes);
  } catch {
    throw new Refusal("this picture is broken: it does not say how large it is");
  }
  const { width, height } = size;
  refuseSize(width, height);
}

/** Lets the browser decode a JPEG or WebP, brought to sRGB; kept as PNG so that a log replays everywhere. */
async function decodeInBrowser(bytes: Uint8Array, type: string): Promise<FlatPicture> {
  checkSize(bytes);
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(new Blob([new Uint8Array(bytes)], { type }));
  } catch {
    throw new Refusal(
      type === "image/avif"
        ? "this picture is broken, or this browser does not read AVIF"
        : "this picture is broken or cut off",
    );
  }
  const { width, height } = bitmap;
  const context = new OffscreenCanvas(width, height).getContext("2d", { willReadFrequently: true });
  if (!context) throw new Refusal("there is not enough memory to open this picture");
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height, { colorSpace: "srgb" });
  return {
    width,
    height,
    ppi: 300,
    png: writePng({ width, height, data: new Uint8Array(data.buffer) }),
  };
}

/** A flat picture from a file's bytes. */
export async function readFlat(bytes: Uint8Array): Promise<FlatPicture> {
  if (bytes.length > limits.fileBytes) throw new Refusal("the file is too large");
  const kind = kindOf(bytes);
  if (kind === "jpeg" || kind === "webp" || kind === "avif")
    return decodeInBrowser(bytes, `image/${kind}`);
  if (kind !== "png") throw new Refusal("this file is not a flat picture");
  // It stays packed as it is: whoever puts it on a sheet unpacks it.
  const { width, height } = readPngHeader(bytes);
  return { width, height, ppi: pngPpi(bytes), png: withoutExtras(bytes) };
}

/** The pictures that a file brings to a table: one, or all pages of a TIFF. */
export async function readPages(
  bytes: Uint8Array,
): Promise<(FlatPicture & { name: string | null })[]> {
  if (bytes.length > limits.fileBytes) throw new Refusal("the file is too large");
  if (kindOf(bytes) !== "tiff") return [{ ...(await readFlat(bytes)), name: null }];
  return readTiff(bytes).map(({ width, height, data, ppi, name }) => ({
    width,
    height,
    ppi: ppi ?? 300,
    png: writePng({ width, height, data }, ppi ?? 300),
    name,
  }));
}

/** A page that fits a sheet: as it is, or made smaller at the depth that it has. */
export function onSheet<T extends FlatPicture>(
  page: T,
  sheet: { width: number; height: number },
): T {
  const { width, height } = fittedSize(page, sheet);
  if (width === page.width && height === page.height) return page;
  const small = shrunk(readDeepPng(page.png), { width, height });
  return { ...page, width, height, png: writePng(small, page.ppi) };
}

/** What is said of a page whose size is not the sheet's; null where nothing needs to be. */
export function sizeNote(
  name: string,
  page: { width: number; height: number },
  { width, height }: { width: number; height: number },
): string | null {
  if (page.width === width && page.height === height) return null;
  const sizes = `“${name}” is ${page.width} × ${page.height} px and the sheet ${width} × ${height} px`;
  return page.width > width || page.height > height
    ? `${sizes}: it was made smaller to fit.`
    : `${sizes}: it lies in the middle as it is. Transform fits it.`;
}

/** Longest side of a pin, px: more would only weigh. */
const LONGEST_PIN = 2048;

/** A reference from a file's first page, no larger than a pin needs to be. */
export const readPin = (bytes: Uint8Array): Promise<PinPicture> =>
  readFitted(bytes, LONGEST_PIN, LONGEST_PIN);

/** A file's first page, made smaller where it is larger than so many px. */
export async function readFitted(
  bytes: Uint8Array,
  mostWide: number,
  mostHigh: number,
): Promise<PinPicture> {
  const [page] = await readPages(bytes);
  if (!page) throw new Refusal("there is no picture in this file");
  const { width, height, png } = onSheet(page, { width: mostWide, height: mostHigh });
  return { width, height, png };
}

function checkedHeader(data: unknown): Header {
  const parsed = headerSchema.safeParse(data);
  if (parsed.success) return parsed.data;
  throw new Refusal(firstFault(parsed.error));
}

const sheet = (width: number, height: number, ppi: number): Header =>
  checkedHeader({
    pampas: 1,
    engine: ENGINE_REVISION,
    width,
    height,
    ppi: Math.min(9600, Math.max(1, ppi)),
    ground: "#ffffff",
  });

/** A log is painted here and now, so from here on it is one of this engine. */
function fromLog({ header, commands }: WorkLog): BroughtIn {
  const other = otherEngine(header.engine);
  return { header: { ...header, engine: ENGINE_REVISION }, commands, notes: other ? [other] : [] };
}

function fromOpenRaster({ width, height, ppi, ground, layers, notes }: OraFile): BroughtIn {
  const commands = oraCommands(layers, () => nanoid(10));
  const header = sheet(width, height, ppi);
  return { header: { ...header, ground: ground ?? header.ground }, commands, notes };
}

/** An OpenRaster file: all that we saved in it, or its layers, as any other. */
async function fromArchive(bytes: Uint8Array): Promise<BroughtIn> {
  try {
    const whole = await readWholePicture(bytes);
    if (whole) return { header: whole.header, commands: [], notes: [], whole };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const brought = fromOpenRaster(readOpenRaster(bytes));
    const note = `What Pampas had saved in this file was not used (${error.message}). Its layers were opened as they are.`;
    return { ...brought, notes: [note, ...brought.notes] };
  }
  return fromOpenRaster(readOpenRaster(bytes));
}

type Single = Exclude<CommandInput, { do: "together" }>;

/** Commands that put pictures on layers of their own, one on top of the other. */
export function layersOf(
  pages: readonly (FlatPicture & { name: string | null })[],
  name: string,
  above: string | null,
  placeOf: (page: FlatPicture) => [x: number, y: number],
): Single[] {
  let under = above;
  return pages.flatMap((page, i): Single[] => {
    const id = nanoid(10);
    const [x, y] = placeOf(page);
    const called = page.name ?? (pages.length > 1 ? `${name} ${i + 1}` : name);
    const add: Single = { do: "layer.add", id, name: called, above: under };
    under = id;
    return [add, { do: "place", layer: id, x, y, png: toBase64(page.png) }];
  });
}

/**
 * Reads a file as a picture of its own.
 * @throws Refusal that says what was wrong with it
 */
export async function readAsPicture(bytes: Uint8Array): Promise<BroughtIn> {
  if (bytes.length > limits.fileBytes) throw new Refusal("the file is too large");
  const kind = kindOf(bytes);
  if (kind === "openraster") return fromArchive(bytes);
  if (kind === "svg") {
    const file = readSvg(bytes);
    const { width, height, ppi, notes } = file;
    return {
      header: sheet(width, height, ppi),
      commands: svgCommands(file, () => nanoid(10), null),
      notes,
    };
  }
  if (kind === "log") return fromLog(readWorkLog(new TextDecoder().decode(bytes)));
  const pages = await readPages(bytes);
  const [flat] = pages;
  if (!flat) throw new Refusal("there is no picture in this file");
  const width = Math.max(...pages.map((page) => page.width));
  const height = Math.max(...pages.map((page) => page.height));
  return {
    header: sheet(width, height, flat.ppi),
    commands: layersOf(pages, pages.length > 1 ? "Page" : "Picture", null, () => [0, 0]),
    notes: pages.length > 1 ? [`Its ${pages.length} pages are layers here.`] : [],
  };
}
