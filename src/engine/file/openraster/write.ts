import { XMLBuilder } from "fast-xml-parser";
import { strToU8, zipSync, type Zippable } from "fflate";
import { flatten, type Progress } from "../../compose/flatten";
import { type Engine } from "../../engine";
import { type Picture } from "../../picture/picture";
import { PngWriter, readPng, writePng } from "../png";
import { fittedSize, shrunk } from "../shrink";
import { drawPng } from "./draw";
import { MIMETYPE } from "./operators";
import { standsUp } from "../../oil/drying";
import { type Element, planOpenRaster } from "./plan";

const THUMBNAIL_SIDE = 256;

/**
 * The picture as an OpenRaster file: every layer a PNG of the whole sheet, the ground a
 * locked layer at the bottom.
 * @param merges whether what other readers cannot show is merged, so that they show what we show
 */
export function writeOpenRaster(
  engine: Engine,
  picture: Picture,
  progress: Progress = () => undefined,
  merges = true,
): Uint8Array {
  return zipSync(openRasterFiles(engine, picture, progress, merges));
}

/** What an OpenRaster file of the picture holds, by name, in the order in which it is to lie there. */
export function openRasterFiles(
  engine: Engine,
  picture: Picture,
  progress: Progress,
  merges: boolean,
): Zippable & { "stack.xml": Uint8Array } {
  const { layers } = picture.structure;
  const raised = new Set(layers.map(({ id }) => id).filter((id) => standsUp(picture, id)));
  const { elements, images } = planOpenRaster(picture.structure, merges, raised);
  const parts = images.size + 2;
  let part = 0;
  const step = (): Progress => {
    const from = part++ / parts;
    return (share) => progress(from + share / parts);
  };
  const merged = mergedImage(engine, picture, step());
  const files: Zippable & { "stack.xml": Uint8Array } = {
    mimetype: [strToU8(MIMETYPE), { level: 0 }],
    "stack.xml": strToU8(stackXml(picture, elements)),
  };
  for (const [source, drawing] of images)
    files[source] = [drawPng(engine, picture, drawing, step()), { level: 0 }];
  files["mergedimage.png"] = [merged, { level: 0 }];
  files["Thumbnails/thumbnail.png"] = [thumbnail(merged), { level: 0 }];
  step()(1);
  return files;
}

function mergedImage(engine: Engine, picture: Picture, progress: Progress): Uint8Array {
  const { width, height, ppi } = picture;
  const writer = new PngWriter({ width, height, depth: 8, alpha: true, ppi });
  const row = (samples: Uint8Array): void => writer.row(samples);
  const rows = { depth: 8, alpha: true, row } as const;
  flatten(picture, engine.store, engine.workforce, true, rows, progress);
  return writer.finish();
}

function thumbnail(merged: Uint8Array): Uint8Array {
  const image = readPng(merged);
  const size = fittedSize(image, { width: THUMBNAIL_SIDE, height: THUMBNAIL_SIDE });
  const { width, height, data } = shrunk(image, size);
  return writePng({ width, height, data: Uint8Array.from(data) }, 72);
}

type XmlNode = Record<string, unknown>;

/** stack.xml lists from the top what a plan lists from the bottom. */
const xmlOf = ({ tag, attributes, inside }: Element): XmlNode => ({
  [tag]: inside.map(xmlOf).reverse(),
  ":@": attributes,
});

function stackXml({ width, height, ppi }: Picture, elements: readonly Element[]): string {
  const builder = new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: "@_",
    preserveOrder: true,
    format: true,
    suppressEmptyNode: true,
  });
  const res = String(Math.round(ppi));
  const image = {
    image: [{ stack: elements.map(xmlOf).reverse() }],
    ":@": {
      "@_version": "0.0.6",
      "@_w": String(width),
      "@_h": String(height),
      "@_xres": res,
      "@_yres": res,
    },
  };
  return `<?xml version="1.0" encoding="UTF-8"?>\n${String(builder.build([image])).trim()}\n`;
}
