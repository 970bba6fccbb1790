import { type Branch, type Net } from "./branches";

/** One end of a branch: which, and whether it is its start. */
type End = { branch: number; isStart: boolean };

/** A stretch of a way: pixels in its order, and how far from its first and last one a crossing reaches, px (0: none). */
export type Stretch = { pixels: readonly number[]; before: number; after: number };

/** A line as a hand may have drawn it: stretches that go on across crossings, and what its free ends lean against. */
export type Way = {
  stretches: Stretch[];
  closed: boolean;
  /** Where it begins and ends at another line: that line's middle. */
  from: readonly [number, number] | null;
  to: readonly [number, number] | null;
};

/** A bridge between two nodes is one crossing with them as long as it is no longer than this many of their radii. */
const BRIDGE = 1.3;
/** Lines that cross at a slant share a longer one: up to this many radii, where both go on beyond it as straight as that. */
const SLANT = { longest: 7, straight: 0.93 };
/** Least cosine between two ends that may be one line: half a right angle and a little. */
const STRAIGHT = 0.62;

/** Which crossing each node belongs to: nodes joined by short bridges are one. */
function crossingsOf(net: Net, width: number): { crossing: number[]; isBridge: boolean[] } {
  const { nodes, branches } = net;
  const crossing = nodes.map((_, i) => i);
  const rootOf = (i: number): number => {
    let root = i;
    while (crossing[root] !== root) root = crossing[root] as number;
    return root;
  };
  const radiusOf = ({ from, to }: Branch): number =>
    Math.max(nodes[from]?.radius ?? 0, nodes[to]?.radius ?? 0);
  const isBridge = branches.map((branch) => {
    const { pixels, from, to } = branch;
    if (from < 0 || to < 0 || from === to) return false;
    if (pixels.length > BRIDGE * radiusOf(branch) + 1) return false;
    crossing[rootOf(from)] = rootOf(to);
    return true;
  });
  const met = new Map<number, End[]>();
  branches.forEach(({ from, to }, branch) => {
    if (isBridge[branch]) return;
    for (const [node, isStart] of [
      [from, true],
      [to, false],
    ] as const)
      if (node >= 0) met.set(rootOf(node), [...(met.get(rootOf(node)) ?? []), { branch, isStart }]);
  });
  branches.forEach((branch, i) => {
    const { pixels, from, to } = branch;
    if (isBridge[i] || from < 0 || to < 0 || rootOf(from) === rootOf(to)) return;
    if (pixels.length > SLANT.longest * radiusOf(branch)) return;
    const sides = [from, to].map((node) =>
      (met.get(rootOf(node)) ?? []).filter((end) => end.branch !== i),
    );
    if (!crossAtASlant(sides, branches, radiusOf(branch), width)) return;
    isBridge[i] = true;
    crossing[rootOf(from)] = rootOf(to);
  });
  return { crossing: nodes.map((_, i) => rootOf(i)), isBridge };
}

/** Finds ways through a net of branches. Where lines cross, ends that go straight on are one line. */
export function waysOf(net: Net, width: number): Way[] {
  const { nodes, branches } = net;
  const { crossing, isBridge } = crossingsOf(net, width);
  const nodeOf = ({ branch, isStart }: End): number => {
    const { from, to } = branches[branch] as Branch;
    const node = isStart ? from : to;
    return node < 0 ? -1 : (crossing[node] as number);
  };
  const radii = new Map<number, number>();
  nodes.forEach(({ radius }, i) => {
    const at = crossing[i] as number;
    radii.set(at, Math.max(radii.get(at) ?? 0, radius));
  });
  const ends = new Map<number, End[]>();
  branches.forEach((_, branch) => {
    if (isBridge[branch]) return;
    for (const isStart of [true, false]) {
      const at = nodeOf({ branch, isStart });
      if (at >= 0) ends.set(at, [...(ends.get(at) ?? []), { branch, isStart }]);
    }
  });
  const nameOf = ({ branch, isStart }: End): number => 2 * branch + (isStart ? 1 : 0);
  const goesOn = new Map<number, End>();
  for (const [at, met] of ends)
    for (const [a, b] of pairs(met, branches, radii.get(at) ?? 0, width)) {
      goesOn.set(nameOf(a), b);
      goesOn.set(nameOf(b), a);
    }

  const taken = new Set<number>();
  const ways: Way[] = [];
  /** How far a crossing reaches along the lines through it; where only two ends meet there is none. */
  const reachAt = (end: End): number => {
    const at = nodeOf(end);
    if (at < 0 || (ends.get(at)?.length ?? 0) < 3) return 0;
    return radii.get(at) ?? 0;
  };
  const placeAt = (end: End): readonly [number, number] | null => {
    const { from, to } = branches[end.branch] as Branch;
    const node = nodes[end.isStart ? from : to];
    return node ? [node.x, node.y] : null;
  };
  const follow = (first: End): Way => {
    const stretches: Stretch[] = [];
    let end = first;
    for (;;) {
      taken.add(end.branch);
      const far: End = { branch: end.branch, isStart: !end.isStart };
      const { pixels } = branches[end.branch] as Branch;
      const inOrder = end.isStart ? pixels : pixels.toReversed();
      stretches.push({ pixels: inOrder, before: reachAt(end), after: reachAt(far) });
      const next = goesOn.get(nameOf(far));
      if (!next) return { stretches, closed: false, from: placeAt(first), to: placeAt(far) };
      if (taken.has(next.branch)) return { stretches, closed: true, from: null, to: null };
      end = next;
    }
  };
  // From free ends first; what is left goes round in rings.
  branches.forEach((_, branch) => {
    if (isBridge[branch]) return;
    for (const isStart of [true, false])
      if (!taken.has(branch) && !goesOn.has(nameOf({ branch, isStart })))
        ways.push(follow({ branch, isStart }));
  });
  branches.forEach(({ pixels, from }, branch) => {
    if (isBridge[branch] || taken.has(branch)) return;
    ways.push(follow({ branch, isStart: true }));
    const way = ways.at(-1) as Way;
    way.closed ||= from < 0 && pixels.length > 2 && pixels[0] === pixels.at(-1);
  });
  for (const way of ways) {
    const [only] = way.stretches;
    const { pixels } = only as Stretch;
    if (way.stretches.length === 1 && pixels.length > 2 && pixels[0] === pixels.at(-1))
      way.closed = true;
  }
  return ways;
}

type Heading = readonly [number, number];

/** The way that an end of a branch comes out of its crossing, of length 1. */
function headingOf(
  { branch, isStart }: End,
  branches: readonly Branch[],
  radius: number,
  width: number,
): Heading {
  const { pixels } = branches[branch] as Branch;
  const at = (i: number): number => (isStart ? pixels[i] : pixels[pixels.length - 1 - i]) as number;
  const last = pixels.length - 1;
  const near = Math.min(Math.round(radius), Math.floor(last / 2));
  const far = Math.min(last, near + Math.max(6, Math.round(2 * radius)));
  const [a, b] = [at(near), at(far)];
  const [dx, dy] = [(b % width) - (a % width), Math.floor(b / width) - Math.floor(a / width)];
  const length = Math.sqrt(dx * dx + dy * dy);
  return length > 0 ? [dx / length, dy / length] : [0, 0];
}

/** Which of the ends that meet at a crossing go on in which, the straightest first. */
function pairs(
  met: readonly End[],
  branches: readonly Branch[],
  radius: number,
  width: number,
): [End, End][] {
  const [first, second] = met;
  if (met.length === 2 && first && second) return [[first, second]];
  const headings = met.map((end) => headingOf(end, branches, radius, width));
  const found: { a: number; b: number; straight: number }[] = [];
  headings.forEach(([ax, ay], a) => {
    for (let b = a + 1; b < met.length; b++) {
      const [bx, by] = headings[b] as readonly [number, number];
      const straight = -(ax * bx + ay * by);
      if (straight > STRAIGHT) found.push({ a, b, straight });
    }
  });
  found.sort((one, other) => other.straight - one.straight || one.a - other.a || one.b - other.b);
  const used = new Set<number>();
  const chosen: [End, End][] = [];
  for (const { a, b } of found) {
    if (used.has(a) || used.has(b)) continue;
    used.add(a).add(b);
    chosen.push([met[a] as End, met[b] as End]);
  }
  return chosen;
}

/** Whether two lines come in on one side of a bridge and both go on straight on the other. */
function crossAtASlant(
  sides: readonly (readonly End[])[],
  branches: readonly Branch[],
  radius: number,
  width: number,
): boolean {
  if (sides.some((ends) => ends.length !== 2)) return false;
  const [[a, b], [c, d]] = sides.map((ends) =>
    ends.map((end) => headingOf(end, branches, radius, width)),
  ) as [Heading[], Heading[]];
  const goesOn = (one: Heading | undefined, other: Heading | undefined): boolean =>
    !!one && !!other && -(one[0] * other[0] + one[1] * other[1]) > SLANT.straight;
  return (goesOn(a, c) && goesOn(b, d)) || (goesOn(a, d) && goesOn(b, c));
}
