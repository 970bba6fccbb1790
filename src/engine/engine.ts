import { type Header } from "./picture/header";
import { type Picture } from "./picture/picture";
import { gritInMemory, type Particle } from "./dry/grit";
import { below } from "./compose/below";
import { paperBands, paperMap } from "./paper/paper";
import { washPaper } from "./water/wash-paper";
import { type Bench, type PaperInMemory, type WashPaperInMemory } from "./bench";
import { PieceShelf } from "./strew/shelf";
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
    const grit = new Map<Particle, number>();
    this.bench = {
      store: this.store,
      workforce: this.workforce,
      noise: noiseAddress(heap),
      paper: paperKeeper(heap),
      washPaper: washPaperKeeper(heap),
      grit: (particle) => {
        const known = grit.get(particle) ?? gritInMemory(heap, particle);
        grit.set(particle, known);
        return known;
      },
      tips: new TipShelf(heap),
      pieces: new PieceShelf(this.store),
      below: (picture, layer) => below(picture, layer, this.store, this.workforce),
    };
  }

  /** Begins work on a picture. @throws Refusal where its paper cannot be read */
  open(header: Header, events?: WorkEvents): Work {
    if (header.paper.kind === "picture") paperBands(header.paper);
    return new Work(this.bench, header, events);
  }
}

const nameOf = ({ structure: { paper }, grainAt }: Picture): string =>
  `${paper.kind} ${paper.scale} ${grainAt.join(" ")} ${paper.picture ?? ""}`;

/** Puts a paper as water meets it into memory when a wash is first laid on it. */
function washPaperKeeper(heap: Heap): (picture: Picture) => WashPaperInMemory {
  const kept = new Map<string, WashPaperInMemory>();
  return (picture) => {
    const name = nameOf(picture);
    const known = kept.get(name);
    if (known) return known;
    const { side, bytes } = washPaper(paperMap(picture.structure.paper, picture.grainAt));
    const address = heap.allocate(bytes.length);
    heap.u8.set(bytes, address);
    const made = { address, side };
    kept.set(name, made);
    return made;
  };
}

/** Puts a paper into memory when it is first drawn on. */
function paperKeeper(heap: Heap): (picture: Picture) => PaperInMemory {
  const kept = new Map<string, PaperInMemory>();
  return (picture) => {
    const name = nameOf(picture);
    const known = kept.get(name);
    if (known) return known;
    const { period, bytes, roughness } = paperMap(picture.structure.paper, picture.grainAt);
    const address = heap.allocate(bytes.length);
    heap.u8.set(bytes, address);
    const made = { address, period, roughness };
    kept.set(name, made);
    return made;
  };
}
