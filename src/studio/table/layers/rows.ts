import { type Layer } from "../../../worker/protocol";

/** How far a line of the list is indented for each group that it lies in, CSS px. */
export const INDENT = 14;

/** A line of the list of layers, topmost first. */
export type Row = {
  layer: Layer;
  /** How many groups it lies in. */
  depth: number;
  /** Whether it hangs from a layer below. */
  hangs: boolean;
  /** Of a group: whether what lies in it is shown under it. */
  isOpen: boolean;
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
      const isOpen = layer.kind === "group" && (wanted !== "" || !folded[layer.id]);
      const row: Row = { layer, depth, hangs: layer.clip && siblings[0] !== layer, isOpen };
      return [row, ...(isOpen ? walk(layer.id, depth + 1) : [])];
    });
  };
  const rows = walk(null, 0);
  return wanted === ""
    ? rows
    : rows.filter(({ layer }) => layer.name.toLowerCase().includes(wanted));
}

/** The chosen layers, bottom first, without those that lie in a chosen group: they go where it goes. */
export function topsOf<T extends Pick<Layer, "id" | "group">>(
  layers: readonly T[],
  ids: readonly string[],
): T[] {
  const groupOf = new Map(layers.map(({ id, group }) => [id, group]));
  const liesInChosen = (id: string): boolean => {
    for (let group = groupOf.get(id); group; group = groupOf.get(group))
      if (ids.includes(group)) return true;
    return false;
  };
  return layers.filter(({ id }) => ids.includes(id) && !liesInChosen(id));
}

/** Where layers land: in a group, right under a line of the list (null: on top of all). */
export type Landing = { group: string | null; under: string | null };

/** Which part of a line the hand is over. */
export type Part = "above" | "into" | "below";

/** Which part of a line is meant `share` of its height from its top: groups take things in their middle. */
export function partAt({ layer, isOpen }: Pick<Row, "layer" | "isOpen">, share: number): Part {
  if (layer.kind !== "group") return share < 0.5 ? "above" : "below";
  if (share < 0.3) return "above";
  return isOpen || share < 0.7 ? "into" : "below";
}

/** A landing and how the list shows it: at an edge of a line, so many groups deep. */
export type LandingMark = Landing & { row: string; edge: Part; depth: number };

/**
 * Where lines land that are dragged over another.
 * @param moving the layers that are dragged: where a group goes, what lies in it goes too
 * @param outward how many groups further out than the place would have it, as far as it can
 * @returns null where they would stay as they are, or in themselves
 */
export function landing(
  rows: readonly Row[],
  moving: readonly string[],
  over: string,
  part: Part,
  outward: number,
): LandingMark | null {
  const gone = movedWith(rows, moving);
  const rest = rows.filter(({ layer }) => !gone.has(layer.id));
  const target = rows.findIndex(({ layer }) => layer.id === over);
  if (target < 0) return null;
  const isOnRest = rest.includes(rows[target] as Row);
  if (isOnRest && part === "into") return into(rows[target] as Row);
  const before = rows.slice(0, target).filter((row) => rest.includes(row)).length;
  const gap = before + (isOnRest && part === "below" ? 1 : 0);
  const stays = (depth: number): boolean => isAsItWas(rows, moving, rest, gap, depth);
  const [above, below] = [rest[gap - 1], rest[gap]];
  if (!above)
    return !below || stays(0) ? null : marked(below, "above", { group: null, under: null }, 0);
  const opens = above.isOpen && (below?.depth ?? 0) > above.depth;
  if (opens) return stays(above.depth + 1) ? null : into(above);
  const depth = Math.max(below?.depth ?? 0, above.depth - Math.max(0, outward));
  let outer = above;
  while (outer.depth > depth) outer = rest.find(({ layer }) => layer.id === outer.layer.group)!;
  const place = { group: outer.layer.group, under: outer.layer.id };
  return stays(depth) ? null : marked(above, "below", place, depth);
}

const marked = (row: Row, edge: Part, place: Landing, depth: number): LandingMark => ({
  ...place,
  row: row.layer.id,
  edge,
  depth,
});

const into = (group: Row): LandingMark =>
  marked(group, "into", { group: group.layer.id, under: group.layer.id }, group.depth + 1);

/** The layers that are dragged, and those that lie in them. Groups stand above what lies in them. */
function movedWith(rows: readonly Row[], moving: readonly string[]): Set<string> {
  const gone = new Set(moving);
  for (const { layer } of rows) if (layer.group && gone.has(layer.group)) gone.add(layer.id);
  return gone;
}

/** Whether one line alone comes down where it was taken up. */
function isAsItWas(
  rows: readonly Row[],
  moving: readonly string[],
  rest: readonly Row[],
  gap: number,
  depth: number,
): boolean {
  const [only] = moving;
  if (moving.length > 1) return false;
  const own = rows.findIndex(({ layer }) => layer.id === only);
  const before = rows.slice(0, own).filter((row) => rest.includes(row)).length;
  return before === gap && rows[own]?.depth === depth;
}

/** The layer above which one is put so that it lies right under `under`; null: the lowest place. */
export function placeUnder(order: readonly string[], under: string | null): string | null {
  if (under === null) return order.at(-1) ?? null;
  const at = order.indexOf(under);
  return at > 0 ? (order[at - 1] as string) : null;
}
