import { isOpenGroup } from "./soft";
import { holds, isPlain, type Node } from "./tree";

/** What lies over the working layer: one cached tile for a stretch of normal layers, or a node. */
export type Above = { merged: Node[]; node: null } | { merged: null; node: Node };

/**
 * A stack around the working layer: what lies below it, the node that is or holds it, and what
 * lies over it. The first is the picture's own; each further one is a group in the one before.
 */
export type Level = {
  group: string | null;
  below: Node[];
  working: Node | null;
  above: Above[];
};

/** Groups that only keep layers together are opened: their layers lie in the stack itself. */
export const opened = (nodes: readonly Node[]): Node[] =>
  nodes.flatMap((node) => {
    const { opacity, mask } = node.layer;
    const isOpen = isOpenGroup(node) && opacity === 1 && !mask?.on;
    return isOpen ? opened(node.children) : [node];
  });

/**
 * The stacks around the working layer, the outermost first. Inside of an outlined group there
 * is none: an outline looks at its neighbours' paint.
 */
export function levelsAround(
  nodes: readonly Node[],
  working: string | null,
  group: string | null = null,
): Level[] {
  const at = nodes.findIndex((node) => holds(node, working));
  const node = nodes[at];
  if (!node) return [{ group, below: [...nodes], working: null, above: [] }];
  const level: Level = {
    group,
    below: nodes.slice(0, at),
    working: node,
    above: stretches(nodes.slice(at + 1)),
  };
  const isInside =
    node.layer.id !== working && node.children.some((child) => holds(child, working));
  if (!isInside || node.layer.contour || isOpenGroup(node)) return [level];
  return [level, ...levelsAround(opened(node.children), working, node.layer.id)];
}

/** Stretches of normal nodes to be merged; others, and single ones, stay as they are. */
function stretches(nodes: readonly Node[]): Above[] {
  const above: Above[] = [];
  for (let i = 0; i < nodes.length;) {
    let end = i;
    while (end < nodes.length && isPlain(nodes[end] as Node)) end++;
    if (end - i > 1) above.push({ merged: nodes.slice(i, end), node: null });
    else above.push({ merged: null, node: nodes[i] as Node });
    i = Math.max(end, i + 1);
  }
  return above;
}
