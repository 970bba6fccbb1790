import { PngRows } from "../png-rows";
import { Packer } from "../zlib";

/** Compression level: pictures are written while someone waits. */
const LEVEL = 4;

/**
 * Rows of samples, each with the filter that leaves least of it, packed by zlib: what a PNG holds (PNG 1.2 §6, §10),
 * and a PDF by its predictor of that name. Samples of less than a byte are filtered byte by byte.
 */
export class PackedRows {
  #filter: PngRows;
  #pack: Packer;
  #rows = 0;

  /** @param take given what is packed, part by part */
  constructor(
    width: number,
    readonly height: number,
    channels: number,
    bits: 1 | 8 | 16,
    take: (packed: Uint8Array) => void,
  ) {
    this.#filter =
      bits === 1
        ? new PngRows(Math.ceil((width * channels) / 8), 1, false)
        : new PngRows(width, channels, bits === 16);
    this.#pack = new Packer(LEVEL, take);
  }

  /** Adds the next row, samples as they lie in a PNG (16 bits: high byte first). */
  row(samples: Uint8Array): void {
    this.#filter.row.set(samples);
    this.#rows++;
    this.#pack.push(this.#filter.write(), this.#rows === this.height);
  }

  /** @throws RangeError where rows are missing */
  refuseMissing(): void {
    if (this.#rows !== this.height)
      throw new RangeError(`${this.height} rows were promised, ${this.#rows} written`);
  }
}
