import { type Layer } from "../picture/picture";

/** A layer that is seen, with what lies in it and what is clipped to it. */
export type Node = { layer: Layer; children: Node[]; clips: Node[] };

/**
 * What is seen, from the lowest: groups with their layers, and layers with those clipped to
 * them. What is hidden is left out, with all that it holds and all that is clipped to it; a
 * clipped layer with nothing below it stands alone.
 */
export function treeOf(layers: readonly Layer[], group: string | null = null): Node[] {
  const nodes: Node[] = [];
  let base: Node | null = null;
  let isBaseHidden = false;
  for (const layer of layers) {
    if (layer.group !== group) continue;
    const node: Node = {
      layer,
      children: layer.kind === "group" && layer.visible ? treeOf(layers, layer.id) : [],
      clips: [],
    };
    if (layer.clip && (base || isBaseHidden)) {
      if (layer.visible) base?.clips.push(node);
      continue;
    }
    isBaseHidden = !layer.visible;
    base = layer.visible ? node : null;
    if (base) nodes.push(base);
  }
  return nodes;
}

/** Whether a node is a layer, or holds it. */
export const holds = (node: Node, id: string | null): boolean =>
  node.layer.id === id ||
  node.children.some((child) => holds(child, id)) ||
  node.clips.some((clip) => holds(clip, id));

/** Whether a node's look depends on what lies below the group that it stands in. */
const needsBackdrop = ({ layer, children }: Node): boolean =>
  layer.blend !== "normal" ||
  layer.kind === "adjustment" ||
  (layer.kind === "group" && layer.through && children.some(needsBackdrop));

/** Whether source-over alone lays a node on what is below, so that neighbours may be merged first. */
export const isPlain = (node: Node): boolean => !needsBackdrop(node);

/** The groups that a layer lies in. */
export function groupsAround(layers: readonly Layer[], id: string): Set<string> {
  const around = new Set<string>();
  let group = layers.find((layer) => layer.id === id)?.group ?? null;
  while (group !== null && !around.has(group)) {
    around.add(group);
    const next: string = group;
    group = layers.find((layer) => layer.id === next)?.group ?? null;
  }
  return around;
}

/** Whether any of these shows something in tiles where nothing is painted. */
export const isEverywhere = (layers: readonly Layer[]): boolean =>
  layers.some(
    ({ visible, kind, contour }) =>
      visible && (kind === "fill" || kind === "adjustment" || contour !== null),
  );

/** A layer and all that lies in it. */
export function within(layers: readonly Layer[], id: string): string[] {
  const inside = layers.filter(({ group }) => group === id).map((layer) => layer.id);
  return [id, ...inside.flatMap((child) => within(layers, child))];
}
