import { zlibModule } from "../../../kernels/build/zlib";
import { Refusal } from "../picture/refusal";
import { fromBase64 } from "./base64";

/** What the zlib module exports: handles and addresses are numbers in its own memory. */
type Zlib = {
  memory: WebAssembly.Memory;
  malloc(bytes: number): number;
  free(address: number): void;
  deflate_new(): number;
  deflate_init(handle: number, level: number): number;
  deflate_init_raw(handle: number, level: number): number;
  deflate_process: Process;
  deflate_last_consumed(handle: number): number;
  deflate_end(handle: number): number;
  inflate_new(): number;
  inflate_init(handle: number): number;
  inflate_init_raw(handle: number): number;
  inflate_process: Process;
  inflate_last_consumed(handle: number): number;
  inflate_end(handle: number): number;
  _initialize?(): void;
};

/** Returns a status in the top byte (1: the stream has ended, 128 and more: an error), bytes made below. */
type Process = (
  handle: number,
  from: number,
  count: number,
  to: number,
  room: number,
  flush: number,
) => number;

const ROOM = 1 << 16;
const FINISH = 4;
const ENDED = 1;
const FAILED = 128;
/** Z_BUF_ERROR, −5 as a byte: no progress was possible, which is no fault. */
const STALLED = 251;

let loaded: Zlib | null = null;

/** zlib 1.3 as WebAssembly, started when it is first needed. */
function zlib(): Zlib {
  if (loaded) return loaded;
  const module = new WebAssembly.Module(fromBase64(zlibModule));
  loaded = new WebAssembly.Instance(module).exports as unknown as Zlib;
  loaded._initialize?.();
  return loaded;
}

/** A zlib stream in the making or in the unpacking. Free it with `end`. */
class Stream {
  readonly lib = zlib();
  readonly from: number;
  readonly to: number;
  readonly handle: number;
  readonly process: Process;
  ended = false;

  /**
   * @param level 1 … 9 to pack, null to unpack
   * @param raw without zlib's own head and sum (RFC 1951)
   */
  constructor(
    readonly level: number | null,
    raw = false,
  ) {
    const { lib } = this;
    this.from = lib.malloc(ROOM);
    this.to = lib.malloc(ROOM);
    this.handle = level === null ? lib.inflate_new() : lib.deflate_new();
    const failed = this.#begin(raw);
    this.process = level === null ? lib.inflate_process : lib.deflate_process;
    if (failed || !this.from || !this.to) throw new RangeError("there is no memory left for zlib");
  }

  #begin(raw: boolean): number {
    const { lib, handle, level } = this;
    if (level === null) return raw ? lib.inflate_init_raw(handle) : lib.inflate_init(handle);
    return raw ? lib.deflate_init_raw(handle, level) : lib.deflate_init(handle, level);
  }

  /** Gives bytes to the stream; `take` is given views of what comes out, good until it returns. */
  push(bytes: Uint8Array, last: boolean, take: (made: Uint8Array) => void): void {
    for (let at = 0; at < bytes.length && !this.ended; at += ROOM) {
      const part = bytes.subarray(at, at + ROOM);
      new Uint8Array(this.lib.memory.buffer, this.from, part.length).set(part);
      this.#run(part.length, 0, take);
    }
    if (last && this.level !== null) this.#run(0, FINISH, take);
  }

  #run(count: number, flush: number, take: (made: Uint8Array) => void): void {
    const { lib, handle, to } = this;
    let used = 0;
    for (;;) {
      const result = this.process(handle, this.from + used, count - used, to, ROOM, flush);
      const status = result >>> 24;
      const made = result & 0xffffff;
      // All that there was has come out: more is needed to go on.
      if (status === STALLED) return;
      if (status >= FAILED) throw new Refusal("the packed data is broken");
      const consumed =
        this.level === null ? lib.inflate_last_consumed(handle) : lib.deflate_last_consumed(handle);
      used += consumed;
      if (made > 0) take(new Uint8Array(lib.memory.buffer, to, made));
      if (status === ENDED) {
        this.ended = true;
        return;
      }
      if (made === ROOM) continue;
      if (used >= count || (consumed === 0 && made === 0)) return;
    }
  }

  end(): void {
    const { lib, handle } = this;
    if (this.level === null) lib.inflate_end(handle);
    else lib.deflate_end(handle);
    lib.free(this.from);
    lib.free(this.to);
  }
}

/** Packs bytes as a zlib stream (RFC 1950), a part at a time. */
export class Packer {
  #stream: Stream;

  /** @param level 1 (quick) to 9 (small) */
  constructor(
    level: number,
    readonly take: (packed: Uint8Array) => void,
  ) {
    this.#stream = new Stream(level);
  }

  push(bytes: Uint8Array, last: boolean): void {
    this.#stream.push(bytes, last, (made) => this.take(made.slice()));
    if (last) this.#stream.end();
  }
}

/**
 * Unpacks a zlib stream that comes in parts.
 * @param take is given each piece of what comes out, a view that is good until it returns; throw to stop
 * @throws Refusal where the data is broken or cut off
 */
export function unpack(parts: Iterable<Uint8Array>, take: (made: Uint8Array) => void): void {
  const stream = new Stream(null);
  try {
    for (const part of parts) {
      stream.push(part, false, take);
      if (stream.ended) return;
    }
    if (!stream.ended) throw new Refusal("the packed data is cut off");
  } finally {
    stream.end();
  }
}

/** Packs bytes without a head and a sum (RFC 1951). @param level 1 (quick) to 9 (small) */
export function packRaw(bytes: Uint8Array, level: number): Uint8Array<ArrayBuffer> {
  const parts: Uint8Array[] = [];
  const stream = new Stream(level, true);
  try {
    stream.push(bytes, true, (made) => parts.push(made.slice()));
  } finally {
    stream.end();
  }
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/**
 * Unpacks what `packRaw` packed into `out`, all of it.
 * @throws Refusal where it is broken, or does not fill `out` exactly
 */
export function unpackRaw(packed: Uint8Array, out: Uint8Array): void {
  let at = 0;
  const stream = new Stream(null, true);
  try {
    stream.push(packed, false, (made) => {
      if (at + made.length > out.length) throw new Refusal("the packed data is too long");
      out.set(made, at);
      at += made.length;
    });
  } finally {
    stream.end();
  }
  if (!stream.ended || at !== out.length) throw new Refusal("the packed data is cut off");
}
