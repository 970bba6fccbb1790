import { type Compositor } from "../engine/compose/compositor";
import { type Picture } from "../engine/picture/picture";
import { TILE_SIDE, tileColumn, tileKey, tileRow } from "../engine/tiles/layout";
import { type Heap } from "../engine/tiles/heap";
import { type Matrix, type Size, toPicture, toScreen, type View, viewMatrix } from "./view";

/** A chunk is a bitmap of this many px a side at one level of detail. */
const CHUNK_SIDE = 512;
const MOST_LEVEL = 6;
/** Bitmaps kept, bytes. */
const CHUNK_LIMIT = 256 * 2 ** 20;
/** Tiles composited before giving way to other work. */
const SLICE = 48;
/** From this zoom on pixels are shown as squares. */
const SQUARES_FROM = 3;

type Chunk = {
  level: number;
  column: number;
  row: number;
  canvas: OffscreenCanvas;
  context: OffscreenCanvasRenderingContext2D;
  /** Tiles (of the picture) not yet composited, or changed since. */
  stale: Set<number>;
};

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
  #filling = false;
  #surround = "#7f7f7f";
  #stopped = false;
  #look: (pixels: Uint8ClampedArray) => void = () => undefined;

  constructor(
    readonly canvas: OffscreenCanvas,
    readonly picture: Picture,
    readonly compositor: Compositor,
    readonly heap: Heap,
  ) {
    const context = canvas.getContext("2d", { alpha: false, desynchronized: true });
    if (!context) throw new Error("this browser gives no 2-D canvas to a worker");
    this.#context = context;
  }

  get #screen(): Size {
    return this.canvas;
  }

  stop(): void {
    this.#stopped = true;
    this.#chunks.clear();
  }

  setSurround(colour: string): void {
    this.#surround = colour;
    this.#redraw();
  }

  /** Says how pixels are changed on their way to the screen; the picture stays as it is. */
  setLook(look: (pixels: Uint8ClampedArray) => void): void {
    this.#look = look;
    this.repaintAll();
  }

  resize(width: number, height: number): void {
    this.canvas.width = Math.max(1, width);
    this.canvas.height = Math.max(1, height);
    this.setView(this.#view);
  }

  setView(view: View): void {
    this.#view = view;
    this.#matrix = viewMatrix(view, this.#screen);
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
    this.#composite(seen, level);
    this.#drawTiles(seen);
  }

  /** Everything may look different now. */
  repaintAll(): void {
    for (const chunk of this.#chunks.values()) this.#allStale(chunk);
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
    const known = this.#chunks.get(name);
    if (known) {
      this.#chunks.delete(name);
      this.#chunks.set(name, known);
      return known;
    }
    const canvas = new OffscreenCanvas(CHUNK_SIDE, CHUNK_SIDE);
    const context = canvas.getContext("2d", { alpha: false, willReadFrequently: true });
    if (!context) throw new Error("no memory for another part of the picture");
    context.fillStyle = this.picture.structure.ground;
    context.fillRect(0, 0, CHUNK_SIDE, CHUNK_SIDE);
    this.#borrow(context, level, column, row);
    const chunk: Chunk = { level, column, row, canvas, context, stale: new Set() };
    this.#allStale(chunk);
    this.#chunks.set(name, chunk);
    this.#dropOld();
    return chunk;
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
      context.drawImage(other.canvas, x, y, side, side);
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

  /** Composites tiles into their bitmaps. */
  #composite(keys: readonly number[], level: number): void {
    const side = TILE_SIDE >> level;
    const across = (CHUNK_SIDE / TILE_SIDE) << level;
    const image = new ImageData(side, side);
    this.compositor.pack(keys, level, (key, address) => {
      const chunk = this.#chunkOf(key, level);
      if (!chunk) return;
      image.data.set(this.heap.u8.subarray(address, address + side * side * 4));
      this.#look(image.data);
      chunk.context.putImageData(
        image,
        (tileColumn(key) % across) * side,
        (tileRow(key) % across) * side,
      );
      chunk.stale.delete(key);
    });
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

  #isInView(key: number): boolean {
    const { left, top, right, bottom } = this.#viewBox();
    const x = tileColumn(key) * TILE_SIDE;
    const y = tileRow(key) * TILE_SIDE;
    return x < right && x + TILE_SIDE > left && y < bottom && y + TILE_SIDE > top;
  }

  /** Composites what is stale in view, a slice at a time. */
  async #fill(): Promise<void> {
    if (this.#filling) return;
    this.#filling = true;
    try {
      for (;;) {
        const chunk = this.#stopped
          ? undefined
          : this.#visibleChunks().find(({ stale }) => this.#staleInView(stale).length > 0);
        if (!chunk) return;
        const keys = this.#staleInView(chunk.stale).slice(0, SLICE);
        this.#composite(keys, chunk.level);
        this.#drawTiles(keys);
        await new Promise((resolve) => setTimeout(resolve, 0));
      }
    } finally {
      this.#filling = false;
    }
  }

  /** Whether all in view is up to date. */
  get isSettled(): boolean {
    return !this.#visibleChunks().some(({ stale }) => this.#staleInView(stale).length > 0);
  }

  #staleInView(stale: ReadonlySet<number>): number[] {
    return [...stale].filter((key) => this.#isInView(key));
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
    for (const { level, column, row, canvas } of this.#visibleChunks()) {
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
