import { type Header } from "./picture/header";
import { type Picture } from "./picture/picture";
import { below } from "./compose/below";
import { grainMap, heightsOf } from "./paper/paper";
import { type Bench, type GrainInMemory } from "./stroke/stroke";
import { TipShelf } from "./stroke/tip-shelf";
import { Heap } from "./tiles/heap";
import { createMemory, startKernels } from "./tiles/kernels";
import { noiseAddress } from "./tiles/noise";
import { TileStore } from "./tiles/tile-store";
import { Workforce } from "./tiles/workforce";
import { Work, type WorkEvents } from "./command/work";

/** One engine: memory, kernels and the threads that share them. Pictures are worked on through `open`. */
export class Engine {
  readonly bench: Bench;
  readonly store: TileStore;
  readonly workforce: Workforce;

  constructor(
    readonly module: WebAssembly.Module,
    readonly memory: WebAssembly.Memory = createMemory(),
  ) {
    const heap = new Heap(memory);
    const kernels = startKernels(module, memory);
    this.store = new TileStore(heap, kernels);
    this.workforce = new Workforce(heap, kernels);
    this.bench = {
      store: this.store,
      workforce: this.workforce,
      noise: noiseAddress(heap),
      grain: grainKeeper(heap),
      tips: new TipShelf(heap),
      below: (picture, layer) => below(picture, layer, this.store, this.workforce),
    };
  }

  /** Begins work on a picture. @throws Refusal where its paper cannot be read */
  open(header: Header, events?: WorkEvents): Work {
    if (header.paper.kind === "picture") heightsOf(header.paper);
    return new Work(this.bench, header, events);
  }
}

/** Puts a paper's grain into memory when it is first drawn on. */
function grainKeeper(heap: Heap): (picture: Picture) => GrainInMemory {
  const kept = new Map<string, GrainInMemory>();
  return ({ structure: { paper } }) => {
    const name = `${paper.kind} ${paper.scale} ${paper.picture ?? ""}`;
    const known = kept.get(name);
    if (known) return known;
    const { period, heights } = grainMap(paper);
    const address = heap.allocate(heights.byteLength);
    heap.u16.set(heights, address >> 1);
    const grain = { address, period };
    kept.set(name, grain);
    return grain;
  };
}
