import { type Layer } from "../../../worker/protocol";

/** A line of the list of layers, topmost first. */
export type Row = {
  layer: Layer;
  /** How many groups it lies in. */
  depth: number;
  /** Whether it hangs from a layer below. */
  hangs: boolean;
};

/**
 * The list as it is shown: groups above what lies in them, folded ones closed. Looked for by
 * name, all that fit are shown, folded or not.
 */
export function rowsOf(
  layers: readonly Layer[],
  folded: Readonly<Record<string, boolean>>,
  looked: string,
): Row[] {
  const wanted = looked.trim().toLowerCase();
  const walk = (group: string | null, depth: number): Row[] => {
    const siblings = layers.filter((layer) => layer.group === group);
    return siblings.toReversed().flatMap((layer): Row[] => {
      const row: Row = { layer, depth, hangs: layer.clip && siblings[0] !== layer };
      const isOpen = layer.kind === "group" && (wanted !== "" || !folded[layer.id]);
      return [row, ...(isOpen ? walk(layer.id, depth + 1) : [])];
    });
  };
  const rows = walk(null, 0);
  return wanted === ""
    ? rows
    : rows.filter(({ layer }) => layer.name.toLowerCase().includes(wanted));
}

/** Where layers land: in a group, right under a line of the list (null: on top of all). */
export type Landing = { group: string | null; under: string | null };

/**
 * Where a line lands that is dropped on another: as the list shows it, in the group that the
 * line above it lies in or opens; drawn to the left, one group further out.
 */
export function landing(
  rows: readonly Row[],
  active: string,
  over: string,
  outward: boolean,
): Landing | null {
  const from = rows.findIndex(({ layer }) => layer.id === active);
  const to = rows.findIndex(({ layer }) => layer.id === over);
  if (from < 0 || to < 0 || (from === to && !outward)) return null;
  const rest = rows.filter(({ layer }) => layer.id !== active);
  const above = rest[to - 1];
  if (!above) return { group: null, under: null };
  const { layer, depth } = above;
  const opens = layer.kind === "group" && (rest[to]?.depth ?? 0) > depth;
  if (opens) return { group: layer.id, under: layer.id };
  if (!outward || layer.group === null) return { group: layer.group, under: layer.id };
  const group = rows.find((row) => row.layer.id === layer.group)?.layer;
  return { group: group?.group ?? null, under: layer.group };
}

/** The layer above which one is put so that it lies right under `under`; null: the lowest place. */
export function placeUnder(order: readonly string[], under: string | null): string | null {
  if (under === null) return order.at(-1) ?? null;
  const at = order.indexOf(under);
  return at > 0 ? (order[at - 1] as string) : null;
}
