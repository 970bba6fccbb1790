import { Zip, ZipPassThrough } from "fflate";
import { ArrayBufferTarget, Muxer } from "webm-muxer";
import { type Compositor } from "../engine/compose/compositor";
import { type Picture } from "../engine/picture/picture";
import { Refusal } from "../engine/picture/refusal";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";
import { type Heap } from "../engine/tiles/heap";

/** Frames a second; of single pictures fewer, for each is a file. */
export const FILM_RATE = 30;
export const PICTURE_RATE = 10;
/** The finished picture is held at the end, s. */
const HELD = 1.5;
const BITS_A_PIXEL = 0.22;
const KEY_FRAME_EVERY = 120;
/** Frames that may wait to be encoded. */
const MOST_WAITING = 6;
const MOST_LEVEL = 6;

/** Codecs of a WebM, as they are asked for and as the container names them; the better first. */
const codecs = [
  { asked: "vp09.00.40.08", named: "V_VP9" },
  { asked: "vp8", named: "V_VP8" },
] as const;
type Codec = (typeof codecs)[number];

export type FilmSize = { width: number; height: number };

/** Both sides even, as codecs want them, the longer one at most `longest`. */
export function filmSize(picture: FilmSize, longest: number): FilmSize {
  const scale = Math.min(1, longest / Math.max(picture.width, picture.height));
  const even = (v: number): number => Math.max(2, Math.round((v * scale) / 2) * 2);
  return { width: even(picture.width), height: even(picture.height) };
}

/** The share of the work that each frame shows; the last ones hold its end. */
export function framesOf(seconds: number, rate: number): number[] {
  const held = Math.round(Math.min(HELD, seconds / 4) * rate);
  const moving = Math.max(1, Math.round(seconds * rate) - held);
  return [
    ...Array.from({ length: moving }, (_, i) => (i + 1) / moving),
    ...Array.from({ length: held }, () => 1),
  ];
}

/** What is seen beside a sheet that has not the film's shape. */
const BESIDE = "#7f7f7f";

/** The whole picture, small, of which only changed tiles are painted anew. */
export class FilmSheet {
  readonly canvas: OffscreenCanvas;
  #level = 0;
  #small = new OffscreenCanvas(1, 1);
  #stale = new Set<number>();

  constructor(
    readonly picture: Picture,
    readonly compositor: Compositor,
    readonly heap: Heap,
    { width, height }: FilmSize,
  ) {
    this.canvas = new OffscreenCanvas(width, height);
    this.staleAll();
  }

  /** The sheet may have been cut or resized since. */
  #measure(): void {
    const { picture, canvas } = this;
    const scale = Math.max(picture.width / canvas.width, picture.height / canvas.height);
    this.#level = Math.min(MOST_LEVEL, Math.max(0, Math.floor(Math.log2(scale))));
    const [width, height] = [picture.width, picture.height].map((side) =>
      Math.ceil(side / 2 ** this.#level),
    ) as [number, number];
    if (this.#small.width !== width || this.#small.height !== height)
      this.#small = new OffscreenCanvas(width, height);
  }

  stale(keys: readonly number[]): void {
    for (const key of keys) this.#stale.add(key);
  }

  staleAll(): void {
    this.#measure();
    const { width, height } = this.picture;
    this.stale(tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height));
  }

  paint(): OffscreenCanvas {
    const small = this.#small.getContext("2d", { alpha: false });
    const large = this.canvas.getContext("2d", { alpha: false });
    if (!small || !large) throw new Refusal("this browser gives no canvas for a film");
    const side = TILE_SIDE >> this.#level;
    const image = new ImageData(side, side);
    this.compositor.pack([...this.#stale], this.#level, (key, address) => {
      image.data.set(this.heap.u8.subarray(address, address + side * side * 4));
      small.putImageData(image, tileColumn(key) * side, tileRow(key) * side);
    });
    this.#stale.clear();
    const { width, height } = this.canvas;
    const { picture } = this;
    const size = 2 ** this.#level;
    // A sheet of another shape than the film's lies in the middle of it.
    const fit = Math.min(width / picture.width, height / picture.height);
    const isWhole =
      Math.abs(picture.width * fit - width) < 2 && Math.abs(picture.height * fit - height) < 2;
    const [wide, high] = isWhole ? [width, height] : [picture.width * fit, picture.height * fit];
    large.fillStyle = BESIDE;
    large.fillRect(0, 0, width, height);
    large.imageSmoothingQuality = "high";
    large.drawImage(
      this.#small,
      0,
      0,
      picture.width / size,
      picture.height / size,
      (width - wide) / 2,
      (height - high) / 2,
      wide,
      high,
    );
    return this.canvas;
  }
}

/** What takes a film's frames. */
export type FilmWriter = {
  extension: "webm" | "zip";
  type: string;
  rate: number;
  add(frame: OffscreenCanvas, index: number): Promise<void>;
  finish(): Promise<Uint8Array<ArrayBuffer>>;
  /** The film is given up. */
  stop(): void;
};

/** A film as WebM where the browser can encode one of that size, else as numbered pictures in a zip. */
export async function filmWriter(size: FilmSize, asPictures: boolean): Promise<FilmWriter> {
  const codec = asPictures ? null : await codecFor(size);
  return codec ? webmWriter(size, codec) : pictureWriter();
}

const configOf = ({ width, height }: FilmSize, codec: Codec): VideoEncoderConfig => ({
  codec: codec.asked,
  width,
  height,
  framerate: FILM_RATE,
  bitrate: Math.round(width * height * FILM_RATE * BITS_A_PIXEL),
  latencyMode: "quality",
});

async function codecFor(size: FilmSize): Promise<Codec | null> {
  if (!("VideoEncoder" in self)) return null;
  for (const codec of codecs) {
    const { supported } = await VideoEncoder.isConfigSupported(configOf(size, codec));
    if (supported) return codec;
  }
  return null;
}

function webmWriter(size: FilmSize, codec: Codec): FilmWriter {
  const target = new ArrayBufferTarget();
  const muxer = new Muxer({
    target,
    video: { codec: codec.named, width: size.width, height: size.height, frameRate: FILM_RATE },
  });
  let fault: Error | null = null;
  const encoder = new VideoEncoder({
    output: (chunk, meta) => muxer.addVideoChunk(chunk, meta),
    error: (error) => {
      fault = error;
    },
  });
  encoder.configure(configOf(size, codec));
  const refuseFault = (): void => {
    if (fault) throw new Refusal(`the film could not be encoded (${fault.message})`);
  };
  return {
    extension: "webm",
    type: "video/webm",
    rate: FILM_RATE,
    async add(canvas, index) {
      refuseFault();
      const frame = new VideoFrame(canvas, {
        timestamp: Math.round((index * 1e6) / FILM_RATE),
        duration: Math.round(1e6 / FILM_RATE),
      });
      encoder.encode(frame, { keyFrame: index % KEY_FRAME_EVERY === 0 });
      frame.close();
      while (encoder.encodeQueueSize > MOST_WAITING)
        await new Promise((resolve) =>
          encoder.addEventListener("dequeue", resolve, { once: true }),
        );
    },
    async finish() {
      await encoder.flush();
      refuseFault();
      muxer.finalize();
      return new Uint8Array(target.buffer);
    },
    stop: () => encoder.close(),
  };
}

function pictureWriter(): FilmWriter {
  const parts: Uint8Array[] = [];
  const zip = new Zip((error, data) => {
    if (error) throw error;
    parts.push(data);
  });
  return {
    extension: "zip",
    type: "application/zip",
    rate: PICTURE_RATE,
    async add(canvas, index) {
      const blob = await canvas.convertToBlob({ type: "image/png" });
      const file = new ZipPassThrough(`${String(index + 1).padStart(5, "0")}.png`);
      zip.add(file);
      file.push(new Uint8Array(await blob.arrayBuffer()), true);
    },
    finish() {
      zip.end();
      const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
      let at = 0;
      for (const part of parts) {
        bytes.set(part, at);
        at += part.length;
      }
      return Promise.resolve(bytes);
    },
    stop: () => zip.terminate(),
  };
}
