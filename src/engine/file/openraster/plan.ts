import { isFluid, hasPixels, type Layer, newLayer, type Structure } from "../../picture/picture";
import { within } from "../../compose/tree";
import { CARRIED, carriedProperties, type Role } from "./carried";
import { type Drawing } from "./draw";
import { compositeOps, INSIDE, isOurs, KEPT_INSIDE } from "./operators";

/** An element of stack.xml; what lies in a stack is listed from the bottom. */
export type Element = {
  tag: "layer" | "stack";
  attributes: Record<string, string>;
  inside: Element[];
};

/** What an OpenRaster file shows: its elements from the bottom, and the pictures that they name. */
export type Plan = { elements: Element[]; images: Map<string, Drawing> };

/** A layer that others may be clipped to, and those. */
type Run = { base: Layer; clips: Layer[] };

/** How an element lies on what is below it, where that is not as its layer says. */
type Own = { operator: string; opacity: number };

const OVER = compositeOps.normal;
const PLAIN: Own = { operator: OVER, opacity: 1 };
const MASKING: Own = { operator: KEPT_INSIDE, opacity: 1 };
const inside = ({ opacity }: Layer): Own => ({ operator: INSIDE, opacity });

/** A layer's looks as if it lay alone. */
const NEUTRAL = { group: null, opacity: 1, blend: "normal", visible: true, clip: false } as const;

/** Every picture is as large as the sheet. */
const AT = { "@_x": "0", "@_y": "0" } as const;

const element = (
  tag: Element["tag"],
  attributes: Record<string, string>,
  inside: Element[] = [],
): Element => ({ tag, attributes, inside });

/** What an element says in OpenRaster's words. */
const properties = (layer: Layer, own: Own | null): Record<string, string> => ({
  "@_name": layer.name,
  "@_opacity": String(own?.opacity ?? layer.opacity),
  "@_visibility": layer.visible ? "visible" : "hidden",
  "@_composite-op": own?.operator ?? compositeOps[layer.blend],
  ...(layer.locked ? { "@_edit-locked": "true" } : {}),
});

/** A hidden stack for layers that are merged in front of it. */
const hidden = ({ name }: Layer): Record<string, string> => ({
  "@_name": `Layers of ${name}`,
  "@_visibility": "hidden",
  [CARRIED.role]: "under",
});

/** Whether other readers have no way to lay a run on what is below it. */
function needsMerging(layers: readonly Layer[], { base, clips }: Run): boolean {
  if (!base.visible) return false;
  if (base.kind === "adjustment" || isOurs(base.blend)) return true;
  // A group's layers go out one by one, and their halftone is one over all of them.
  if (base.kind === "group" && base.halftone?.on) return true;
  const isOpen =
    base.kind === "group" && base.through && !base.contour && !clips.some(({ visible }) => visible);
  if (!isOpen) return false;
  const isPart = base.opacity < 1 || !!base.mask?.on;
  return isPart || runsIn(layers, base.id).some((one) => needsMerging(layers, one));
}

/** What others will not find as layers of its own, in words for the illustrator. */
export function lostToOthers(
  { layers }: Pick<Structure, "layers">,
  merges: boolean,
  raised: readonly string[] = [],
): string[] {
  const named = (kept: readonly Layer[]): string =>
    kept
      .slice(0, 3)
      .map(({ name }) => `“${name}”`)
      .join(", ") + (kept.length > 3 ? ` and ${kept.length - 3} more` : "");
  const say = (sentence: string, kept: readonly Layer[]): string[] =>
    kept.length > 0 ? [`${sentence}: ${named(kept)}.`] : [];
  const groups = new Set([null, ...layers.map(({ group }) => group)]);
  const merging = [...groups].flatMap((group) => {
    const needed = runsIn(layers, group).filter((one) => needsMerging(layers, one));
    return needed.map(({ base }) => base);
  });
  const isSeen = ({ visible }: Layer): boolean => visible;
  return [
    ...say(
      merges
        ? "Merged with all below, whose layers lie hidden in the file"
        : "Shown otherwise, or not at all, by other programs",
      merging,
    ),
    ...say(
      "Already blended with what they are clipped to",
      layers.filter(
        (layer) =>
          isSeen(layer) && layer.clip && (layer.blend !== "normal" || layer.kind === "adjustment"),
      ),
    ),
    ...say("Masking fluid is left out", layers.filter(isFluid)),
    ...say(
      "Lines become pixels, for good",
      layers.filter(({ kind }) => kind === "lines"),
    ),
    ...say(
      "Strewn pieces become pixels, for good",
      layers.filter(({ kind }) => kind === "strewn"),
    ),
    ...say(
      "Fills and gradients become pixels",
      layers.filter(({ kind }) => kind === "fill"),
    ),
    ...say(
      "Relief and its light become pixels, for good",
      layers.filter(({ id }) => raised.includes(id)),
    ),
    ...say(
      "Fringes become pixels",
      layers.filter(({ kind, fringe }) => hasPixels(kind) && fringe),
    ),
    ...say(
      "Halftones become pixels",
      layers.filter(({ kind, halftone }) => kind !== "group" && halftone?.on),
    ),
    ...say(
      "Masks and tints become pixels",
      layers.filter(({ kind, mask, tint }) => kind !== "group" && (mask?.on || tint !== null)),
    ),
  ];
}

/** Neighbours are clipped to the first unclipped layer below them; with none below, a layer stands alone. */
function runsIn(layers: readonly Layer[], group: string | null): Run[] {
  const runs: Run[] = [];
  for (const layer of layers) {
    if (layer.group !== group) continue;
    const run = runs.at(-1);
    if (layer.clip && run) run.clips.push(layer);
    else runs.push({ base: layer, clips: [] });
  }
  return runs;
}

/**
 * Plans an OpenRaster file that other readers show as we do, by the formulas of W3C Compositing:
 * - A run of clipped layers is an isolated stack; each clipped layer lies atop what is below it,
 *   already blended with it.
 * - Outlines are layers of their own, a group's mask is one that keeps what it covers.
 * - Where a layer needs what is below it in a way that others do not know (an adjustment, a glaze,
 *   a part-clear open group), all that it changes is merged (`merges`), and the layers lie hidden below.
 * - Paint that stands up (`raised`) is drawn in its light: others do not know relief.
 * - What others need not know is carried in attributes, and comes back into Pampas.
 */
export function planOpenRaster(
  structure: Structure,
  merges: boolean,
  raised: ReadonlySet<string>,
): Plan {
  const { ground } = structure;
  const layers = structure.layers.filter((layer) => !isFluid(layer));
  const images = new Map<string, Drawing>();

  const drawn = (drawing: Drawing): string => {
    const source = `data/layer${String(images.size + 1).padStart(3, "0")}.png`;
    images.set(source, drawing);
    return source;
  };

  const subtree = (layer: Layer, changes: Partial<Layer>): Layer[] => {
    const ids = new Set(within(layers, layer.id));
    return layers
      .filter(({ id }) => ids.has(id))
      .map((one) => (one.id === layer.id ? { ...one, ...changes } : one));
  };
  const alone = (layer: Layer, changes: Partial<Layer> = {}): Layer[] =>
    subtree(layer, { ...NEUTRAL, ...changes });

  /** What a layer is for us: as an element that other readers see in some way of its own. */
  const carried = (layer: Layer): Record<string, string> => ({
    [CARRIED.layer]: carriedProperties(layer),
    ...(layer.mask ? { [CARRIED.mask]: drawn({ draw: "mask", id: layer.id }) } : {}),
  });

  const outline = (layer: Layer): Element =>
    forOthers("outline", `Outline of ${layer.name}`, {
      draw: "outline",
      plain: alone(layer, { contour: null, mask: null, fringe: null, halftone: null }),
      outlined: alone(layer, { mask: null, fringe: null, halftone: null }),
      colour: layer.contour?.colour ?? "#000000",
    });

  const forOthers = (role: Role, name: string, drawing: Drawing, own = PLAIN): Element =>
    element("layer", {
      "@_src": drawn(drawing),
      ...AT,
      ...properties(newLayer(role, name), own),
      [CARRIED.role]: role,
    });

  /** A layer's own pixels; in their light where they stand up. */
  const ownOf = (layer: Layer): Drawing =>
    raised.has(layer.id)
      ? {
          draw: "seen",
          layers: alone(layer, {
            contour: null,
            mask: null,
            tint: null,
            fringe: null,
            halftone: null,
          }),
          ground: false,
        }
      : { draw: "own", id: layer.id };

  /** A layer of paint: its pixels, or what is seen of them where that is something else. */
  const paint = (layer: Layer, own: Own | null): Element => {
    const { contour, mask } = layer;
    const isOther = layer.tint !== null || !!layer.fringe || !!layer.halftone?.on;
    if (contour && !mask?.on && !layer.fringe)
      return element("stack", { ...properties(layer, own), [CARRIED.role]: "outlined" }, [
        outline(layer),
        pixels(layer, PLAIN, alone(layer, { contour: null }), isOther),
      ]);
    return pixels(layer, own, alone(layer), isOther || !!mask?.on);
  };

  const pixels = (layer: Layer, own: Own | null, seen: Layer[], isOther: boolean): Element =>
    element("layer", {
      "@_src": drawn(isOther ? { draw: "seen", layers: seen, ground: false } : ownOf(layer)),
      ...AT,
      ...properties(layer, own),
      ...carried(layer),
      ...(isOther ? { [CARRIED.source]: drawn(ownOf(layer)) } : {}),
    });

  const group = (layer: Layer, own: Own | null): Element => {
    const isOpen = layer.through && !layer.contour && own === null;
    const held = nodesIn(layer.id);
    const isWrapped = layer.contour !== null || (!!layer.mask?.on && !isOpen);
    const parts = isWrapped
      ? [
          ...(layer.contour ? [outline(layer)] : []),
          element("stack", { "@_name": layer.name, [CARRIED.role]: "inside" }, held),
          ...(layer.mask?.on
            ? [forOthers("mask", `Mask of ${layer.name}`, { draw: "mask", id: layer.id }, MASKING)]
            : []),
        ]
      : held;
    const isolation = isOpen ? "auto" : "isolate";
    return element(
      "stack",
      {
        ...properties(layer, isOpen ? { operator: OVER, opacity: layer.opacity } : own),
        "@_isolation": isolation,
        ...carried(layer),
      },
      parts,
    );
  };

  const node = (layer: Layer, own: Own | null = null): Element => {
    if (layer.kind === "group") return group(layer, own);
    if (hasPixels(layer.kind)) return paint(layer, own);
    const drawing: Drawing =
      layer.kind === "fill"
        ? { draw: "seen", layers: alone(layer), ground: false }
        : { draw: "nothing" };
    return element("layer", {
      "@_src": drawn(drawing),
      ...AT,
      ...properties(layer, own),
      ...carried(layer),
    });
  };

  /** A layer and those clipped to it. */
  const run = ({ base, clips }: Run): Element[] => {
    if (!clips.some(({ visible }) => visible))
      return [node(base), ...clips.map((clip) => node(clip, inside(clip)))];
    const below: Layer[] = alone(base);
    const laid = clips.flatMap((clip): Element[] => {
      const before = [...below];
      below.push(...subtree(clip, { group: null }));
      return clipped(clip, before);
    });
    const attributes = { ...properties(base, null), [CARRIED.role]: "run" };
    return [element("stack", attributes, [node(base, PLAIN), ...laid])];
  };

  /** A clipped layer: atop what lies below it, and where that matters already blended with it. */
  const clipped = (clip: Layer, before: readonly Layer[]): Element[] => {
    const changes = clip.kind === "adjustment";
    if (!clip.visible || (!changes && clip.blend === "normal")) return [node(clip, inside(clip))];
    const drawing: Drawing = {
      draw: "blended",
      before,
      after: [...before, ...subtree(clip, { group: null, ...(changes ? {} : { opacity: 1 }) })],
      shape: changes ? null : alone(clip),
    };
    const own = changes ? { operator: INSIDE, opacity: 1 } : inside(clip);
    if (clip.kind === "group")
      return [
        element("stack", hidden(clip), [node(clip)]),
        forOthers("merged", clip.name, drawing, own),
      ];
    const attributes = {
      "@_src": drawn(drawing),
      ...AT,
      ...properties(clip, own),
      ...carried(clip),
    };
    if (!hasPixels(clip.kind)) return [element("layer", attributes)];
    const source = drawn({ draw: "own", id: clip.id });
    return [element("layer", { ...attributes, [CARRIED.source]: source })];
  };

  const nodesIn = (group: string | null): Element[] => {
    const runs = runsIn(layers, group);
    const last = merges ? runs.findLastIndex((one) => needsMerging(layers, one)) : -1;
    const above = runs.slice(last + 1).flatMap(run);
    const top = runs[last];
    if (!top) return above;
    const under = runs.slice(0, last + 1);
    const merged = under.flatMap(({ base, clips }) =>
      [base, ...clips].flatMap((layer) => subtree(layer, { group: null })),
    );
    return [
      element("stack", hidden(top.base), under.flatMap(run)),
      forOthers("merged", `All up to ${top.base.name}`, {
        draw: "seen",
        layers: merged,
        ground: group === null,
      }),
      ...above,
    ];
  };

  const sheet = element("layer", {
    "@_src": drawn({ draw: "sheet", colour: ground }),
    ...AT,
    ...properties({ ...newLayer("ground", `Ground ${ground}`), locked: true }, null),
    [CARRIED.ground]: ground,
  });
  return { elements: [sheet, ...nodesIn(null)], images };
}
