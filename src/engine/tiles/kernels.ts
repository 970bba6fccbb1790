/** What `kernels/index.ts` exports. Addresses are byte offsets into the shared memory. */
export type Kernels = {
  runTape(tape: number, scratch: number): number;
  pullJobs(next: number, tapes: number, count: number, scratch: number): number;
  isUniform(tile: number): number;
  fillTile(tile: number, r: number, g: number, b: number, a: number): void;
  unpackStraight8(
    tile: number,
    source: number,
    stride: number,
    x: number,
    y: number,
    width: number,
    height: number,
  ): void;
  unpackStraight16: Kernels["unpackStraight8"];
  packStraight(
    target: number,
    stride: number,
    tile: number,
    width: number,
    height: number,
    deep: number,
    alpha: number,
  ): void;
  squeezeFilter(target: number, source: number): void;
  unsqueezeFilter(target: number, source: number): void;
  holdBack(target: number, source: number, mask: number, outside: number): void;
  /** Bit pictures: see `kernels/region.ts`. */
  countBits(bits: number, words: number): number;
  joinBits(target: number, source: number, words: number, how: number): void;
  nextWord(bits: number, from: number, words: number): number;
  floodBits(
    open: number,
    fill: number,
    words: number,
    tileRows: number,
    queue: number,
    waiting: number,
    touched: number,
    flags: number,
  ): number;
  regionArea(fill: number, words: number, touched: number, count: number): number;
  takeRegion(
    fill: number,
    left: number,
    labels: number,
    words: number,
    touched: number,
    count: number,
    label: number,
  ): void;
  spreadLabels(
    labels: number,
    known: number,
    next: number,
    free: number,
    words: number,
    rows: number,
    eight: number,
  ): number;
  readModifyWrite(at: number, bytes: number): void;
  copyBytes(target: number, source: number, bytes: number): void;
  fillBytes(target: number, value: number, bytes: number): void;
};

export const PAGE_BYTES = 65536;
const FIRST_PAGES = 16;
/** Most pages a memory may have: 4 GiB, the reach of 32-bit addresses. */
const MOST_PAGES = 65536;

/** The memory that the engine and its helpers share. */
export const createMemory = (): WebAssembly.Memory =>
  new WebAssembly.Memory({ initial: FIRST_PAGES, maximum: MOST_PAGES, shared: true });

/** One thread's instance of the kernels over the shared memory. */
export function startKernels(module: WebAssembly.Module, memory: WebAssembly.Memory): Kernels {
  const abort = (_message: number, _file: number, line: number): never => {
    throw new Error(`a kernel stopped at line ${line}`);
  };
  const instance = new WebAssembly.Instance(module, { env: { memory, abort } });
  return instance.exports as unknown as Kernels;
}
