import { type Compositor } from "../engine/compose/compositor";
import { type Picture } from "../engine/picture/picture";
import { TILE_SIDE, tileColumn, tileKey, tileRow } from "../engine/tiles/layout";
import { type Heap } from "../engine/tiles/heap";
import {
  type Matrix,
  SHOWN_AT,
  type Size,
  toPicture,
  toScreen,
  type View,
  viewMatrix,
} from "./view";

/** A chunk is a bitmap of this many px a side at one level of detail. */
const CHUNK_SIDE = 512;
const MOST_LEVEL = 6;
/** Bitmaps kept, bytes. */
const CHUNK_LIMIT = 256 * 2 ** 20;
/** Tiles composited at once, and how long before giving way to other work, ms. */
const SLICE = 64;
const SLICE_MS = 14;
/** A change of the whole view that takes longer is announced, ms. */
const ANNOUNCED_AFTER = 150;
/** From this zoom on pixels are shown as squares. */
const SQUARES_FROM = 3;

type Bitmap = { canvas: OffscreenCanvas; context: OffscreenCanvasRenderingContext2D };

type Chunk = {
  level: number;
  column: number;
  row: number;
  /** The composite as it was last whole. */
  plain: Bitmap;
  /** The composite in the making, while everything changes at once. */
  next: Bitmap | null;
  /** The composite as it is looked at, where that is otherwise than it is. */
  looked: Bitmap | null;
  /** Tiles (of the picture) not yet composited, or changed since. */
  stale: Set<number>;
  /** Halftones that it shows as their mean. */
  blurred: string;
};

/** How pixels are changed on their way to the screen. */
export type Look = (pixels: Uint8ClampedArray) => void;

/** What is seen over the picture on the table alone: asked anew whenever tiles are composited, it adds to each. */
export type Over = () => (key: number, address: number) => void;

function bitmap(): Bitmap {
  const canvas = new OffscreenCanvas(CHUNK_SIDE, CHUNK_SIDE);
  const context = canvas.getContext("2d", { alpha: false, willReadFrequently: true });
  if (!context) throw new Error("no memory for another part of the picture");
  return { canvas, context };
}

function copyOf(other: Bitmap): Bitmap {
  const made = bitmap();
  made.context.drawImage(other.canvas, 0, 0);
  return made;
}

/** Lets messages that wait go first; a timer would wait for some ms each time. */
function othersFirst(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });
}

/** Level of detail for a zoom: the coarsest that has a pixel for every pixel shown. */
export const levelFor = (zoom: number): number =>
  Math.min(MOST_LEVEL, Math.max(0, Math.floor(Math.log2(1 / zoom) + 1e-6)));

/**
 * Draws a picture on a canvas. Composited tiles are kept in bitmaps at the level of detail
 * of the zoom; a change repaints its own tiles and the part of the screen that they cover,
 * moving the view repaints from the bitmaps.
 */
export class Display {
  #chunks = new Map<string, Chunk>();
  #view: View = { x: 0, y: 0, zoom: 1, angle: 0, mirrored: false };
  #matrix: Matrix = [1, 0, 0, 1, 0, 0];
  #context: OffscreenCanvasRenderingContext2D;
  #isAimed = false;
  #filling = false;
  #surround = "#7f7f7f";
  #stopped = false;
  #look: Look | null = null;
  #over: Over | null = null;
  /** Whether everything changes: the view stays as it was until all of it can be shown. */
  #isHeld = false;
  /** Since when all of the view waits to be shown, ms; at first it does. Null: it does not. */
  #waitsSince: number | null = performance.now();
  #announced = false;
  /** A small picture of the sheet: seen until all in view has been composited for the first time. */
  #coarse: CanvasImageSource | null = null;

  constructor(
    readonly canvas: OffscreenCanvas,
    readonly picture: Picture,
    readonly compositor: Compositor,
    readonly heap: Heap,
    /** Told when a change of the whole view takes its time, and when it is there. */
    readonly busy: (isBusy: boolean) => void = () => undefined,
  ) {
    const context = canvas.getContext("2d", { alpha: false, desynchronized: true });
    if (!context) throw new Error("this browser gives no 2-D canvas to a worker");
    this.#context = context;
  }

  get #screen(): Size {
    return this.canvas;
  }

  /** Begins with a small picture of the whole sheet, until there is a better one. */
  beginWith(coarse: CanvasImageSource | null): void {
    this.#coarse = coarse;
    this.#chunks.clear();
  }

  stop(): void {
    this.#stopped = true;
    this.#chunks.clear();
  }

  setSurround(colour: string): void {
    this.#surround = colour;
    this.#redraw();
  }

  /** Says how pixels are changed on their way to the screen, null: not; the picture stays as it is. */
  setLook(look: Look | null): void {
    this.#look = look;
    for (const chunk of this.#chunks.values()) this.#lookAnew(chunk);
    this.#redraw();
  }

  /** Says what is seen over the picture, null: nothing. */
  setOver(over: Over | null): void {
    this.#over = over;
    if (this.#chunks.size > 0) this.repaintAll();
  }

  /** Makes a chunk's bitmap for the screen from its composite. */
  #lookAnew(chunk: Chunk): void {
    chunk.looked = null;
    if (!this.#look) return;
    chunk.looked = bitmap();
    const image = chunk.plain.context.getImageData(0, 0, CHUNK_SIDE, CHUNK_SIDE);
    this.#look(image.data);
    chunk.looked.context.putImageData(image, 0, 0);
  }

  resize(width: number, height: number): void {
    this.canvas.width = Math.max(1, width);
    this.canvas.height = Math.max(1, height);
    // What is looked at is not known before a view is set.
    if (this.#isAimed) this.setView(this.#view);
  }

  setView(view: View): void {
    this.#isAimed = true;
    this.#view = view;
    this.#matrix = viewMatrix(view, this.#screen);
    this.compositor.setScale(view.zoom);
    this.#redraw();
    void this.#fill();
  }

  /** Tiles whose pixels changed: those in view are repainted before this returns. */
  paint(keys: readonly number[]): void {
    const level = levelFor(this.#view.zoom);
    const seen: number[] = [];
    for (const key of keys) {
      this.#markStale(key);
      const chunk = this.#chunkOf(key, level);
      if (chunk && this.#isInView(key)) seen.push(key);
    }
    if (seen.length === 0) return;
    this.#composite(seen, level, true);
    this.#drawTiles(seen);
  }

  /** The picture is another one, or of another size. */
  forgetAll(): void {
    this.#waitsSince ??= performance.now();
    this.#coarse = null;
    this.#chunks.clear();
    this.#redraw();
    void this.#fill();
  }

  /** Everything may look different now. What is seen stays until all of it can be shown anew. */
  repaintAll(): void {
    for (const chunk of this.#chunks.values()) this.#allStale(chunk);
    this.#waitsSince ??= performance.now();
    this.#isHeld = true;
    void this.#fill();
  }

  #markStale(key: number): void {
    for (let level = 0; level <= MOST_LEVEL; level++) this.#chunkOf(key, level)?.stale.add(key);
  }

  #chunkOf(key: number, level: number): Chunk | undefined {
    const across = (CHUNK_SIDE / TILE_SIDE) << level;
    const column = Math.floor(tileColumn(key) / across);
    const row = Math.floor(tileRow(key) / across);
    return this.#chunks.get(`${level} ${column} ${row}`);
  }

  #ensureChunk(level: number, column: number, row: number): Chunk {
    const name = `${level} ${column} ${row}`;
    const blurred = this.compositor.blurredScreens(level).join("\n");
    const known = this.#chunks.get(name);
    if (known) {
      this.#chunks.delete(name);
      this.#chunks.set(name, known);
      if (known.blurred !== blurred) this.#allStale(known);
      known.blurred = blurred;
      return known;
    }
    const plain = bitmap();
    plain.context.fillStyle = this.picture.structure.ground;
    plain.context.fillRect(0, 0, CHUNK_SIDE, CHUNK_SIDE);
    this.#drawCoarse(plain.context, level, column, row);
    this.#borrow(plain.context, level, column, row);
    const place = { level, column, row };
    const chunk: Chunk = { ...place, plain, next: null, looked: null, stale: new Set(), blurred };
    this.#allStale(chunk);
    this.#lookAnew(chunk);
    this.#chunks.set(name, chunk);
    this.#dropOld();
    return chunk;
  }

  #drawCoarse(
    context: OffscreenCanvasRenderingContext2D,
    level: number,
    column: number,
    row: number,
  ): void {
    if (!this.#coarse) return;
    const { width, height } = this.picture;
    const [left, top] = [-column * CHUNK_SIDE, -row * CHUNK_SIDE];
    context.drawImage(this.#coarse, left, top, width / 2 ** level, height / 2 ** level);
  }

  /** Until it has been composited, a new bitmap shows what others of the same place hold. */
  #borrow(
    context: OffscreenCanvasRenderingContext2D,
    level: number,
    column: number,
    row: number,
  ): void {
    const span = CHUNK_SIDE << level;
    for (const other of this.#chunks.values()) {
      const otherSpan = CHUNK_SIDE << other.level;
      const x = (other.column * otherSpan - column * span) / 2 ** level;
      const y = (other.row * otherSpan - row * span) / 2 ** level;
      const side = otherSpan / 2 ** level;
      if (x >= CHUNK_SIDE || y >= CHUNK_SIDE || x + side <= 0 || y + side <= 0) continue;
      context.drawImage(other.plain.canvas, x, y, side, side);
    }
  }

  #dropOld(): void {
    const most = CHUNK_LIMIT / (CHUNK_SIDE * CHUNK_SIDE * 4);
    for (const name of this.#chunks.keys()) {
      if (this.#chunks.size <= most) return;
      this.#chunks.delete(name);
    }
  }

  #allStale({ level, column, row, stale }: Chunk): void {
    const across = (CHUNK_SIDE / TILE_SIDE) << level;
    const right = Math.min(Math.ceil(this.picture.width / TILE_SIDE), (column + 1) * across);
    const bottom = Math.min(Math.ceil(this.picture.height / TILE_SIDE), (row + 1) * across);
    for (let y = row * across; y < bottom; y++)
      for (let x = column * across; x < right; x++) stale.add(tileKey(x, y));
  }

  /** Composites tiles into their bitmaps. `now`: into what is seen, also while the view is held. */
  #composite(keys: readonly number[], level: number, now: boolean): void {
    const side = TILE_SIDE >> level;
    const across = (CHUNK_SIDE / TILE_SIDE) << level;
    const image = new ImageData(side, side);
    const put = (key: number, address: number): void => {
      const chunk = this.#chunkOf(key, level);
      if (!chunk) return;
      image.data.set(this.heap.u8.subarray(address, address + side * side * 4));
      const x = (tileColumn(key) % across) * side;
      const y = (tileRow(key) % across) * side;
      chunk.stale.delete(key);
      if (this.#isHeld) {
        chunk.next ??= copyOf(chunk.plain);
        chunk.next.context.putImageData(image, x, y);
        if (!now) return;
      }
      chunk.plain.context.putImageData(image, x, y);
      if (!chunk.looked || !this.#look) return;
      this.#look(image.data);
      chunk.looked.context.putImageData(image, x, y);
    };
    this.compositor.pack(keys, level, put, 1, this.#over?.());
  }

  /** The chunks that are (at least partly) in view, those in the middle first. */
  #visibleChunks(): Chunk[] {
    const level = levelFor(this.#view.zoom);
    const { left, top, right, bottom } = this.#viewBox();
    const span = CHUNK_SIDE << level;
    const found: { chunk: Chunk; far: number }[] = [];
    for (let row = Math.floor(top / span); row * span < bottom; row++)
      for (let column = Math.floor(left / span); column * span < right; column++) {
        const far =
          Math.abs((column + 0.5) * span - this.#view.x) +
          Math.abs((row + 0.5) * span - this.#view.y);
        found.push({ chunk: this.#ensureChunk(level, column, row), far });
      }
    return found.sort((a, b) => a.far - b.far).map(({ chunk }) => chunk);
  }

  /** The part of the picture in view, px. */
  #viewBox(): { left: number; top: number; right: number; bottom: number } {
    const { width, height } = this.#screen;
    const corners = [
      toPicture(this.#matrix, 0, 0),
      toPicture(this.#matrix, width, 0),
      toPicture(this.#matrix, 0, height),
      toPicture(this.#matrix, width, height),
    ];
    const xs = corners.map(([x]) => x);
    const ys = corners.map(([, y]) => y);
    return {
      left: Math.max(0, Math.min(...xs)),
      top: Math.max(0, Math.min(...ys)),
      right: Math.min(this.picture.width, Math.max(...xs)),
      bottom: Math.min(this.picture.height, Math.max(...ys)),
    };
  }

  #isInView(key: number, { left, top, right, bottom } = this.#viewBox()): boolean {
    const x = tileColumn(key) * TILE_SIDE;
    const y = tileRow(key) * TILE_SIDE;
    return x < right && x + TILE_SIDE > left && y < bottom && y + TILE_SIDE > top;
  }

  /** Composites what is stale in view, a slice at a time. */
  async #fill(): Promise<void> {
    if (this.#filling) return;
    this.#filling = true;
    try {
      while (!this.#stopped) {
        const until = performance.now() + SLICE_MS;
        do {
          const next = this.#nextStale();
          if (!next) return this.#showAll();
          this.#composite(next.keys, next.level, false);
          if (!this.#isHeld) this.#drawTiles(next.keys);
        } while (performance.now() < until);
        this.#announce();
        await othersFirst();
      }
    } finally {
      this.#filling = false;
    }
  }

  /** Tiles in view that are to be composited next, all of one level; null: none are. */
  #nextStale(): { keys: number[]; level: number } | null {
    const box = this.#viewBox();
    for (const { stale, level } of this.#visibleChunks()) {
      const keys: number[] = [];
      for (const key of stale) {
        if (this.#isInView(key, box)) keys.push(key);
        if (keys.length === SLICE) break;
      }
      if (keys.length > 0) return { keys, level };
    }
    return null;
  }

  /** All in view is composited: what was held back is shown. */
  #showAll(): void {
    this.#waitsSince = null;
    this.#coarse = null;
    if (this.#announced) this.busy(false);
    this.#announced = false;
    if (!this.#isHeld) return;
    this.#isHeld = false;
    for (const chunk of this.#chunks.values()) {
      if (!chunk.next) continue;
      chunk.plain = chunk.next;
      chunk.next = null;
      this.#lookAnew(chunk);
    }
    this.#redraw();
  }

  #announce(): void {
    if (this.#waitsSince === null || this.#announced) return;
    if (performance.now() - this.#waitsSince < ANNOUNCED_AFTER) return;
    this.#announced = true;
    this.busy(true);
  }

  /** Whether all in view is up to date. */
  get isSettled(): boolean {
    return !this.#isHeld && this.#nextStale() === null;
  }

  /** Draws the whole picture, as it is looked at, onto a small canvas; false where not all of it is at hand. */
  drawWhole(context: OffscreenCanvasRenderingContext2D, width: number, height: number): boolean {
    const box = this.#viewBox();
    const isWhole = box.left <= 0 && box.top <= 0;
    if (!isWhole || box.right < this.picture.width || box.bottom < this.picture.height)
      return false;
    if (!this.isSettled) return false;
    // Dots that are seen here would make a pattern of their own there.
    const far = this.compositor.blurredScreens(0, (SHOWN_AT * width) / this.picture.width);
    if (far.length > this.compositor.blurredScreens(levelFor(this.#view.zoom)).length) return false;
    context.imageSmoothingQuality = "high";
    for (const chunk of this.#visibleChunks()) {
      const span = CHUNK_SIDE << chunk.level;
      const x = (chunk.column * span * width) / this.picture.width;
      const y = (chunk.row * span * height) / this.picture.height;
      const { canvas } = chunk.looked ?? chunk.plain;
      const wide = (span * width) / this.picture.width;
      context.drawImage(canvas, x, y, wide, (span * height) / this.picture.height);
    }
    return true;
  }

  #redraw(): void {
    const context = this.#context;
    const { width, height } = this.#screen;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = this.#surround;
    context.fillRect(0, 0, width, height);
    this.#drawChunks();
  }

  /** Repaints the part of the screen that these tiles cover. */
  #drawTiles(keys: readonly number[]): void {
    let left = Infinity;
    let top = Infinity;
    let right = -Infinity;
    let bottom = -Infinity;
    for (const key of keys) {
      left = Math.min(left, tileColumn(key));
      top = Math.min(top, tileRow(key));
      right = Math.max(right, tileColumn(key) + 1);
      bottom = Math.max(bottom, tileRow(key) + 1);
    }
    const context = this.#context;
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.beginPath();
    // A pixel more on every side, so that smoothing leaves no seam.
    const corners: [number, number][] = [
      [left, top],
      [right, top],
      [right, bottom],
      [left, bottom],
    ];
    for (const [x, y] of corners) {
      const px = x === left ? -1 : 1;
      const py = y === top ? -1 : 1;
      context.lineTo(
        ...toScreen(
          this.#matrix,
          x * TILE_SIDE + px / this.#view.zoom,
          y * TILE_SIDE + py / this.#view.zoom,
        ),
      );
    }
    context.clip();
    this.#drawChunks({
      left: left * TILE_SIDE - 2,
      top: top * TILE_SIDE - 2,
      right: right * TILE_SIDE + 2,
      bottom: bottom * TILE_SIDE + 2,
    });
    context.restore();
  }

  #drawChunks(box = this.#viewBox()): void {
    const context = this.#context;
    const { zoom } = this.#view;
    context.save();
    context.setTransform(...this.#matrix);
    context.imageSmoothingEnabled = !(
      zoom >= SQUARES_FROM ||
      (zoom === 1 && this.#view.angle === 0)
    );
    context.imageSmoothingQuality = "medium";
    for (const { level, column, row, plain, looked } of this.#visibleChunks()) {
      const { canvas } = looked ?? plain;
      const span = CHUNK_SIDE << level;
      const x = column * span;
      const y = row * span;
      if (x >= box.right || y >= box.bottom || x + span <= box.left || y + span <= box.top)
        continue;
      const width = Math.min(span, this.picture.width - x);
      const height = Math.min(span, this.picture.height - y);
      context.drawImage(canvas, 0, 0, width / 2 ** level, height / 2 ** level, x, y, width, height);
    }
    context.restore();
  }
}
