import { type Compositor } from "../engine/compose/compositor";
import { type Picture } from "../engine/picture/picture";
import { TILE_SIDE, tileColumn, tileRow, tilesIn } from "../engine/tiles/layout";
import { type Heap } from "../engine/tiles/heap";
import { type Look } from "./display";
import { SHOWN_AT } from "./view";

/** Longest side of the far view's bitmap, px. */
const LONGEST = 440;
const MOST_LEVEL = 6;
/** How long it may be behind the picture, ms: one look from afar is enough. */
const REST = 120;
/** Tiles composited before giving way to other work. */
const SLICE = 64;

/** The whole picture, small, kept live: tiles that changed are composited again when the hand rests a moment. */
export class FarView {
  readonly level: number;
  #stale = new Set<number>();
  #context: OffscreenCanvasRenderingContext2D;
  /** What is composited, shown once all of it is. */
  #buffer: OffscreenCanvasRenderingContext2D;
  #waiting: ReturnType<typeof setTimeout> | null = null;
  #stopped = false;

  constructor(
    readonly canvas: OffscreenCanvas,
    readonly picture: Picture,
    readonly compositor: Compositor,
    readonly heap: Heap,
    readonly look: Look,
    /** Draws all of the picture from what the table shows; false where that is not all of it. */
    readonly borrow: (context: OffscreenCanvasRenderingContext2D) => boolean = () => false,
  ) {
    const longest = Math.max(picture.width, picture.height);
    this.level = Math.min(MOST_LEVEL, Math.max(0, Math.ceil(Math.log2(longest / LONGEST))));
    canvas.width = Math.ceil(picture.width / 2 ** this.level);
    canvas.height = Math.ceil(picture.height / 2 ** this.level);
    const context = canvas.getContext("2d", { alpha: false });
    if (!context) throw new Error("this browser gives no 2-D canvas to a worker");
    this.#context = context;
    const buffer = new OffscreenCanvas(canvas.width, canvas.height);
    this.#buffer = buffer.getContext("2d", { alpha: false }) ?? context;
    for (const one of [context, this.#buffer]) {
      one.fillStyle = picture.structure.ground;
      one.fillRect(0, 0, canvas.width, canvas.height);
    }
    this.staleAll();
  }

  stop(): void {
    this.#stopped = true;
    if (this.#waiting) clearTimeout(this.#waiting);
  }

  stale(keys: readonly number[]): void {
    for (const key of keys) this.#stale.add(key);
    this.#soon();
  }

  staleAll(): void {
    const { width, height } = this.picture;
    this.stale(tilesIn({ left: 0, top: 0, right: width, bottom: height }, width, height));
  }

  #soon(after = REST): void {
    this.#waiting ??= setTimeout(() => {
      this.#waiting = null;
      this.#paint();
    }, after);
  }

  #paint(): void {
    if (this.#stopped || this.#stale.size === 0) return;
    if (this.#stale.size > SLICE && this.borrow(this.#buffer)) this.#stale.clear();
    const keys = [...this.#stale].slice(0, SLICE);
    const side = TILE_SIDE >> this.level;
    const image = new ImageData(side, side);
    const put = (key: number, address: number): void => {
      this.#stale.delete(key);
      image.data.set(this.heap.u8.subarray(address, address + side * side * 4));
      this.look(image.data);
      this.#buffer.putImageData(image, tileColumn(key) * side, tileRow(key) * side);
    };
    this.compositor.pack(keys, this.level, put, SHOWN_AT / 2 ** this.level);
    if (this.#stale.size > 0) return this.#soon(0);
    this.#context.drawImage(this.#buffer.canvas, 0, 0);
  }
}
