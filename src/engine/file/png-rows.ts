import { pngRowsModule } from "../../../kernels/build/png-rows";
import { Refusal } from "../picture/refusal";
import { fromBase64 } from "./base64";

/** See `kernels/png/rows.ts`. */
type RowKernels = {
  memory: WebAssembly.Memory;
  room(bytes: number): number;
  unfilter(kind: number, row: number, above: number, n: number, step: number): number;
  widen(
    row: number,
    out: number,
    width: number,
    channels: number,
    deep: number,
    bare: number,
  ): void;
  filter(row: number, above: number, n: number, step: number, out: number): void;
};

/** Zeros before each row, and room for whole registers behind it. */
const BEFORE = 32;

let compiled: WebAssembly.Module | null = null;

/** Rows of one picture on their way from or to a PNG, in a memory of their own. */
export class PngRows {
  #kernels: RowKernels;
  #u8: Uint8Array<ArrayBuffer>;
  #row: number;
  #above: number;
  #out: number;
  #bare = 0;
  readonly step: number;
  readonly bytes: number;

  constructor(
    readonly width: number,
    readonly channels: number,
    readonly deep: boolean,
  ) {
    compiled ??= new WebAssembly.Module(fromBase64(pngRowsModule));
    this.#kernels = new WebAssembly.Instance(compiled).exports as unknown as RowKernels;
    this.step = channels * (deep ? 2 : 1);
    this.bytes = width * this.step;
    const rowRoom = this.bytes + 2 * BEFORE;
    const outRoom = width * (deep ? 8 : 4) + 2 * BEFORE;
    const start = this.#kernels.room(2 * rowRoom + Math.max(outRoom, rowRoom) + BEFORE);
    this.#u8 = new Uint8Array(this.#kernels.memory.buffer as ArrayBuffer);
    this.#row = start + BEFORE;
    this.#above = this.#row + rowRoom;
    this.#out = this.#above + rowRoom;
  }

  /** The colour that stands for bare in a picture without alpha: its samples, R G B. */
  setBare(samples: readonly number[]): void {
    this.#bare = this.#out + this.width * (this.deep ? 8 : 4);
    new Uint16Array(this.#u8.buffer, this.#bare, 3).set(samples);
  }

  /** Where the next packed row goes. */
  get row(): Uint8Array {
    return this.#u8.subarray(this.#row, this.#row + this.bytes);
  }

  #turn(): void {
    [this.#row, this.#above] = [this.#above, this.#row];
  }

  /**
   * The row that was written to `row`, without its filter, as straight RGBA bytes; a view that
   * is good until the next one.
   * @throws Refusal where there is no such filter
   */
  read(kind: number): Uint8Array {
    const { width, channels, deep, step, bytes } = this;
    if (!this.#kernels.unfilter(kind, this.#row, this.#above, bytes, step))
      throw new Refusal(`this PNG picture has a row of the unknown kind ${kind}`);
    const out = this.#out;
    this.#kernels.widen(this.#row, out, width, channels, deep ? 1 : 0, this.#bare);
    this.#turn();
    return this.#u8.subarray(out, out + width * (deep ? 8 : 4));
  }

  /** The row that was written to `row`, with a filter and its kind; a view that is good until the next one. */
  write(): Uint8Array {
    this.#kernels.filter(this.#row, this.#above, this.bytes, this.step, this.#out);
    this.#turn();
    return this.#u8.subarray(this.#out, this.#out + this.bytes + 1);
  }
}
