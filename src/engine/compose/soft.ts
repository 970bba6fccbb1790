import { type Adjustment } from "../adjust/adjustment";
import { meansFor, SIGMA_OF_RADIUS } from "../adjust/blur";
import { type Layer } from "../picture/picture";
import { TILE_SIDE, tileColumn, tileKey, tileRow } from "../tiles/layout";
import { type Node } from "./tree";

/** An adjustment that looks at a pixel's neighbours. */
export type Soft = Extract<Adjustment, { kind: "blur" | "sharpen" }>;

export const softOf = ({ kind, tone }: Layer): Soft | null =>
  kind === "adjustment" && (tone?.kind === "blur" || tone?.kind === "sharpen") ? tone : null;

export const meansOf = ({ radius }: Soft): [number, number, number] =>
  meansFor(Math.max(0.5, radius * SIGMA_OF_RADIUS));

/** How many tiles away it still looks. */
export function reachOf(soft: Soft): number {
  const [a, b, c] = meansOf(soft);
  return Math.ceil((a + b + c) / TILE_SIDE);
}

/** Writes what lies under a node in one tile, as it is before the node is laid on it. */
export type WriteUnder = (key: number, into: number) => void;

/** A soft adjustment where it stands in the stack. */
export type SoftPlace = { id: string; reach: number; under: WriteUnder };

/** How the compositor lays nodes, for what lies under a soft one to be worked out alone. */
export type Laying = {
  ground: WriteUnder;
  empty: WriteUnder;
  lay(key: number, node: Node, into: number): void;
  /** A node's own pixels, that what is clipped to it lies on. */
  own(key: number, node: Node, into: number): void;
  clip(key: number, node: Node, into: number): void;
};

/** Whether a group's layers lie on what is below the group. */
export const isOpenGroup = ({ layer, clips }: Node): boolean =>
  layer.kind === "group" &&
  layer.through &&
  clips.length === 0 &&
  !layer.contour &&
  !layer.halftone?.on;

/** Every soft adjustment in a stack, each after all that it depends on. */
export function softPlaces(
  nodes: readonly Node[],
  laying: Laying,
  base: WriteUnder = laying.ground,
): SoftPlace[] {
  const places: SoftPlace[] = [];
  nodes.forEach((node, i) => {
    const before: WriteUnder = (key, into) => {
      base(key, into);
      for (const lower of nodes.slice(0, i)) laying.lay(key, lower, into);
    };
    add(places, node, before, laying);
    node.clips.forEach((clip, j) => {
      const shape: WriteUnder = (key, into) => {
        laying.own(key, node, into);
        for (const lower of node.clips.slice(0, j)) laying.clip(key, lower, into);
      };
      add(places, clip, shape, laying);
    });
  });
  return places;
}

function add(places: SoftPlace[], node: Node, under: WriteUnder, laying: Laying): void {
  const soft = softOf(node.layer);
  if (soft) places.push({ id: node.layer.id, reach: reachOf(soft), under });
  if (node.layer.kind !== "group") return;
  places.push(...softPlaces(node.children, laying, isOpenGroup(node) ? under : laying.empty));
}

/** The tiles of a sheet within so many tiles of others. */
export function grownBy(
  keys: Iterable<number>,
  reach: number,
  { width, height }: { width: number; height: number },
): Set<number> {
  const grown = new Set<number>();
  const [columns, rows] = [Math.ceil(width / TILE_SIDE), Math.ceil(height / TILE_SIDE)];
  for (const key of keys) {
    const [column, row] = [tileColumn(key), tileRow(key)];
    for (let y = Math.max(0, row - reach); y <= Math.min(rows - 1, row + reach); y++)
      for (let x = Math.max(0, column - reach); x <= Math.min(columns - 1, column + reach); x++)
        grown.add(tileKey(x, y));
  }
  return grown;
}

/** The tiles that a soft adjustment looks at for one: columns and rows, `to` not among them. */
export function windowAround(
  key: number,
  reach: number,
  { width, height }: { width: number; height: number },
) {
  const [column, row] = [tileColumn(key), tileRow(key)];
  return {
    left: Math.max(0, column - reach),
    right: Math.min(Math.ceil(width / TILE_SIDE), column + reach + 1),
    top: Math.max(0, row - reach),
    bottom: Math.min(Math.ceil(height / TILE_SIDE), row + reach + 1),
  };
}
