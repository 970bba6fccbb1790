import { ringOf } from "./skeleton";

/** A way between two nodes of a skeleton: its pixels, and the node at its start and its end; −1: it ends freely. */
export type Branch = { pixels: number[]; from: number; to: number };

/** Where branches meet: how far it is to the edge of what was thinned, px, and where its middle is. */
export type Node = { radius: number; x: number; y: number };

export type Net = { nodes: Node[]; branches: Branch[] };

/** What one skeleton is made of, read from it once. */
class Reading {
  readonly nodes: Node[] = [];
  readonly branches: Branch[] = [];
  readonly #ring: readonly number[];
  /** 0: no node; else its number plus one. */
  readonly #node: Int32Array;
  readonly #taken: Uint8Array;

  constructor(
    readonly mask: Uint8Array,
    readonly squared: Float32Array,
    readonly width: number,
  ) {
    this.#ring = ringOf(width);
    this.#node = new Int32Array(mask.length);
    this.#taken = new Uint8Array(mask.length);
    const lit: number[] = [];
    for (let at = 0; at < mask.length; at++) if (mask[at]) lit.push(at);
    for (const at of lit) if (this.#node[at] === 0 && this.#beside(at).length > 2) this.#gather(at);
    for (const at of lit) if (this.#node[at] !== 0) this.#branchesAt(at);
    for (const at of lit)
      if (this.#isLeft(at) && this.#beside(at).length < 2) this.#add(at, -1, []);
    // What is left hangs together in rings.
    for (const at of lit) if (this.#isLeft(at)) this.#addRing(at);
  }

  #isLeft(at: number): boolean {
    return this.#taken[at] === 0 && this.#node[at] === 0;
  }

  #beside(at: number): number[] {
    const found: number[] = [];
    for (const step of this.#ring) if (this.mask[at + step]) found.push(at + step);
    return found;
  }

  /** All pixels with more than two neighbours that hang together are one node. */
  #gather(first: number): void {
    const number = this.nodes.length + 1;
    const node: Node = { radius: 0, x: 0, y: 0 };
    const waiting = [first];
    this.#node[first] = number;
    let count = 0;
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
      node.radius = Math.max(node.radius, Math.sqrt(this.squared[at] as number));
      node.x += (at % this.width) + 0.5;
      node.y += Math.floor(at / this.width) + 0.5;
      count++;
      for (const next of this.#beside(at))
        if (this.#node[next] === 0 && this.#beside(next).length > 2) {
          this.#node[next] = number;
          waiting.push(next);
        }
    }
    node.x /= count;
    node.y /= count;
    this.nodes.push(node);
  }

  #branchesAt(at: number): void {
    for (const next of this.#beside(at))
      if (this.#isLeft(next)) this.#add(next, (this.#node[at] as number) - 1, [at]);
  }

  /** Follows a branch from its first pixel. @param before the node's pixel that it begins at */
  #add(first: number, from: number, before: readonly number[]): void {
    const pixels: number[] = [];
    let to = -1;
    for (let at: number | undefined = first; at !== undefined;) {
      pixels.push(at);
      this.#taken[at] = 1;
      const ahead: number[] = this.#beside(at).filter((one) => !before.includes(one));
      const next: number | undefined = ahead.find((one) => this.#isLeft(one));
      // Beside its start a branch may touch the node that it came from again; farther on it ends there.
      const node = ahead.find((one) => this.#node[one] !== 0 && pixels.length > 1);
      if (next === undefined || node !== undefined)
        to = (this.#node[node ?? this.#nodeBeside(ahead, from)] ?? 0) - 1;
      at = node === undefined ? next : undefined;
      before = [];
    }
    this.branches.push({ pixels, from, to });
  }

  /** A node that a branch of one pixel ends at, another than it began at. */
  #nodeBeside(ahead: readonly number[], from: number): number {
    return ahead.find((one) => this.#node[one] !== 0 && this.#node[one] !== from + 1) ?? -1;
  }

  #addRing(first: number): void {
    const pixels: number[] = [];
    for (let at: number | undefined = first; at !== undefined;) {
      pixels.push(at);
      this.#taken[at] = 1;
      at = this.#beside(at).find((one) => this.#isLeft(one));
    }
    pixels.push(first);
    this.branches.push({ pixels, from: -1, to: -1 });
  }
}

/** Whether a branch is what the edge's unevenness left: its end's disc hardly reaches beyond the node's. */
function isSpur(net: Net, { pixels, from, to }: Branch, radii: (at: number) => number): boolean {
  if (from < 0 === to < 0) return false;
  const node = net.nodes[from < 0 ? to : from] as Node;
  const end = radii((from < 0 ? pixels[0] : pixels.at(-1)) as number);
  return pixels.length + end - node.radius < Math.max(1.5, 0.4 * node.radius);
}

/** The branches and nodes of a skeleton, without those that are nothing but an uneven edge. */
export function netOf(mask: Uint8Array, squared: Float32Array, width: number): Net {
  const net: Net = new Reading(mask, squared, width);
  const radius = (at: number): number => Math.sqrt(squared[at] as number);
  return { ...net, branches: net.branches.filter((branch) => !isSpur(net, branch, radius)) };
}
