import { paperFieldsModule } from "../../../kernels/build/paper-fields";
import { fromBase64 } from "../file/base64";

/** Side of the fields that papers are made of. */
export const FIELD_SIDE = 1024;

/** A field in the memory of its maker: where it begins. */
export type Field = number;

/** See `kernels/paper/fields.ts`. */
type FieldKernels = {
  memory: WebAssembly.Memory;
  room(bytes: number): number;
  white(field: Field, count: number, seed: number): void;
  copy(to: Field, from: Field, count: number): void;
  add(to: Field, from: Field, by: number, count: number): void;
  unit(field: Field, count: number): void;
  fold(field: Field, count: number): void;
  blur(
    field: Field,
    between: Field,
    side: number,
    whole: number,
    part: number,
    share: number,
  ): void;
  fibres(
    mat: Field,
    side: number,
    count: number,
    short: number,
    long: number,
    half: number,
    seed: number,
  ): void;
  wires(field: Field, waver: Field, side: number, count: number, apart: number): void;
  weave(field: Field, shift: Field, uneven: Field, side: number, width: number): void;
  rank(field: Field, count: number, out: number, below: number): void;
};

/** How fibres lie: how many, how long (px), half how thick. */
export type Fibres = { count: number; short: number; long: number; halfWidth: number };

/** Fields that are held at once, at most. */
const SLOTS = 12;
/** Words that ranking counts in. */
const COUNTED = 65_537;

let compiled: WebAssembly.Module | null = null;

/**
 * Makes fields of numbers that repeat without a seam. Only sums, products, quotients, roots and
 * comparisons are used, so every machine makes the same ones. Fields are taken from a store of
 * twelve; what a call is given is used up unless it says otherwise.
 */
export class FieldMaker {
  readonly #kernels: FieldKernels;
  readonly #count: number;
  /** Room for one more field, a row, and what ranking counts in. */
  readonly #scratch: number;
  #free: Field[] = [];

  constructor(readonly side = FIELD_SIDE) {
    compiled ??= new WebAssembly.Module(fromBase64(paperFieldsModule));
    this.#kernels = new WebAssembly.Instance(compiled).exports as unknown as FieldKernels;
    this.#count = side * side;
    const bytes = this.#count * 4;
    const scratch = bytes + 4 * side + 16 * Math.ceil(COUNTED / 4);
    this.#scratch = this.#kernels.room(SLOTS * bytes + scratch);
    for (let i = 0; i < SLOTS; i++) this.#free.push(this.#scratch + scratch + i * bytes);
  }

  #take(): Field {
    const field = this.#free.pop();
    if (field === undefined) throw new RangeError(`no more than ${SLOTS} fields are held at once`);
    return field;
  }

  /** A copy; the field stays. */
  copy(field: Field): Field {
    const made = this.#take();
    this.#kernels.copy(made, field, this.#count);
    return made;
  }

  /** White noise 0…1. */
  white(seed: number): Field {
    const made = this.#take();
    this.#kernels.white(made, this.#count, seed);
    return made;
  }

  /** A field of given numbers. */
  of(values: ArrayLike<number>): Field {
    const made = this.#take();
    new Float32Array(this.#kernels.memory.buffer, made, this.#count).set(values);
    return made;
  }

  /** Brought to mean 0 and variance 1. */
  unit(field: Field): Field {
    this.#kernels.unit(field, this.#count);
    return field;
  }

  /** Without sign. */
  folded(field: Field): Field {
    this.#kernels.fold(field, this.#count);
    return field;
  }

  /** The sum of fields, each by a factor. */
  sum(...parts: (readonly [by: number, field: Field])[]): Field {
    const made = this.#take();
    new Float32Array(this.#kernels.memory.buffer, made, this.#count).fill(0);
    for (const [by, field] of parts) {
      this.#kernels.add(made, field, by, this.#count);
      this.#free.push(field);
    }
    return made;
  }

  /**
   * Blurred by three boxes, near a Gaussian of the standard deviation `sigma`, px. A box has the
   * width √(4σ² + 1), so that the variances of the three add up; its last cells count in part.
   */
  blurred(field: Field, sigma: number): Field {
    if (sigma === 0) return field;
    const width = Math.sqrt(4 * sigma * sigma + 1);
    const whole = Math.floor((width - 1) / 2);
    const part = (width - 1) / 2 - whole;
    this.#kernels.blur(field, this.#scratch, this.side, whole, part, 1 / width);
    return field;
  }

  /** What a field holds between two spreads, at unit variance. */
  between(field: Field, finer: number, broader: number): Field {
    const broad = this.blurred(this.copy(field), broader);
    const fine = this.blurred(field, finer);
    return this.unit(this.sum([1, fine], [-1, broad]));
  }

  /** Noise of wavelengths about `length` px, at unit variance. */
  band(length: number, seed: number): Field {
    return this.between(this.white(seed), length / 6.5, length / 3.25);
  }

  /** Noise without what is finer than a spread, at unit variance. */
  low(sigma: number, seed: number): Field {
    return this.unit(this.blurred(this.white(seed), sigma));
  }

  /** A mat of curved fibres lying every way, one over another. */
  fibreMat({ count, short, long, halfWidth }: Fibres, seed: number): Field {
    const made = this.#take();
    this.#kernels.fibres(made, this.side, count, short, long, halfWidth, seed);
    return made;
  }

  /** Fibres with the wires and chains of a mould: how many wires, and how far apart the chains lie. */
  wires(fibres: Field, waver: Field, count: number, apart: number): Field {
    this.#kernels.wires(fibres, waver, this.side, count, apart);
    this.#free.push(waver);
    return fibres;
  }

  /** Round threads of a width over and under each other, shifted and uneven, in their nap. */
  weave(nap: Field, shift: Field, uneven: Field, width: number): Field {
    this.#kernels.weave(nap, shift, uneven, this.side, width);
    this.#free.push(shift, uneven);
    return nap;
  }

  /** Every value replaced by its rank, 0…255: each as common as the others. */
  ranked(field: Field): Uint8Array {
    const out = this.#scratch;
    const below = out + this.#count;
    this.#kernels.rank(field, this.#count, out, (below + 3) & ~3);
    this.#free.push(field);
    return new Uint8Array(this.#kernels.memory.buffer, out, this.#count).slice();
  }

  /** The numbers of a field. */
  values(field: Field): Float32Array {
    this.#free.push(field);
    return new Float32Array(this.#kernels.memory.buffer, field, this.#count).slice();
  }
}
